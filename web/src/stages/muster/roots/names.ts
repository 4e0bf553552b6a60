import type { NamesView } from '../../../api/client';

/** A meaning and its spellings, as they are edited. */
interface Line {
  meaning: string;
  words: string;
}

const others = ['sizes', 'colours', 'skins'] as const;

export const toLines = (names: NamesView): Line[] => [
  ...Object.entries(names.roles).map(([meaning, words]) => ({ meaning, words: words.join(' ') })),
  ...others.map((meaning) => ({ meaning, words: names[meaning].join(' ') })),
];

export function fromLines(lines: Line[]): NamesView {
  const words = (text: string) => text.split(/[\s,]+/).filter(Boolean);
  const of = (meaning: string) => words(lines.find((l) => l.meaning === meaning)?.words ?? '');
  const roles = lines.filter((l) => !(others as readonly string[]).includes(l.meaning));
  return {
    roles: Object.fromEntries(roles.map((l) => [l.meaning, words(l.words)])),
    sizes: of('sizes'),
    colours: of('colours'),
    skins: of('skins'),
  };
}
