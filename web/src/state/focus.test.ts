import { beforeEach, describe, expect, it } from 'vitest';
import { useFocus } from './focus';

const focus = () => useFocus.getState();

describe('the focus', () => {
  beforeEach(() => {
    focus().clear();
    focus().enter('one');
  });

  it('takes files in and puts them off, keeping the others', () => {
    focus().pick([1, 2, 3], true);
    focus().pick([2, 9], false);
    expect([...focus().files]).toEqual([1, 3]);
    focus().clearFiles();
    expect(focus().files.size).toBe(0);
  });

  it('narrows by one thing without losing another', () => {
    focus().pick([1], true);
    focus().toggle('tin_leaf');
    focus().narrow({ find: 'normal' });
    expect(focus()).toMatchObject({ materials: new Set(['tin_leaf']), find: 'normal' });
    expect(focus().files.has(1)).toBe(true);
  });

  it('stays while walking between stages and is left behind with its scene', () => {
    focus().toggle('tin_leaf');
    focus().enter('one');
    expect(focus().materials).toEqual(new Set(['tin_leaf']));
    focus().enter('two');
    expect(focus()).toMatchObject({ sceneId: 'two', materials: new Set(), find: '' });
  });
});
