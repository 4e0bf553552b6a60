// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { HouseView, ReplacedItem, VariantOption } from '../../../api/client';
import { changes, serve, type Call } from '../../../testing/server';
import { show } from '../../../testing/stage';
import { DecideMenu } from './DecideMenu';
import { FindReplace } from './FindReplace';
import { HouseOrder } from './HouseOrder';
import { MapVariants } from './MapVariants';

let calls: Call[];
const onClose = vi.fn();
beforeEach(() => onClose.mockReset());

const row = (number: number, resolves: boolean): ReplacedItem => ({
  number,
  before: `D:/jobs/2231/tex/tin_${number}.png`,
  after: `library/tex/tin_${number}.png`,
  answer: resolves ? 'library' : null,
  whyNot: resolves ? null : 'not there',
});

describe('find and replace', () => {
  beforeEach(() => {
    calls = serve({
      'POST /api/scenes/s/paths/preview': ({ body }: Call) => {
        const { find, regex } = body as { find: string; regex: boolean };
        if (regex && find === '(') return { rows: [], whyNot: 'The pattern “(” breaks off at its end.' };
        return { rows: find === 'none' ? [] : [row(1, true), row(2, true), row(3, false)], whyNot: null };
      },
      'POST /api/scenes/s/paths/replace': { entries: [] },
    });
  });
  const open = (numbers: number[] | null = null) =>
    show(<FindReplace sceneId="s" numbers={numbers} all={20_000} onClose={onClose} />);

  it('asks nothing before there is something to find', () => {
    open();
    expect(screen.getByRole('status').textContent).toBe('Every change is shown here before it is made.');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Replace' }).disabled).toBe(true);
    expect(calls).toEqual([]);
  });

  it('shows every change with what differs, and what would not resolve', async () => {
    const user = open();
    await user.type(screen.getByLabelText('Find'), 'D:/jobs/2231');
    await user.type(screen.getByLabelText('Put in its place'), 'library');
    await screen.findByText('3 paths change; 2 of them resolve.');
    const items = await screen.findAllByRole('listitem');
    expect(items.map((i) => i.querySelector('.differs')?.textContent)).toEqual(['library', 'library', 'library']);
    expect(items.map((i) => within(i).queryByText('not there') !== null)).toEqual([false, false, true]);
  });

  it('changes only what resolves, in the focus that was asked about, and closes', async () => {
    const user = open([4, 9]);
    expect(screen.getByText(/^In the 2 references in focus/)).toBeTruthy();
    await user.type(screen.getByLabelText('Find'), 'jobs');
    await user.click(screen.getByLabelText('Capitals count'));
    await user.click(await screen.findByRole('button', { name: 'Replace in 2' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(calls.filter((c) => c.route.endsWith('/replace')).map((c) => c.body)).toEqual([
      { find: 'jobs', with: '', matchCase: true, wholeName: false, regex: false, numbers: [4, 9] },
    ]);
  });

  it('says what is wrong with a pattern and takes nothing', async () => {
    const user = open();
    await user.click(screen.getByLabelText('Regular expression; groups as $1'));
    await user.type(screen.getByLabelText('Find'), '(');
    expect((await screen.findByRole('alert')).textContent).toContain('breaks off at its end');
    await user.keyboard('{Enter}');
    expect(calls.some((c) => c.route.endsWith('/replace'))).toBe(false);
  });

  it('is taken with Enter, and not when nothing contains it', async () => {
    const user = open();
    await user.type(screen.getByLabelText('Find'), 'none');
    await screen.findByText('No path contains it.');
    await user.keyboard('{Enter}');
    expect(onClose).not.toHaveBeenCalled();
  });
});

describe('variants', () => {
  const option = (kind: string, value: string, more: Partial<VariantOption> = {}): VariantOption => ({
    kind,
    value,
    references: 3,
    using: 1,
    bytesBefore: 4_000_000,
    bytesAfter: 1_000_000,
    memoryBefore: 89_478_485,
    memoryAfter: 22_369_621,
    ...more,
  });

  it('groups what can be switched and says what it costs on disk and in memory', async () => {
    calls = serve({
      'POST /api/scenes/s/map-variants': [option('resolution', '1k'), option('colour', ''), option('resolution', '4k')],
    });
    show(<MapVariants sceneId="s" numbers={null} all={12} onClose={onClose} />);
    const resolution = await screen.findByRole('region', { name: 'Resolution' });
    expect(within(resolution).getAllByText('1.0 MB')).toHaveLength(2);
    expect(within(resolution).getAllByText('22.4 MB')).toHaveLength(2);
    expect(within(screen.getByRole('region', { name: 'Colour' })).getByText('no colour named')).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'Skin' })).toBeNull();
  });

  it('switches for the focus, once', async () => {
    calls = serve({
      'POST /api/scenes/s/map-variants': [option('resolution', '1k', { references: 1 })],
      'POST /api/scenes/s/map-variants/switch': {},
    });
    const user = show(<MapVariants sceneId="s" numbers={[7]} all={12} onClose={onClose} />);
    await user.click(await screen.findByRole('button', { name: 'Switch 1 file' }));
    await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
    expect(calls.filter((c) => c.route.endsWith('switch')).map((c) => c.body)).toEqual([
      { kind: 'resolution', value: '1k', numbers: [7] },
    ]);
  });

  it('says so when there is nothing to switch', async () => {
    serve({ 'POST /api/scenes/s/map-variants': [] });
    show(<MapVariants sceneId="s" numbers={null} all={12} onClose={onClose} />);
    expect(await screen.findByText(/^No file in use has a sibling/)).toBeTruthy();
  });
});

