import type { HandInputItem, HandKind } from '../../../api/client';

/** What has been said so far. */
export interface Said {
  kind: HandKind;
  input: string | null;
  numbers: number[] | null;
  path: string | null;
  choice: string | null;
}

export const nothing = (kind: HandKind): Said => ({ kind, input: null, numbers: null, path: null, choice: null });

export const kindWords: Record<HandKind, string> = {
  material: 'Another material',
  map: 'A map',
  value: 'A value',
  'uv-set': 'A UV set',
  name: 'A name',
};

/** The sentence that says why these numbers do not do; undefined when they do. */
export function whyNot(input: HandInputItem, numbers: number[] | null): string | undefined {
  if (!numbers || numbers.length !== input.numbers)
    return input.numbers === 1 ? 'It takes one number.' : `It takes ${input.numbers} numbers.`;
  if (numbers.some((n) => (input.min !== null && n < input.min) || (input.max !== null && n > input.max)))
    return `It takes ${input.min ?? 'any'} to ${input.max ?? 'any'}.`;
  return undefined;
}
