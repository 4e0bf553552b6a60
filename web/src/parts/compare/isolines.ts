import { contours, type ContourMultiPolygon } from 'd3-contour';

/** Where two pictures lie apart: CIEDE2000 in tenths, rows from the top; -1 where the thing is not shown. */
export interface Apart {
  cells: number;
  top: number;
  tenths: number[];
}

export interface Isoline {
  level: number;
  path: string;
  /** Where its number stands; undefined for a line that has no room for one. */
  at: [number, number] | undefined;
}

/** Shorter than this, in hundredths of the picture's side around, a line is a speck. */
const speck = 6;

/** Lines of equal difference, in a square of 0 to 100. */
export function isolines(apart: Apart, levels: number[]): Isoline[] {
  const { cells } = apart;
  return contours()
    .size([cells, cells])
    .thresholds(levels)(smoothed(apart))
    .map((line) => drawn(line, cells));
}

/** Means of 5 x 5 cells of what is shown, so that noise has no lines; nothing beyond. */
function smoothed({ cells, tenths }: Apart): number[] {
  const shown = (x: number, y: number) =>
    x < 0 || y < 0 || x >= cells || y >= cells ? -1 : (tenths[y * cells + x] ?? -1);
  return tenths.map((own, i) => {
    if (own < 0) return 0;
    const [x, y] = [i % cells, Math.floor(i / cells)];
    let [sum, count] = [0, 0];
    for (let dy = -2; dy <= 2; dy++)
      for (let dx = -2; dx <= 2; dx++) {
        const there = shown(x + dx, y + dy);
        if (there >= 0) [sum, count] = [sum + there, count + 1];
      }
    return sum / count / 10;
  });
}

function drawn(line: ContourMultiPolygon, cells: number): Isoline {
  const rings = line.coordinates
    .flat()
    .map((ring) => ring.map(([x, y]) => [((x ?? 0) * 100) / cells, ((y ?? 0) * 100) / cells] as [number, number]))
    .filter((ring) => around(ring) > speck);
  const longest = rings.reduce<[number, number][]>((a, b) => (around(b) > around(a) ? b : a), []);
  return {
    level: line.value,
    path: rings.map((r) => `M${r.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}Z`).join(''),
    at: around(longest) > 3 * speck ? longest[Math.floor(longest.length / 3)] : undefined,
  };
}

type Point = [number, number];

function around(ring: Point[]): number {
  let sum = 0;
  for (let i = 1; i < ring.length; i++) {
    const [[ax, ay], [bx, by]] = [ring[i - 1], ring[i]] as [Point, Point];
    sum += Math.hypot(ax - bx, ay - by);
  }
  return sum;
}
