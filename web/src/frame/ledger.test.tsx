// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { EntryItem, LedgerView } from '../api/client';
import { useLedger, useLedgerActs } from '../api/queries';
import { changes, Problem, serve, type Call } from '../testing/server';
import { show } from '../testing/stage';
import { LedgerBar } from './LedgerBar';

let calls: Call[];

const entry = (place: number, state: string, more: Partial<EntryItem> = {}): EntryItem => ({
  id: `e${place}`,
  place,
  sentence: `Entry ${place}`,
  state,
  proposedBy: 'candidate',
  at: '2026-11-20T10:00:00Z',
  edits: 1,
  first: [{ what: 'relink', where: 'tin, roughness', before: `old_${place}.png`, after: `new_${place}.png` }],
  refused: [],
  ...more,
});

const ledger = (...entries: EntryItem[]): LedgerView => ({
  entries,
  applied: entries.filter((e) => e.state === 'applied').length,
  pending: entries.filter((e) => e.state === 'pending').length,
});

function Bar() {
  const view = useLedger('s').data;
  const acts = useLedgerActs('s');
  return view ? <LedgerBar sceneId="s" ledger={view} acts={acts} /> : null;
}

const open = (view: LedgerView, more: Record<string, unknown> = {}) => {
  calls = serve({
    'GET /api/scenes/s/ledger': view,
    ...Object.fromEntries(['undo', 'redo', 'apply'].map((act) => [`POST /api/scenes/s/ledger/${act}`, view])),
    ...Object.fromEntries(
      view.entries.flatMap((e) =>
        ['undo-to', 'take-back'].map((act) => [`POST /api/scenes/s/ledger/${act}/${e.id}`, view]),
      ),
    ),
    ...more,
  });
  return show(<Bar />);
};

const did = () => changes(calls).map((c) => c.route.replace('POST /api/scenes/s/ledger/', ''));

describe('the ledger', () => {
  beforeEach(() => document.body.focus());

  it('says that nothing was edited, and offers nothing', async () => {
    open(ledger());
    expect(await screen.findByText('Nothing edited since it arrived.')).toBeTruthy();
    for (const name of [/^Undo/, /^Preview/, /^Apply/])
      expect(screen.getByRole<HTMLButtonElement>('button', { name }).disabled).toBe(true);
  });

  it('says what waits and is applied from the bar or with its key', async () => {
    const user = open(ledger(entry(1, 'applied'), entry(2, 'pending')));
    expect(await screen.findByText('Next: Entry 2')).toBeTruthy();
    expect(screen.getByRole('status').textContent).toBe('1 applied, 1 pending');
    await user.click(screen.getByRole('button', { name: /^Apply 1/ }));
    await waitFor(() => expect(did()).toEqual(['apply']));
    await user.keyboard('{Shift>}P{/Shift}u');
    await waitFor(() => expect(did()).toEqual(['apply', 'apply', 'undo']));
  });

  it('opens with what would be applied next in hand', async () => {
    const user = open(ledger(entry(1, 'applied'), entry(2, 'pending'), entry(3, 'pending')));
    await screen.findByText('Next: Entry 2');
    await user.keyboard('l');
    expect(await screen.findByRole('heading', { name: 'Three entries since it arrived' })).toBeTruthy();
    expect(screen.getByRole('button', { name: /^Entry 2/ }).getAttribute('aria-current')).toBe('true');
    expect(screen.getByText(/so far applied/).textContent).toContain('Apply 2');
  });

  it('is walked, unfolded and taken back from the keyboard', async () => {
    const user = open(ledger(entry(1, 'applied'), entry(2, 'applied'), entry(3, 'applied')));
    await screen.findByText('3 applied');
    await user.keyboard('l');
    await waitFor(() => expect(document.activeElement?.textContent).toContain('Entry 3'));
    await user.keyboard('{ArrowUp}{ArrowUp}{ArrowUp}{ArrowDown}');
    expect(screen.getByRole('button', { name: 'Entry 2' }).getAttribute('aria-current')).toBe('true');
    await user.keyboard('{Enter}');
    expect(screen.getByText('old_2.png')).toBeTruthy();
    await user.keyboard('{Backspace}');
    await waitFor(() => expect(did()).toEqual(['take-back/e2']));
    await user.keyboard('{Shift>}U{/Shift}');
    await waitFor(() => expect(did()).toEqual(['take-back/e2', 'undo-to/e2']));
  });

  it('shows what no longer applies, and how many edits are more of the same', async () => {
    const user = open(
      ledger(
        entry(1, 'applied', {
          edits: 37,
          refused: [{ what: 'Set tin.roughness to 0.2', reason: 'the scene has no material tin.' }],
        }),
      ),
    );
    await screen.findByText('1 applied');
    await user.keyboard('l');
    expect(await screen.findByText('1 no longer apply')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /^Entry 1/ }));
    expect(screen.getByText('and 36 more, the same change')).toBeTruthy();
    expect(screen.getByText(/no longer applies, the scene has no material tin/)).toBeTruthy();
  });

  it('makes a recipe of the entries that were picked, and exports only those', async () => {
    const user = open(ledger(entry(1, 'applied'), entry(2, 'applied')), {
      'POST /api/scenes/s/recipes/record': { id: 'r', name: 'Entry 2', stepList: [{ what: 'Invert', match: 'tin_*' }] },
    });
    await screen.findByText('2 applied');
    await user.keyboard('l');
    const all = await screen.findByRole('link', { name: 'Export' });
    expect(all.getAttribute('href')).toBe('/api/scenes/s/ledger/file');
    await user.click(screen.getByRole('button', { name: 'Pick entry 2' }));
    expect(screen.getByRole('link', { name: 'Export 1' }).getAttribute('href')).toBe(
      '/api/scenes/s/ledger/file?entries=e2',
    );
    await user.click(screen.getByRole('button', { name: /Make a recipe of this/ }));
    await user.keyboard('Tins{Enter}');
    expect(await screen.findByText(/Recorded “Entry 2”: Invert, for tin_\*/)).toBeTruthy();
    expect(changes(calls)[0]?.body).toEqual({ name: 'Tins', entries: ['e2'] });
    expect(within(screen.getByRole('list', { name: 'Entries' })).queryByRole('button', { pressed: true })).toBeNull();
  });

  it('says the sentence of the server when an act is refused', async () => {
    const user = open(ledger(entry(1, 'applied')), {
      'POST /api/scenes/s/ledger/undo': new Problem(409, 'Somebody else changed the ledger meanwhile; look again.'),
    });
    await user.click(await screen.findByRole('button', { name: /^Undo/ }));
    expect(await screen.findByText('Somebody else changed the ledger meanwhile; look again.')).toBeTruthy();
  });
});
