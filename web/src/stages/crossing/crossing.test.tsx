// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { CrossedView, CrossingView, MappingItem } from '../../api/client';
import { changes, serve } from '../../testing/server';
import { show } from '../../testing/stage';
import { CrossingCall } from './CrossingCall';
import { Decision } from './Decision';
import { Ladder } from './Ladder';
import { useSets } from './sets';

const mapping = (
  from: string,
  to: string,
  kind: MappingItem['kind'],
  more: Partial<MappingItem> = {},
): MappingItem => ({
  from: [from],
  to,
  kind,
  detail: '',
  before: '0.5',
  after: '0.5',
  isClamped: false,
  numbers: 1,
  low: 0,
  high: 1,
  ...more,
});

const view = (mappings: MappingItem[]): CrossedView => ({
  row: {
    material: 'pear_wax',
    from: 'standard-surface',
    exact: 1,
    approximate: 0,
    lost: 1,
    moved: {
      mean: 5.3,
      high: 12,
      most: 17,
      mostly: 'subsurface',
      without: 0.4,
      formula: null,
      fit: null,
      isFitted: false,
    },
    isMeasured: true,
    unsaid: null,
    bakes: [],
    entry: null,
    isPending: false,
    crossed: null,
  },
  fromName: 'Standard Surface',
  toName: 'OpenPBR',
  mappings,
  lights: [],
  told: [],
});

describe('the crossing of one material', () => {
  it(
    'lets an artist say another value, within the range, and go back to the formula',
    { timeout: 20_000 },
    async () => {
      useSets.setState({ sets: {} });
      const user = show(
        <Ladder sceneId="s" to="open-pbr" view={view([mapping('metalness', 'base_metalness', 'exact')])} />,
      );
      await user.click(screen.getByRole('button', { name: /base_metalness is 0.5; say another/ }));
      const field = screen.getByRole('textbox');
      await user.clear(field);
      await user.type(field, '3');
      expect(screen.getByText('It takes 0 to 1.')).toBeTruthy();
      await user.clear(field);
      await user.type(field, '0.25{Enter}');
      expect(screen.getByText('set by hand')).toBeTruthy();
      await user.click(screen.getByRole('button', { name: /base_metalness is 0.25/ }));
      await user.click(screen.getByRole('button', { name: 'Back to the formula' }));
      expect(screen.queryByText('set by hand')).toBeNull();
    },
  );

  it('says what is lost and where the difference comes from', () => {
    const crossed = view([mapping('subsurface', '', 'lost', { detail: 'no scattering', numbers: 0 })]);
    const none = () => undefined;
    show(
      <Decision
        row={crossed.row}
        view={crossed}
        limit={2}
        within={4}
        inFocus={0}
        busy={false}
        onThis={none}
        onNote={none}
        onFocus={none}
        onWithin={none}
      />,
    );
    expect(
      screen.getByText('moves too far and loses subsurface. Mostly subsurface: without it, 0.4 is left.'),
    ).toBeTruthy();
    expect(screen.getByRole('button', { name: /Take over all 4 within the limit/ })).toBeTruthy();
  });

  it('asks for blockers first, then to be measured', async () => {
    const calls = serve({});
    const whole = {
      name: 'OpenPBR',
      rows: [{ ...view([]).row, moved: null, isMeasured: false }],
      blockers: 2,
    } as unknown as CrossingView;
    const call = (v: CrossingView) => (
      <CrossingCall view={v} limit={2} work={undefined} sceneId="s" onMeasure={() => undefined} />
    );
    show(call(whole));
    expect(screen.getByRole('link', { name: 'Mend 2 blockers' }).getAttribute('href')).toBe('/findings/s');
    show(call({ ...whole, blockers: 0 }));
    await screen.findByRole('button', { name: 'Measure how far they move' });
    expect(changes(calls)).toEqual([]);
  });
});
