import { describe, expect, it } from 'vitest';
import { layDots, scaleOf, short } from './dots';

describe('dots on their line', () => {
  it('leaves air around the values and what is expected, and never goes below a zero that starts it', () => {
    expect(scaleOf([0.4, 0.6], 0, 0.1)).toEqual({ from: 0, to: 0.648 });
    expect(scaleOf([5], null, null)).toEqual({ from: 2.5, to: 7.5 });
    expect(scaleOf([-1, 1], null, null).from).toBeLessThan(-1);
  });

  it('stacks values that would touch and keeps those apart on one line', () => {
    const dots = layDots(
      [
        { key: 'b', value: 0.5 },
        { key: 'a', value: 0.1 },
        { key: 'c', value: 0.505 },
        { key: 'd', value: 0.9 },
      ],
      { from: 0, to: 1 },
      100,
      8,
    );
    expect(dots.map((d) => [d.key, d.row])).toEqual([
      ['a', 0],
      ['b', 0],
      ['c', 1],
      ['d', 0],
    ]);
    expect(dots[0]?.x).toBeCloseTo(10);
  });

  it('writes large and small numbers short', () => {
    expect([0.53781, 12_345.6, 25_000_000].map(short)).toEqual(['0.5378', '12,350', '25 M']);
  });
});
