import { useCancel } from '../api/queries';
import type { WorkItem } from '../api/client';
import { count } from './format';

export const isOpen = (item: WorkItem) => item.state === 'queued' || item.state === 'running';

/** A task that goes on: its own line fills from the left, with what it is doing and Stop. */
export function WorkLine({ item, verb }: { item: WorkItem; verb: string }) {
  const cancel = useCancel();
  const part = item.total > 0 ? item.done / item.total : 0;
  const numbers =
    item.total > 0 ? `${count(item.done)} of ${count(item.total)}` : item.done > 0 ? count(item.done) : '';
  const doing = [item.state === 'queued' ? 'waits for a worker' : item.phase, numbers].filter(Boolean).join(' ');
  return (
    <div className="min-w-60" role="status" aria-label={verb}>
      <div className="flex items-baseline gap-3">
        <span className="flex-1 truncate text-[12.5px] text-soft">
          {doing || 'starts'}
          {item.detail && <code className="text-[11.5px] text-quiet">, {item.detail}</code>}
        </span>
        <button type="button" className="act" onClick={() => cancel.mutate(item.id)}>
          Stop
        </button>
      </div>
      <div className="mt-1 h-0.5 bg-hair">
        <div
          className="h-0.5 bg-ink transition-[width] duration-200"
          style={{ width: `${Math.max(2, part * 100)}%` }}
        />
      </div>
    </div>
  );
}
