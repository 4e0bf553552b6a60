import { inWords } from './format';

/** States of references as people read them; the ids stay in files and on the command line. */
const states: Record<string, string> = {
  present: 'in place',
  relinked: 'relinked',
  embedded: 'carried inside',
  elsewhere: 'found elsewhere',
  contested: 'several candidates',
  missing: 'missing',
  damaged: 'damaged',
  outside: 'outside the roots',
  changed: 'changed',
  'stand-in': 'placeholder',
};

/** @param candidates How many files could answer, where that is known. */
export const stateWords = (state: string, candidates?: number): string =>
  state === 'contested' && candidates !== undefined && candidates > 0
    ? `${inWords(candidates)} ${candidates === 1 ? 'candidate' : 'candidates'}`
    : (states[state] ?? state);

const flags: Record<string, string> = {
  absolute: 'full path',
  'foreign-path': 'another computer’s path',
  'case-differs': 'other capitals',
  'transient-place': 'temporary place',
  'name-clash': 'one name, several files',
  duplicate: 'same contents twice',
  changed: 'changed',
  'not-portable': 'name not portable',
  remote: 'network address',
  'other-resolution': 'other size',
  'stand-in': 'placeholder',
};

export const flagWords = (ids: readonly string[]): string => ids.map((id) => flags[id] ?? id).join(', ');
