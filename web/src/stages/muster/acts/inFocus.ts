import type { ReferenceItem } from '../../../api/client';
import { count, many } from '../../../parts/format';

interface Picked {
  files: ReadonlySet<number>;
  materials: ReadonlySet<string>;
  bundle: { numbers: ReadonlySet<number> } | undefined;
}

/** Whether a reference feeds any of the materials in focus. */
export const feeds = (r: ReferenceItem, { materials }: Pick<Picked, 'materials'>) =>
  materials.size === 0 || r.usedBy.some((u) => materials.has(u.material));

/** The references an act works on: the picked rows, else those of the materials and bundle in focus; null for all. */
export function inFocus(references: ReferenceItem[], { files, materials, bundle }: Picked): number[] | null {
  if (files.size > 0) return [...files];
  if (materials.size === 0 && bundle === undefined) return null;
  return references
    .filter((r) => feeds(r, { materials }) && (bundle === undefined || bundle.numbers.has(r.number)))
    .map((r) => r.number);
}

/** "the 3 references in focus", "all 158 references" */
export const focusWords = (numbers: number[] | null, all: number) =>
  numbers === null
    ? all === 1
      ? 'the one reference'
      : `all ${many(all, 'reference')}`
    : numbers.length === 1
      ? 'the one reference in focus'
      : `the ${count(numbers.length)} references in focus`;

/** The part of a bundle that an act works on. */
export const within = (bundle: { numbers: number[] }, focus: ReadonlySet<number> | null): number[] =>
  focus === null ? bundle.numbers : bundle.numbers.filter((n) => focus.has(n));
