import { describe, expect, it } from 'vitest';
import type { BenchItem, HeldView } from '../../api/client';
import { rungAt, letterAt, wiresOf } from './held/wires';
import { cellsOf, layoutOf } from './layout';
import { arranged } from './order';
import { fitted, piecesOf, pixelAt, zoomed } from './pixels/view';

describe('the sheet', () => {
  /** Every material once, none in the square of the one in hand, none beyond the sheet. */
  it.each([
    [48, 7, 24, 3],
    [48, 7, 47, 3],
    [48, 7, 0, 3],
    [48, 7, 6, 3],
    [5, 7, 2, 3],
    [1, 4, 0, 3],
    [10, 2, 5, 3],
    [12, 6, undefined, 3],
  ])('shows all of %i in %i columns with %s in hand', (count, columns, held, span) => {
    const layout = layoutOf(count, columns, held, span);
    const shown: number[] = [];
    for (let row = 0; row < layout.rows; row++)
      for (const [column, index] of cellsOf(layout, row, count, held)) {
        shown.push(index);
        expect(column).toBeLessThan(columns);
        const { held: square } = layout;
        if (square)
          expect(
            row >= square.row &&
              row < square.row + layout.span &&
              column >= square.column &&
              column < square.column + layout.span,
          ).toBe(false);
      }
    const others = Array.from({ length: count }, (_, i) => i).filter((i) => i !== held);
    expect(shown).toEqual(others);
    if (layout.held) expect(layout.held.column + layout.span).toBeLessThanOrEqual(columns);
  });

  const row = (name: string, more: Partial<BenchItem> = {}): BenchItem => ({
    name,
    title: name,
    model: 'OpenPBR',
    family: name.slice(0, 1),
    worst: null,
    findings: 0,
    word: '',
    tells: [],
    change: 0,
    twins: [],
    isWorn: true,
    mark: null,
    isStrange: false,
    ...more,
  });
  const rows = [
    row('b1', { worst: 'note', findings: 4, change: 2 }),
    row('a1', { twins: [{ of: 'c1', differ: 'nothing but the name' }] }),
    row('a2', { worst: 'blocker', findings: 1 }),
    row('c1'),
  ];
  const looks = {
    order: ['b1', 'a1', 'a2', 'c1'],
    strangers: [],
    moved: { c1: { mean: 3, high: 4, most: 5, isSeen: true }, a1: { mean: 0, high: 0, most: 0, isSeen: false } },
    left: 0,
  };
  it.each([
    ['file', 'b1 a1 a2 c1'],
    ['family', 'a1 a2 b1 c1'],
    ['findings', 'a2 b1 a1 c1'],
    ['change', 'b1 a1 a2 c1'],
    // Twins stand side by side, wherever the order has them.
    ['likeness', 'b1 a1 c1 a2'],
    ['moved', 'c1 a1 b1 a2'],
  ] as const)('is ordered %s', (sort, order) => {
    expect(
      arranged(rows, sort, looks, '')
        .map((r) => r.name)
        .join(' '),
    ).toBe(order);
    expect(arranged(rows, sort, looks, 'A').map((r) => r.name)).toHaveLength(2);
  });
});

