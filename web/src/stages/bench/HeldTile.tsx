import type { BenchItem } from '../../api/client';
import { Name, Said } from './Tile';
import { GrowingSwatch } from './GrowingSwatch';

interface HeldTileProps {
  sceneId: string;
  row: BenchItem;
  /** "7 of 48" */
  place: string;
  size: number;
  inFocus: boolean;
  isStranger: boolean;
  moved: number | undefined;
  drafts: Readonly<Record<string, number[]>>;
  onOpen: () => void;
}

/** The material in hand, grown in its place in the sheet. */
export function HeldTile({ row, place, onOpen, ...props }: HeldTileProps) {
  return (
    <div role="gridcell" aria-selected="true" className="flex h-full flex-col items-center" onDoubleClick={onOpen}>
      <GrowingSwatch
        sceneId={props.sceneId}
        material={row.name}
        size={props.size}
        drafts={props.drafts}
        alt={row.title}
      />
      <span className="flex max-w-full items-baseline gap-2">
        <Name row={row} inFocus={props.inFocus} large />
        <span className="flex-none text-[13px] text-white">{place}</span>
      </span>
      <Said row={row} isStranger={props.isStranger} moved={props.moved} />
    </div>
  );
}
