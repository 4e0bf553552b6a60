import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo } from 'react';
import type { BenchItem, LooksView } from '../../api/client';
import { useSize } from '../../parts/useSize';
import { HeldTile } from './HeldTile';
import { cellsOf, layoutOf } from './layout';
import { useRest } from './rest';
import { Tile } from './Tile';

interface SheetProps {
  sceneId: string;
  rows: BenchItem[];
  /** Index of the one in hand. */
  at: number;
  size: number;
  focus: ReadonlySet<string>;
  looks: LooksView | undefined;
  /** How far each moved is what is asked. */
  showsMoved: boolean;
  drafts: Readonly<Record<string, number[]>>;
  onPick: (name: string) => void;
  onOpen: () => void;
  onColumns: (columns: number) => void;
}

const gap = 30;
const words = 33;
const edge = 14;

/** The largest swatch that is made larger for want of others. */
const largest = 168;

/** Few materials are shown as large as all of them have room in view; many as large as is wanted. */
function fitted(count: number, wanted: number, held: number | undefined, width: number, height: number) {
  const at = (size: number) => {
    const columns = Math.max(2, Math.floor((width - edge * 2) / (size + gap)));
    const cell = { width: (width - edge * 2) / columns, height: size + words };
    // As many cells as leave room for others around it.
    const span = Math.max(2, Math.min(width > 1000 ? 4 : 3, Math.floor(height / cell.height), columns - 1));
    return { size, cell, layout: layoutOf(count, columns, held, span) };
  };
  let best = at(wanted);
  for (let size = wanted + 8; size <= largest; size += 8) {
    const next = at(size);
    if (next.layout.columns < 4 || edge * 2 + next.layout.rows * next.cell.height > height) break;
    best = next;
  }
  return best;
}

/** All materials on the field; the one in hand has grown in its place. */
export function Sheet(props: SheetProps) {
  const { sceneId, rows, at, size: wanted, focus, looks, showsMoved, drafts, onPick, onOpen, onColumns } = props;
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const held = rows.length === 0 ? undefined : at;
  const { layout, cell, size } = useMemo(
    () => fitted(rows.length, wanted, held, width, height),
    [rows.length, wanted, held, width, height],
  );
  const columns = layout.columns;
  const virtual = useVirtualizer({
    count: layout.rows,
    getScrollElement: () => box.current,
    estimateSize: () => cell.height,
    overscan: 1,
    // Rows are made beside the scroll and not within it: no frame waits for them.
    useFlushSync: false,
    // Slow frames are no rest.
    isScrollingResetDelay: 250,
    paddingStart: edge,
    paddingEnd: edge,
  });
  const still = !virtual.isScrolling;
  useEffect(() => {
    useRest.setState({ still });
    return () => useRest.setState({ still: true });
  }, [still]);
  useEffect(() => virtual.measure(), [virtual, cell.height]);
  useEffect(() => onColumns(columns), [onColumns, columns]);
  const place = layout.held;
  // The whole of it is in view before anybody judges it.
  useEffect(() => {
    const element = box.current;
    if (!element || !place) return;
    const top = edge + place.row * cell.height - edge;
    const end = edge + (place.row + layout.span) * cell.height;
    if (element.scrollTop > top) element.scrollTop = top;
    else if (element.scrollTop + element.clientHeight < end) element.scrollTop = end - element.clientHeight;
  }, [box, place?.row, layout.span, cell.height, height, place]);
  const strangers = useMemo(() => new Set(looks?.strangers), [looks]);
  const movedOf = (name: string) => (showsMoved ? looks?.moved[name]?.mean : undefined);
  const inHand = held === undefined ? undefined : rows[held];
  return (
    <div
      ref={box}
      role="grid"
      aria-label="Materials"
      aria-rowcount={layout.rows}
      tabIndex={0}
      className="field h-full overflow-y-auto overflow-x-hidden outline-none focus-visible:outline focus-visible:-outline-offset-2"
    >
      <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((v) => {
          const cells = cellsOf(layout, v.index, rows.length, held);
          return (
            // A row that the one in hand takes whole has none.
            cells.length > 0 && (
              <div
                key={v.index}
                role="row"
                aria-rowindex={v.index + 1}
                className="absolute inset-x-0"
                style={{ top: v.start, height: cell.height, contain: 'strict' }}
              >
                {cells.map(([column, index]) => {
                  const row = rows[index];
                  return (
                    row && (
                      <Tile
                        key={row.name}
                        sceneId={sceneId}
                        row={row}
                        size={size}
                        inFocus={focus.has(row.name)}
                        isStranger={strangers.has(row.name)}
                        moved={movedOf(row.name)}
                        left={edge + column * cell.width}
                        width={cell.width}
                        onPick={onPick}
                      />
                    )
                  );
                })}
              </div>
            )
          );
        })}
        {place && inHand && held !== undefined && (
          <div
            role="row"
            className="absolute"
            style={{
              top: edge + place.row * cell.height,
              left: edge + place.column * cell.width,
              width: cell.width * layout.span,
              height: cell.height * layout.span,
            }}
          >
            <HeldTile
              key={inHand.name}
              sceneId={sceneId}
              row={inHand}
              place={`${held + 1} of ${rows.length}`}
              size={Math.min(cell.width * layout.span - 24, cell.height * layout.span - 44)}
              inFocus={focus.has(inHand.name)}
              isStranger={strangers.has(inHand.name)}
              moved={movedOf(inHand.name)}
              drafts={drafts}
              onOpen={onOpen}
            />
          </div>
        )}
      </div>
    </div>
  );
}
