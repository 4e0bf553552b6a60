import clsx from 'clsx';
import type { CrossedView, MappingItem } from '../../api/client';
import { count } from '../../parts/format';
import { MidCut } from '../../parts/MidCut';
import { Override } from './Override';
import { Rung } from './Rung';
import { setOf, useSets } from './sets';

/** Inputs of one model on the left rail, of the other on the right one, and what lies between; unusual rows first. */
export function Ladder({ sceneId, to, view }: { sceneId: string; to: string; view: CrossedView }) {
  const { sets, set } = useSets();
  const own = setOf(sets, sceneId, to, view.row.material);
  const { exact, approximate, lost } = view.row;
  return (
    <section className="flex min-h-0 flex-col" aria-label={`What becomes of ${view.row.material}`}>
      <header className="grid flex-none grid-cols-[minmax(0,26%)_minmax(0,1fr)_minmax(0,30%)] items-baseline pb-1.5 text-[12.5px]">
        <h2 className="truncate pr-3 text-right font-[680]">{view.fromName}</h2>
        <p className="flex flex-wrap justify-center gap-x-3 text-quiet">
          <span>exact {count(exact)}</span>
          <span>approximate {count(approximate)}</span>
          <span className={clsx(lost > 0 && 'text-clay')}>lost {count(lost)}</span>
        </p>
        <h2 className="truncate pl-3 font-[680]">{view.toName}</h2>
      </header>
      <ul className="min-h-0 flex-1 overflow-y-auto pr-1">
        {view.mappings.map((m) => (
          <Row
            key={`${m.from.join()} ${m.to} ${m.detail}`}
            mapping={m}
            set={own.find((s) => s.input === m.to)?.numbers}
            onSet={(numbers) => set(sceneId, to, view.row.material, m.to, numbers)}
          />
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  mapping: MappingItem;
  /** Numbers that were given in place of the formula. */
  set: number[] | undefined;
  onSet: (numbers: number[] | null) => void;
}

function Row({ mapping: m, set, onSet }: RowProps) {
  const isLost = m.kind === 'lost';
  const isUnusual = m.kind !== 'exact' || m.isClamped;
  return (
    <li className="grid min-h-[38px] grid-cols-[minmax(0,26%)_minmax(0,1fr)_minmax(0,30%)] text-[12.5px] leading-[15px]">
      <div className="grid content-center border-r-2 border-ink pr-3 text-right">
        <span className={clsx('truncate', isUnusual && 'font-[680]')} title={m.from.join(', ')}>
          {m.from.length > 0 ? m.from.join(', ') : <span className="text-quiet">its default</span>}
        </span>
        <code className="min-w-0 text-[11.5px] text-quiet" title={m.before}>
          <MidCut text={m.before} className="justify-end" />
        </code>
      </div>
      <Rung kind={set ? 'set' : m.kind} detail={set ? 'set by hand' : m.detail} isClamped={m.isClamped} />
      <div className={clsx('grid content-center pl-3', !isLost && 'border-l-2 border-ink')}>
        {!isLost && (
          <>
            <span className={clsx('truncate', isUnusual && 'font-[680]')} title={m.to}>
              {m.to}
            </span>
            <Override mapping={m} set={set} onSet={onSet} />
          </>
        )}
      </div>
    </li>
  );
}
