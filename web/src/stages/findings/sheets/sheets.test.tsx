// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { DestinationChange, FixView, RecipeItem, RuleView } from '../../../api/client';
import { changes, Problem, serve, type Call } from '../../../testing/server';
import { show } from '../../../testing/stage';
import { DestinationSheet } from './DestinationSheet';
import { HouseSheet } from './HouseSheet';
import { RecipesSheet } from './RecipesSheet';

let calls: Call[];
const onOpenChange = vi.fn();
beforeEach(() => onOpenChange.mockReset());

const rule = (id: string, more: Partial<RuleView> = {}): RuleView => ({
  id,
  family: id.slice(0, id.indexOf('.')),
  title: `Title of ${id}`,
  severity: 'warning',
  usual: 'warning',
  on: true,
  expects: 'what is expected',
  why: '',
  source: '',
  fix: null,
  thresholds: [],
  language: 'gltf',
  example: '',
  ...more,
});

describe('house rules', () => {
  const rules = [
    rule('wiring.height-as-normal', { severity: 'blocker', usual: 'blocker' }),
    rule('wiring.alpha-twice', { on: false }),
    rule('values.emission', {
      thresholds: [{ name: 'most', value: 4, usual: 4, unit: 'nit', meaning: 'the brightest' }],
    }),
  ];
  beforeEach(() => {
    calls = serve({
      'GET /api/rules': rules,
      'GET /api/house-rules': { text: '{ "severities": {} }' },
      'PATCH /api/rules/wiring.height-as-normal': {},
      'PATCH /api/rules/values.emission': {},
      'PUT /api/house-rules': ({ body }: Call) =>
        (body as { text: string }).text.includes('nowhere')
          ? new Problem(400, 'house names the rule “nowhere”; there is none.')
          : {},
    });
  });

  it('tells how many are chosen otherwise, by family', async () => {
    show(<HouseSheet onOpenChange={onOpenChange} />);
    expect(await screen.findByText('3 rules; 1 chosen otherwise. They hold for every scene.')).toBeTruthy();
    expect(screen.getAllByRole('heading', { level: 3 }).map((h) => h.textContent)).toEqual(['Wiring', 'Values']);
    expect(screen.getByRole('button', { name: 'Title of wiring.alpha-twice: off' }).textContent).toContain(
      'usually warning',
    );
  });

  it('finds a rule by its words', async () => {
    const user = show(<HouseSheet onOpenChange={onOpenChange} />);
    await screen.findByText('wiring.alpha-twice');
    await user.type(screen.getByRole('searchbox', { name: 'Find a rule' }), 'EMISSION');
    expect(screen.queryByText('wiring.alpha-twice')).toBeNull();
    expect(screen.getByText('values.emission')).toBeTruthy();
  });

  it('chooses how serious one is from its menu', async () => {
    const user = show(<HouseSheet onOpenChange={onOpenChange} />);
    await user.click(await screen.findByRole('button', { name: 'Title of wiring.height-as-normal: blocker' }));
    await user.click(await screen.findByRole('menuitem', { name: 'note' }));
    await waitFor(() =>
      expect(changes(calls)).toMatchObject([
        { route: 'PATCH /api/rules/wiring.height-as-normal', body: { severity: 'note', thresholds: null } },
      ]),
    );
  });

  it('takes a number when the field is left, and only another one', async () => {
    const user = show(<HouseSheet onOpenChange={onOpenChange} />);
    const field = await screen.findByRole('spinbutton', { name: /most/ });
    await user.click(field);
    await user.tab();
    expect(changes(calls)).toEqual([]);
    await user.clear(field);
    await user.type(field, '6.5');
    await user.tab();
    await waitFor(() => expect(changes(calls)[0]?.body).toEqual({ severity: 'warning', thresholds: { most: 6.5 } }));
  });

  it('keeps the text of the JSON when it is refused, and says why', async () => {
    const user = show(<HouseSheet onOpenChange={onOpenChange} />);
    await user.click(await screen.findByRole('button', { name: /^Patterns/ }));
    const text = await screen.findByRole<HTMLTextAreaElement>('textbox', { name: 'House rules' });
    await user.clear(text);
    await user.click(text);
    await user.paste('{ "severities": { "nowhere": "off" } }');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(await screen.findByText(/names the rule “nowhere”/)).toBeTruthy();
    expect(text.value).toContain('nowhere');
  });
});

