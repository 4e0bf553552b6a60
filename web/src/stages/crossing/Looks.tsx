import { useQuery } from '@tanstack/react-query';
import type { CrossedView, CrossingRoute, CrossRow } from '../../api/client';
import { ApartPicture } from '../../parts/compare/ApartPicture';
import { Compare, CompareWays } from '../../parts/compare/Compare';
import type { Apart } from '../../parts/compare/isolines';
import { useLoaded, type Loaded } from '../../parts/Picture';
import { useSize } from '../../parts/useSize';
import { lights, useSettings } from '../../state/settings';
import { useTouched } from '../../state/touched';
import { setOf, useSets } from './sets';
import clsx from 'clsx';

interface LooksProps {
  sceneId: string;
  to: string;
  route: CrossingRoute;
  fit: boolean;
  row: CrossRow;
  view: CrossedView | undefined;
  limit: number;
}

const patience = 300;
const sides = [256, 384] as const;

/** Arrived and crossed under one wipe, where they lie apart, and by how much; on the field, to the window's edge. */
export function Looks({ sceneId, to, route, fit, row, view, limit }: LooksProps) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const size = Math.max(96, Math.min(sides[1], (width - 110) / 2, height - 172));
  const side = size > sides[0] ? sides[1] : sides[0];
  const light = useSettings((s) => s.light);
  const looks = useTouched((s) => s.looks[sceneId] ?? 0);
  const sets = useSets((s) => s.sets);
  const query = new URLSearchParams({ to, route, light, side: String(side) });
  if (fit) query.set('fit', 'true');
  if (looks > 0) query.set('touched', String(looks));
  for (const s of setOf(sets, sceneId, to, row.material)) query.append('set', `${s.input}=${s.numbers.join()}`);
  const at = `/api/scenes/${sceneId}/crossing/${encodeURIComponent(row.material)}`;
  // The picture before stays while the next one is made, but never that of another material.
  const ofThis = (loaded: Loaded | null) => (loaded?.url.startsWith(`${at}/`) ? loaded : null);
  const before = ofThis(useLoaded(`${at}/swatch?look=arrived&${query}`, patience));
  const after = ofThis(useLoaded(`${at}/swatch?${query}`, patience));
  const isMade = after?.url === `${at}/swatch?${query}` && after.source !== false;
  const apart = useQuery({
    queryKey: ['apart', at, query.toString()],
    queryFn: async () => {
      const answer = await fetch(`${at}/apart?${query}`);
      return answer.status === 200 ? ((await answer.json()) as Apart) : null;
    },
    enabled: isMade,
  }).data;
  const difference = after?.difference;
  return (
    <div
      ref={box}
      className="field flex min-h-0 flex-1 flex-col overflow-hidden px-7 pt-2 text-white"
      aria-label="How it looks"
    >
      <div className="flex flex-none items-baseline justify-between gap-4 pb-1">
        <CompareWays />
        <Lit view={view} />
      </div>
      <div className="flex min-h-0 flex-1 items-start justify-between gap-6">
        <Compare
          of={row.material}
          before={{ name: 'arrived', loaded: before }}
          after={{ name: 'crossed', loaded: after }}
          size={size}
        />
        <div className="pt-5">
          <ApartPicture
            apart={isMade ? (apart ?? undefined) : undefined}
            size={size}
            limit={limit}
            alt={`Where the two looks of ${row.material} lie apart`}
          />
        </div>
      </div>
      <dl className="flex h-[62px] flex-none items-start gap-9">
        <Figure label="mean ΔE" value={difference?.mean} />
        <Figure label="95th percentile" value={difference?.high} />
        <Figure label="largest" value={difference?.most} />
        {row.moved && (
          <div className="ml-auto text-right text-[12px] leading-4">
            <dt>under three lights</dt>
            <dd className="mono">
              {row.moved.mean.toFixed(1)} · {row.moved.high.toFixed(1)} · {row.moved.most.toFixed(1)}
            </dd>
          </div>
        )}
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

/** The light that both are under, each with how far the look moves there. */
function Lit({ view }: { view: CrossedView | undefined }) {
  const { light, set } = useSettings();
  return (
    <div className="flex gap-3 text-[12px]" role="group" aria-label="Light">
      {lights.map((l) => {
        const lit = view?.lights.find((x) => x.light === l);
        return (
          <button
            key={l}
            type="button"
            aria-pressed={l === light}
            onClick={() => set({ light: l })}
            className={clsx('text-white', l === light && 'font-[720] underline underline-offset-4')}
          >
            {l} {lit && <span className="mono text-[11.5px]">{lit.difference.mean.toFixed(1)}</span>}
          </button>
        );
      })}
      <kbd className="!border-white !text-white">H</kbd>
    </div>
  );
}
