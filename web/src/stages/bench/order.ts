import type { BenchItem, LooksView } from '../../api/client';

export const sorts = ['file', 'family', 'findings', 'change', 'likeness', 'moved'] as const;
export type BenchSort = (typeof sorts)[number];

export const sortWords: Record<BenchSort, string> = {
  file: 'as in the file',
  family: 'by family',
  findings: 'worst findings first',
  change: 'last changed first',
  likeness: 'by likeness',
  moved: 'farthest from arrived first',
};

/** Orders that need looks in numbers. */
export const needsLooks = (sort: BenchSort) => sort === 'likeness' || sort === 'moved';

const weight: Record<string, number> = { blocker: 3, warning: 2, note: 1 };
const worst = (r: BenchItem) => weight[r.worst ?? ''] ?? 0;

/** The rows that letters find, in the order that was chosen; equals stay as the file has them. */
export function arranged(
  rows: readonly BenchItem[],
  sort: BenchSort,
  looks: LooksView | undefined,
  find: string,
): BenchItem[] {
  const letters = find.trim().toLowerCase();
  const kept = rows.filter((r) => `${r.title} ${r.model} ${r.word}`.toLowerCase().includes(letters));
  switch (sort) {
    case 'family':
      return kept.sort((a, b) => a.family.localeCompare(b.family) || a.title.localeCompare(b.title));
    case 'findings':
      return kept.sort((a, b) => worst(b) - worst(a) || b.findings - a.findings);
    case 'change':
      return kept.sort((a, b) => b.change - a.change);
    case 'likeness':
      return besideTwins(byPlace(kept, looks?.order ?? []));
    case 'moved':
      return kept.sort((a, b) => (looks?.moved[b.name]?.mean ?? -1) - (looks?.moved[a.name]?.mean ?? -1));
    case 'file':
      return kept;
  }
}

function byPlace(rows: BenchItem[], order: readonly string[]): BenchItem[] {
  const places = new Map(order.map((name, i) => [name, i]));
  // What has no place yet comes last.
  return rows.sort((a, b) => (places.get(a.name) ?? Infinity) - (places.get(b.name) ?? Infinity) || 0);
}

/** Those that look the same, or nearly, stand beside the first of them. */
function besideTwins(rows: BenchItem[]): BenchItem[] {
  const left = new Map(rows.map((r) => [r.name, r]));
  return rows.flatMap((row) => {
    if (!left.delete(row.name)) return [];
    const twins = row.twins.flatMap((t) => {
      const twin = left.get(t.of);
      left.delete(t.of);
      return twin ? [twin] : [];
    });
    return [row, ...twins];
  });
}
