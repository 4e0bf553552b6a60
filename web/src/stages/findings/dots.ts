/** Where each value stands: beside each other on the line, above each other where they would touch. */
export interface Dot {
  key: string;
  value: number;
  x: number;
  row: number;
}

export interface Scale {
  from: number;
  to: number;
}

/** A range that holds all values and what is expected, with a little air. */
export function scaleOf(values: readonly number[], low: number | null, high: number | null): Scale {
  const all = [...values, ...(low === null ? [] : [low]), ...(high === null ? [] : [high])];
  const from = Math.min(...all);
  const to = Math.max(...all);
  const air = to === from ? Math.max(Math.abs(to) * 0.5, 0.5) : (to - from) * 0.08;
  return { from: from >= 0 ? Math.max(0, from - air) : from - air, to: to + air };
}

export function layDots(
  dots: readonly { key: string; value: number }[],
  scale: Scale,
  width: number,
  size: number,
): Dot[] {
  const ends: number[] = [];
  return [...dots]
    .sort((a, b) => a.value - b.value)
    .map((d) => {
      const x = ((d.value - scale.from) / (scale.to - scale.from)) * width;
      let row = ends.findIndex((end) => x >= end);
      if (row < 0) row = ends.length;
      ends[row] = x + size;
      return { ...d, x, row };
    });
}

const figures = new Intl.NumberFormat('en-GB', { maximumSignificantDigits: 4 });

export const short = (n: number) =>
  Math.abs(n) >= 1e6
    ? `${figures.format(n / 1e6)} M`
    : Math.abs(n) >= 1e4
      ? figures.format(Math.round(n))
      : figures.format(n);
