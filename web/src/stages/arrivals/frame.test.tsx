// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SceneDetail } from '../../api/client';
import { changes, serve } from '../../testing/server';
import { show } from '../../testing/stage';
import { AllMaterials } from './AllMaterials';
import { TestFrame } from './TestFrame';

const scene = { id: 's', name: 'pot.gltf', meshes: 2, materials: 3 } as SceneDetail;

const made = {
  at: '2026-11-20T10:00:00Z',
  samples: 64,
  wanted: 64,
  isDone: true,
  camera: null,
  triangles: 12,
  told: ['“tin”: Dispersion is left out.', 'Subdivision surfaces are shown as their cages.'],
  picture: '/picture.png',
};

describe('the test frame', () => {
  it('is drawn when somebody asks, by the light of all swatches', async () => {
    const calls = serve({
      'GET /api/scenes/s/frame': { cameras: [], lamps: 0, made: null, isCurrent: false },
      'GET /api/work': [],
      'POST /api/scenes/s/frame': {},
    });
    const user = show(<TestFrame scene={scene} />);
    await user.click(await screen.findByRole('button', { name: /Draw the scene/ }));
    await waitFor(() =>
      expect(changes(calls)).toMatchObject([
        { route: 'POST /api/scenes/s/frame', body: { light: 'studio', camera: null } },
      ]),
    );
  });

  it('says when it is old, which camera sees it, and what it does not show', async () => {
    const calls = serve({
      'GET /api/scenes/s/frame': { cameras: ['front', 'side'], lamps: 3, made, isCurrent: false },
      'GET /api/work': [],
    });
    const user = show(<TestFrame scene={scene} />);
    expect((await screen.findByRole('img')).getAttribute('src')).toBe('/picture.png');
    expect(screen.getByText('drawn before the last change')).toBeTruthy();
    expect(screen.getByRole('button', { name: /Draw it again/ })).toBeTruthy();
    expect(screen.getByRole('button', { name: '2 things that the frame does not show' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Seen by front, studio' }));
    await user.click(await screen.findByRole('menuitemradio', { name: 'side' }));
    await user.click(screen.getByRole('button', { name: 'Seen by side, studio' }));
    await user.click(await screen.findByRole('menuitemradio', { name: 'the scene’s own, 3' }));
    expect(screen.getByRole('button', { name: 'Seen by side, own lights' })).toBeTruthy();
    await waitFor(() => expect(calls.map((c) => c.query['light'])).toContain('scene'));
  });
});

describe('all materials', () => {
  it('are found by name or shading model', async () => {
    const item = (name: string, model: string) => ({
      name,
      model,
      images: 1,
      template: null,
      instances: 0,
      isTemplate: false,
      locked: false,
    });
    serve({
      'GET /api/scenes/s/materials': [item('tin', 'gltf_pbr'), item('moss', 'gltf_pbr'), item('glass', 'open_pbr')],
    });
    const user = show(<AllMaterials scene={scene} onClose={() => undefined} />);
    expect(await screen.findByText('3 materials')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Find a material' }), 'gltf');
    expect(screen.getByText('2 of them')).toBeTruthy();
  });
});
