import clsx from 'clsx';
import type { BenchItem } from '../../../api/client';
import type { TwoMoments } from '../../../api/compare';
import { MidCut } from '../../../parts/MidCut';
import { useLoaded } from '../../../parts/Picture';
import { Sphere } from '../../../parts/Swatch';
import { useSettings } from '../../../state/settings';
import { useTouched } from '../../../state/touched';
import { addressesOf } from './moments';

interface FocusStripProps {
  sceneId: string;
  rows: BenchItem[];
  /** The one in hand. */
  at: string;
  moments: TwoMoments;
  onPick: (name: string) => void;
}

const size = 64;
const patience = 300;

/** The materials in focus at the second moment, each with how far it lies from the first. */
export function FocusStrip({ sceneId, rows, at, moments, onPick }: FocusStripProps) {
  return (
    <ul className="field flex flex-none gap-2 overflow-x-auto px-7 pb-2 pt-0.5" aria-label="In focus">
      {rows.map((row) => (
        <li key={row.name} className="flex-none">
          <One sceneId={sceneId} row={row} isHeld={row.name === at} moments={moments} onPick={onPick} />
        </li>
      ))}
    </ul>
  );
}

interface OneProps extends Omit<FocusStripProps, 'rows' | 'at'> {
  row: BenchItem;
  isHeld: boolean;
}

function One({ sceneId, row, isHeld, moments, onPick }: OneProps) {
  const light = useSettings((s) => s.light);
  const touched = useTouched((s) => s.looks[sceneId] ?? 0);
  const loaded = useLoaded(addressesOf(sceneId, row.name, moments, { light, side: 96, touched }).after, patience);
  return (
    <button
      type="button"
      aria-current={isHeld || undefined}
      className={clsx(
        'flex w-[118px] flex-col items-center px-1 pt-1 text-white',
        isHeld && 'outline outline-2 -outline-offset-2 outline-white',
      )}
      onClick={() => onPick(row.name)}
    >
      <Sphere loaded={loaded} size={size} alt="" />
      <span className="flex w-full justify-center">
        <MidCut text={row.title} className="mono text-[11.5px]" />
      </span>
      <span className="mono text-[11.5px] text-white">
        {loaded?.difference ? `ΔE ${loaded.difference.mean.toFixed(1)}` : loaded?.source === false ? 'not there' : '–'}
      </span>
    </button>
  );
}
