// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { FolderView, MusterView, RootDetail } from '../../../api/client';
import { FolderSheet } from '../../../parts/folders/FolderSheet';
import { changes, Problem, serve, type Call } from '../../../testing/server';
import { show } from '../../../testing/stage';
import { RootsSheet } from './RootsSheet';

let calls: Call[];

const root = (position: number, more: Partial<RootDetail> = {}): RootDetail => ({
  id: `r${position}`,
  name: `shelf ${position}`,
  folder: `/srv/shelf${position}`,
  purpose: 'search',
  position,
  files: 200_000,
  folders: 2_000,
  indexedAt: '2026-11-20T10:00:00Z',
  notes: [],
  rules: [],
  ...more,
});

const muster = { filesIndexed: 200_000, musteredAt: '2026-11-20T10:00:00Z' } as MusterView;

describe('roots', () => {
  const open = (...roots: RootDetail[]) => {
    calls = serve({
      'GET /api/roots': roots,
      'GET /api/work': [],
      ...Object.fromEntries(
        roots.flatMap((r) => [
          [`PATCH /api/roots/${r.id}`, {}],
          [`POST /api/roots/${r.id}/list`, {}],
        ]),
      ),
      ...Object.fromEntries(roots.map((r) => [`DELETE /api/roots/${r.id}`, null])),
      'POST /api/scenes/s/search': {},
      'POST /api/roots/rules/forget': {},
    });
    return show(<RootsSheet sceneId="s" muster={muster} onAdd={vi.fn()} onFiles={vi.fn()} onClose={vi.fn()} />);
  };

  it('says what each knows, and that nothing was listed where nothing was', async () => {
    open(root(1), root(2, { files: null, indexedAt: null }));
    expect(await screen.findByText(/^200,000 files in 2,000 folders/)).toBeTruthy();
    expect(screen.getByText('not listed yet')).toBeTruthy();
    expect(screen.getByText('2 roots')).toBeTruthy();
  });

  it('is searched earlier or later, and the scene is searched again', async () => {
    const user = open(root(1), root(2));
    const first = await screen.findByRole<HTMLButtonElement>('button', { name: 'Search shelf 1 earlier' });
    expect(first.disabled).toBe(true);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Search shelf 2 later' }).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Search shelf 2 earlier' }));
    await waitFor(() =>
      expect(changes(calls).map((c) => c.route)).toEqual(['PATCH /api/roots/r2', 'POST /api/scenes/s/search']),
    );
    expect(changes(calls)[0]?.body).toEqual({ name: null, purpose: null, position: 1 });
  });

  it('takes another name when the field is left, without a search', async () => {
    const user = open(root(1));
    const name = await screen.findByRole('textbox', { name: 'Name' });
    await user.clear(name);
    await user.type(name, 'metals{Enter}');
    await waitFor(() => expect(changes(calls)).toHaveLength(1));
    expect(changes(calls)[0]).toMatchObject({ route: 'PATCH /api/roots/r1', body: { name: 'metals' } });
  });

  it('is for searching, a library, or output', async () => {
    const user = open(root(1));
    await user.click(await screen.findByRole('button', { name: 'shelf 1 is for search' }));
    await user.click(await screen.findByRole('menuitemradio', { name: /^output/ }));
    await waitFor(() => expect(changes(calls)[0]?.body).toMatchObject({ purpose: 'output' }));
  });

  it('shows three notes and the number of the others, and forgets a rule', async () => {
    const rule = { from: 'D:/tex', to: '/srv/shelf1/tex' };
    const user = open(root(1, { notes: ['a', 'b', 'c', 'd', 'e'], rules: [rule] }));
    expect(await screen.findByText('and 2 more notes')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Forget' }));
    await waitFor(() => expect(changes(calls)[0]).toMatchObject({ route: 'POST /api/roots/rules/forget', body: rule }));
  });

  it('is taken out, and the scene searched without it', async () => {
    const user = open(root(1));
    await user.click(await screen.findByRole('button', { name: 'Take out' }));
    await waitFor(() =>
      expect(changes(calls).map((c) => c.route)).toEqual(['DELETE /api/roots/r1', 'POST /api/scenes/s/search']),
    );
  });
});

