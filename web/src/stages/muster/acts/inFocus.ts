import type { ReferenceItem } from '../../../api/client';
import { count, many } from '../../../parts/format';

interface Picked {
  files: ReadonlySet<number>;
  material: string | undefined;
  bundle: { numbers: ReadonlySet<number> } | undefined;
}

/** The references an act works on: the picked rows, else those of the material and bundle in focus; null for all. */
export function inFocus(references: ReferenceItem[], { files, material, bundle }: Picked): number[] | null {
  if (files.size > 0) return [...files];
  if (material === undefined && bundle === undefined) return null;
  return references
    .filter(
      (r) =>
        (material === undefined || r.usedBy.some((u) => u.material === material)) &&
        (bundle === undefined || bundle.numbers.has(r.number)),
    )
    .map((r) => r.number);
}

/** "the 3 references in focus", "all 158 references" */
export const focusWords = (numbers: number[] | null, all: number) =>
  numbers === null
    ? `all ${many(all, 'reference')}`
    : numbers.length === 1
      ? 'the one reference in focus'
      : `the ${count(numbers.length)} references in focus`;
