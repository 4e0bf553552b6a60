// @vitest-environment jsdom
import { act, type ReactNode } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ComparedScene, FamilyItem, SceneDetail, TransferView } from '../../api/client';
import { CountRail } from './CountRail';
import { Losses } from './Losses';

const beside: ComparedScene = {
  id: 'a',
  name: 'pot.usda',
  version: 1,
  source: 'clean/pot',
  older: false,
  nodes: 4,
  meshes: 2,
  materials: 3,
  images: 0,
  triangles: 1000,
};

const scene = {
  nodes: 4,
  meshes: 1,
  materials: 5,
  images: 2,
  triangles: 1000,
  carriedImages: 2,
  buffers: 0,
  libraries: 0,
  layers: 1,
} as SceneDetail;

const family = (key: string, count: number, edits: number, more: Partial<FamilyItem> = {}): FamilyItem => ({
  key,
  sentence: `${count} ${key} were lost`,
  what: key,
  input: null,
  edits,
  rows: Array.from({ length: count }, (_, i) => ({
    number: i + 1,
    kind: 'material',
    name: `${key} ${i}`,
    what: key,
    input: null,
    a: 'before',
    b: null,
    edits: edits > 0 ? 1 : 0,
    whyNot: edits > 0 ? null : 'geometry is not changed',
    imageA: null,
    imageB: null,
  })),
  ...more,
});

let root: Root;
let host: HTMLDivElement;
const sent: unknown[] = [];
vi.mock('../../api/queries', () => ({
  useRestore: () => ({ isPending: false, mutate: (body: unknown) => sent.push(body) }),
}));

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  sent.length = 0;
  host = document.body.appendChild(document.createElement('div'));
  root = createRoot(host);
});

afterEach(() => {
  act(() => root.unmount());
  host.remove();
});

const show = (node: ReactNode) => act(() => root.render(node));
const button = (text: string) =>
  Array.from(host.querySelectorAll('button')).find((b) =>
    (b.getAttribute('aria-label') ?? b.textContent).includes(text),
  );

describe('what did not survive', () => {
  const transfer: TransferView = {
    with: beside,
    lost: 12,
    families: [family('maps', 8, 8), family('triangles', 4, 0)],
  };
  const losses = (view: TransferView, picked?: string) => (
    <Losses sceneId="b" transfer={view} picked={picked} onPick={() => undefined} />
  );

  it('opens the gravest family with its rows and leaves the others as sentences', () => {
    show(losses(transfer));
    expect(host.querySelector('section')?.getAttribute('aria-label')).toBe('8 maps were lost');
    expect(host.querySelectorAll('tbody tr')).toHaveLength(6);
    expect(button('triangles were lost')).toBeDefined();
    act(() => button('Show all 8')?.click());
    expect(host.querySelectorAll('tbody tr')).toHaveLength(8);
  });

  it('takes a whole family or one row from the compared scene', () => {
    show(losses(transfer));
    act(() => button('Take 8 edits')?.click());
    act(() => button('Take maps 2')?.click());
    expect(sent).toEqual([
      { with: 'a', version: 1, rows: [1, 2, 3, 4, 5, 6, 7, 8] },
      { with: 'a', version: 1, rows: [3] },
    ]);
  });

  it('says why a family cannot be taken back, and that nothing was lost', () => {
    show(losses(transfer, 'triangles'));
    expect(host.textContent).toContain('Cannot be taken back: geometry is not changed');
    expect(button('Take 0')).toBeUndefined();
    show(losses({ with: { ...beside, older: true }, lost: 0, families: [] }));
    expect(host.textContent).toBe('Everything that v1 has came along.');
    show(losses({ with: null, lost: 0, families: [] }));
    expect(host.textContent).toBe('');
  });
});

describe('the rail of counts', () => {
  const words = () =>
    Array.from(host.querySelectorAll('.sr-only'), (e) => `${e.previousElementSibling?.textContent}: ${e.textContent}`);

  it('says of each rung whether it is the same, fewer, more or new', () => {
    show(<CountRail scene={scene} beside={beside} />);
    expect(words()).toEqual([
      'nodes: the same',
      'mesh: fewer',
      'triangles: the same',
      'materials: more',
      'images: new',
    ]);
  });

  it('has one rail and says nothing of the kind when nothing is compared', () => {
    show(<CountRail scene={scene} beside={null} />);
    expect(words()).toEqual([]);
    expect(host.textContent).toContain('1,000');
    expect(host.textContent).toContain('layer or document');
  });
});
