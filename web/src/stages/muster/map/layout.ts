import type { BundleItem } from '../../../api/client';
import { path } from './svgPath';

/** A bundle with its place on the left rail. */
export interface Row {
  bundle: BundleItem;
  top: number;
  height: number;
  /** Where its strands start, centred in the row. */
  strandsTop: number;
  strandsHeight: number;
  /** Bundles folded into this one. */
  folded: BundleItem[];
}

/** A folder in the roots with its place on the right rail. */
export interface Place {
  path: string;
  name: string;
  top: number;
  height: number;
  offered: number;
  answering: number;
}

/** A band of strands from a row to a place. */
export interface Band {
  row: Row;
  from: number;
  to: number;
  height: number;
  count: number;
}

export interface Layout {
  rows: Row[];
  places: Place[];
  bands: Band[];
  pitch: number;
  solid: boolean;
}

const rowLeast = 24;
const placeLeast = 34;
const gap = 3;
/** LOOK draws strands 1.45 apart; a scene of two dozen files gets more, or its bundles would be hairs. */
const pitchMost = 5;
const rowsMost = 14;
const rowsFewest = 4;
/** Above this number strands are drawn as solid bands. */
export const solidFrom = 400;

const size = (b: BundleItem) => b.numbers.length;
const sum = (numbers: number[]) => numbers.reduce((a, b) => a + b, 0);

/** Places rows, folders and bands in a map of that height. Pure, so that it can be tested alone. */
export function layOut(bundles: BundleItem[], height: number, unfolded: boolean): Layout {
  const groups = unfolded ? bundles.map((b) => ({ bundle: b, folded: [] as BundleItem[] })) : fold(bundles, height);
  const total = sum(groups.map((g) => size(g.bundle)));
  const solid = total > solidFrom;

  const places = new Map<string, Place>();
  for (const { bundle } of groups)
    for (const to of bundle.to) {
      const place = places.get(to.path) ?? { ...to, top: 0, height: 0, offered: 0, answering: 0 };
      if (bundle.state === 'present') place.answering += size(bundle);
      else place.offered += size(bundle);
      places.set(to.path, place);
    }

  const leftHeight = (p: number) => sum(groups.map((g) => Math.max(rowLeast, size(g.bundle) * p) + gap));
  const rightHeight = (p: number) =>
    sum([...places.values()].map((r) => Math.max(placeLeast, (r.offered + r.answering) * p) + gap));
  const pitch = largest((p) => Math.max(leftHeight(p), rightHeight(p)) <= height, pitchMost);

  let y = 0;
  const rows = groups.map(({ bundle, folded }): Row => {
    const strandsHeight = Math.max(1, size(bundle) * pitch);
    const h = Math.max(rowLeast, strandsHeight);
    const row = { bundle, folded, top: y, height: h, strandsTop: y + (h - strandsHeight) / 2, strandsHeight };
    y += h + gap;
    return row;
  });

  // A folder stands at the mean height of what comes to it, so that bundles cross least.
  const pull = (path: string) => {
    const from = rows.filter((r) => r.bundle.to.some((t) => t.path === path));
    return (
      sum(from.map((r) => (r.top + r.height / 2) * size(r.bundle))) / Math.max(1, sum(from.map((r) => size(r.bundle))))
    );
  };
  const ordered = [...places.values()].sort((a, b) => pull(a.path) - pull(b.path));
  const spare = Math.max(0, height - rightHeight(pitch));
  y = Math.min(spare, ordered.length > 0 ? Math.max(0, pull(ordered[0]?.path ?? '') - placeLeast / 2) : 0);
  for (const place of ordered) {
    place.height = Math.max(placeLeast, (place.offered + place.answering) * pitch);
    place.top = y;
    y += place.height + gap;
  }

  const used = new Map<string, number>();
  const bands = rows.flatMap((row) =>
    row.bundle.to.map((to): Band => {
      const place = places.get(to.path);
      const strands = place ? (place.offered + place.answering) * pitch : 0;
      const start = place ? place.top + (place.height - strands) / 2 : 0;
      const at = used.get(to.path) ?? 0;
      used.set(to.path, at + row.strandsHeight);
      return {
        row,
        from: row.strandsTop,
        to: start + at,
        height: row.strandsHeight,
        count: size(row.bundle),
      };
    }),
  );
  return { rows, places: ordered, bands, pitch, solid };
}

const placesOf = (bundles: BundleItem[]) => new Set(bundles.flatMap((b) => b.to.map((t) => t.path))).size;

/** Height that rows and folders take at the least. */
export const leastHeight = (bundles: BundleItem[]) =>
  Math.max(bundles.length * (rowLeast + gap), placesOf(bundles) * (placeLeast + gap));

/** Keeps the bundles that weigh most, as many as fit; the smallest of the rest become one row. */
function fold(bundles: BundleItem[], height: number): { bundle: BundleItem; folded: BundleItem[] }[] {
  if (bundles.length <= rowsMost && leastHeight(bundles) <= height)
    return bundles.map((bundle) => ({ bundle, folded: [] }));
  const bySize = [...bundles].sort((a, b) => size(b) - size(a));
  let kept = Math.min(rowsMost - 1, bundles.length - 1);
  while (kept > rowsFewest && leastHeight(bySize.slice(0, kept)) + rowLeast + gap > height) kept--;
  const keep = new Set(bySize.slice(0, kept));
  const folded = bundles.filter((b) => !keep.has(b));
  const rest: BundleItem = {
    state: 'folded',
    from: `and ${folded.length} more: show them`,
    to: [],
    numbers: folded.flatMap((b) => b.numbers),
    contradicts: [],
    entry: null,
    relinked: false,
    approvedBefore: false,
    standIns: false,
  };
  return [...bundles.filter((b) => keep.has(b)).map((bundle) => ({ bundle, folded: [] })), { bundle: rest, folded }];
}

/** The largest value up to `most` that fits, by halving. */
function largest(fits: (value: number) => boolean, most: number): number {
  if (fits(most)) return most;
  let [low, high] = [0, most];
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return low;
}

/** A strand from (0, y0) to (width, y1), level at both ends. */
export function strand(width: number, y0: number, y1: number, from = 0) {
  const [near, far] = [from + (width - from) * 0.46, from + (width - from) * 0.54];
  return path`M${from} ${y0}C${near} ${y0} ${far} ${y1} ${width} ${y1}`;
}
