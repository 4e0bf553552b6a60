import { describe, expect, it } from 'vitest';
import registry from 'three/examples/jsm/loaders/materialx/MaterialXNodeInterfaceRegistry.js';
import models from '../../src/RootCall.Core/Shading/models.json';

describe('the shading models', () => {
  // MaterialX 1.39.5: standard_surface 1.0.1, open_pbr_surface 1.1, UsdPreviewSurface 2.6, as three ships their definitions.
  const nodes = registry.nodedefs;
  it.each([
    ['standard-surface', 'ND_standard_surface_surfaceshader'],
    ['open-pbr', 'ND_open_pbr_surface_surfaceshader'],
    ['usd-preview-surface', 'ND_UsdPreviewSurface_surfaceshader'],
  ])('%s has the inputs, types and defaults of %s', (id, definition) => {
    const model = models.find((m) => m.id === id);
    const inputs = Object.entries(nodes[definition]?.inputs ?? {});
    expect(inputs.length).toBeGreaterThan(10);
    expect(model?.inputs.map((i) => i.name)).toEqual(inputs.map(([name]) => name));
    for (const [name, input] of inputs) {
      const ours = model?.inputs.find((i) => i.name === name);
      expect(ours?.type).toBe(input.type);
      if (input.value !== undefined && !['boolean', 'string'].includes(input.type))
        expect(ours?.default).toEqual(input.value.split(',').map(Number));
    }
  });
});
