import clsx from 'clsx';
import type { FolderEntry } from '../../api/client';
import { bytes, when } from '../format';
import { MidCut } from '../MidCut';

interface EntryRowProps {
  entry: FolderEntry;
  picked: boolean;
  /** Several can be picked. */
  several: boolean;
  /** @param add To those that are picked already. */
  onPick: (add: boolean) => void;
  onOpen: () => void;
}

/** A folder, a scene or a file: what it is, how large, from when. */
export function EntryRow({ entry, picked, several, onPick, onOpen }: EntryRowProps) {
  const folder = entry.kind === 'folder';
  const note = folder
    ? ''
    : [entry.format, bytes(entry.bytes), entry.modifiedAt && when(entry.modifiedAt)].filter(Boolean).join(', ');
  return (
    <button
      type="button"
      role="option"
      aria-selected={picked}
      className={clsx(
        'grid min-h-6 w-full grid-cols-[minmax(0,5fr)_minmax(0,4fr)_188px] items-baseline gap-3 px-2 text-left',
        picked ? 'bg-held' : 'hover:bg-raise',
      )}
      onClick={(e) => onPick(e.ctrlKey || e.metaKey || e.shiftKey)}
      onDoubleClick={onOpen}
      onKeyDown={(e) => {
        const act = { Enter: onOpen, ' ': () => onPick(several) }[e.key];
        const next =
          e.key === 'ArrowDown' ? 'nextElementSibling' : e.key === 'ArrowUp' ? 'previousElementSibling' : undefined;
        if (!act && !next) return;
        e.preventDefault();
        act?.();
        if (next) (e.currentTarget[next] as HTMLElement | null)?.focus();
      }}
    >
      <MidCut
        text={folder ? `${entry.name}/` : entry.name}
        className={`mono text-[12px] ${folder ? 'text-soft' : ''}`}
      />
      {entry.where === null ? <span /> : <MidCut text={entry.where} className="text-[11.5px] text-quiet" />}
      <span className="truncate text-right text-[11.5px] text-quiet">{note}</span>
    </button>
  );
}