describe('folders of the server', () => {
  const folders: Record<string, FolderView> = {
    '': { path: '', name: 'server folders', parent: null, crumbs: [], entries: [entry('/srv', 'folder')] },
    '/srv': {
      path: '/srv',
      name: 'srv',
      parent: '',
      crumbs: [{ path: '/srv', name: 'srv' }],
      entries: [
        entry('/srv/shelf', 'folder'),
        entry('/srv/pot.gltf', 'scene'),
        entry('/srv/tin.gltf', 'scene'),
        entry('/srv/notes.txt', 'file'),
      ],
    },
    '/srv/shelf': {
      path: '/srv/shelf',
      name: 'shelf',
      parent: '/srv',
      crumbs: [
        { path: '/srv', name: 'srv' },
        { path: '/srv/shelf', name: 'shelf' },
      ],
      entries: [],
    },
  };
  function entry(path: string, kind: string) {
    return {
      path,
      name: path.slice(path.lastIndexOf('/') + 1),
      kind,
      bytes: 1200,
      modifiedAt: null,
      format: null,
      where: null,
    };
  }
  const taken = vi.fn();
  const onOpenChange = vi.fn();
  const open = (takes: 'scene' | 'folder' | 'file') => {
    taken.mockReset();
    serve({
      'GET /api/folders': ({ query }: Call) =>
        folders[query.path ?? ''] ?? new Problem(403, 'That folder is not among those of the settings.'),
      'GET /api/folders/recent': () => ({ folders: [], scenes: [] }),
      'GET /api/folders/preview': () => ({ ...preview, called: 4, images: [], whyNot: null }),
      'GET /api/folders/find': () => [{ ...entry('/srv/deep/lantern.glb', 'scene'), where: 'srv/deep' }],
    });
    return show(
      <FolderSheet open onOpenChange={onOpenChange} title="Choose" takes={takes} verb="Take it" onTake={taken} />,
    );
  };
  const preview = {
    path: '',
    format: 'glTF',
    nodes: 3,
    meshes: 2,
    triangles: 1200,
    materialCount: 1,
    materials: ['clay'],
  };
  const option = (name: string | RegExp) => screen.findByRole('option', { name });

  it('steps into folders and takes the scene that was picked', async () => {
    const user = open('scene');
    await user.click(await option(/srv/));
    await user.click(await option(/pot\.gltf/));
    expect(screen.queryByRole('option', { name: /notes/ })).toBeNull();
    expect(await screen.findByText('1,200')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Take it' }));
    expect(taken).toHaveBeenCalledWith(['/srv/pot.gltf']);
  });

  it('takes several scenes at once, and finds one by its name', async () => {
    const user = open('scene');
    await user.click(await option(/srv/));
    await user.click(await option(/pot\.gltf/));
    (await option(/tin\.gltf/)).focus();
    await user.keyboard(' ');
    await user.click(screen.getByRole('button', { name: 'Open 2 scenes' }));
    expect(taken).toHaveBeenCalledWith(['/srv/pot.gltf', '/srv/tin.gltf']);
    await user.type(screen.getByRole('searchbox'), 'lant');
    await user.dblClick(await option(/lantern\.glb/));
    expect(taken).toHaveBeenLastCalledWith(['/srv/deep/lantern.glb']);
  });

  it('takes the folder one stands in, and goes up again', async () => {
    const user = open('folder');
    const verb = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Take it' });
    expect(verb().disabled).toBe(true);
    await user.click(await option(/srv/));
    await user.click(await option(/shelf/));
    expect(await screen.findByText('No folder in here.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'srv' }));
    expect(await screen.findByText('srv is searched with all its subfolders.')).toBeTruthy();
    await user.click(verb());
    expect(taken).toHaveBeenCalledWith(['/srv']);
  });

  it('is walked with the arrows and opened with Enter', async () => {
    const user = open('file');
    (await option(/srv/)).focus();
    await user.keyboard('{Enter}');
    (await option(/shelf/)).focus();
    await user.keyboard('{Enter}');
    await screen.findByText('No folder in here.');
    await user.keyboard('{Backspace}');
    (await option(/shelf/)).focus();
    await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}');
    expect(document.activeElement?.textContent).toContain('notes.txt');
    await user.keyboard('{Enter}');
    expect(taken).toHaveBeenCalledWith(['/srv/notes.txt']);
  });

  it('says in one sentence why a folder is not shown', async () => {
    folders['/srv/shelf'] = undefined as never;
    const user = open('folder');
    await user.click(await option(/srv/));
    await user.click(await option(/shelf/));
    expect(await screen.findByText('That folder is not among those of the settings.')).toBeTruthy();
  });
});
