import { Hint } from './Hint';
import type { Loaded } from './Picture';
import { Sphere } from './Swatch';

interface LookPairProps {
  material: string;
  before: Loaded | null;
  /** Undefined where nothing is held beside it. */
  after: Loaded | null | undefined;
  size: number;
  /** What the second one is: “with the fix”. */
  second: string;
}

/** A material as it looks in two states, side by side on the field. */
export function LookPair({ material, before, after, size, second }: LookPairProps) {
  return (
    <div className="field flex w-fit">
      <Sphere loaded={before} size={size} alt={`${material} now`} />
      {after?.source && <Sphere loaded={after} size={size} alt={`${material} ${second}`} />}
    </div>
  );
}

/** How far apart two looks are: one number, and on asking the others. */
export function LookDistance({ before, after }: { before: Loaded | null; after: Loaded | null | undefined }) {
  const difference = after?.source && after.difference;
  if (!difference) return null;
  const about = [...new Set([...(before?.told ?? []), ...after.told])];
  return (
    <Hint
      text={
        <>
          CIEDE2000 over the sphere: mean {difference.mean.toFixed(1)}, 95 of 100 pixels up to{' '}
          {difference.high.toFixed(1)}, largest {difference.most.toFixed(1)}. {about.join(' ')}
        </>
      }
    >
      <b tabIndex={0} className="font-[680] text-ink underline decoration-dotted underline-offset-2">
        {difference.isSeen ? `ΔE ${difference.mean.toFixed(1)}` : 'looks the same'}
      </b>
    </Hint>
  );
}
