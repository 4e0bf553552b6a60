import { describe, expect, it } from 'vitest';
import { changed, fields, shown, type Field } from './destination';

const field = (key: string): Field => {
  const found = fields.find((f) => f.key === key);
  if (!found) throw new Error(`There is no field ${key}.`);
  return found;
};

describe('the form of a destination', () => {
  const draft = { id: 'x', name: 'X', models: ['open-pbr'], largestSide: 2048, switches: [{ switch: 'skin pass' }] };

  it('shows lists, numbers and what is not set', () => {
    expect(['name', 'models', 'largestSide', 'upAxis'].map((k) => shown(draft, field(k)))).toEqual([
      'X',
      'open-pbr',
      '2048',
      '',
    ]);
  });

  it('changes one thing and keeps what it does not show', () => {
    expect(changed(draft, field('models'), ' open-pbr, standard-surface ,')).toEqual({
      ...draft,
      models: ['open-pbr', 'standard-surface'],
    });
    expect(changed(draft, field('largestSide'), '4096')).toMatchObject({ largestSide: 4096, switches: draft.switches });
    expect(changed(draft, field('largestSide'), '')).not.toHaveProperty('largestSide');
  });
});
