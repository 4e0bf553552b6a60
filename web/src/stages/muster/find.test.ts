import { expect, it } from 'vitest';
import type { ReferenceItem } from '../../api/client';
import { found } from './find';

const reference: ReferenceItem = {
  number: 1,
  kind: 'image',
  written: 'D:/jobs/2231/tex/tin_leaf_normal.png',
  name: 'tin_leaf_normal.png',
  folder: 'D:/jobs/2231/tex',
  state: 'elsewhere',
  flags: ['foreign-path'],
  role: 'normal',
  usedBy: [{ material: 'Tin Leaf', input: 'normalTexture' }],
  resolved: null,
  answer: 'library/tin-orchard/tex',
  width: 512,
  height: 512,
  bytes: 1,
  damage: null,
  candidates: 1,
  entry: null,
  relinked: false,
};

it('finds a reference when every word stands somewhere in it', () => {
  for (const words of ['', '  ', 'LEAF', '2231 normaltexture', 'foreign-path orchard', 'tin leaf'])
    expect(found(reference, words)).toBe(true);
  for (const words of ['copper', 'leaf copper']) expect(found(reference, words)).toBe(false);
});
