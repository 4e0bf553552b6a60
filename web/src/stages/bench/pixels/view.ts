/** Where an image lies on the canvas: pixels of the window for one of the image, and where its corner is. */
export interface View {
  scale: number;
  x: number;
  y: number;
}

export interface Size {
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** The pixel of another image that lies where a pixel of one does, when both cover the same. */
export const samePlace = (at: Point, of: Size, to: Size): Point => ({
  x: Math.floor(((at.x + 0.5) * to.width) / of.width),
  y: Math.floor(((at.y + 0.5) * to.height) / of.height),
});

/** A piece of the image as it is fetched and drawn. */
export interface Piece {
  key: string;
  /** Its corner in the image, and every how many pixels one is taken. */
  left: number;
  top: number;
  step: number;
  /** Where the copy of the image that it is drawn for begins, in images. */
  column: number;
  row: number;
}

/** Pixels of a piece's side. */
export const pieceSide = 256;

/** All of it in view, whole pixels where it is small. */
export function fitted(image: Size, box: Size, copies: number): View {
  const most = Math.min(box.width / (image.width * copies), box.height / (image.height * copies)) * 0.94;
  const scale = most > 1 ? Math.floor(most) : most;
  return {
    scale,
    x: (box.width - image.width * scale) / 2,
    y: (box.height - image.height * scale) / 2,
  };
}

const least = 1 / 64;
const largest = 64;

/** Nearer to or farther from a place that stays where it is. */
export function zoomed(view: View, by: number, at: { x: number; y: number }): View {
  const scale = Math.min(largest, Math.max(least, view.scale * by));
  const k = scale / view.scale;
  return { scale, x: at.x - (at.x - view.x) * k, y: at.y - (at.y - view.y) * k };
}

/** The pixel under a place; undefined outside the image and its copies. */
export function pixelAt(view: View, image: Size, at: { x: number; y: number }, copies: number) {
  const x = Math.floor((at.x - view.x) / view.scale);
  const y = Math.floor((at.y - view.y) / view.scale);
  const around = (copies - 1) / 2;
  const isInside = (v: number, size: number) => v >= -around * size && v < (around + 1) * size;
  if (!isInside(x, image.width) || !isInside(y, image.height)) return undefined;
  const mod = (v: number, n: number) => ((v % n) + n) % n;
  return { x: mod(x, image.width), y: mod(y, image.height) };
}

/** The pieces that are in view. */
export function piecesOf(view: View, image: Size, box: Size, copies: number): Piece[] {
  const step = view.scale >= 1 ? 1 : 2 ** Math.floor(Math.log2(1 / view.scale));
  const side = pieceSide * step;
  const around = (copies - 1) / 2;
  const pieces: Piece[] = [];
  for (let row = -around; row <= around; row++)
    for (let column = -around; column <= around; column++) {
      const x = view.x + column * image.width * view.scale;
      const y = view.y + row * image.height * view.scale;
      // Of this copy, from the first piece in view to the last.
      const from = (at: number) => Math.max(0, Math.floor(-at / view.scale / side));
      const end = (at: number, room: number, size: number) => Math.min(size, (room - at) / view.scale);
      for (let top = from(y) * side; top < end(y, box.height, image.height); top += side)
        for (let left = from(x) * side; left < end(x, box.width, image.width); left += side)
          pieces.push({ key: `${step} ${left} ${top}`, left, top, step, column, row });
    }
  return pieces;
}
