import type { CrossRow } from '../../api/client';

/** Of the bars, in CSS pixels. */
export const high = 96;

/** Wider bars say no more, narrower ones cannot be hit. */
const widest = 26;
/** Where there is room, swatches grow. */
const roomy = { rows: 16, pitch: 58 };
const narrowest = 6;
const mostLabels = 6;
const lineHeight = 16;
/** Not measured: it stands there, and says nothing yet. */
const unmeasured = 3;

export interface Bar {
  row: CrossRow;
  x: number;
  width: number;
  height: number;
}

/** Bars on one ground line, in the order of the rows; the tallest, or the limit, has a place of its own below the upper edge. */
export function bars(rows: CrossRow[], width: number, limit: number): { pitch: number; items: Bar[]; top: number } {
  const pitch = Math.max(
    narrowest,
    Math.min(rows.length <= roomy.rows ? roomy.pitch : widest, width / Math.max(1, rows.length)),
  );
  const top = Math.max(1.6 * limit, ...rows.slice(0, 1).map((r) => (r.moved?.mean ?? 0) * 1.06));
  const bar = Math.min(12, Math.max(2, pitch * 0.45));
  return {
    pitch,
    top,
    items: rows.map((row, i) => ({
      row,
      x: i * pitch + (pitch - bar) / 2,
      width: bar,
      height: row.moved ? Math.max(1, (row.moved.mean / top) * high) : unmeasured,
    })),
  };
}

/** How far below the upper edge the limit runs. */
export const limitAt = (limit: number, top: number) => high - (limit / top) * high;

/** Names of the farthest, each beside its bar and none on another. */
export function labels(items: Bar[], limit: number): { row: CrossRow; x: number; y: number }[] {
  const placed: { row: CrossRow; x: number; y: number }[] = [];
  for (const b of items) {
    if (!b.row.moved || b.row.moved.mean <= limit || placed.length === mostLabels) break;
    const above = placed.at(-1)?.y ?? -lineHeight;
    const y = Math.min(
      Math.max(high - b.height - 2, above + lineHeight),
      limitAt(limit, topOf(items, limit)) - lineHeight,
    );
    // Where the next name would stand on another, the list says it.
    if (y < above + lineHeight) break;
    placed.push({ row: b.row, x: b.x + b.width + 7, y });
  }
  return placed;
}

const topOf = (items: Bar[], limit: number) => {
  const first = items[0];
  return first?.row.moved && first.height > 0 ? (first.row.moved.mean * high) / first.height : 1.6 * limit;
};