describe('the wiring', () => {
  const input = (name: string, maps: HeldView['inputs'][number]['maps'] = []): HeldView['inputs'][number] => ({
    name,
    what: name,
    numbers: name.includes('colour') ? 3 : 1,
    now: [],
    text: null,
    default: [],
    min: null,
    max: null,
    unit: null,
    isColour: name.includes('colour'),
    takesImage: true,
    differs: maps.length > 0,
    unseen: null,
    maps,
    nodes: [],
  });
  const image = (node: string, letters: string) => ({
    node,
    number: 1,
    name: `${node}.png`,
    picture: null,
    width: 8,
    height: 8,
    facts: '',
    space: 'srgb',
    uvSet: '',
    isMissing: false,
    isElsewhere: false,
    mean: null,
    channels: letters.split('').map((letter) => ({ letter, min: 0, mean: 0.5, max: 1, histogram: [] })),
  });
  const map = (of: string, channel: 'rgb' | 'r' | 'g', through: string[] = []) => ({
    image: of,
    channel,
    through,
    mean: 0.5,
  });

  it('lays a strand for each channel, in the order of the rungs, and finds what a drop means', () => {
    const view: HeldView = {
      name: 'm',
      title: 'm',
      model: '',
      inputs: [
        input('colour', [map('b', 'rgb')]),
        input('rough', [map('a', 'g', ['multiply', 'clamp'])]),
        input('grey', [map('c', 'r')]),
      ],
      images: [image('a', 'rgb'), image('b', 'rgb'), image('c', 'l')],
      wearers: [],
      parts: 0,
      findings: [],
      noValue: null,
      noImage: null,
      noAssign: null,
      noOwn: null,
    };
    const wires = wiresOf(view, false, 420, 200);
    expect(wires.sources.map((s) => s.node)).toEqual(['b', 'a', 'c']);
    expect(wires.strands.map((s) => s.letters.join(''))).toEqual(['rgb', 'g', 'l']);
    // Nearest to the image first.
    expect(wires.strands[1]?.knots.map((k) => k.word)).toEqual(['clamp', 'multiply']);
    const rung = wires.rungs[1];
    expect(rungAt(wires, { x: wires.railX + 60, y: (rung?.y ?? 0) + 5 })).toBe('rough');
    expect(rungAt(wires, { x: 20, y: rung?.y ?? 0 })).toBeUndefined();
    const letter = wires.sources[1]?.letters[2];
    expect(letterAt(wires, { x: wires.lettersX, y: letter?.y ?? 0 })).toEqual({ node: 'a', letter: 'b' });
  });

  it('stays readable with sixty images: no two lie on each other, no two rungs either', () => {
    const many = Array.from({ length: 60 }, (_, i) => i);
    const view = {
      inputs: many.map((i) => input(`in${i}`, [map(`n${(i * 7) % 60}`, 'r')])),
      images: many.map((i) => image(`n${i}`, 'rgb')),
    } as unknown as HeldView;
    const { sources, rungs } = wiresOf(view, true, 420, 200);
    sources.slice(1).forEach((s, i) => expect(s.y - (sources[i]?.y ?? 0)).toBeGreaterThanOrEqual(56));
    rungs.slice(1).forEach((r, i) => expect(r.y - (rungs[i]?.y ?? 0)).toBeGreaterThanOrEqual(24));
    // In the order of what they feed, so that no strand crosses another.
    expect(sources.map((s) => s.node)).toEqual(many.map((i) => `n${(i * 7) % 60}`));
  });
});

describe('an image down to the pixel', () => {
  const image = { width: 1000, height: 600 };
  const box = { width: 800, height: 500 };
  it('is all in view at first, and the pixel under the pointer stays there when it is zoomed', () => {
    const view = fitted(image, box, 1);
    expect(pixelAt(view, image, { x: 400, y: 250 }, 1)).toEqual({ x: 500, y: 300 });
    expect(pixelAt(view, image, { x: 1, y: 1 }, 1)).toBeUndefined();
    const at = { x: 123, y: 234 };
    expect(pixelAt(zoomed(view, 8, at), image, at, 1)).toEqual(pixelAt(view, image, at, 1));
  });

  it('repeats in all directions where it tiles', () => {
    const view = { scale: 1, x: 0, y: 0 };
    expect(pixelAt(view, image, { x: -1, y: 601 }, 3)).toEqual({ x: 999, y: 1 });
    expect(pixelAt(view, image, { x: -1001, y: 0 }, 3)).toBeUndefined();
  });

  it('asks for few pieces at any zoom, and for all that is in view', () => {
    for (const scale of [0.05, 0.3, 0.9, 1, 7, 64]) {
      const view = { scale, x: -100 * scale, y: -50 * scale };
      const pieces = piecesOf(view, { width: 16384, height: 16384 }, box, 1);
      expect(pieces.length).toBeGreaterThan(0);
      expect(pieces.length).toBeLessThan(60);
    }
    const whole = piecesOf(fitted(image, box, 3), image, box, 3);
    expect(new Set(whole.map((p) => `${p.column} ${p.row}`)).size).toBe(9);
  });
});
