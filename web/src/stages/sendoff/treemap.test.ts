import { describe, expect, it } from 'vitest';
import { areas } from './treemap';

const file = (name: string, role: string, bytes: number) => ({ name, role, bytes, references: 1 });
const files = [
  file('a.png', 'normal', 600),
  file('b.png', 'normal', 200),
  file('c.bin', 'geometry', 150),
  file('d.png', 'base colour', 49),
  file('e.txt', 'scene', 1),
];

describe('the treemap of a package', () => {
  it('gives every file an area that is its bytes', () => {
    const groups = areas(files, 1000, 500);
    const cells = groups.flatMap((g) => g.cells);
    expect(cells.map((c) => c.file.name).sort()).toEqual(['a.png', 'b.png', 'c.bin', 'd.png', 'e.txt']);
    const [a, b] = ['a.png', 'b.png'].map((name) => cells.find((c) => c.file.name === name));
    const area = (c: typeof a) => (c ? c.width * c.height : 0);
    expect(area(a) / area(b)).toBeGreaterThan(2.9);
    expect(area(a) / area(b)).toBeLessThan(3.1);
  });

  it('keeps files of a kind together, the largest kind first', () => {
    const groups = areas(files, 1000, 500);
    expect(groups.map((g) => [g.role, g.bytes])).toEqual([
      ['normal', 800],
      ['geometry', 150],
      ['base colour', 49],
      ['scene', 1],
    ]);
    for (const g of groups)
      for (const c of g.cells) {
        expect(c.x).toBeGreaterThanOrEqual(g.x - 0.01);
        expect(c.x + c.width).toBeLessThanOrEqual(g.x + g.width + 0.01);
        expect(c.y + c.height).toBeLessThanOrEqual(g.y + g.height + 0.01);
      }
  });

  it('draws nothing of nothing and a file of no bytes as a speck', () => {
    expect(areas([], 100, 100)).toEqual([]);
    expect(areas([file('empty.txt', 'scene', 0)], 100, 100)[0]?.cells).toHaveLength(1);
  });
});
