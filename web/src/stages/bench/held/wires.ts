import type { Channels, HeldImage, HeldInput, HeldView, WireAct } from '../../../api/client';

/** What is done with the wire that ends at an input. */
export interface Wire {
  input: string;
  act: WireAct;
  to: string | null;
  channel: Channels | null;
}

export interface Point {
  x: number;
  y: number;
}

/** An image with its letters, from which strands begin. */
export interface Source {
  node: string;
  y: number;
  letters: { letter: string; y: number; isUsed: boolean }[];
}

/** What an image feeds: one line for each channel that arrives. */
export interface Strand {
  input: string;
  node: string;
  letters: string[];
  from: Point[];
  to: Point;
  /** Nodes on the way, nearest to the image first. */
  knots: (Point & { word: string })[];
}

export interface Wires {
  height: number;
  railX: number;
  lettersX: number;
  rungs: { input: HeldInput; y: number }[];
  sources: Source[];
  strands: Strand[];
}

export const rungPitch = 30;
export const pictureSide = 56;
const letterPitch = 15;
const top = 14;

/** Fewer rungs than this leave room for inputs that are as the model leaves them: a wire may want to go there. */
const leastRungs = 9;

/** Inputs that are shown: what is fed or said, and the first others, in the order of the model. */
export function rungsOf(view: HeldView, all: boolean, height: number): HeldInput[] {
  const room = Math.max(leastRungs, Math.floor((height - top * 2) / rungPitch) - 1);
  const shown = new Set(view.inputs.filter((i) => all || i.differs).map((i) => i.name));
  for (const i of view.inputs) {
    if (shown.size >= room) break;
    if (i.unseen === null && i.takesImage) shown.add(i.name);
  }
  return view.inputs.filter((i) => shown.has(i.name));
}

/** A grey image has one letter, whatever is read of it. */
const lettersOf = (channel: Channels, image: HeldImage | undefined): string[] =>
  image?.channels.length === 1 ? ['l'] : lettersIn(channel);

const lettersIn = (channel: Channels): string[] =>
  channel === 'rgb' || channel === 'rgba' ? ['r', 'g', 'b'] : channel === 'rg' ? ['r', 'g'] : [channel];

/** Images on the left in the order of the rungs that they feed, so that strands cross least. */
export function wiresOf(view: HeldView, all: boolean, width: number, height: number): Wires {
  const inputs = rungsOf(view, all, height);
  const rungs = inputs.map((input, i) => ({ input, y: top + i * rungPitch }));
  const railX = Math.round(Math.max(190, width * 0.52));
  const lettersX = pictureSide + 14;
  const imageOf = (node: string) => view.images.find((i) => i.node === node);
  const fed = new Map<string, number[]>();
  const used = new Map<string, Set<string>>();
  for (const { input, y } of rungs)
    for (const map of input.maps) {
      fed.set(map.image, [...(fed.get(map.image) ?? []), y]);
      used.set(map.image, new Set([...(used.get(map.image) ?? []), ...lettersOf(map.channel, imageOf(map.image))]));
    }
  const middle = (node: string) => {
    const ys = fed.get(node) ?? [];
    return ys.length === 0 ? Infinity : ys.reduce((a, b) => a + b, 0) / ys.length;
  };
  let y = 0;
  const sources = [...view.images]
    .sort((a, b) => middle(a.node) - middle(b.node))
    .map((image): Source => {
      const own = used.get(image.node) ?? new Set<string>();
      const stored = image.channels.length > 0 ? image.channels.map((c) => c.letter) : ['r', 'g', 'b'];
      const letters = [...new Set([...stored, ...own])];
      const source = {
        node: image.node,
        y,
        letters: letters.map((letter, i) => ({ letter, y: y + 8 + i * letterPitch, isUsed: own.has(letter) })),
      };
      y += Math.max(pictureSide + 6, letters.length * letterPitch + 8);
      return source;
    });
  const strands = rungs.flatMap(({ input, y: end }) =>
    input.maps.map((map): Strand => {
      const source = sources.find((s) => s.node === map.image);
      const letters = lettersOf(map.channel, imageOf(map.image));
      const from = letters.map((letter) => ({
        x: lettersX + 14,
        y: (source?.letters.find((l) => l.letter === letter) ?? source?.letters[0])?.y ?? 0,
      }));
      const to = { x: railX - 9, y: end };
      const words = [...map.through].reverse();
      const start = from[Math.floor(from.length / 2)] ?? to;
      return {
        input: input.name,
        node: map.image,
        letters,
        from,
        to,
        knots: words.map((word, i) => ({ word, ...along(start, to, (i + 1) / (words.length + 1)) })),
      };
    }),
  );
  return {
    height: Math.max(y, top * 2 + rungPitch * Math.max(0, rungs.length - 1)),
    railX,
    lettersX,
    rungs,
    sources,
    strands,
  };
}

/** A strand leaves and arrives level. */
export const curve = (a: Point, b: Point): string => {
  const x = (a.x + b.x) / 2;
  return `M${a.x} ${a.y}C${x} ${a.y} ${x} ${b.y} ${b.x} ${b.y}`;
};

/** A place on the strand; 0 is its beginning. */
function along(a: Point, b: Point, t: number): Point {
  const x = (a.x + b.x) / 2;
  const of = (p0: number, p1: number, p2: number, p3: number) =>
    (1 - t) ** 3 * p0 + 3 * (1 - t) ** 2 * t * p1 + 3 * (1 - t) * t ** 2 * p2 + t ** 3 * p3;
  return { x: of(a.x, x, x, b.x), y: of(a.y, a.y, b.y, b.y) };
}

/** The rung that something dropped there means; undefined where it means none. */
export const rungAt = (wires: Wires, at: Point): string | undefined =>
  at.x < wires.railX - 50 ? undefined : wires.rungs.find((r) => Math.abs(r.y - at.y) <= rungPitch / 2)?.input.name;

/** The image and the letter that something dropped there means. */
export function letterAt(wires: Wires, at: Point): { node: string; letter: string } | undefined {
  if (at.x > wires.lettersX + 40) return undefined;
  for (const { node, letters } of wires.sources)
    for (const { letter, y } of letters) if (Math.abs(y - at.y) <= letterPitch / 2) return { node, letter };
  return undefined;
}
