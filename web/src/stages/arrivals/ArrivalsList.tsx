import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useDeferredValue, useEffect, useMemo, useRef } from 'react';
import type { FoundScene, SceneSummary, WorkItem } from '../../api/client';
import { useCancel } from '../../api/queries';
import { useForgetWork, useFound } from '../../api/shelf';
import { count, when } from '../../parts/format';
import { useKey } from '../../frame/keys';
import { Check } from '../../parts/Check';
import { Glyph } from '../../parts/Glyph';
import { MidCut } from '../../parts/MidCut';
import { isOpen } from '../../parts/WorkLine';
import { useFocus } from '../../state/focus';
import { useSettings } from '../../state/settings';
import { arranged, type Row } from './shelf';
import { ShelfBar } from './ShelfBar';
import type { Sending } from '../../api/useUpload';

interface ArrivalsListProps {
  /** Undefined while they are asked for. */
  scenes: SceneSummary[] | undefined;
  work: WorkItem[];
  sending: Sending | undefined;
  picked: string | undefined;
  /** Scenes that something is to be done with together. */
  together: ReadonlySet<string>;
  onTogether: (id: string) => void;
  onDecideTogether: () => void;
  onPick: (id: string) => void;
  onEnter: (id: string) => void;
}

const columns = 'grid grid-cols-[minmax(0,1fr)_34px_34px_70px] gap-x-2';

/** Every scene on one thread, with what is arriving above. */
export function ArrivalsList(props: ArrivalsListProps) {
  const { scenes, work, sending, picked, together, onTogether, onPick, onEnter } = props;
  const find = useDeferredValue(useFocus((s) => s.find));
  const found = useFound(find).data;
  const { shelfSort, shelfShow } = useSettings();
  const rows = useMemo(
    () => arranged(scenes ?? [], { find, found: found ?? [], sort: shelfSort, show: shelfShow }),
    [scenes, find, found, shelfSort, shelfShow],
  );
  const shown = useMemo(() => rows.flatMap((r) => (r.kind === 'scene' ? [r.scene] : [])), [rows]);
  const arriving = work.filter((w) => w.kind === 'arrive' && isOpen(w));
  const failed = work.filter((w) => w.kind === 'arrive' && w.state === 'failed').slice(0, 3);
  const scroller = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (rows[i]?.kind === 'day' ? 28 : 45),
    getItemKey: (i) => keyOf(rows[i]),
    overscan: 10,
  });
  const at = rows.findIndex((r) => r.kind === 'scene' && r.scene.id === picked);
  useEffect(() => {
    if (at >= 0) list.scrollToIndex(at, { align: 'auto' });
  }, [at, list]);
  // Also when the row that had the keyboard was redrawn, and nothing has it; what opened above has its own arrows.
  const move = (by: number) => {
    if (document.activeElement?.closest('[role="dialog"], [role^="menu"], [role="listbox"]')) return;
    const next = shown[shown.findIndex((s) => s.id === picked) + by];
    if (!next) return;
    onPick(next.id);
    // Its row may only come into being when the list has moved.
    requestAnimationFrame(() => document.getElementById(`scene-${next.id}`)?.focus());
  };
  useKey('j, down', () => move(1));
  useKey('k, up', () => move(-1));
  const onKeyDown = (e: React.KeyboardEvent) => {
    if (e.key === 'Enter' && picked) onEnter(picked);
    else if (e.key === ' ' && picked && (e.target as HTMLElement).role !== 'checkbox') onTogether(picked);
    else return;
    e.preventDefault();
  };

  return (
    <>
      <ShelfBar scenes={scenes ?? []} together={together.size} onTogether={props.onDecideTogether} />
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto pb-2" onKeyDown={onKeyDown}>
        {sending && (
          <Arriving
            name={sending.name}
            phase="sending"
            detail=""
            part={sending.part}
            numbers={`${Math.round(sending.part * 100)} %`}
            onStop={sending.stop}
          />
        )}
        {arriving.map((w) => (
          <WorkArriving key={w.id} item={w} />
        ))}
        {failed.map((w) => (
          <Failed key={w.id} item={w} />
        ))}
        <div className="relative" style={{ height: list.getTotalSize() }}>
          <span className="absolute bottom-0 left-[6px] top-0 border-l-2 border-ink" aria-hidden="true" />
          {list.getVirtualItems().map((v) => {
            const row = rows[v.index];
            return (
              row && (
                <div
                  key={v.key}
                  ref={list.measureElement}
                  data-index={v.index}
                  className="absolute inset-x-0"
                  style={{ transform: `translateY(${v.start}px)` }}
                >
                  {row.kind === 'day' ? (
                    <p className="pb-1 pl-[26px] pt-2 text-[12px] text-quiet">{row.day}</p>
                  ) : (
                    <SceneRow
                      scene={row.scene}
                      found={row.found}
                      picked={row.scene.id === picked}
                      together={together.has(row.scene.id)}
                      onTogether={() => onTogether(row.scene.id)}
                      onPick={() => onPick(row.scene.id)}
                      onEnter={() => onEnter(row.scene.id)}
                    />
                  )}
                </div>
              )
            );
          })}
        </div>
        {scenes && shown.length === 0 && arriving.length === 0 && !sending && (
          <p className="pl-[26px] pt-4 text-quiet">
            {find
              ? `No scene, material, image or path has “${find}” in it.`
              : scenes.length > 0
                ? 'No scene is of that kind; show all.'
                : 'Nothing has arrived. A scene opened from a server folder is read where it lies; a dropped one is kept in the store.'}
          </p>
        )}
      </div>
    </>
  );
}