describe('destinations', () => {
  const change = (id: string, more: Partial<DestinationChange> = {}): DestinationChange => ({
    destination: { id, name: `Name of ${id}`, description: 'for tests', models: 'any', limit: '', own: false },
    chosen: false,
    blockers: 0,
    warnings: 1,
    notes: 2,
    comes: [],
    goes: [],
    ...more,
  });
  beforeEach(() => {
    calls = serve({
      'GET /api/scenes/s/audit/destinations': [
        change('plain', { chosen: true }),
        change('lantern', { blockers: 2, comes: ['a', 'b', 'c', 'd', 'e'], goes: ['x'] }),
      ],
      'GET /api/scenes/s/ledger': { entries: [], applied: 0, pending: 0 },
      'PUT /api/scenes/s/audit/destination': {},
      'GET /api/destinations/lantern': {
        text: '{ "id": "lantern", "name": "Lantern", "udim": true, "largestSide": 2048 }',
      },
      'PUT /api/destinations': {},
    });
  });

  it('says what choosing each would change', async () => {
    show(<DestinationSheet sceneId="s" onOpenChange={onOpenChange} />);
    await screen.findByText('Name of plain');
    const rows = within(screen.getByRole('list')).getAllByRole('listitem');
    expect(within(rows[0] as HTMLElement).getByText('chosen')).toBeTruthy();
    expect(within(rows[1] as HTMLElement).getByText('Comes: a; b; c; and 2 more causes.')).toBeTruthy();
    expect(within(rows[1] as HTMLElement).getByText('Goes: x.')).toBeTruthy();
    expect(within(rows[1] as HTMLElement).getByText('2 blockers').className).toContain('clay');
    expect(screen.getAllByRole('button', { name: 'Edit' })).toHaveLength(1);
  });

  it('is chosen for this scene', async () => {
    const user = show(<DestinationSheet sceneId="s" onOpenChange={onOpenChange} />);
    await user.click(await screen.findByRole('button', { name: 'Audit for it' }));
    await waitFor(() => expect(changes(calls)[0]?.body).toEqual({ id: 'lantern' }));
  });

  it('is changed field by field, and becomes another under another id', async () => {
    const user = show(<DestinationSheet sceneId="s" onOpenChange={onOpenChange} />);
    await user.click(await screen.findByRole('button', { name: 'Edit' }));
    const id = await screen.findByDisplayValue('lantern');
    await user.clear(id);
    await user.type(id, 'porch');
    const side = screen.getByDisplayValue('2048');
    await user.clear(side);
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(changes(calls)).toHaveLength(1));
    const sent = JSON.parse((changes(calls)[0]?.body as { text: string }).text) as Record<string, unknown>;
    expect(sent).toMatchObject({ id: 'porch', name: 'Lantern', udim: true });
    expect(sent.largestSide ?? null).toBeNull();
  });
});

describe('recipes', () => {
  const recipe = (id: string, more: Partial<RecipeItem> = {}): RecipeItem => ({
    id,
    name: `Recipe ${id}`,
    description: '',
    source: '',
    steps: 1,
    stepList: [{ what: 'Invert roughness', match: 'tin_*' }],
    ...more,
  });
  const fix = (edits: number): FixView => ({
    title: 'Invert',
    count: `${edits} edits`,
    edits,
    certainty: 0.95,
    findings: edits,
    first: [],
    left: [],
  });

  it('says how the first one comes about when there is none', async () => {
    serve({ 'GET /api/recipes': [] });
    show(<RecipesSheet sceneId="s" onOpenChange={onOpenChange} />);
    expect(await screen.findByText(/^No recipe yet/)).toBeTruthy();
  });

  it('shows what each would do here before it is put in', async () => {
    calls = serve({
      'GET /api/recipes': [recipe('a'), recipe('b', { source: 'shelf/*', steps: 2 })],
      'POST /api/scenes/s/recipes/a/dry-run': { fix: fix(0), unmatched: ['wiring.gloss: nothing matches.'] },
      'POST /api/scenes/s/recipes/b/dry-run': { fix: fix(3), unmatched: [] },
      'POST /api/scenes/s/recipes/b/apply': {},
    });
    const user = show(<RecipesSheet sceneId="s" onOpenChange={onOpenChange} />);
    expect(await screen.findByText('Here it would change nothing.')).toBeTruthy();
    expect(screen.getByText('wiring.gloss: nothing matches.')).toBeTruthy();
    const put = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Put into the ledger' });
    expect(put().disabled).toBe(true);
    await user.click(screen.getByRole('option', { name: /Recipe b/ }));
    expect(await screen.findByText('Here it would make 3 edits')).toBeTruthy();
    expect(screen.getByText('2 steps, for every arrival from shelf/*')).toBeTruthy();
    await user.click(put());
    await waitFor(() => expect(calls.map((c) => c.route)).toContain('POST /api/scenes/s/recipes/b/apply'));
  });

  it('is taken out when asked', async () => {
    let left = [recipe('a')];
    calls = serve({
      'GET /api/recipes': () => left,
      'POST /api/scenes/s/recipes/a/dry-run': { fix: fix(0), unmatched: [] },
      'DELETE /api/recipes/a': () => {
        left = [];
        return null;
      },
    });
    const user = show(<RecipesSheet sceneId="s" onOpenChange={onOpenChange} />);
    await user.click(await screen.findByRole('button', { name: 'Remove it' }));
    expect(await screen.findByText(/^No recipe yet/)).toBeTruthy();
  });
});
