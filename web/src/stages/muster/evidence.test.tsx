// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { CandidateItem, EvidenceView, ReferenceItem } from '../../api/client';
import { changes, serve, type Call } from '../../testing/server';
import { show } from '../../testing/stage';
import { Evidence } from './Evidence';

let calls: Call[];

const reference = (state: string, more: Partial<ReferenceItem> = {}): ReferenceItem => ({
  number: 7,
  kind: 'image',
  written: 'D:/tex/tin_normal.png',
  name: 'tin_normal.png',
  folder: 'D:/tex',
  state,
  flags: [],
  role: 'normal',
  usedBy: [{ material: 'tin', input: 'normal' }],
  resolved: null,
  answer: null,
  width: null,
  height: null,
  bytes: null,
  damage: null,
  candidates: 0,
  entry: null,
  relinked: false,
  ...more,
});

const candidate = (index: number, score: number, more: Partial<CandidateItem> = {}): CandidateItem => ({
  index,
  path: `/srv/shelf${index}/tin_normal.png`,
  folder: `/srv/shelf${index}`,
  folderName: `shelf${index}`,
  name: 'tin_normal.png',
  score,
  reasons: ['Exact name', 'Its folder has the same name'],
  format: 'PNG',
  width: 2048,
  height: 2048,
  channels: 3,
  bitDepth: 8,
  colour: null,
  bytes: 6_100_000,
  modifiedAt: '2026-11-20T10:00:00Z',
  damage: null,
  sharedBy: 1,
  ...more,
});

const evidence = (more: Partial<EvidenceView> = {}): EvidenceView =>
  ({
    number: 7,
    written: 'D:/tex/tin_normal.png',
    resolved: null,
    damage: null,
    format: null,
    width: null,
    height: null,
    candidates: [],
    margin: null,
    settlesFrom: 0.15,
    settlesAt: 0.8,
    seen: null,
    blocked: [],
    ...more,
  }) as EvidenceView;

const open = (r: ReferenceItem, e: EvidenceView) => {
  calls = serve({
    'GET /api/scenes/s/references/7': e,
    'POST /api/scenes/s/ledger/entries': {},
    'POST /api/scenes/s/stand-ins': {},
    'POST /api/scenes/s/references/seen': {},
  });
  return show(<Evidence sceneId="s" reference={r} alike={[7, 8, 9]} onSearchWider={vi.fn()} onOpenLarge={vi.fn()} />);
};

describe('the evidence for one reference', () => {
  it.each([
    ['missing', {}, {}, 'Nothing in the roots answers: it was a normal map', 'Called for by tin, normal.'],
    [
      'missing',
      { role: 'opacity', usedBy: [] },
      {},
      'Nothing in the roots answers: it was an opacity map',
      'No material calls for it.',
    ],
    [
      'missing',
      { flags: ['remote'] },
      {},
      'Nothing in the roots answers: it was a normal map',
      'A network address is never fetched.',
    ],
    [
      'outside',
      {},
      {},
      'It points outside every root',
      'Root Call reads nothing outside its roots; it was not looked at.',
    ],
    [
      'damaged',
      {},
      { damage: 'ends inside its header, at byte 40' },
      'The file is there, but damaged',
      'It ends inside its header, at byte 40.',
    ],
    ['embedded', {}, {}, 'Carried inside the scene', 'tin, normal'],
    ['present', { flags: ['stand-in'] }, {}, 'A neutral placeholder stands in for it', 'tin, normal'],
    ['present', {}, {}, 'It answers where it is called', 'tin, normal'],
  ])('says in words that it is %s', async (state, r, e, title, second) => {
    open(reference(state, r), evidence(e));
    expect(await screen.findByRole('heading', { name: title })).toBeTruthy();
    expect(screen.getAllByText(second).length).toBeGreaterThan(0);
  });

  it('holds rivals side by side and says why it does not choose', async () => {
    open(
      reference('contested', { candidates: 2 }),
      evidence({ candidates: [candidate(0, 0.95), candidate(1, 0.9)], margin: 0.05 }),
    );
    expect(await screen.findByRole('heading', { name: 'Two files could answer this call' })).toBeTruthy();
    expect(screen.getByText('0.05 apart. Root Call settles alone from 0.15 on.')).toBeTruthy();
    expect(screen.getByText('0.95')).toBeTruthy();
    expect(screen.getAllByText('Exact name. Its folder has the same name.')).toHaveLength(2);
  });

  it('does not take a damaged file for a sure one', async () => {
    open(
      reference('contested', { candidates: 1 }),
      evidence({ candidates: [candidate(0, 0.5, { damage: 'ends early' })] }),
    );
    expect(await screen.findByRole('heading', { name: 'One file could answer, but it is damaged' })).toBeTruthy();
    expect(screen.getByText('0.50 at best. Root Call settles alone from 0.80 on.')).toBeTruthy();
  });

  it('takes a candidate for this reference or for all that its folder answers', async () => {
    const user = open(
      reference('elsewhere', { candidates: 1 }),
      evidence({ candidates: [candidate(0, 0.95, { sharedBy: 3 })] }),
    );
    await user.click(await screen.findByRole('button', { name: 'Use for all 3' }));
    await waitFor(() => expect(changes(calls)).toHaveLength(1));
    await user.click(screen.getByRole('button', { name: 'Use for this' }));
    await waitFor(() => expect(changes(calls)).toHaveLength(2));
    expect(changes(calls).map((c) => c.body)).toMatchObject([
      { numbers: [7, 8, 9], folder: '/srv/shelf0' },
      { numbers: [7], folder: '/srv/shelf0' },
    ]);
  });

  it('cannot be decided twice: what waits in the ledger says so', async () => {
    open(reference('elsewhere', { entry: 3 }), evidence({ candidates: [candidate(0, 0.95)] }));
    expect(await screen.findByText('Decided; pending as entry 3.')).toBeTruthy();
    expect((await screen.findByRole<HTMLButtonElement>('button', { name: 'Use this' })).disabled).toBe(true);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Choose a file by hand' }).disabled).toBe(true);
  });

  it('shows a changed file before and after, and takes it over', async () => {
    const seen = { bytes: 1000, modifiedAt: '2026-11-19T10:00:00Z', width: 512, height: 512 };
    const user = open(
      reference('present', { flags: ['changed'], bytes: 2000 }),
      evidence({ seen, width: 1024, height: 1024, format: 'PNG' }),
    );
    expect(await screen.findByRole('heading', { name: 'It changed since it was last looked at' })).toBeTruthy();
    expect(screen.getByText(/512 × 512, 1.0 kB/)).toBeTruthy();
    expect(screen.getByText(/1024 × 1024, 2.0 kB/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /^Accept the change/ }));
    await waitFor(() => expect(changes(calls)[0]?.body).toEqual({ numbers: [7] }));
  });

  it('names the meshes that wait for it, a handful', async () => {
    open(reference('missing'), evidence({ blocked: ['a', 'b', 'c', 'd', 'e', 'f'] }));
    expect((await screen.findByText(/^Blocks/)).parentElement?.textContent).toBe(
      'Blocks a, b, c, d and 2 more meshes.',
    );
  });
});
