import clsx from 'clsx';
import type { CrossedView, CrossingRoute, CrossRow } from '../../api/client';
import { PairOnField } from '../../parts/compare/PairOnField';
import { lights, useSettings } from '../../state/settings';
import { useTouched } from '../../state/touched';
import { setOf, useSets } from './sets';

interface LooksProps {
  sceneId: string;
  to: string;
  route: CrossingRoute;
  fit: boolean;
  row: CrossRow;
  view: CrossedView | undefined;
  limit: number;
}

/** Arrived and crossed under one wipe, where they lie apart, and by how much; on the field, to the window's edge. */
export function Looks({ sceneId, to, route, fit, row, view, limit }: LooksProps) {
  const light = useSettings((s) => s.light);
  const looks = useTouched((s) => s.looks[sceneId] ?? 0);
  const sets = useSets((s) => s.sets);
  const at = `/api/scenes/${sceneId}/crossing/${encodeURIComponent(row.material)}`;
  const addresses = (side: number) => {
    const query = new URLSearchParams({ to, route, light, side: String(side) });
    if (fit) query.set('fit', 'true');
    if (looks > 0) query.set('touched', String(looks));
    for (const s of setOf(sets, sceneId, to, row.material)) query.append('set', `${s.input}=${s.numbers.join()}`);
    return {
      before: `${at}/swatch?look=arrived&${query}`,
      after: `${at}/swatch?${query}`,
      apart: `${at}/apart?${query}`,
      stem: `${at}/`,
    };
  };
  return (
    <PairOnField
      of={row.material}
      addresses={addresses}
      names={['arrived', 'crossed']}
      limit={limit}
      aside={<Lit view={view} />}
      more={
        row.moved && (
          <div className="ml-auto text-right text-[12px] leading-4">
            <dt>under three lights</dt>
            <dd className="mono">
              {row.moved.mean.toFixed(1)} · {row.moved.high.toFixed(1)} · {row.moved.most.toFixed(1)}
            </dd>
          </div>
        )
      }
    />
  );
}

/** The light that both are under, each with how far the look moves there. */
function Lit({ view }: { view: CrossedView | undefined }) {
  const { light, set } = useSettings();
  return (
    <div className="flex gap-3 text-[12px]" role="group" aria-label="Light">
      {lights.map((l) => {
        const lit = view?.lights.find((x) => x.light === l);
        return (
          <button
            key={l}
            type="button"
            aria-pressed={l === light}
            onClick={() => set({ light: l })}
            className={clsx('text-white', l === light && 'font-[720] underline underline-offset-4')}
          >
            {l} {lit && <span className="mono text-[11.5px]">{lit.difference.mean.toFixed(1)}</span>}
          </button>
        );
      })}
      <kbd className="!border-white !text-white">H</kbd>
    </div>
  );
}
