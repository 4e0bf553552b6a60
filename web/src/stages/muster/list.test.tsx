// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ReferenceItem } from '../../api/client';
import { useFocus } from '../../state/focus';
import { show } from '../../testing/stage';
import { ReferenceList } from './ReferenceList';

const reference = (number: number, more: Partial<ReferenceItem> = {}) =>
  ({
    number,
    kind: 'image',
    name: `tin_${number}.png`,
    written: `D:/tex/tin_${number}.png`,
    folder: 'D:/tex',
    state: 'present',
    flags: [],
    role: 'normal',
    usedBy: [{ material: 'tin', input: 'normal' }],
    answer: 'library',
    width: 8,
    height: 8,
    bytes: number,
    entry: null,
    relinked: false,
    ...more,
  }) as unknown as ReferenceItem;

const onOpen = vi.fn();

function List({ references, only }: { references: ReferenceItem[]; only?: string }) {
  const [current, setCurrent] = useState<number>();
  return (
    <ReferenceList
      references={references}
      shows={(r) => only === undefined || r.state === only}
      current={current}
      onCurrent={setCurrent}
      onOpen={onOpen}
    />
  );
}

const grid = () => screen.getByRole('grid', { name: 'References' });
const rows = () => within(grid()).getAllByRole('row').slice(1);
const inHand = () => Number(grid().getAttribute('aria-activedescendant')?.replace('reference-', ''));
const picked = () => [...useFocus.getState().files].sort((a, b) => a - b);
const many = (n: number) => Array.from({ length: n }, (_, i) => reference(i + 1));

describe('the list of references', () => {
  beforeEach(() => {
    onOpen.mockReset();
    useFocus.getState().clear();
  });

  it('draws what is in view of twenty thousand, and tells how many there are', () => {
    show(<List references={many(20_000)} />);
    expect(grid().getAttribute('aria-rowcount')).toBe('20001');
    expect(rows().length).toBeLessThan(60);
    expect(inHand()).toBe(1);
  });

  it('begins with what needs the artist', () => {
    const states = ['present', 'embedded', 'missing', 'elsewhere', 'contested', 'damaged', 'outside'];
    show(<List references={states.map((state, i) => reference(i + 1, { state }))} />);
    expect(rows().map((r) => r.dataset.state)).toEqual([
      'contested',
      'missing',
      'damaged',
      'elsewhere',
      'outside',
      'present',
      'embedded',
    ]);
  });

  it('is moved through by arrows, letters and pages, and stops at its ends', async () => {
    const user = show(<List references={many(200)} />);
    grid().focus();
    await user.keyboard('{ArrowDown}j{ArrowUp}');
    expect(inHand()).toBe(2);
    await user.keyboard('{PageDown}');
    expect(inHand()).toBe(12);
    await user.keyboard('{PageUp}{PageUp}k');
    expect(inHand()).toBe(1);
    await user.keyboard('{End}{ArrowDown}');
    expect(inHand()).toBe(200);
    await user.keyboard('{Home}{Enter}');
    expect(onOpen).toHaveBeenCalledExactlyOnceWith(1);
  });

  it('picks one, a run, and all of them', async () => {
    const user = show(<List references={many(30)} />);
    grid().focus();
    await user.keyboard('{ArrowDown} ');
    expect(picked()).toEqual([2]);
    await user.keyboard('{ArrowDown}{ArrowDown}{Shift>} {/Shift}');
    expect(picked()).toEqual([2, 3, 4]);
    await user.keyboard(' ');
    expect(picked()).toEqual([2, 3]);
    await user.keyboard('{Control>}a{/Control}');
    expect(picked()).toHaveLength(30);
  });

  it('picks with the mouse as with the keys', async () => {
    const user = show(<List references={many(9)} />);
    const row = (n: number) => screen.getByText(`tin_${n}.png`);
    await user.keyboard('{Control>}');
    await user.click(row(3));
    await user.keyboard('{/Control}{Shift>}');
    await user.click(row(6));
    await user.keyboard('{/Shift}');
    expect(picked()).toEqual([3, 4, 5, 6]);
    await user.click(row(1));
    expect([picked(), inHand()]).toEqual([[3, 4, 5, 6], 1]);
    expect(rows()[2]?.getAttribute('aria-selected')).toBe('true');
    await user.dblClick(row(5));
    expect(onOpen).toHaveBeenCalledWith(5);
  });

  it('is sorted by its headers, and says how', async () => {
    const user = show(<List references={[reference(1), reference(10), reference(2)]} />);
    const header = () => screen.getByRole('columnheader', { name: /^File/ });
    await user.click(within(header()).getByRole('button'));
    expect(header().getAttribute('aria-sort')).toBe('ascending');
    expect(rows().map((r) => r.id)).toEqual(['reference-1', 'reference-2', 'reference-10']);
    await user.click(within(header()).getByRole('button'));
    expect(rows().map((r) => r.id)).toEqual(['reference-10', 'reference-2', 'reference-1']);
  });

  it('takes the first of what is left in hand when the one in hand is filtered away', () => {
    const references = [reference(1), reference(2, { state: 'missing' }), reference(3, { state: 'missing', entry: 4 })];
    show(<List references={references} only="missing" />);
    expect(inHand()).toBe(2);
    expect(rows()[1]?.textContent).toContain(', pending');
  });
});