describe('order in the house', () => {
  const house: HouseView = {
    clashes: [
      {
        name: 'wood.png',
        files: [
          { number: 1, path: 'oak/wood.png', place: 'wood_oak.png' },
          { number: 2, path: 'ash/wood.png', place: 'wood_ash.png' },
        ],
      },
    ],
    duplicates: [{ keep: 'a.png', others: ['b.png', 'c.png'], numbers: [3, 4, 5], bytesSaved: 2_400_000 }],
    gather: [{ number: 6, path: 'desktop/x.png', place: 'textures/normal/x.png', why: 'a desktop', bytes: 12_000 }],
    unused: [{ path: 'textures/old.png', bytes: 900 }],
  };

  const open = (numbers: number[] | null) => {
    calls = serve({ 'GET /api/scenes/s/house': house, 'POST /api/scenes/s/house': {} });
    return show(<HouseOrder sceneId="s" numbers={numbers} all={40} onClose={onClose} />);
  };

  it('proposes names, one of each and a tidy folder, and says what nothing calls for', async () => {
    open(null);
    expect(await screen.findByTitle('wood_oak.png')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Keep one of each, 2.4 MB less' })).toBeTruthy();
    expect(screen.getByText('a desktop, 12.0 kB')).toBeTruthy();
    expect(within(screen.getByRole('region', { name: 'Called by nothing' })).queryByRole('button')).toBeNull();
  });

  it('keeps to the focus', async () => {
    const user = open([2]);
    await screen.findByTitle('ash/wood.png');
    expect(screen.getByText('No file is there under two names.')).toBeTruthy();
    expect(screen.getByText('Every file lies with the scene or in a library.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Give 1 name its own' }));
    await waitFor(() =>
      expect(changes(calls).map((c) => c.body)).toEqual([{ act: 'rename', by: 'role', numbers: [2] }]),
    );
  });

  it('gathers by role or by material', async () => {
    const user = open(null);
    await user.click(await screen.findByRole('radio', { name: 'by material' }));
    await waitFor(() => expect(calls.at(-1)?.query).toEqual({ by: 'material' }));
    await user.click(await screen.findByRole('button', { name: 'Gather 1 file beside the scene' }));
    await waitFor(() => expect(changes(calls)[0]?.body).toEqual({ act: 'gather', by: 'material', numbers: null }));
  });
});

describe('the menu of decisions', () => {
  const acts = { onSheet: vi.fn(), onStyle: vi.fn(), onStandIn: vi.fn(), onSeen: vi.fn() };
  beforeEach(() => Object.values(acts).forEach((a) => a.mockReset()));

  it('says on what it acts, and what cannot be done now', async () => {
    const user = show(<DecideMenu numbers={null} all={20_000} unanswered={0} changed={0} {...acts} />);
    await user.click(screen.getByRole('button', { name: /Decide for all 20,000/ }));
    const none = await screen.findByRole('menuitem', { name: 'Use placeholders: every image answers' });
    expect(none.getAttribute('aria-disabled')).toBe('true');
    await user.click(screen.getByRole('menuitem', { name: /Tidy files/ }));
    expect(acts.onSheet).toHaveBeenCalledWith('house');
  });

  it('works from the keyboard, into its submenu', async () => {
    const user = show(<DecideMenu numbers={[1, 2]} all={9} unanswered={2} changed={1} {...acts} />);
    screen.getByRole('button', { name: /Decide for 2 in focus/ }).focus();
    await user.keyboard('{Enter}{ArrowDown}{ArrowDown}{ArrowDown}{ArrowRight}');
    await user.keyboard('{ArrowDown}{Enter}');
    await waitFor(() => expect(acts.onStyle).toHaveBeenCalledWith('rootRelative'));
    await user.click(screen.getByRole('button', { name: /Decide for 2/ }));
    await user.click(await screen.findByRole('menuitem', { name: 'Use a placeholder for 2 unanswered' }));
    expect(acts.onStandIn).toHaveBeenCalledOnce();
  });
});
