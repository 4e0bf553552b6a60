import clsx from 'clsx';
import type { BundleItem } from '../../../api/client';
import { count } from '../../../parts/format';
import { Glyph, stateColour } from '../../../parts/Glyph';
import { stateWords } from '../../../parts/words';
import type { Row } from './layout';
import { canMove, dragged } from './moving';

interface RowLabelProps {
  row: Row;
  width: number;
  picked: boolean;
  onHover: (b: BundleItem | undefined) => void;
  onPick: () => void;
}

/** A bundle by the folder it is called from; it can be dragged onto the folder where it lies now. */
export function RowLabel({ row, width, picked, onHover, onPick }: RowLabelProps) {
  const { bundle } = row;
  const cut = bundle.from.length - (/[^/]+(\/[^/]+)?$/.exec(bundle.from)?.[0].length ?? 0);
  return (
    <button
      type="button"
      aria-pressed={picked}
      title={
        bundle.state === 'folded'
          ? undefined
          : `Narrow the list to these ${bundle.numbers.length}; drag to a folder on the right to write a rule`
      }
      draggable={canMove(bundle)}
      onDragStart={(e) => {
        e.dataTransfer.setData(dragged, bundle.from);
        e.dataTransfer.effectAllowed = 'link';
      }}
      className={`absolute left-0 flex items-center gap-2 ${picked ? 'bg-held' : 'hover:bg-raise'}`}
      style={{ top: row.top + row.height / 2 - 12, height: 24, width }}
      onMouseEnter={() => onHover(bundle)}
      onMouseLeave={() => onHover(undefined)}
      onClick={onPick}
    >
      <b
        className={clsx(
          'w-11 flex-none text-right font-[650]',
          bundle.numbers.length < 1000 ? 'text-[17px]' : 'text-[14px]',
          (bundle.state === 'missing' || bundle.state === 'damaged') && 'text-clay',
        )}
      >
        {count(bundle.numbers.length)}
      </b>
      <span className={stateColour(bundle.state)}>
        <Glyph name={bundle.standIns ? 'stand-in' : bundle.state} />
        <span className="sr-only">{stateWords(bundle.standIns ? 'stand-in' : bundle.state)}</span>
      </span>
      <code className="truncate text-[12px]" title={bundle.from}>
        {bundle.state === 'folded' ? (
          bundle.from
        ) : bundle.from === '' ? (
          'inside the scene'
        ) : (
          <>
            <span className="text-quiet">{bundle.from.slice(0, cut)}</span>
            {bundle.from === '.' ? 'beside the scene' : bundle.from.slice(cut)}
          </>
        )}
      </code>
    </button>
  );
}
