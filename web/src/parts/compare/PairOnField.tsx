import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useLoaded, type Loaded } from '../Picture';
import { useSize } from '../useSize';
import { ApartPicture } from './ApartPicture';
import { Compare, CompareWays } from './Compare';
import type { Apart } from './isolines';

/** Where two looks of one thing are asked for. */
export interface PairAddresses {
  before: string;
  /** Held beside the first: it comes with how far both lie apart. */
  after: string;
  apart: string;
  /** What all addresses of this thing begin with: the picture before stays meanwhile, but never that of another. */
  stem: string;
}

interface PairOnFieldProps {
  of: string;
  /** For pictures of that many pixels a side. */
  addresses: (side: number) => PairAddresses;
  names: [before: string, after: string];
  /** ΔE above which a look has moved too far. */
  limit: number;
  /** Right of the ways to compare. */
  aside: ReactNode;
  /** Right of the figures. */
  more?: ReactNode;
}

const patience = 300;
const sides = [256, 384] as const;

/** Shown until the full ones are made: a sixteenth of the work. */
const coarse = 96;

/** Two looks under one wipe, where they lie apart, and by how much; on the field. */
export function PairOnField({ of, addresses, names, limit, aside, more }: PairOnFieldProps) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const size = Math.max(96, Math.min(sides[1], (width - 110) / 2, height - 172));
  const at = addresses(size > sides[0] ? sides[1] : sides[0]);
  const ofThis = (loaded: Loaded | null) => (loaded?.url.startsWith(at.stem) ? loaded : null);
  const first = addresses(coarse);
  const firstBefore = ofThis(useLoaded(first.before, patience));
  const firstAfter = ofThis(useLoaded(first.after, patience));
  const before = ofThis(useLoaded(at.before, patience));
  const after = ofThis(useLoaded(at.after, patience));
  const isMade = after?.url === at.after && after.source !== false;
  const apart = useQuery({
    queryKey: ['apart', at.apart],
    queryFn: async () => {
      const answer = await fetch(at.apart);
      return answer.status === 200 ? ((await answer.json()) as Apart) : null;
    },
    enabled: isMade,
  }).data;
  const difference = after?.difference;
  return (
    <div
      ref={box}
      className="field flex min-h-0 flex-1 flex-col overflow-hidden px-7 pt-2 text-white"
      role="group"
      aria-label="How it looks"
    >
      <div className="flex flex-none items-baseline justify-between gap-4 pb-1">
        <CompareWays />
        {aside}
      </div>
      <div className="flex min-h-0 flex-1 items-start justify-evenly gap-6">
        <Compare
          of={of}
          before={{ name: names[0], loaded: before ?? firstBefore }}
          after={{ name: names[1], loaded: after ?? firstAfter }}
          size={size}
        />
        <div className="pt-5">
          <ApartPicture
            apart={isMade ? (apart ?? undefined) : undefined}
            size={size}
            limit={limit}
            alt={`Where the two looks of ${of} lie apart`}
          />
        </div>
      </div>
      <dl className="flex h-[62px] flex-none items-start gap-9">
        <Figure label="mean ΔE" value={difference?.mean} />
        <Figure label="95th percentile" value={difference?.high} />
        <Figure label="largest" value={difference?.most} />
        {more}
      </dl>
    </div>
  );
}

const Figure = ({ label, value }: { label: string; value: number | undefined }) => (
  <div className="flex flex-col-reverse">
    <dt className="text-[12px] leading-4">{label}</dt>
    <dd className="text-[32px] font-[720] leading-9 tracking-tight">{value === undefined ? '–' : value.toFixed(1)}</dd>
  </div>
);
