/** A sheet of cells, of which the one in hand takes a square of several. */
export interface SheetLayout {
  columns: number;
  rows: number;
  /** Where the square of the one in hand begins; undefined when none is. */
  held: { row: number; column: number } | undefined;
  span: number;
}

export function layoutOf(count: number, columns: number, held: number | undefined, wanted: number): SheetLayout {
  const span = Math.min(wanted, columns);
  if (held === undefined || count === 0) return { columns, rows: Math.ceil(count / columns), held: undefined, span };
  const row = Math.floor(held / columns);
  const column = Math.min(held % columns, columns - span);
  const cells = count - 1 + span * span;
  return { columns, rows: Math.max(Math.ceil(cells / columns), row + span), held: { row, column }, span };
}

/** What stands in the cells of a row: indices of those that are not in hand, by column. */
export function cellsOf(layout: SheetLayout, row: number, count: number, held: number | undefined): [number, number][] {
  const { columns, span } = layout;
  const cells: [number, number][] = [];
  for (let column = 0; column < columns; column++) {
    if (layout.held && isHeld(layout, row, column)) continue;
    const free = row * columns + column - taken(layout, row, column, span);
    // The one in hand is not among those that fill the cells.
    const index = held !== undefined && free >= held ? free + 1 : free;
    if (index < count) cells.push([column, index]);
  }
  return cells;
}

const isHeld = ({ held, span }: SheetLayout, row: number, column: number) =>
  held !== undefined &&
  row >= held.row &&
  row < held.row + span &&
  column >= held.column &&
  column < held.column + span;

/** Cells of the square that come before a cell. */
function taken({ held }: SheetLayout, row: number, column: number, span: number): number {
  if (!held || row < held.row) return 0;
  const above = Math.min(row - held.row, span) * span;
  return row < held.row + span && column >= held.column + span ? above + span : above;
}
