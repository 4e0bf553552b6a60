import clsx from 'clsx';
import type { SceneSummary, WorkItem } from '../../api/client';
import { useCancel } from '../../api/queries';
import { count, dayOf, when } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { MidCut } from '../../parts/MidCut';
import { isOpen } from '../../parts/WorkLine';
import { useFocus } from '../../state/focus';
import type { Sending } from './useUpload';

interface ArrivalsListProps {
  /** Undefined while they are asked for. */
  scenes: SceneSummary[] | undefined;
  work: WorkItem[];
  sending: Sending | undefined;
  picked: string | undefined;
  onPick: (id: string) => void;
  onEnter: (id: string) => void;
}

const columns = 'grid grid-cols-[minmax(0,1fr)_88px_72px] gap-x-2';

/** Every scene on one thread, newest first, with what is arriving above. */
export function ArrivalsList({ scenes, work, sending, picked, onPick, onEnter }: ArrivalsListProps) {
  const find = useFocus((s) => s.find).toLowerCase();
  const shown = (scenes ?? []).filter((s) => `${s.name} ${s.source} ${s.format}`.toLowerCase().includes(find));
  const arriving = work.filter((w) => w.kind === 'arrive' && isOpen(w));
  const failed = work.filter((w) => w.kind === 'arrive' && w.state === 'failed').slice(0, 3);
  const onKeyDown = (e: React.KeyboardEvent) => {
    const at = shown.findIndex((s) => s.id === picked);
    const by = { ArrowDown: 1, j: 1, ArrowUp: -1, k: -1 }[e.key];
    const next = by === undefined ? undefined : shown[at + by];
    if (next) {
      onPick(next.id);
      document.getElementById(`scene-${next.id}`)?.focus();
    } else if (e.key === 'Enter' && picked) onEnter(picked);
    else return;
    e.preventDefault();
  };

  return (
    <div className="relative min-h-0 flex-1 overflow-y-auto pb-2" onKeyDown={onKeyDown}>
      <span className="absolute bottom-2 left-[6px] top-0 border-l-2 border-ink" aria-hidden="true" />
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
        <div key={w.id} className="relative py-1.5 pl-[26px]">
          <Bead broken />
          <code className="text-[13px]">{w.title.replace(/^(Open|Bring in) /, '')}</code>
          <p className="flex gap-1.5 text-[12px] leading-4 text-clay">
            <Glyph name="damaged" />
            <span>{w.error}</span>
          </p>
        </div>
      ))}
      {shown.map((scene, i) => (
        <div key={scene.id}>
          {(i === 0 || dayOf(scene.arrivedAt) !== dayOf(shown[i - 1]?.arrivedAt ?? '')) && (
            <div className={`${columns} pb-1 pl-[26px] pr-2 pt-3 text-[12px] text-quiet`}>
              <span className="relative z-10 bg-ground">{dayOf(scene.arrivedAt)}</span>
              {i === 0 && (
                <>
                  <span className="text-right">unanswered</span>
                  <span className="text-right">edits</span>
                </>
              )}
            </div>
          )}
          <SceneRow
            scene={scene}
            picked={scene.id === picked}
            onPick={() => onPick(scene.id)}
            onEnter={() => onEnter(scene.id)}
          />
        </div>
      ))}
      {scenes && shown.length === 0 && arriving.length === 0 && !sending && (
        <p className="pl-[26px] pt-6 text-quiet">
          {find
            ? `No scene is called “${find}”.`
            : 'Nothing has arrived. A scene opened from a server folder is read where it lies; a dropped one is kept in the store.'}
        </p>
      )}
    </div>
  );
}

const Bead = ({ broken = false }: { broken?: boolean }) => (
  <span
    aria-hidden="true"
    className={`absolute left-[2px] top-3 size-[10px] rounded-full ${broken ? 'border-[1.5px] border-clay bg-ground' : 'bg-ink'}`}
  />
);

function SceneRow({
  scene,
  picked,
  onPick,
  onEnter,
}: {
  scene: SceneSummary;
  picked: boolean;
  onPick: () => void;
  onEnter: () => void;
}) {
  const edits = scene.applied + scene.pending;
  return (
    <button
      type="button"
      id={`scene-${scene.id}`}
      aria-current={picked || undefined}
      className={`relative block w-full py-1.5 pl-[26px] pr-2 text-left ${picked ? 'bg-held' : 'hover:bg-raise'}`}
      onClick={onPick}
      onDoubleClick={onEnter}
    >
      <Bead />
      <span className={columns}>
        <span className="flex min-w-0 items-baseline">
          <MidCut text={scene.name} className={`mono text-[13.5px] ${picked ? 'font-semibold' : ''}`} />
          <span className="ml-2 flex-none text-[12px] text-soft">v{scene.version}</span>
        </span>
        <span className={`mono text-right text-[12.5px] ${scene.unanswered === 0 ? 'text-quiet' : ''}`}>
          {count(scene.unanswered)}
        </span>
        <span className={`mono text-right text-[12.5px] ${edits === 0 ? 'text-quiet' : ''}`}>
          {count(edits)}
          {scene.pending > 0 && <span className="sr-only">, {count(scene.pending)} pending</span>}
        </span>
      </span>
      <span className="block truncate text-[12px] leading-4 text-quiet">
        {scene.format}, from {scene.source}, {when(scene.arrivedAt)}
      </span>
    </button>
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
      <div className={columns}>
        <code className="truncate text-[13px]">{name}</code>
        <span className="mono text-right text-quiet">–</span>
        <span className="mono text-right text-quiet">–</span>
      </div>
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
