// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { FixView, HandView } from '../../../api/client';
import { hexOf, linearOf } from '../../../parts/srgb';
import { changes, Problem, serve, type Call } from '../../../testing/server';
import { show } from '../../../testing/stage';
import { HandSheet } from './HandSheet';

const roughness = {
  name: 'roughness',
  what: 'roughness',
  numbers: 1,
  now: [1],
  default: [1],
  min: 0,
  max: 1,
  isColour: false,
  takesImage: true,
  among: 2,
};

const view: HandView = {
  places: [
    { key: 'material|leaf|', kind: 'material', name: 'leaf', part: null, now: '', material: null },
    { key: 'material|pot|', kind: 'material', name: 'pot', part: null, now: '', material: null },
  ],
  kinds: ['value', 'name', 'material'],
  inputs: [roughness, { ...roughness, name: 'coat', what: 'coat', among: 1 }],
  images: [],
  materials: ['leaf', 'pot'],
  uvSets: [],
  refused: [{ kind: 'material', why: 'An OBJ assigns face by face.' }],
};

const fix = (edits: number, left: FixView['left'] = []): FixView => ({
  title: '',
  count: `${edits} edits`,
  edits,
  certainty: 1,
  findings: 0,
  first: [],
  left,
});

const of = { cause: null, keys: null, materials: ['leaf', 'pot'] };
const onOpenChange = vi.fn();
let calls: Call[];

function open(preview: unknown = fix(2)) {
  onOpenChange.mockReset();
  calls = serve({
    'POST /api/scenes/s/audit/hand/choices': view,
    'POST /api/scenes/s/audit/hand/preview': preview,
    'POST /api/scenes/s/audit/hand': { entries: [] },
    'GET /api/scenes/s/ledger': { entries: [{ id: 'last' }], applied: 1, pending: 0 },
  });
  return show(
    <HandSheet sceneId="s" title="2 materials" reaches={[{ name: 'in focus', of }]} onOpenChange={onOpenChange} />,
  );
}

/** The bodies that were put in, not those that were only tried. */
const put = () =>
  changes(calls)
    .filter((c) => c.route.endsWith('/hand'))
    .map((c) => c.body);
const key = (name: RegExp) => screen.getByRole<HTMLButtonElement>('button', { name });

async function name(user: ReturnType<typeof show>, to: string) {
  await user.click(await screen.findByRole('radio', { name: 'A name' }));
  const field = screen.getByRole('textbox', { name: 'Name' });
  await user.clear(field);
  await user.type(field, to);
}

describe('what is chosen by hand', () => {
  it('is tried before it is put in, for the places that are left in', async () => {
    const user = open();
    await name(user, 'old_leaf');
    await user.click(screen.getByRole('checkbox', { name: 'pot' }));
    await waitFor(() => expect(key(/^Put in for 1 place$/).disabled).toBe(false));
    await user.click(key(/^Put in/));
    await waitFor(() => expect(onOpenChange).toHaveBeenCalledWith(false));
    expect(put()).toMatchObject([{ of, places: ['material|leaf|'], kind: 'name', choice: 'old_leaf', seen: 'last' }]);
  });

  it('cannot be put in where it does nothing, and says what is left and why', async () => {
    const user = open(fix(0, [{ target: 'pot', reason: 'The scene has a leaf already.' }]));
    await name(user, 'leaf_2');
    expect(await screen.findByText(/The scene has a leaf already/)).toBeTruthy();
    expect(key(/^Put in/).disabled).toBe(true);
  });

  it('tells a refusal of the server in its sentence', async () => {
    const user = open(new Problem(422, 'There is no such scene any more.'));
    await name(user, 'leaf_2');
    expect(await screen.findByText('There is no such scene any more.')).toBeTruthy();
  });

  it('says what the format cannot before anybody tries', async () => {
    const user = open();
    await user.click(await screen.findByRole('radio', { name: 'Another material' }));
    expect(screen.getByText('An OBJ assigns face by face.')).toBeTruthy();
    expect(within(screen.getByRole('dialog')).queryByRole('listbox')).toBeNull();
  });
});

describe('a colour in its field', () => {
  // IEC 61966-2-1: ((128/255 + 0.055) / 1.055) ** 2.4 is 0.21586.
  it('goes from linear to the display and back without losing a step of 8 bits', () => {
    expect(hexOf([0.21586, 0, 1])).toBe('#8000ff');
    expect(linearOf('#8000ff')).toEqual([0.21586, 0, 1]);
    for (let step = 0; step < 256; step++) {
      const hex = `#${step.toString(16).padStart(2, '0').repeat(3)}`;
      expect(hexOf(linearOf(hex))).toBe(hex);
    }
  });

  it('cuts off what no display shows', () => expect(hexOf([-1, 2, 0.5])).toBe('#00ffbc'));
});
