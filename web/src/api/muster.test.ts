import { describe, expect, it } from 'vitest';
import type { MusterView, ReferenceItem } from './client';
import { merged } from './muster';

const row = (number: number, state: string) => ({ number, state }) as ReferenceItem;
const view = (version: string, since: string | null, ...references: ReferenceItem[]) =>
  ({ version, since, references, answering: references.length }) as MusterView;
const whole = view('a-1', null, row(1, 'missing'), row(2, 'missing'), row(3, 'present'));

describe('a muster with what changed since', () => {
  it('takes over the rows that differ and keeps the others as the same objects', () => {
    const now = merged(whole, view('a-2', 'a-1', row(2, 'present'), row(4, 'present')));
    expect(now.references.map((r) => [r.number, r.state])).toEqual([
      [1, 'missing'],
      [2, 'present'],
      [3, 'present'],
      [4, 'present'],
    ]);
    expect(now.references[0]).toBe(whole.references[0]);
    expect(now.version).toBe('a-2');
  });

  it('keeps the list itself where no row differs', () => {
    expect(merged(whole, view('a-2', 'a-1')).references).toBe(whole.references);
  });

  it('is the answer itself where the server sent all rows, or differences from another version', () => {
    const all = view('b-1', null, row(1, 'present'));
    expect(merged(whole, all)).toBe(all);
    const other = view('a-3', 'a-2', row(1, 'present'));
    expect(merged(whole, other)).toBe(other);
  });
});
