import { describe, expect, it } from 'vitest';
import type { BundleItem } from '../../../api/client';
import { layOut, leastHeight, strand } from './layout';

const place = (name: string) => ({ path: `/${name}`, name });
let next = 1;
const bundle = (state: string, from: string, n: number, ...to: string[]): BundleItem => ({
  state,
  from,
  to: to.map(place),
  numbers: Array.from({ length: n }, () => next++),
  contradicts: [],
  entry: null,
  relinked: false,
  approvedBefore: false,
  standIns: false,
});

describe('the relocation map', () => {
  it('fits its height whatever the numbers, and keeps every row as high as its label', () => {
    for (const scale of [1, 20, 500, 20_000]) {
      const layout = layOut(
        [
          bundle('elsewhere', 'D:/a', 41 * scale, 'x'),
          bundle('present', 'tex', 54 * scale, 'y'),
          bundle('missing', 'E:/b', 9 * scale),
        ],
        330,
        false,
      );
      const last = layout.rows.at(-1);
      expect((last?.top ?? 0) + (last?.height ?? 0)).toBeLessThanOrEqual(331);
      expect(Math.min(...layout.rows.map((r) => r.height))).toBeGreaterThanOrEqual(24);
      for (const p of layout.places) expect(p.top + p.height).toBeLessThanOrEqual(331);
    }
  });

  it('gives each bundle a width that is its count', () => {
    const layout = layOut([bundle('elsewhere', 'a', 100, 'x'), bundle('elsewhere', 'b', 300, 'y')], 300, false);
    const [a, b] = layout.bands;
    expect((b?.height ?? 0) / (a?.height ?? 1)).toBeCloseTo(3, 5);
  });

  it('draws strands up to 400 references and solid bands above', () => {
    expect(layOut([bundle('elsewhere', 'a', 400, 'x')], 300, false).solid).toBe(false);
    expect(layOut([bundle('elsewhere', 'a', 401, 'x')], 300, false).solid).toBe(true);
  });

  it('folds the smallest bundles into one row, which loses nothing, and unfolds them', () => {
    const many = Array.from({ length: 30 }, (_, i) => bundle('missing', `f${i}`, i + 1));
    const layout = layOut(many, 330, false);
    expect(layout.rows.length).toBeLessThanOrEqual(14);
    const rest = layout.rows.at(-1);
    expect(rest?.bundle.state).toBe('folded');
    expect(layout.rows.flatMap((r) => r.bundle.numbers).length).toBe((30 * 31) / 2);
    expect(Math.max(...(rest?.folded ?? []).map((b) => b.numbers.length))).toBeLessThan(
      Math.min(...layout.rows.slice(0, -1).map((r) => r.bundle.numbers.length)),
    );
    expect(layOut(many, leastHeight(many), true).rows.length).toBe(30);
  });

  it('never lets bands overlap where they arrive', () => {
    const layout = layOut(
      [bundle('elsewhere', 'a', 10, 'x'), bundle('present', 'b', 20, 'x'), bundle('contested', 'c', 5, 'x', 'y')],
      300,
      false,
    );
    const atX = layout.bands
      .filter((b) => b.row.bundle.to[0]?.path === '/x')
      .map((b) => [b.to, b.to + b.height] as const);
    atX.sort(([a], [b]) => a - b);
    atX.slice(1).forEach(([top], i) => expect(top).toBeGreaterThanOrEqual((atX[i]?.[1] ?? 0) - 0.01));
  });

  it('draws a strand level at both ends', () => {
    expect(strand(100, 10, 50)).toBe('M0 10C46 10 54 50 100 50');
  });
});
