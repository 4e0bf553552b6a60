import { Dialog } from 'radix-ui';
import { useDeferredValue, useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { FolderEntry } from '../../api/client';
import { useFolder, useFoundBelow, useRecent } from '../../api/folders';
import { many } from '../format';
import { Crumbs } from './Crumbs';
import { EntryRow } from './EntryRow';
import { ScenePreview } from './ScenePreview';

interface FolderSheetProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** What can be taken: scenes, several at once; a folder; or any file. */
  takes: 'scene' | 'folder' | 'file';
  /** Verb of the button that takes. */
  verb: string;
  onTake: (paths: string[]) => void;
}

/** Browses the server folders. It shows only what lies inside those that the settings list. */
export function FolderSheet(props: FolderSheetProps) {
  const { open, onOpenChange, title, takes } = props;
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content
          className={`sheet ${takes === 'scene' ? 'w-[960px]' : 'w-[680px]'}`}
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-[17px] font-[680]">{title}</Dialog.Title>
          <Browser {...props} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Browser({ open, onOpenChange, title, takes, verb, onTake }: FolderSheetProps) {
  const [path, setPath] = useState('');
  const [picked, setPicked] = useState<string[]>([]);
  const [text, setText] = useState('');
  const letters = useDeferredValue(text);
  const folder = useFolder(path, open);
  const found = useFoundBelow(path, letters);
  const lately = useRecent(open && takes === 'scene').data;
  const recent = path === '' ? lately : undefined;
  const finding = letters.trim().length > 1;
  const fits = (e: FolderEntry) => e.kind === 'folder' || takes === 'file' || e.kind === takes;
  const entries = ((finding ? found.data : folder.data?.entries) ?? []).filter(fits);
  const target = takes === 'folder' ? (path === '' ? [] : [path]) : picked;

  const go = (to: string) => {
    setPath(to);
    setPicked([]);
    setText('');
  };
  useHotkeys('backspace', () => folder.data?.parent != null && go(folder.data.parent), { enabled: open });
  const take = (which: string[]) => {
    onTake(which);
    onOpenChange(false);
  };
  const activate = (entry: FolderEntry) => (entry.kind === 'folder' ? go(entry.path) : take([entry.path]));
  const pick = (entry: FolderEntry, add: boolean) => {
    if (entry.kind === 'folder') go(entry.path);
    else if (!add || takes !== 'scene') setPicked([entry.path]);
    else setPicked((now) => (now.includes(entry.path) ? now.filter((p) => p !== entry.path) : [...now, entry.path]));
  };
  const row = (entry: FolderEntry) => (
    <EntryRow
      key={entry.path}
      entry={entry}
      picked={picked.includes(entry.path)}
      several={takes === 'scene'}
      onPick={(add) => pick(entry, add)}
      onOpen={() => activate(entry)}
    />
  );

  return (
    <>
      <div className="mt-1 flex items-center gap-4">
        <Crumbs crumbs={folder.data?.crumbs ?? []} onGo={go} />
        <input
          type="search"
          aria-label="Find by name"
          placeholder={path === '' ? 'find in all folders' : 'find in here and below'}
          className="w-56 flex-none border-b border-rule bg-transparent py-0.5 text-[12.5px] outline-none focus:border-lichen"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </div>
      <div
        className={`mt-2 grid min-h-[340px] flex-1 border-y border-hair ${takes === 'scene' ? 'grid-cols-[minmax(0,1fr)_320px]' : ''}`}
      >
        <div className="min-h-0 overflow-y-auto py-1">
          {!finding && recent && recent.scenes.length > 0 && (
            <>
              <h3 className="px-2 pt-1 text-[12px] text-quiet">opened lately</h3>
              <Rows label="Opened lately" several={takes === 'scene'}>
                {recent.scenes.map(row)}
              </Rows>
              <h3 className="px-2 pt-2 text-[12px] text-quiet">folders of this server</h3>
            </>
          )}
          {entries.length > 0 && (
            <Rows label={title} several={takes === 'scene'}>
              {entries.map(row)}
            </Rows>
          )}
          {folder.isError && <p className="p-2 text-clay">{folder.error.message}</p>}
          {folder.data && entries.length === 0 && (
            <p className="p-2 text-quiet">
              {finding
                ? `Nothing below here has “${letters}” in its name.`
                : takes === 'scene'
                  ? 'No scene and no folder in here.'
                  : 'No folder in here.'}
            </p>
          )}
          {path === '' && !finding && (
            <p className="max-w-[62ch] px-2 pt-3 text-[12px] leading-4 text-quiet">
              Root Call reads nothing outside these folders. To add one, start it with{' '}
              <code className="text-[11.5px] text-soft">./rootcall up --folder NAME=PATH</code>; it is remembered. Or
              drop files into the window.
            </p>
          )}
        </div>
        {takes === 'scene' && <ScenePreview path={picked.at(-1)} />}
      </div>
      <div className="mt-3 flex items-center justify-end gap-5">
        <span className="flex-1 truncate text-[12px] text-quiet">
          {takes === 'scene'
            ? 'Nothing is copied; it is read where it lies. Space or Ctrl adds another scene.'
            : takes === 'file'
              ? 'Nothing is copied; it is read where it lies.'
              : target.length > 0
                ? `${folder.data?.name ?? 'It'} is searched with all its subfolders.`
                : 'Step into the folder to search.'}
        </span>
        <Dialog.Close className="act soft">
          Close <kbd>Esc</kbd>
        </Dialog.Close>
        <button type="button" className="key" disabled={target.length === 0} onClick={() => take(target)}>
          {target.length > 1 ? `Open ${many(target.length, 'scene')}` : verb}
        </button>
      </div>
    </>
  );
}

function Rows({ label, several, children }: { label: string; several: boolean; children: ReactNode }) {
  return (
    <div role="listbox" aria-label={label} aria-multiselectable={several}>
      {children}
    </div>
  );
}
