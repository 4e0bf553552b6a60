import type { ReferenceItem } from '../../api/client';

const texts = new WeakMap<ReferenceItem, string>();

/** What a reference is found by, made once for each. */
function textOf(reference: ReferenceItem): string {
  let text = texts.get(reference);
  if (text === undefined) {
    const { written, role, state, usedBy, flags, answer } = reference;
    const uses = usedBy.map((u) => `${u.material} ${u.input}`).join(' ');
    text = `${written} ${role} ${state} ${answer ?? ''} ${flags.join(' ')} ${uses}`.toLowerCase();
    texts.set(reference, text);
  }
  return text;
}

/** True when every word stands somewhere in the reference. */
export function found(reference: ReferenceItem, words: string): boolean {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return wanted.every((word) => textOf(reference).includes(word));
}
