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

let last = { words: '', wanted: [] as string[] };

/** The words apart: asked for tens of thousands of rows in a row, so the last answer is kept. */
function wordsOf(words: string): string[] {
  if (last.words !== words) last = { words, wanted: words.toLowerCase().split(/\s+/).filter(Boolean) };
  return last.wanted;
}

/** True when every word stands somewhere in the reference. */
export function found(reference: ReferenceItem, words: string): boolean {
  const wanted = wordsOf(words);
  return wanted.every((word) => textOf(reference).includes(word));
}

const atOnce = 2_000;

/** Makes the texts of many references a few at a time, so that the first letter typed finds them made. */
export function warm(references: ReferenceItem[]): () => void {
  let at = 0;
  let timer: ReturnType<typeof setTimeout>;
  const some = () => {
    for (const reference of references.slice(at, at + atOnce)) textOf(reference);
    at += atOnce;
    if (at < references.length) timer = setTimeout(some, 30);
  };
  timer = setTimeout(some, 300);
  return () => clearTimeout(timer);
}
