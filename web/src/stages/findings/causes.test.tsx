// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { CauseItem, CauseView, MemberItem } from '../../api/client';
import { show } from '../../testing/stage';
import { CauseList } from './CauseList';
import { FixBar } from './FixBar';

const cause = (key: string, severity: string, more: Partial<CauseItem> = {}): CauseItem => ({
  key,
  rule: 'wiring.role-mismatch',
  severity,
  count: 12,
  sentence: `Sentence of ${key}`,
  names: 'tin, oak and 10 more',
  fixable: 12,
  safe: true,
  pending: null,
  waived: null,
  ...more,
});

const covered = '98 rules looked at 5 of 8 materials; 14 images could not be looked at, so 31 checks were left open.';
const onPick = vi.fn();
const list = (causes: CauseItem[], failed: { rule: string; reason: string }[] = []) =>
  show(<CauseList sceneId="s" causes={causes} coverage={covered} failed={failed} current="b" onPick={onPick} />);

describe('the causes of what was found', () => {
  beforeEach(() => onPick.mockReset());

  it('stand by how bad they are, with what that means', () => {
    list([cause('n', 'note'), cause('a', 'blocker'), cause('b', 'blocker'), cause('w', 'warning')]);
    expect(screen.getAllByRole('heading').map((h) => h.textContent)).toEqual([
      'blocker2 causes stop the render or falsify it',
      'warning1 cause changes the look',
      'note1 cause costs room, time or order',
    ]);
    expect(screen.getByRole('button', { name: /Sentence of b/ }).getAttribute('aria-current')).toBe('true');
  });

  it('are picked, say what waits in the ledger, and end with the waived ones and their reason', async () => {
    const user = list([cause('a', 'note', { waived: 'agreed with the client' }), cause('b', 'note', { pending: 3 })]);
    expect(screen.getAllByRole('button').map((b) => within(b).getByText(/Sentence/).textContent)).toEqual([
      'Sentence of b',
      'Sentence of a',
    ]);
    expect(screen.getByText('Waived: agreed with the client')).toBeTruthy();
    expect(screen.getByText(/pending, entry 3/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /Sentence of a/ }));
    expect(onPick).toHaveBeenCalledExactlyOnceWith('a');
  });

  it('names a rule that could not be run, and offers the reports', () => {
    list([], [{ rule: 'sets.shared-image', reason: 'it took too long.' }]);
    expect(screen.getByText(/sets.shared-image could not be run: it took too long/)).toBeTruthy();
    expect(screen.getByText(covered)).toBeTruthy();
    expect(screen.getAllByRole('link').map((a) => a.getAttribute('href'))).toEqual(
      ['html', 'sarif', 'junit'].map((format) => `/api/scenes/s/audit/file?format=${format}`),
    );
  });
});

describe('the fix of a cause', () => {
  const acts = {
    onFamily: vi.fn(),
    onFocus: vi.fn(),
    onThis: vi.fn(),
    onWaive: vi.fn(),
    onUnwaive: vi.fn(),
    onOpen: vi.fn(),
  };
  beforeEach(() => Object.values(acts).forEach((a) => a.mockReset()));

  const member = { title: 'Move it to roughness', decide: null, pending: false } as MemberItem;
  const bar = (own: Partial<CauseItem>, findings: number, inFocus: number, members: MemberItem[] = [member]) =>
    show(
      <FixBar
        view={
          {
            cause: cause('a', 'blocker', own),
            fix: { title: 'Move', count: '24 edits', edits: 24, certainty: 0.95, findings, first: [], left: [] },
            members,
            rule: { source: 'UsdShade' },
          } as unknown as CauseView
        }
        position={0}
        inFocus={inFocus}
        busy={false}
        {...acts}
      />,
    );
  const button = (name: RegExp) => screen.getByRole<HTMLButtonElement>('button', { name });

  it('reaches the family, what is in focus, or this one, and says how far', async () => {
    const user = bar({}, 12, 3);
    expect(screen.getByText(/The same for 12/)).toBeTruthy();
    expect(screen.getByText(/Certainty 0.95/)).toBeTruthy();
    await user.click(button(/^Fix all 12/));
    await user.click(button(/^Fix 3 in focus/));
    await user.click(button(/^Fix this one/));
    await user.click(button(/^24 edits/));
    expect([acts.onFamily, acts.onFocus, acts.onThis].map((a) => a.mock.calls.length)).toEqual([1, 1, 1]);
    expect(acts.onOpen).toHaveBeenCalledWith('edits');
  });

  it('leaves to a person what only a person can decide, and lets them say it', async () => {
    const user = bar({}, 0, 0, [{ ...member, title: null, decide: 'Which of the two is the bark?' }]);
    expect(screen.getByText('Only a person can decide.')).toBeTruthy();
    expect(screen.getByText(/Which of the two is the bark/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Fix/ })).toBeNull();
    await user.click(button(/^Choose by hand/));
    expect(acts.onOpen).toHaveBeenCalledWith('hand');
  });

  it('is not put in twice, and a waiver is taken back where it was given', async () => {
    bar({ pending: 4 }, 12, 3);
    expect(screen.getByText('pending, entry 4')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Fix/ })).toBeNull();
    const user = bar({ waived: 'agreed' }, 12, 3);
    await user.click(button(/^Take the waiver back/));
    expect(acts.onUnwaive).toHaveBeenCalledOnce();
  });
});
