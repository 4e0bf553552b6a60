import type { ViewFile } from '../../../api/client';

/** Triangles that are shown at once: more take a browser too long to turn. */
export const mostTriangles = 5_000_000;

type Place = readonly [x: number, y: number, z: number];

/** From a place to the nearest of a box; 0 inside it. */
export const distance = (from: Place, { min, max }: Pick<ViewFile, 'min' | 'max'>) =>
  Math.hypot(...from.map((at, i) => Math.max((min[i] ?? 0) - at, 0, at - (max[i] ?? 0))));

/** Which files are shown from a place: the nearest, as many as fit; in the order in which they are to be loaded. */
export function wanted(files: readonly ViewFile[], from: Place, most = mostTriangles): ViewFile[] {
  const near = files.map((file) => ({ file, far: distance(from, file) })).sort((a, b) => a.far - b.far);
  const shown: ViewFile[] = [];
  let triangles = 0;
  for (const { file } of near) {
    // One that alone is too much is shown when nothing else is.
    if (triangles > 0 && triangles + file.triangles > most) break;
    shown.push(file);
    triangles += file.triangles;
  }
  return shown;
}

/** The box around all files. */
export function boxOf(files: readonly Pick<ViewFile, 'min' | 'max'>[]): { min: number[]; max: number[] } {
  const along = (i: number, of: 'min' | 'max') => files.map((f) => f[of][i] ?? 0);
  return {
    min: [0, 1, 2].map((i) => Math.min(...along(i, 'min'))),
    max: [0, 1, 2].map((i) => Math.max(...along(i, 'max'))),
  };
}
