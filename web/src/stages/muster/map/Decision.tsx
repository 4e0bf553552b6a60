import type { BundleItem } from '../../../api/client';
import { count } from '../../../parts/format';
import { stateWords } from '../../../parts/words';
import { within } from '../acts/inFocus';
import type { Row } from './layout';
import { canMove } from './moving';

interface DecisionProps {
  row: Row;
  left: number;
  filled: boolean;
  focus: ReadonlySet<number> | null;
  busy: boolean;
  onApprove: (bundle: BundleItem, only: number[] | null) => void;
  onPick: (bundle: BundleItem) => void;
  onSearchWider: () => void;
  onPoint: (bundle: BundleItem) => void;
}

/** What can be done about a bundle, standing on it. */
export function Decision(props: DecisionProps) {
  const { row, left, filled, focus, busy, onApprove, onPick, onSearchWider, onPoint } = props;
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
          <Relink bundle={bundle} filled={filled} focus={focus} busy={busy} onApprove={onApprove} />
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
            ? `${n} ${bundle.numbers.length === 1 ? 'placeholder' : 'placeholders'}`
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

/** The part of it that is in focus first, all of it as the second choice. */
function Relink(props: Pick<DecisionProps, 'filled' | 'focus' | 'busy' | 'onApprove'> & { bundle: BundleItem }) {
  const { bundle, filled, focus, busy, onApprove } = props;
  const part = within(bundle, focus);
  const isPart = part.length > 0 && part.length < bundle.numbers.length;
  const isKey = filled && part.length > 0;
  return (
    <>
      <button
        type="button"
        className={`key ${isKey ? '' : 'outlined'}`}
        style={{ height: 24, lineHeight: isKey ? '24px' : '21px' }}
        disabled={busy}
        onClick={() => onApprove(bundle, isPart ? part : null)}
      >
        Relink {count(isPart ? part.length : bundle.numbers.length)}
        {focus !== null && (part.length > 0 ? ' in focus' : ' outside the focus')}
      </button>
      {isPart && (
        <button
          type="button"
          className="act soft bg-ground px-1 leading-5"
          disabled={busy}
          onClick={() => onApprove(bundle, null)}
        >
          all {count(bundle.numbers.length)}
        </button>
      )}
    </>
  );
}

/** "2,000 missing, 4,500 elsewhere": what a folded row holds. */
function wordsOf(bundles: BundleItem[]): string {
  const states = new Map<string, number>();
  for (const b of bundles) states.set(b.state, (states.get(b.state) ?? 0) + b.numbers.length);
  return [...states].map(([state, n]) => `${count(n)} ${stateWords(state)}`).join(', ');
}
