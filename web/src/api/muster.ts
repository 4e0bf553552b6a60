import type { MusterView } from './client';

/**
 * A muster with the rows that changed since: the server sends whole ones, and to a window that has one already only what
 * differs from it.
 */
export function merged(known: MusterView | undefined, answer: MusterView): MusterView {
  if (answer.since === null || known === undefined || known.version !== answer.since) return answer;
  const changed = new Map(answer.references.map((r) => [r.number, r]));
  if (changed.size === 0) return { ...answer, references: known.references };
  const references = known.references.map((r) => {
    const now = changed.get(r.number);
    changed.delete(r.number);
    return now ?? r;
  });
  return { ...answer, references: [...references, ...changed.values()] };
}
