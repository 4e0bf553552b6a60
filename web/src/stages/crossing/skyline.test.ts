import { describe, expect, it } from 'vitest';
import type { CrossRow } from '../../api/client';
import { isolines } from '../../parts/compare/isolines';
import { bars, high, labels, limitAt } from './skyline';

const row = (material: string, mean: number | null): CrossRow => ({
  material,
  from: 'usd-preview-surface',
  exact: 1,
  approximate: 0,
  lost: 0,
  moved:
    mean === null
      ? null
      : { mean, high: mean * 2, most: mean * 3, mostly: null, without: 0, formula: null, fit: null, isFitted: true },
  isMeasured: mean !== null,
  unsaid: null,
  bakes: [],
  entry: null,
  isPending: false,
  crossed: null,
});

describe('the skyline', () => {
  const rows = [row('wax', 5.3), row('apron', 5.2), row('pane', 3.3), row('tin', 1), row('new', null)];

  it('holds bars against one scale, on which the limit is a line', () => {
    const { items, top, pitch } = bars(rows, 1224, 2);
    expect(pitch).toBe(58);
    const wax = items[0];
    expect(wax && high - wax.height).toBeLessThan(limitAt(2, top));
    expect(items[3] && high - items[3].height).toBeGreaterThan(limitAt(2, top));
    expect((items[0]?.height ?? 0) / (items[3]?.height ?? 1)).toBeCloseTo(5.3);
    expect(items[4]?.height).toBe(3);
  });

  it('names what stands above the limit, no name on another', () => {
    const placed = labels(bars(rows, 1224, 2).items, 2);
    expect(placed.map((l) => l.row.material)).toEqual(['wax', 'apron', 'pane']);
    placed.slice(1).forEach((l, i) => expect(l.y - (placed[i]?.y ?? 0)).toBeGreaterThanOrEqual(16));
  });

  it('keeps thousands of bars wide enough to be hit', () => {
    const many = Array.from({ length: 2000 }, (_, i) => row(`m${String(i)}`, 1));
    expect(bars(many, 1224, 2).pitch).toBe(6);
  });
});

describe('lines of equal difference', () => {
  it('run around what lies beyond their level, and not around specks', () => {
    const cells = 96;
    const disc = (x: number, y: number, r: number) => Math.hypot(x - 48, y - 48) < r;
    const tenths = Array.from({ length: cells * cells }, (_, i) => {
      const [x, y] = [i % cells, Math.floor(i / cells)];
      return disc(x, y, 20) ? 60 : x === 5 && y === 5 ? 90 : 10;
    });
    const [two, four, eight] = isolines({ cells, top: 12, tenths }, [2, 4, 8]);
    expect(eight?.path).toBe('');
    expect(two?.path.match(/M/g)).toHaveLength(1);
    const [x, y] = four?.at ?? [0, 0];
    expect(Math.hypot(x - 50, y - 50)).toBeCloseTo((20 * 100) / cells, -0.5);
  });
});
