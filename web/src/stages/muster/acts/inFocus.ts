import type { ReferenceItem } from '../../../api/client';
import { count, many } from '../../../parts/format';

interface Picked {
  files: ReadonlySet<number>;
  material: string | undefined;
  materials: ReadonlySet<string>;
  bundle: { numbers: ReadonlySet<number> } | undefined;
}

/** Whether a reference feeds what is in focus: one material, and any of the picked ones. */
export const feeds = (r: ReferenceItem, { material, materials }: Pick<Picked, 'material' | 'materials'>) =>
  (material === undefined || r.usedBy.some((u) => u.material === material)) &&
  (materials.size === 0 || r.usedBy.some((u) => materials.has(u.material)));

/** The references an act works on: the picked rows, else those of the material and bundle in focus; null for all. */
export function inFocus(references: ReferenceItem[], { files, material, materials, bundle }: Picked): number[] | null {
  if (files.size > 0) return [...files];
  if (material === undefined && materials.size === 0 && bundle === undefined) return null;
  return references
    .filter((r) => feeds(r, { material, materials }) && (bundle === undefined || bundle.numbers.has(r.number)))
    .map((r) => r.number);
}

/** "the 3 references in focus", "all 158 references" */
export const focusWords = (numbers: number[] | null, all: number) =>
  numbers === null
    ? `all ${many(all, 'reference')}`
    : numbers.length === 1
      ? 'the one reference in focus'
      : `the ${count(numbers.length)} references in focus`;
