import clsx from 'clsx';
import { memo } from 'react';
import type { BenchItem } from '../../api/client';
import { Glyph } from '../../parts/Glyph';
import { MidCut } from '../../parts/MidCut';
import { SheetSwatch } from './SheetSwatch';

interface TileProps {
  sceneId: string;
  row: BenchItem;
  size: number;
  inFocus: boolean;
  /** It looks like no other. */
  isStranger: boolean;
  /** How far it lies from how it arrived, where that is what is asked. */
  moved: number | undefined;
  left: number;
  width: number;
  onPick: (name: string) => void;
}

/** A material on the field, over its name and what is said of it. */
export const Tile = memo(function Tile(props: TileProps) {
  const { sceneId, row, size, inFocus, isStranger, moved, left, width, onPick } = props;
  return (
    <div
      role="gridcell"
      aria-selected="false"
      title={row.tells.join('\n') || row.title}
      className="absolute top-0 flex flex-col items-center"
      style={{ left, width }}
      onMouseDown={(e) => {
        // The keyboard stays with the sheet.
        e.preventDefault();
        onPick(row.name);
      }}
    >
      <SheetSwatch sceneId={sceneId} material={row.name} size={size} />
      <Name row={row} inFocus={inFocus} />
      <Said row={row} isStranger={isStranger} moved={moved} />
      <span className="sr-only">{about(row)}</span>
    </div>
  );
});

/** The name; a ring before it until somebody has looked, a bead while it is in the focus. */
export function Name({ row, inFocus, large }: { row: BenchItem; inFocus: boolean; large?: boolean }) {
  const seen = row.mark !== null && !row.mark.isOld;
  return (
    <span
      className={clsx(
        'flex max-w-full items-center gap-1.5 text-white',
        large ? 'text-[14px] font-[680] leading-5' : 'text-[11.5px] leading-[14px]',
      )}
    >
      {inFocus ? (
        <span className="size-2 flex-none rounded-full bg-white" />
      ) : (
        !seen && <span className="size-2 flex-none rounded-full border border-white" />
      )}
      <MidCut text={row.title} className="min-w-0" />
    </span>
  );
}

/** On the field severities are black: the drawn line and the word. */
export function Said({ row, isStranger, moved }: { row: BenchItem; isStranger: boolean; moved: number | undefined }) {
  const wrong = row.mark?.kind === 'wrong' ? row.mark.word : undefined;
  const words =
    wrong ?? (moved !== undefined ? `ΔE ${moved.toFixed(1)}` : isStranger ? 'like no other' : row.word || undefined);
  if (words === undefined) return null;
  const drawn = wrong !== undefined || moved !== undefined || isStranger ? undefined : row.worst;
  return (
    <span className="flex max-w-full items-center gap-1 text-[11px] font-medium leading-[13px] text-black">
      {drawn != null && <Glyph name={drawn} className="!size-3" />}
      <span className={clsx('truncate', wrong !== undefined && 'font-bold')}>{words}</span>
    </span>
  );
}

/** What is drawn and not written. */
function about({ mark, model }: BenchItem): string {
  const seen = mark === null ? 'not seen' : mark.isOld ? 'changed since it was seen' : 'seen';
  return `${model}, ${seen}`;
}