const keyOf = (row: Row | undefined) => (row?.kind === 'scene' ? row.scene.id : (row?.day ?? ''));

/** What could not be used, until it is put away. */
function Failed({ item }: { item: WorkItem }) {
  const forget = useForgetWork();
  const name = item.title.replace(/^(Open|Bring in) /, '');
  return (
    <div className="relative py-1.5 pl-[26px] pr-2">
      <Bead broken />
      <div className="flex items-baseline gap-3">
        <code className="min-w-0 flex-1 truncate text-[13px]">{name}</code>
        <button
          type="button"
          className="act soft"
          aria-label={`Put away ${name}`}
          onClick={() => forget.mutate(item.id)}
        >
          Put away
        </button>
      </div>
      <p className="flex gap-1.5 text-[12px] leading-4 text-clay">
        <Glyph name="damaged" />
        <span>{item.error}</span>
      </p>
    </div>
  );
}

const Bead = ({ broken = false }: { broken?: boolean }) => (
  <span
    aria-hidden="true"
    className={`absolute left-[2px] top-3 size-[10px] rounded-full ${broken ? 'border-[1.5px] border-clay bg-ground' : 'bg-ink'}`}
  />
);

interface SceneRowProps {
  scene: SceneSummary;
  found: FoundScene | undefined;
  picked: boolean;
  together: boolean;
  onTogether: () => void;
  onPick: () => void;
  onEnter: () => void;
}

