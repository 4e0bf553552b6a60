import type { CrossedView, CrossRow } from '../../api/client';
import { count } from '../../parts/format';
import { Noted } from './Noted';

interface DecisionProps {
  row: CrossRow;
  view: CrossedView | undefined;
  limit: number;
  within: number;
  inFocus: number;
  busy: boolean;
  onThis: () => void;
  onNote: (note: string) => void;
  onFocus: () => void;
  onWithin: () => void;
}

/** What stands against the crossing of the material in hand, and the three reaches of taking over. */
export function Decision({
  row,
  view,
  limit,
  within,
  inFocus,
  busy,
  onThis,
  onNote,
  onFocus,
  onWithin,
}: DecisionProps) {
  const isTaken = row.entry !== null;
  return (
    <div className="flex min-h-[54px] flex-none flex-wrap items-center justify-end gap-x-5 gap-y-1 py-2 pr-7">
      <p className="min-w-0 flex-1 text-[12.5px] leading-4">
        <b className="font-[680]">{row.material}</b> <span className="text-soft">{said(row, view, limit)}</span>
      </p>
      {isTaken ? (
        <span
          className={
            row.isPending
              ? 'border border-dashed border-lichen px-2.5 py-1 text-[12.5px] text-lichen'
              : 'text-[12.5px] text-quiet'
          }
        >
          {row.isPending ? `pending, entry ${String(row.entry)}` : `taken over as ${row.crossed ?? ''}`}
        </span>
      ) : row.unsaid === null && row.moved !== null && row.moved.mean > limit ? (
        <Noted material={row.material} busy={busy} onNote={onNote} />
      ) : (
        <button type="button" className="key" disabled={busy || row.unsaid !== null} onClick={onThis}>
          Take it over <kbd>T</kbd>
        </button>
      )}
      {inFocus > 0 && (
        <button type="button" className="act" disabled={busy} onClick={onFocus}>
          Take over {count(inFocus)} in focus <kbd>F</kbd>
        </button>
      )}
      <button type="button" className="act" disabled={busy || within === 0} onClick={onWithin}>
        {within === 0 ? 'None left within the limit' : `Take over all ${count(within)} within the limit`} <kbd>⇧F</kbd>
      </button>
    </div>
  );
}

function said(row: CrossRow, view: CrossedView | undefined, limit: number): string {
  if (row.unsaid !== null) return `cannot be written: ${row.unsaid}`;
  const mostly =
    row.moved?.mostly != null
      ? ` Mostly ${row.moved.mostly}: without it, ${row.moved.without.toFixed(1)} is left.`
      : '';
  const lost = view?.mappings.filter((m) => m.kind === 'lost').flatMap((m) => m.from) ?? [];
  const names =
    lost.length > 3 ? `${lost.slice(0, 3).join(', ')} and ${String(lost.length - 3)} more` : lost.join(', ');
  const loses = lost.length > 0 ? `loses ${names}.` : 'loses nothing.';
  const bakes =
    row.bakes.length === 0
      ? ''
      : row.bakes.length === 1
        ? ` One image is baked: ${row.bakes.join()}.`
        : ` ${String(row.bakes.length)} images are baked: ${row.bakes.join(', ')}.`;
  const fitted =
    row.moved?.formula != null
      ? ` The best fit: ${row.moved.mean.toFixed(1)}; the formulas ${row.moved.formula.toFixed(1)}.`
      : row.moved?.fit != null
        ? ` The best fit would be ${row.moved.fit.toFixed(1)}.`
        : '';
  if (!row.moved) return `${loses}${row.isMeasured ? ' Its look is not evaluated here.' : ''}${bakes}`;
  return `${row.moved.mean > limit ? 'moves too far and ' : ''}${loses}${fitted || mostly}${bakes}`;
}
