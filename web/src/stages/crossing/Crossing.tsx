import { useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import type { CrossingRoute, CrossingView, CrossRow } from '../../api/client';
import { useCrossed, useCrossing, useCrossingActs, useWork } from '../../api/queries';
import { Frame } from '../../frame/Frame';
import { useKey, useSpace } from '../../frame/keys';
import { many } from '../../parts/format';
import { isOpen } from '../../parts/WorkLine';
import { useInAddress } from '../../state/address';
import { useFocus } from '../../state/focus';
import { lights, useSettings } from '../../state/settings';
import { CrossingCall } from './CrossingCall';
import { Decision } from './Decision';
import { Ladder } from './Ladder';
import { Looks } from './Looks';
import { setOf, useSets } from './sets';
import { Skyline } from './Skyline';
import { Tools } from './Tools';
import { WholeScene } from './WholeScene';
import { WriteAs } from './WriteAs';

const keys: [string, string][] = [
  ['J and K, → ←', 'next and previous material'],
  ['Space', 'add the material in hand to the focus'],
  ['⇧F', 'take over all that cross within the limit'],
  ['F', 'take over what is in focus'],
  ['T', 'take over this one'],
  ['N', 'take over this one with a note, though it moves too far'],
  ['B', 'the best fit in place of the formulas, or back'],
  ['H', 'the next light'],
  ['Y', 'wear the looks that arrived, or the crossed ones'],
  ['⇧M', 'measure how far looks move'],
  ['D', 'the whole scene, before and after'],
];

/** Stage 5: what survives in another shading model, and how far the look moves. */
export function Crossing() {
  const { sceneId = '' } = useParams();
  const [to, choose] = useInAddress('to');
  const [byRoute, setRoute] = useInAddress('route');
  const route: CrossingRoute = byRoute === 'metalness' ? 'metalness' : 'kept';
  const [best, setBest] = useInAddress('fit');
  const fit = best !== undefined;
  const setFit = (on: boolean) => setBest(on ? '' : undefined);
  const query = useCrossing(sceneId, to ?? null, route, fit);
  const view = query.data;
  // What was proposed stays chosen, whatever the scene becomes by it.
  useEffect(() => {
    if (to === undefined && view) choose(view.to);
  }, [to, view, choose]);
  const open = useWork().data?.filter((w) => w.sceneId === sceneId && isOpen(w));
  const work = open?.find((w) => w.kind === 'measurecrossing' || w.kind === 'cross');
  const [whole, setWhole] = useState(false);
  const [writing, setWriting] = useState(false);
  const acts = useCrossingActs(sceneId);
  const { find, materials, toggle } = useFocus();
  const { light, crossingLimit, set } = useSettings();
  const limit = crossingLimit ?? view?.limit ?? 2;
  const rows = useMemo(() => matching(view, find), [view, find]);
  const [picked, setPicked] = useInAddress('material');
  const row = rows.find((r) => r.material === picked) ?? rows[0];
  const crossed = useCrossed(sceneId, row?.material, view?.to, route, fit).data ?? undefined;
  const sets = useSets((s) => s.sets);

  const isTaking = acts.takeOver.isPending || work?.kind === 'cross';
  const reach = reachOf(rows, limit, materials);
  const takeOver = (taken: CrossRow[], note: string | null = null) => {
    if (!view || taken.length === 0 || isTaking) return;
    const names = taken.map((r) => r.material);
    acts.takeOver.mutate({
      to: view.to,
      route,
      fit,
      note,
      materials: names,
      set: names.flatMap((m) => setOf(sets, sceneId, view.to, m)),
    });
  };
  const wear = () => view && view.pairs > 0 && acts.wear.mutate(view.worn.crossed ? 'arrived' : 'crossed');
  const measure = () => view && !work && acts.measure.mutate({ to: view.to, route, fit, materials: null });
  const fitOr = (on: boolean) => {
    setFit(on);
    // What was not fitted yet is, as soon as somebody wants to see it.
    if (on && view && !work && notFitted(view) > 0)
      acts.measure.mutate({ to: view.to, route, fit: true, materials: null });
  };
  const move = (by: 1 | -1) => {
    const at = rows.findIndex((r) => r.material === row?.material);
    setPicked(rows[Math.min(rows.length - 1, Math.max(0, at + by))]?.material);
  };

  useKey('j, right', () => move(1));
  useKey('k, left', () => move(-1));
  useSpace(() => row && toggle(row.material));
  useKey('shift+f', () => takeOver(reach.within));
  useKey('f', () => takeOver(reach.focus));
  useKey('t', () => row && canBeTaken(row) && takeOver([row]));
  useKey('b', () => fitOr(!fit));
  useKey('h', () => set({ light: lights[(lights.indexOf(light) + 1) % lights.length] ?? 'studio' }));
  useKey('y', () => void wear());
  useKey('shift+m', () => void measure());
  useKey('d', () => setWhole(true));

  return (
    <Frame
      here="Crossing"
      sceneId={sceneId}
      call={
        query.isError ? (
          <em>{query.error.message}</em>
        ) : (
          <CrossingCall view={view} limit={limit} work={work} sceneId={sceneId} onMeasure={() => void measure()} />
        )
      }
      among={many(view?.rows.length ?? 0, 'material')}
      focus={
        view && (
          <Tools
            view={view}
            onTo={choose}
            onRoute={setRoute}
            onFit={fitOr}
            onWear={() => void wear()}
            onSweep={() => acts.sweep.mutate(undefined)}
            onWrite={() => setWriting(true)}
          />
        )
      }
      keys={keys}
      open={view?.rows.filter((r) => r.entry === null && r.moved !== null && r.moved.mean > limit).length}
    >
      {view && view.rows.length === 0 && <Nothing view={view} />}
      {view && (
        <WholeScene
          sceneId={sceneId}
          view={view}
          work={open?.find((w) => w.kind === 'drawcrossing')}
          open={whole}
          onOpenChange={setWhole}
        />
      )}
      {view && <WriteAs sceneId={sceneId} view={view} open={writing} onOpenChange={setWriting} />}
      {view && rows.length > 0 && (
        <div className="flex h-full flex-col pt-2">
          <Skyline
            sceneId={sceneId}
            rows={rows}
            limit={limit}
            onLimit={(l) => set({ crossingLimit: l })}
            current={row?.material}
            inFocus={materials}
            onPick={setPicked}
            onWhole={() => setWhole(true)}
            work={work}
          />
          <div className="mt-4 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(500px,49%)] gap-x-6 pl-7">
            {crossed && row && (
              <Ladder key={`${row.material} ${view.to}`} sceneId={sceneId} to={view.to} view={crossed} />
            )}
            <div className="flex min-h-0 flex-col">
              {row && (
                <Looks sceneId={sceneId} to={view.to} route={route} fit={fit} row={row} view={crossed} limit={limit} />
              )}
              {row && (
                <Decision
                  row={row}
                  view={crossed}
                  limit={limit}
                  within={reach.within.length}
                  inFocus={reach.focus.length}
                  busy={isTaking}
                  onThis={() => takeOver([row])}
                  onNote={(note) => takeOver([row], note)}
                  onFocus={() => takeOver(reach.focus)}
                  onWithin={() => takeOver(reach.within)}
                />
              )}
            </div>
          </div>
        </div>
      )}
      {view && view.rows.length > 0 && rows.length === 0 && (
        <p className="px-7 pt-2 text-quiet">No material has these letters in its name.</p>
      )}
    </Frame>
  );
}

const matching = (view: CrossingView | undefined, find: string): CrossRow[] => {
  const letters = find.trim().toLowerCase();
  return (view?.rows ?? []).filter((r) => r.material.toLowerCase().includes(letters));
};

/** It can be said, and nobody has taken it over yet. */
export const canBeTaken = (row: CrossRow) => row.unsaid === null && row.entry === null;

/** How many measured looks could lie nearer by a fit that nobody looked for yet. */
export const notFitted = (view: CrossingView) => view.rows.filter((r) => r.moved && !r.moved.isFitted).length;

const reachOf = (rows: CrossRow[], limit: number, materials: ReadonlySet<string>) => ({
  within: rows.filter((r) => canBeTaken(r) && r.moved !== null && r.moved.mean <= limit),
  focus: rows.filter((r) => canBeTaken(r) && materials.has(r.material)),
});

function Nothing({ view }: { view: CrossingView }) {
  return (
    <div className="max-w-[84ch] px-7 pt-3 text-soft">
      {view.there > 0 && <p>{many(view.there, 'material is', 'materials are')} of this shading model already.</p>}
      {view.stay.length > 0 && (
        <p>
          {many(view.stay.length, 'material has', 'materials have')} no surface whose model can be carried:{' '}
          {view.stay.slice(0, 12).join(', ')}
          {view.stay.length > 12 && ` and ${String(view.stay.length - 12)} more`}.
        </p>
      )}
    </div>
  );
}
