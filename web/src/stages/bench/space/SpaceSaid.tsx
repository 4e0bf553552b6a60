import clsx from 'clsx';
import type { BenchItem, SceneViewed, ViewFile } from '../../../api/client';
import { count, many } from '../../../parts/format';
import { Hint } from '../../../parts/Hint';
import { MidCut } from '../../../parts/MidCut';
import type { Wearing } from './dress';
import { legendOf, type Hatch, type Overlay } from './overlays';
import type { Model, Piece } from './useModels';

interface SpaceSaidProps {
  view: SceneViewed;
  rows: readonly BenchItem[];
  overlay: Overlay;
  wearing: Wearing;
  variant: string | undefined;
  picked: Pick<Piece, 'node' | 'part'> | undefined;
  loaded: readonly Model[];
  near: readonly ViewFile[];
  all: NonNullable<SceneViewed['made']>;
  onFrame: () => void;
  /** That object stands in for the shape of all swatches. */
  onStandIn: (node: number) => void;
}

const sum = (files: readonly { triangles: number }[]) => files.reduce((all, f) => all + f.triangles, 0);

/** What was picked, what the hatches mean, and what is not shown. */
export function SpaceSaid({
  view,
  rows,
  overlay,
  wearing,
  variant,
  picked,
  loaded,
  near,
  all,
  onFrame,
  onStandIn,
}: SpaceSaidProps) {
  const left = all.triangles - sum(near);
  const told = all.told;
  return (
    <div className="flex flex-none flex-col gap-0.5 bg-ground px-7 py-1.5 text-[12.5px] text-quiet">
      <p className="flex min-w-0 items-baseline gap-3" role="status">
        {picked ? (
          <Picked picked={picked} wearing={wearing} variant={variant} />
        ) : (
          <span>{many(view.objects.length, 'object')}. A click takes what it wears into the focus.</span>
        )}
        {picked && (
          <button type="button" className="act soft ml-auto flex-none" onClick={() => onStandIn(picked.node)}>
            Show materials on it
          </button>
        )}
        <button type="button" className={clsx('act soft flex-none', !picked && 'ml-auto')} onClick={onFrame}>
          Frame what is in hand <kbd>↵</kbd>
        </button>
      </p>
      <p className="flex min-w-0 flex-wrap items-baseline gap-x-4">
        {legendOf(overlay, view.materials, rows).map(([hatch, words]) => (
          <span key={words} className="flex items-baseline gap-1.5 text-soft">
            <Sample of={hatch} />
            {words}
          </span>
        ))}
        <span>
          {loaded.length < near.length
            ? `${count(loaded.length)} of ${many(near.length, 'part')} loaded.`
            : `${count(sum(near))} triangles.`}
          {left > 0 && ` ${count(left)} more are left out, the farthest; go nearer to see them.`}
        </span>
        {told.length > 0 && (
          <Hint text={told.slice(0, 8).join(' ')}>
            <span className="underline decoration-dotted" tabIndex={0}>
              {many(told.length, 'thing is', 'things are')} not shown
            </span>
          </Hint>
        )}
        <span>A view, not a proof: looks are judged on the swatches.</span>
      </p>
    </div>
  );
}

/** "petal_17, wears petal_red, 11,200 triangles, a texel is 0.4 mm" */
function Picked({
  picked,
  wearing,
  variant,
}: Pick<SpaceSaidProps, 'wearing' | 'variant'> & { picked: Pick<Piece, 'node' | 'part'> }) {
  const known = wearing.of(picked);
  if (!known) return null;
  const material = wearing.materialOf(picked, variant);
  const { part, object } = known;
  return (
    <span className="flex min-w-0 items-baseline gap-1.5">
      <MidCut text={object} className="mono text-ink" />
      {part.name && <span className="flex-none">part {part.name}</span>}
      <span className="flex-none">{material ? 'wears' : 'wears no material'}</span>
      {material && <MidCut text={wearing.look(material)?.look.title ?? material} className="mono text-ink" />}
      <span className="flex-none">· {many(part.triangles, 'triangle')}</span>
      {part.texel !== null && <span className="flex-none">· a texel is {length(part.texel)}</span>}
    </span>
  );
}

const units: [metres: number, name: string][] = [
  [1e-3, 'mm'],
  [1e-2, 'cm'],
  [1, 'm'],
];

/** Metres as people say them. */
function length(metres: number): string {
  const [size, name] = units.find(([size]) => metres < size * 10) ?? [1, 'm'];
  return `${(metres / size).toLocaleString('en', { maximumSignificantDigits: 2 })} ${name}`;
}

const samples: Record<Hatch, string | undefined> = {
  none: undefined,
  diagonal: 'M-2 6L6 -2M2 14L14 2M8 18L18 8',
  dots: 'M2 3h.1M8 3h.1M5 8h.1M11 8h.1',
  lines: 'M0 3H12M0 8H12',
  uprights: 'M3 0V12M8 0V12',
  cross: 'M0 0L12 12M0 12L12 0M0 6L6 12M6 0L12 6',
  wave: 'M0 6C3 2 3 2 6 6S9 10 12 6',
};

const Sample = ({ of }: { of: Hatch }) =>
  samples[of] ? (
    <svg viewBox="0 0 12 12" className="size-3 flex-none self-center border border-rule" aria-hidden="true">
      <path d={samples[of]} fill="none" stroke="currentColor" strokeWidth="1.6" strokeLinecap="round" />
    </svg>
  ) : null;
