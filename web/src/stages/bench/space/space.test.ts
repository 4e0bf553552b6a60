import { describe, expect, it } from 'vitest';
import type { ViewFile, ViewPart } from '../../../api/client';
import { momentsOf } from '../compare/moments';
import { markOf, overlays } from './overlays';
import { boxOf, distance, wanted } from './parts';

const file = (number: number, x: number, triangles: number): ViewFile => ({
  number,
  triangles,
  bytes: 0,
  min: [x, 0, 0],
  max: [x + 1, 1, 1],
});

describe('parts of a scene', () => {
  const files = [file(0, 0, 300), file(1, 10, 300), file(2, 20, 300)];

  it('are taken from the nearest on, as many as fit', () => {
    const from = (x: number) => wanted(files, [x, 0.5, 0.5], 700).map((f) => f.number);
    expect(from(21)).toEqual([2, 1]);
    expect(from(-4)).toEqual([0, 1]);
    // One that alone is too much is shown all the same.
    expect(wanted(files, [0, 0, 0], 10).map((f) => f.number)).toEqual([0]);
  });

  it('are as far as their boxes', () => {
    expect(distance([0.5, 0.5, 0.5], files[0] as ViewFile)).toBe(0);
    expect(distance([4, 5, 1], files[0] as ViewFile)).toBe(5);
    expect(boxOf(files)).toEqual({ min: [0, 0, 0], max: [21, 1, 1] });
  });
});

describe('what is laid over', () => {
  const part: ViewPart = { part: 0, name: '', material: 'tin', triangles: 1, uv: 0, texel: null, byVariant: {} };
  const mark = (at: number) => markOf('apart', { part, look: undefined, row: undefined, at });

  it('tells materials that follow each other apart by hatch and grey', () => {
    for (let at = 0; at < 60; at++) {
      expect(mark(at)?.hatch).not.toBe(mark(at + 1)?.hatch);
      expect(mark(at)?.grey).not.toBe(mark(at + 1)?.grey);
    }
    expect(new Set(Array.from({ length: 21 }, (_, at) => JSON.stringify(mark(at)))).size).toBe(21);
  });

  it('leaves the look where it says nothing', () => {
    const known = { part, look: undefined, row: undefined, at: 0 };
    expect(overlays.filter((o) => markOf(o, known) === null)).toEqual(['looks', 'missing', 'checker']);
  });
});

describe('two moments', () => {
  const moments = ['now', 'arrived', 'entry-1'].map((word) => ({ word, title: word, note: '' }));

  it('are those of the address, as long as they are there', () => {
    expect(momentsOf('entry-1~now', moments)).toEqual({ before: 'entry-1', after: 'now' });
    expect(momentsOf('entry-9~now', moments)).toEqual({ before: 'arrived', after: 'now' });
    expect(momentsOf(undefined, moments)).toEqual({ before: 'arrived', after: 'now' });
    // Before they are known none is thrown away.
    expect(momentsOf('entry-9~now', [])).toEqual({ before: 'entry-9', after: 'now' });
  });
});
