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
  const isInside = ([x, y]: Point) =>
    [-2, 2].every((dx) =>
      [-2, 2].every((dy) => (apart.tenths[Math.floor(y + dy) * cells + Math.floor(x + dx)] ?? -1) >= 0),
    );
  return contours()
    .size([cells, cells])
    .thresholds(levels)(smoothed(apart))
    .map((line) => drawn(line, cells, isInside));
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

/** The rim of what is shown is no line of equal difference: there a line ends. */
function drawn(line: ContourMultiPolygon, cells: number, isInside: (point: Point) => boolean): Isoline {
  const runs = line.coordinates
    .flat()
    .flatMap((ring) => insideRuns(ring as Point[], isInside))
    .map((run) => run.map(([x, y]) => [(x * 100) / cells, (y * 100) / cells] as Point))
    .filter((run) => lengthOf(run) > speck);
  const longest = runs.reduce<Point[]>((a, b) => (lengthOf(b) > lengthOf(a) ? b : a), []);
  return {
    level: line.value,
    path: runs.map((r) => `M${r.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`).join(''),
    at: lengthOf(longest) > 3 * speck ? longest[Math.floor(longest.length / 3)] : undefined,
  };
}

function insideRuns(ring: Point[], isInside: (point: Point) => boolean): Point[][] {
  const runs: Point[][] = [[]];
  for (const point of ring) {
    if (isInside(point)) runs.at(-1)?.push(point);
    else if (runs.at(-1)?.length !== 0) runs.push([]);
  }
  return runs.filter((r) => r.length > 1);
}

type Point = [number, number];

function lengthOf(ring: Point[]): number {
  let sum = 0;
  for (let i = 1; i < ring.length; i++) {
    const [[ax, ay], [bx, by]] = [ring[i - 1], ring[i]] as [Point, Point];
    sum += Math.hypot(ax - bx, ay - by);
  }
  return sum;
}
