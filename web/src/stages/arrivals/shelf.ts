import type { FoundScene, SceneSummary } from '../../api/client';
import { dayOf } from '../../parts/format';

export const sorts = ['newest', 'worst', 'unanswered', 'source', 'format', 'name'] as const;
export type ShelfSort = (typeof sorts)[number];

export const shows = ['all', 'blocked', 'unanswered', 'pending'] as const;
export type ShelfShow = (typeof shows)[number];

export const sortWords: Record<ShelfSort, string> = {
  newest: 'newest first',
  worst: 'worst first',
  unanswered: 'most unanswered first',
  source: 'by source',
  format: 'by format',
  name: 'by name',
};

export const showWords: Record<ShelfShow, string> = {
  all: 'all',
  blocked: 'with blockers',
  unanswered: 'with unanswered calls',
  pending: 'with pending edits',
};

export const isShown: Record<ShelfShow, (s: SceneSummary) => boolean> = {
  all: () => true,
  blocked: (s) => (s.blockers ?? 0) > 0,
  unanswered: (s) => s.unanswered > 0,
  pending: (s) => s.pending > 0,
};

/** A scene, with what of it was found; or the day that the next ones arrived on. */
export type Row = { kind: 'scene'; scene: SceneSummary; found: FoundScene | undefined } | { kind: 'day'; day: string };

interface Shelf {
  find: string;
  /** Scenes that have the letters inside. */
  found: FoundScene[];
  sort: ShelfSort;
  show: ShelfShow;
}

/** The scenes that are asked for, in the order that was chosen; the newest come first among equals. */
export function arranged(scenes: SceneSummary[], { find, found, sort, show }: Shelf): Row[] {
  const letters = find.trim().toLowerCase();
  const inside = new Map(found.map((f) => [f.sceneId, f]));
  const own = (s: SceneSummary) =>
    `${s.title} ${s.name} ${s.source} ${s.format} ${s.path}`.toLowerCase().includes(letters);
  const kept = scenes.filter((s) => isShown[show](s) && (letters === '' || own(s) || inside.has(s.id)));
  const rows: Row[] = [];
  let day = '';
  for (const scene of [...kept].sort(order[sort])) {
    const next = dayOf(scene.arrivedAt);
    if (sort === 'newest' && next !== day) rows.push({ kind: 'day', day: (day = next) });
    rows.push({ kind: 'scene', scene, found: letters === '' || own(scene) ? undefined : inside.get(scene.id) });
  }
  return rows;
}

const order: Record<ShelfSort, (a: SceneSummary, b: SceneSummary) => number> = {
  newest: () => 0,
  worst: (a, b) => weight(b) - weight(a),
  unanswered: (a, b) => b.unanswered - a.unanswered,
  source: (a, b) => a.source.localeCompare(b.source),
  format: (a, b) => a.format.localeCompare(b.format),
  name: (a, b) => a.title.localeCompare(b.title),
};

/** What blocks the render counts before anything else. */
const weight = (s: SceneSummary) => (s.blockers ?? 0) * 1e6 + s.unanswered * 1e3 + (s.warnings ?? 0);
