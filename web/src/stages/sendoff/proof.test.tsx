// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PackageItem, WorkItem } from '../../api/client';
import { changes, serve, type Call } from '../../testing/server';
import { show } from '../../testing/stage';
import { ProofStrip } from './ProofStrip';

const built = (n: number, more: Partial<PackageItem> = {}): PackageItem => ({
  id: `p${n}`,
  name: `pot-${n}.zip`,
  builtAt: '2026-11-20T10:00:00Z',
  files: 41,
  bytesBefore: 200_000_000,
  bytesAfter: 158_000_000,
  resolved: 40,
  unresolved: [],
  brokenFiles: [],
  zip: true,
  frames: null,
  noFrames: null,
  path: null,
  ...more,
});

const work: WorkItem = {
  id: 'w',
  kind: 'package',
  title: 'Package pot',
  sceneId: 's',
  state: 'running',
  phase: 'packs',
  detail: 'tin_normal.png',
  done: 1_200,
  total: 4_000,
  error: null,
  createdAt: '2026-11-20T10:00:00Z',
  endedAt: null,
};

const [onZip, onBuild] = [vi.fn(), vi.fn()];
let calls: Call[];
const open = (packages: PackageItem[], running?: WorkItem) => {
  calls = serve({ 'POST /api/work/w/cancel': {} });
  return show(
    <ProofStrip packages={packages} work={running} zip as={undefined} onZip={onZip} onBuild={onBuild} busy={false} />,
  );
};

describe('the proof of a package', () => {
  beforeEach(() => [onZip, onBuild].forEach((f) => f.mockReset()));

  it('is built from here, as a zip or a folder', async () => {
    const user = open([]);
    expect(screen.getByRole('heading', { name: 'No package yet' })).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: 'folder' }));
    expect(onZip).toHaveBeenCalledWith(false);
    await user.click(screen.getByRole('button', { name: /Build and prove/ }));
    expect(onBuild).toHaveBeenCalledOnce();
  });

  it('says what resolves inside, that its files match, and where it is', () => {
    open([built(2), built(1)]);
    const proof = within(screen.getByRole('region', { name: 'Proof' }));
    expect(proof.getByRole('heading', { name: 'Proof of package 2' })).toBeTruthy();
    expect(proof.getByText('references resolve inside')).toBeTruthy();
    expect(proof.getByText('41 files match their SHA-256')).toBeTruthy();
    expect(proof.getByText(/^158 MB/)).toBeTruthy();
    expect(proof.getByRole('link', { name: 'Download' }).getAttribute('href')).toBe('/api/packages/p2/download');
    expect(proof.getByRole('link', { name: 'pot-1.zip' })).toBeTruthy();
  });

  it('names what it lacks and what differs, the first of many', () => {
    open([
      built(1, {
        unresolved: ['a.png', 'b.png', 'c.png', 'd.png', 'e.png'],
        brokenFiles: ['x', 'y'],
        zip: false,
        path: '/store/pot-1',
      }),
    ]);
    expect(screen.getByText('resolve inside; its report names the others')).toBeTruthy();
    expect(screen.getByText('and 3 more')).toBeTruthy();
    expect(screen.getByText('2 files differ from the manifest').className).toContain('clay');
    expect(screen.getByRole('button', { name: 'Copy the path' })).toBeTruthy();
  });

  it('holds the scene beside itself, from before and from the package', () => {
    open([built(1, { frames: { mean: 0.214, most: 2.81, isSeen: true, top: 12 } })]);
    expect(screen.getAllByRole('img').map((i) => i.getAttribute('src'))).toEqual([
      '/api/packages/p1/pictures/before',
      '/api/packages/p1/pictures/after',
      '/api/packages/p1/pictures/difference',
    ]);
    expect(screen.getByText('0.21')).toBeTruthy();
    expect(screen.getByText('mean ΔE. Largest 2.8.')).toBeTruthy();
    expect(screen.getByText('ΔE, kiln scale to 12')).toBeTruthy();
  });

  it('says why there are no frames', () => {
    open([built(1, { noFrames: 'A MaterialX document carries no geometry.' })]);
    expect(screen.getByText('A MaterialX document carries no geometry.')).toBeTruthy();
  });

  it('shows how far it is, and stops', async () => {
    const user = open([], work);
    const line = screen.getByRole('status', { name: 'Building and proving' });
    expect(line.textContent).toContain('packs 1,200 of 4,000, tin_normal.png');
    expect(line.querySelector<HTMLElement>('[style]')?.style.width).toBe('30%');
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(changes(calls).map((c) => c.route)).toEqual(['POST /api/work/w/cancel']));
    expect(screen.queryByRole('button', { name: /Build and prove/ })).toBeNull();
  });

  it('waits for a worker before it starts', () => {
    open([], { ...work, state: 'queued', phase: '', detail: '', done: 0, total: 0 });
    expect(screen.getByRole('status', { name: 'Building and proving' }).textContent).toContain('waits for a worker');
  });
});
