import { describe, expect, it } from 'vitest';
import type { ReferenceItem } from '../../../api/client';
import { fromLines, toLines } from '../roots/names';
import { differing } from './differing';
import { focusWords, inFocus } from './inFocus';

const reference = (number: number, material: string) =>
  ({ number, usedBy: [{ material, input: 'map_Kd' }] }) as ReferenceItem;
const rows = [reference(1, 'tin_leaf'), reference(2, 'tin_leaf'), reference(3, 'moss')];
const none = { files: new Set<number>(), materials: new Set<string>(), bundle: undefined };

describe('what an act works on', () => {
  it('is all when nothing is in focus', () => {
    expect(inFocus(rows, none)).toBeNull();
    expect(focusWords(null, 3)).toBe('all 3 references');
  });

  it('is the picked rows first, then the material and the bundle together', () => {
    expect(inFocus(rows, { ...none, materials: new Set(['tin_leaf']) })).toEqual([1, 2]);
    expect(inFocus(rows, { ...none, materials: new Set(['moss', 'brass']) })).toEqual([3]);
    expect(inFocus(rows, { ...none, materials: new Set(['tin_leaf']), bundle: { numbers: new Set([2, 3]) } })).toEqual([
      2,
    ]);
    expect(inFocus(rows, { ...none, files: new Set([3]), materials: new Set(['tin_leaf']) })).toEqual([3]);
    expect(focusWords([3], 3)).toBe('the one reference in focus');
    expect(focusWords([1, 2], 3)).toBe('the 2 references in focus');
  });
});

describe('what differs in a path', () => {
  it.each([
    ['D:/old/a.png', 'lib/a.png', 'lib'],
    ['tex/a_4k.png', 'tex/a_2k.png', '2'],
    ['tex/a.png', 'tex/sub/a.png', 'sub/'],
    ['tex/a.png', 'tex/a.png', ''],
    ['aa', 'aaa', 'a'],
  ])('%s, %s', (before, after, part) => {
    const [start, end] = differing(before, after);
    expect(after.slice(start, end)).toBe(part);
  });
});

describe('words of names as lines', () => {
  const names = { roles: { normal: ['normal', 'nrm'], bump: ['bump'] }, sizes: ['low'], colours: [], skins: ['skin'] };

  it('come back as they went', () => expect(fromLines(toLines(names))).toEqual(names));

  it('take commas and spaces alike', () => {
    const lines = toLines(names).map((l) => (l.meaning === 'normal' ? { ...l, words: ' normal,nrm  nor ' } : l));
    expect(fromLines(lines).roles.normal).toEqual(['normal', 'nrm', 'nor']);
  });
});
