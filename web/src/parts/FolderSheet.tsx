import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { FolderEntry } from '../api/client';
import { useFolder } from '../api/queries';
import { bytes, when } from './format';

interface FolderSheetProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** What can be taken: a scene, a folder, or any file. */
  takes: 'scene' | 'folder' | 'file';
  /** Verb of the button that takes. */
  verb: string;
  onTake: (path: string) => void;
}

/** Browses the server folders. It shows only what lies inside those that the settings list. */
export function FolderSheet({ open, onOpenChange, title, takes, verb, onTake }: FolderSheetProps) {
  const [path, setPath] = useState('');
  const [picked, setPicked] = useState<string>();
  const folder = useFolder(path, open);
  const parent = folder.data?.parent ?? null;
  const entries = folder.data?.entries.filter((e) => e.kind === 'folder' || takes === 'file' || e.kind === takes) ?? [];
  const target = takes === 'folder' ? path || undefined : picked;

  const go = (to: string) => {
    setPath(to);
    setPicked(undefined);
  };
  const take = (which: string) => {
    onTake(which);
    onOpenChange(false);
  };
  const activate = (entry: FolderEntry) => (entry.kind === 'folder' ? go(entry.path) : take(entry.path));

  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet w-[680px]" aria-describedby={undefined}>
          <div className="flex items-baseline gap-3">
            <Dialog.Title className="text-[17px] font-[680]">{title}</Dialog.Title>
            <code className="flex-1 truncate text-right text-[11.5px] text-quiet" title={path}>
              {folder.data?.name}
            </code>
          </div>
          <div
            className="mt-2 min-h-[300px] flex-1 overflow-y-auto border-y border-hair py-1"
            role="listbox"
            aria-label={title}
          >
            {parent !== null && (
              <Row
                name=".."
                kind="folder"
                note="up"
                picked={false}
                onPick={() => go(parent)}
                onOpen={() => go(parent)}
              />
            )}
            {entries.map((entry) => (
              <Row
                key={entry.path}
                name={entry.name}
                kind={entry.kind}
                note={
                  entry.kind === 'folder'
                    ? ''
                    : `${bytes(entry.bytes)}${entry.modifiedAt ? `, ${when(entry.modifiedAt)}` : ''}`
                }
                picked={picked === entry.path}
                onPick={() => (entry.kind === 'folder' ? go(entry.path) : setPicked(entry.path))}
                onOpen={() => activate(entry)}
              />
            ))}
            {folder.isError && <p className="p-2 text-clay">{folder.error.message}</p>}
            {folder.data && entries.length === 0 && (
              <p className="p-2 text-quiet">
                {takes === 'scene' ? 'No scene and no folder in here.' : 'No folder in here.'}
              </p>
            )}
          </div>
          <div className="mt-3 flex items-center justify-end gap-5">
            <span className="flex-1 truncate text-[12px] text-quiet">
              {takes !== 'folder'
                ? 'Nothing is copied; it is read where it lies.'
                : target
                  ? `${folder.data?.name ?? 'It'} is searched with all its subfolders.`
                  : 'Step into the folder to search.'}
            </span>
            <Dialog.Close className="act soft">
              Close <kbd>Esc</kbd>
            </Dialog.Close>
            <button type="button" className="key" disabled={!target} onClick={() => target && take(target)}>
              {verb}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface RowProps {
  name: string;
  kind: string;
  note: string;
  picked: boolean;
  onPick: () => void;
  onOpen: () => void;
}

function Row({ name, kind, note, picked, onPick, onOpen }: RowProps) {
  return (
    <button
      type="button"
      role="option"
      aria-selected={picked}
      className={`flex h-6 w-full items-center gap-3 px-2 text-left ${picked ? 'bg-held' : 'hover:bg-raise'}`}
      onClick={onPick}
      onDoubleClick={onOpen}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault();
          onOpen();
        }
        const next =
          e.key === 'ArrowDown' ? 'nextElementSibling' : e.key === 'ArrowUp' ? 'previousElementSibling' : undefined;
        if (!next) return;
        e.preventDefault();
        (e.currentTarget[next] as HTMLElement | null)?.focus();
      }}
    >
      <code className={`flex-1 truncate text-[12px] ${kind === 'folder' ? 'text-soft' : ''}`}>
        {name}
        {kind === 'folder' && name !== '..' ? '/' : ''}
      </code>
      <span className="text-[11.5px] text-quiet">{note}</span>
    </button>
  );
}
