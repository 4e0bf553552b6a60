import type { BundleItem } from '../../../api/client';
import { count } from '../../../parts/format';
import type { Row } from './layout';
import { canMove } from './moving';

interface DecisionProps {
  row: Row;
  left: number;
  filled: boolean;
  busy: boolean;
  onApprove: (bundle: BundleItem) => void;
  onPick: (bundle: BundleItem) => void;
  onSearchWider: () => void;
  onPoint: (bundle: BundleItem) => void;
}

/** What can be done about a bundle, standing on it. */
export function Decision({ row, left, filled, busy, onApprove, onPick, onSearchWider, onPoint }: DecisionProps) {
  const { bundle } = row;
  const n = count(bundle.numbers.length);
  const place = { left, top: row.top + row.height / 2 - 12 };
  if (bundle.entry !== null)
    return (
      <span
        className="absolute border border-dashed border-lichen bg-ground px-2 text-[12.5px] font-semibold leading-[22px] text-lichen"
        style={place}
      >
        pending, entry {bundle.entry}
      </span>
    );
  switch (bundle.state) {
    case 'elsewhere':
      return (
        <span className="absolute flex items-center gap-2" style={place}>
          <button
            type="button"
            className={`key ${filled ? '' : 'outlined'}`}
            style={{ height: 24, lineHeight: filled ? '24px' : '21px' }}
            disabled={busy}
            onClick={() => onApprove(bundle)}
          >
            Relink {n}
          </button>
          {bundle.approvedBefore && (
            <span className="bg-ground px-1 text-[12px] leading-5 text-soft">approved before</span>
          )}
          {bundle.contradicts.length > 0 && (
            <button
              type="button"
              className="act soft bg-ground px-1 leading-5"
              title="Called from the same place, with a clear answer elsewhere: the rule leaves them out"
              onClick={() =>
                onPick({
                  ...bundle,
                  state: 'contradicting',
                  numbers: bundle.contradicts,
                })
              }
            >
              leaves {count(bundle.contradicts.length)} out
            </button>
          )}
        </span>
      );
    case 'contested':
      return (
        <button
          type="button"
          className="key outlined absolute"
          style={{ ...place, height: 24, lineHeight: '21px' }}
          onClick={() => onPick(bundle)}
        >
          Choose for {n}
        </button>
      );
    case 'present':
      return row.height < 24 ? null : (
        <span
          className="absolute bg-ground px-1.5 text-[12.5px] leading-5 text-soft"
          style={{ ...place, top: place.top + 2 }}
        >
          {bundle.standIns
            ? `${n} neutral ${bundle.numbers.length === 1 ? 'picture stands in' : 'pictures stand in'}`
            : bundle.numbers.length === 1
              ? '1 answers'
              : `${n} answer`}
          {bundle.standIns
            ? ''
            : bundle.relinked
              ? ', relinked'
              : bundle.numbers.length === 1
                ? ' where it is called'
                : ' where they are called'}
        </span>
      );
    case 'missing':
      return (
        <span className="absolute flex gap-4 bg-ground px-1 leading-6" style={{ ...place, left: left + 210 }}>
          <button type="button" className="act" onClick={onSearchWider}>
            Search wider
          </button>
          {canMove(bundle) && (
            <button type="button" className="act soft" onClick={() => onPoint(bundle)}>
              Point to its folder
            </button>
          )}
        </span>
      );
    case 'damaged':
      return (
        <span
          className="absolute bg-ground px-1 text-[12.5px] leading-6 text-clay"
          style={{ ...place, left: left + 210 }}
        >
          {n} damaged
        </span>
      );
    case 'outside':
      return (
        <span
          className="absolute bg-ground px-1 text-[12.5px] leading-6 text-quiet"
          style={{ ...place, left: left + 210 }}
        >
          outside every root, not looked at
        </span>
      );
    case 'embedded':
      return (
        <span className="absolute text-[12.5px] leading-6 text-soft" style={{ ...place, left: left + 44 }}>
          carried inside the scene
        </span>
      );
    case 'folded':
      return (
        <span className="absolute text-[12.5px] leading-6 text-quiet" style={place}>
          {wordsOf(row.folded)}
        </span>
      );
    default:
      return null;
  }
}

/** "2,000 missing, 4,500 elsewhere": what a folded row holds. */
function wordsOf(bundles: BundleItem[]): string {
  const states = new Map<string, number>();
  for (const b of bundles) states.set(b.state, (states.get(b.state) ?? 0) + b.numbers.length);
  return [...states].map(([state, n]) => `${count(n)} ${state}`).join(', ');
}