function SceneRow({ scene, found, picked, together, onTogether, onPick, onEnter }: SceneRowProps) {
  const edits = scene.applied + scene.pending;
  return (
    <div className="relative">
      <Check
        label={`Take ${scene.title} together with others`}
        on={together}
        onToggle={onTogether}
        className={clsx(
          'absolute left-0 top-[10px] z-10',
          !together && 'opacity-0 hover:opacity-100 focus-visible:opacity-100',
        )}
      />
      <button
        type="button"
        id={`scene-${scene.id}`}
        aria-current={picked || undefined}
        className={`relative block w-full py-1.5 pl-[26px] pr-2 text-left ${picked ? 'bg-held' : 'hover:bg-raise'}`}
        onClick={(e) => (e.ctrlKey || e.metaKey ? onTogether() : onPick())}
        onDoubleClick={onEnter}
      >
        <Bead />
        <span className={columns}>
          <span className="flex min-w-0 items-baseline">
            <MidCut text={scene.title} className={`mono text-[13.5px] ${picked ? 'font-semibold' : ''}`} />
            <span className="ml-2 flex-none text-[12px] text-soft">v{scene.version}</span>
          </span>
          <Number of={scene.blockers} what="block the render" telling="text-clay" />
          <Number of={scene.warnings} what="warnings" />
          <Number of={scene.unanswered} what="unanswered" />
        </span>
        <span className="flex min-w-0 gap-1 text-[12px] leading-4 text-quiet">
          {found ? (
            <>
              <span className="flex-none">{found.kind}</span>
              <MidCut text={found.name} className="mono text-[11.5px] text-soft" />
              {found.count > 1 && <span className="flex-none">and {count(found.count - 1)} more</span>}
            </>
          ) : (
            <span className="truncate">
              {scene.format}, from {scene.source}, {when(scene.arrivedAt)}
              {edits > 0 && `, ${count(edits)} ${edits === 1 ? 'edit' : 'edits'}`}
              {scene.pending > 0 && ` (${count(scene.pending)} pending)`}
            </span>
          )}
        </span>
      </button>
    </div>
  );
}

/** A dash until it is known; 0 is quiet. */
function Number({ of, what, telling = '' }: { of: number | null; what: string; telling?: string }) {
  return (
    <span className={clsx('mono text-right text-[12.5px]', of ? telling : 'text-quiet')}>
      {of === null ? '–' : count(of)}
      <span className="sr-only"> {what}</span>
    </span>
  );
}

function WorkArriving({ item }: { item: WorkItem }) {
  const cancel = useCancel();
  const numbers =
    item.total > 0 ? `${count(item.done)} of ${count(item.total)}` : item.done > 0 ? count(item.done) : '';
  return (
    <Arriving
      name={item.title.replace(/^(Open|Bring in) /, '')}
      phase={item.state === 'queued' ? 'waiting for a worker' : item.phase}
      detail={item.detail}
      part={item.total > 0 ? item.done / item.total : 0}
      numbers={numbers}
      onStop={() => cancel.mutate(item.id)}
    />
  );
}

const phases = ['sending', 'unpacking', 'keeping', 'looking in the roots', 'reading', 'mustering'];

interface ArrivingProps {
  name: string;
  phase: string;
  detail: string;
  part: number;
  numbers: string;
  onStop: () => void;
}

/** A scene that is on its way: its phases as a small route. */
function Arriving({ name, phase, detail, part, numbers, onStop }: ArrivingProps) {
  const at = Math.max(0, phases.indexOf(phase));
  return (
    <div className="relative py-1.5 pl-[26px] pr-2" role="status">
      <span
        className={clsx(
          'absolute left-[2px] top-3 size-[10px] rounded-full border-[1.5px] border-ink',
          'bg-[linear-gradient(90deg,var(--rc-ink)_50%,var(--rc-ground)_50%)]',
        )}
        aria-hidden="true"
      />
      <code className="block truncate text-[13px]">{name}</code>
      <div className="flex items-baseline gap-3">
        <span className="flex-1 truncate text-[12px] text-soft">
          {[phase, numbers].filter(Boolean).join(' ')}
          {detail && <code className="text-[11.5px] text-quiet">, {detail}</code>}
        </span>
        <button type="button" className="act" onClick={onStop}>
          Stop
        </button>
      </div>
      <div className="relative mt-1 h-2">
        <span className="absolute inset-x-0 top-[3px] border-t-[1.5px] border-dotted border-rule" />
        <span
          className="absolute left-0 top-[3px] border-t-2 border-ink"
          style={{ width: `${((at + part) / (phases.length - 1)) * 100}%`, maxWidth: '100%' }}
        />
      </div>
    </div>
  );
}
