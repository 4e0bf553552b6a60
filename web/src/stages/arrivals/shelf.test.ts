import { describe, expect, it } from 'vitest';
import type { FoundScene, SceneSummary } from '../../api/client';
import { arranged, type ShelfShow, type ShelfSort } from './shelf';

const scene = (id: string, more: Partial<SceneSummary>): SceneSummary =>
  ({
    id,
    name: `${id}.gltf`,
    title: `${id}.gltf`,
    source: 'east',
    format: 'glTF 2.0',
    path: `/srv/${id}.gltf`,
    arrivedAt: '2026-11-30T09:00:00Z',
    blockers: 0,
    warnings: 0,
    unanswered: 0,
    pending: 0,
    ...more,
  }) as SceneSummary;

/** As the server lists them: the last that arrived stands first. */
const scenes = [
  scene('trellis', { unanswered: 4, pending: 1 }),
  scene('gate', { blockers: 2, source: 'west', format: 'FBX 7.4' }),
  scene('lamp', { blockers: null, warnings: null, arrivedAt: '2026-11-28T09:00:00Z', title: 'A lamp' }),
  scene('bench', { warnings: 9, arrivedAt: '2026-11-28T08:00:00Z' }),
];

const rows = (sort: ShelfSort, show: ShelfShow = 'all', find = '', found: FoundScene[] = []) =>
  arranged(scenes, { find, found, sort, show });

const ids = (...asked: Parameters<typeof rows>) =>
  rows(...asked).flatMap((r) => (r.kind === 'scene' ? [r.scene.id] : []));

describe('the shelf of scenes', () => {
  it('groups by day only while the newest stand first', () => {
    expect(rows('newest').map((r) => r.kind)).toEqual(['day', 'scene', 'scene', 'day', 'scene', 'scene']);
    expect(rows('name').every((r) => r.kind === 'scene')).toBe(true);
  });

  it('puts what blocks the render before what is unanswered, and that before warnings', () => {
    expect(ids('worst')).toEqual(['gate', 'trellis', 'bench', 'lamp']);
    expect(ids('unanswered')[0]).toBe('trellis');
  });

  it('orders by what people call a scene, by source and by format, the newest first among equals', () => {
    expect(ids('name')).toEqual(['lamp', 'bench', 'gate', 'trellis']);
    expect(ids('source')).toEqual(['trellis', 'lamp', 'bench', 'gate']);
    expect(ids('format')).toEqual(['gate', 'trellis', 'lamp', 'bench']);
  });

  it('shows only what was asked for; a scene that nobody audited is not said to be blocked', () => {
    expect(ids('newest', 'blocked')).toEqual(['gate']);
    expect(ids('newest', 'unanswered')).toEqual(['trellis']);
    expect(ids('newest', 'pending')).toEqual(['trellis']);
  });

  it('finds by name and path, or by what is inside, and says that only where the name does not', () => {
    const found: FoundScene[] = [
      { sceneId: 'bench', kind: 'material', name: 'lamp_oil', count: 2 },
      { sceneId: 'lamp', kind: 'image', name: 'lamp_glass.png', count: 1 },
    ];
    expect(ids('newest', 'all', 'LAMP', found)).toEqual(['lamp', 'bench']);
    const said = rows('newest', 'all', 'lamp', found).flatMap((r) => (r.kind === 'scene' ? [r.found?.name] : []));
    expect(said).toEqual([undefined, 'lamp_oil']);
    expect(ids('newest', 'all', '/srv/gate')).toEqual(['gate']);
    expect(ids('newest', 'all', 'nobody')).toEqual([]);
  });
});
