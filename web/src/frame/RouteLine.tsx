import clsx from 'clsx';
import { Link } from 'react-router';
import type { AuditView, MusterView, SceneDetail, SendOffView } from '../api/client';
import { count } from '../parts/format';
import { Hint } from '../parts/Hint';
import { stages, stationAt, type StageName } from './stages';

interface RouteLineProps {
  here: StageName;
  scene: SceneDetail | undefined;
  muster: MusterView | undefined;
  sendOff: SendOffView | undefined;
  audit: AuditView | undefined;
  /** What is open here, where only the stage knows. */
  openHere: number | undefined;
}

/** The journey of the scene: stations with their open counts, white where travelled, dotted ahead. */
export function RouteLine({ here, scene, muster, sendOff, audit, openHere }: RouteLineProps) {
  const index = stages.findIndex((s) => s.name === here);
  const open: Partial<Record<StageName, number>> = {};
  if (scene) open.Arrivals = scene.notes.length;
  if (muster) open.Muster = muster.references.length - muster.answering;
  if (audit) open.Findings = audit.findings;
  if (sendOff) open['Send-off'] = sendOff.unresolved.length;
  if (openHere !== undefined) open[here] = openHere;
  return (
    <header className="absolute inset-x-0 top-0 h-28">
      <div className="absolute left-7 h-0.5 bg-ink" style={{ top: 46, width: `calc(${stationAt(index)} - 28px)` }} />
      <div
        className="absolute right-7 border-t-[1.5px] border-dotted border-rule"
        style={{ top: 46.5, left: stationAt(index) }}
      />
      <span className="absolute left-6 top-[43px] size-2 rounded-full bg-ink" />
      <span className="absolute right-7 top-[41px] h-3 w-0.5 bg-quiet" />
      {/* The thread: down from the station into the focus line. */}
      <div
        className="absolute border-r-2 border-b-2 border-ink"
        style={{
          left: 74,
          right: `calc(100% - ${stationAt(index)} - 1px)`,
          top: 58,
          height: 37,
          borderBottomRightRadius: 14,
        }}
      />
      <div className="absolute left-7 top-[9px] grid max-w-[200px] leading-[15px]">
        <b className="text-[12px] font-extrabold tracking-[.01em]">Root Call</b>
        <code className="truncate text-[11.5px] text-soft">{scene?.name ?? 'no scene picked'}</code>
      </div>
      <div className="absolute left-7 top-[56px] bg-ground pr-2 text-[11px] leading-[14px] text-quiet">
        {scene?.format}
      </div>
      <div className="absolute right-7 top-[19px] max-w-40 truncate font-medium leading-[15px] text-soft">
        {audit && audit.destination.id !== 'plain' ? audit.destination.name : 'Package'}
      </div>
      <div className="absolute right-7 top-[55px] max-w-44 truncate bg-ground pl-2 text-[11px] leading-[14px] text-quiet">
        {audit && audit.destination.id !== 'plain'
          ? [audit.destination.models, audit.destination.limit].filter(Boolean).join(', ')
          : 'folder or zip, BagIt'}
      </div>
      <nav aria-label="Stages">
        {stages.map((stage, i) => (
          <Station
            key={stage.name}
            name={stage.name}
            left={stationAt(i)}
            state={i === index ? 'here' : i < index ? 'travelled' : 'ahead'}
            open={open[stage.name]}
            unproven={stage.name === 'Findings' && audit?.isCovered === false}
            to={scene || stage.path === 'arrivals' ? `/${stage.path}/${scene?.id ?? ''}` : undefined}
          />
        ))}
      </nav>
    </header>
  );
}

interface StationProps {
  name: string;
  left: string;
  state: 'here' | 'travelled' | 'ahead';
  open: number | undefined;
  /** Nothing was found, and not everything was looked at: its disc stays open. */
  unproven: boolean;
  to: string | undefined;
}

function Station({ name, left, state, open, unproven, to }: StationProps) {
  const here = state === 'here';
  const mark = (
    <>
      <span
        className={clsx(
          'absolute left-1/2 -translate-x-1/2 whitespace-nowrap',
          here ? 'top-[14px] text-[16px] font-[750] text-ink' : 'top-[17px] text-[13px] leading-4 text-soft',
        )}
      >
        {name}
      </span>
      <Mark
        here={here}
        unproven={unproven && open === 0}
        open={open}
        reached={state !== 'ahead' && !unproven}
        clear={open === 0 && !unproven}
      />
    </>
  );
  const place = 'absolute top-0 block h-16 w-24 -translate-x-1/2';
  if (to)
    return (
      <Link to={to} className={place} style={{ left }} aria-current={here ? 'page' : undefined}>
        {mark}
        {open !== undefined && <span className="sr-only">, {count(open)} open</span>}
      </Link>
    );
  return (
    <Hint text="Pick a scene in Arrivals first.">
      <span className={place} style={{ left }} aria-disabled="true" role="link" tabIndex={0}>
        {mark}
      </span>
    </Hint>
  );
}

function Mark({
  here,
  unproven,
  open,
  reached,
  clear,
}: {
  here: boolean;
  unproven: boolean;
  open: number | undefined;
  reached: boolean;
  clear: boolean;
}) {
  if (here)
    return (
      <span
        className={clsx(
          'mono absolute left-1/2 top-[35px] h-6 min-w-7 -translate-x-1/2 rounded-xl px-2.5',
          'text-center text-[13px] font-bold',
          unproven ? 'border-2 border-ink bg-ground leading-5 text-ink' : 'bg-ink leading-6 text-[#111]',
        )}
      >
        {open === undefined ? '–' : count(open)}
      </span>
    );
  if (open !== undefined && open > 0)
    return (
      <span
        className={clsx(
          'mono absolute left-1/2 top-[37px] h-5 min-w-7 -translate-x-1/2 rounded-[10px] border border-rule bg-ground',
          'px-[7px] text-center text-[11.5px] font-medium leading-[18px] text-soft',
        )}
      >
        {count(open)}
      </span>
    );
  return (
    <span
      className={clsx(
        'absolute left-1/2 top-[43px] size-2 -translate-x-1/2 rounded-full shadow-[0_0_0_4px_var(--rc-ground)]',
        reached || clear ? 'bg-ink' : 'border-[1.5px] border-quiet bg-ground',
      )}
    />
  );
}
