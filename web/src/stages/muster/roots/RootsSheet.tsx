import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { MusterView, RootDetail } from '../../../api/client';
import type { Dropped } from '../../../api/upload';
import { useRemoveRoot, useRootActs, useRoots, useSearch, useWork } from '../../../api/queries';
import { count, many, when } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';
import { PickFiles } from '../../../parts/PickFiles';
import { isOpen, WorkLine } from '../../../parts/WorkLine';
import { AddedTextures } from '../../../parts/AddedTextures';
import { NamesEditor } from './NamesEditor';

interface RootsSheetProps {
  sceneId: string;
  muster: MusterView;
  onAdd: () => void;
  /** Textures from the computer that the browser runs on. */
  onFiles: (files: Dropped[]) => void;
  onClose: () => void;
}

const grid = 'grid grid-cols-[64px_170px_minmax(0,1fr)_150px_230px_170px] items-center gap-x-4';

/** Where Root Call looks: the roots in their order, how old what it knows of each is, and the words it reads names by. */
export function RootsSheet({ sceneId, muster, onAdd, onFiles, onClose }: RootsSheetProps) {
  const roots = useRoots().data ?? [];
  const search = useSearch(sceneId);
  const [words, setWords] = useState(false);
  const among = `${count(muster.filesIndexed)} files, ${when(muster.musteredAt)}`;
  return (
    <RisingSheet
      open
      onOpenChange={onClose}
      title={words ? 'Words of texture names' : many(roots.length, 'root')}
      about={
        words
          ? 'A studio’s own spellings. Every spelling is one word in lower case; it means one thing.'
          : `Nothing in a root is ever changed, but in one for output. This scene was mustered among ${among}.`
      }
      aside={
        <button type="button" className="act" onClick={() => setWords(!words)}>
          {words ? 'The roots' : 'Words of texture names'}
        </button>
      }
    >
      {words ? (
        <NamesEditor onSaved={() => search.mutate(undefined)} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col">
          <div className={`${grid} h-5 text-[11.5px] text-quiet`}>
            <span>Order</span>
            <span>Name</span>
            <span>Folder</span>
            <span>For</span>
            <span>Index</span>
            <span />
          </div>
          <ul className="min-h-0 flex-1 overflow-y-auto">
            {roots.map((root) => (
              <Root key={root.id} root={root} last={root.position === roots.length} sceneId={sceneId} />
            ))}
            <li>
              <AddedTextures sceneId={sceneId} />
            </li>
          </ul>
          <div className="flex gap-5 pt-2">
            <button type="button" className="key" onClick={onAdd}>
              Add a root
            </button>
            <button type="button" className="act" onClick={() => search.mutate(undefined)}>
              Search again
            </button>
            <span className="self-center text-[12px] text-soft">
              From this computer, for this scene: <PickFiles onFiles={onFiles} />
            </span>
            <span className="self-center text-[12px] text-quiet">
              The scene’s own folder is always searched, first.
            </span>
          </div>
        </div>
      )}
    </RisingSheet>
  );
}

const purposes: Record<string, string> = {
  search: 'search',
  library: 'library: files keep their place',
  output: 'output: may be written to, not searched',
};

function Root({ root, last, sceneId }: { root: RootDetail; last: boolean; sceneId: string }) {
  const acts = useRootActs(sceneId);
  const remove = useRemoveRoot(sceneId);
  const work = useWork().data?.find((w) => w.kind === 'listroot' && w.title === `List ${root.name}` && isOpen(w));
  const move = (position: number) => acts.change.mutate({ id: root.id, position });
  return (
    <li className="border-t border-hair py-1">
      <div className={grid}>
        <span className="flex items-center gap-1">
          <span className="mono w-4 text-right text-[12px]">{root.position}</span>
          <button
            type="button"
            aria-label={`Search ${root.name} earlier`}
            disabled={root.position === 1}
            className="act size-6"
            onClick={() => move(root.position - 1)}
          >
            ↑
          </button>
          <button
            type="button"
            aria-label={`Search ${root.name} later`}
            disabled={last}
            className="act size-6"
            onClick={() => move(root.position + 1)}
          >
            ↓
          </button>
        </span>
        <input
          aria-label="Name"
          className="h-7 border border-transparent bg-transparent px-1 text-[13px] hover:border-rule focus:border-rule"
          defaultValue={root.name}
          key={root.name}
          onBlur={(e) => e.target.value !== root.name && acts.change.mutate({ id: root.id, name: e.target.value })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <code className="truncate text-[12px] text-soft" title={root.folder}>
          {root.folder}
        </code>
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger className="act text-left" aria-label={`${root.name} is for ${root.purpose}`}>
            {root.purpose} <span aria-hidden="true">▾</span>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="menu" sideOffset={4}>
              <DropdownMenu.RadioGroup
                value={root.purpose}
                onValueChange={(purpose) => acts.change.mutate({ id: root.id, purpose })}
              >
                {Object.entries(purposes).map(([value, words]) => (
                  <DropdownMenu.RadioItem key={value} value={value} className="data-[state=checked]:font-semibold">
                    {words}
                  </DropdownMenu.RadioItem>
                ))}
              </DropdownMenu.RadioGroup>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        {work ? (
          <WorkLine item={work} verb={work.title} />
        ) : (
          <span className="text-[12px] text-soft">
            {root.files == null || root.indexedAt == null
              ? 'not listed yet'
              : `${count(root.files)} files in ${many(root.folders ?? 0, 'folder')}, ${when(root.indexedAt)}`}
          </span>
        )}
        <span className="flex justify-end gap-4">
          <button type="button" className="act" onClick={() => acts.list.mutate(root.id)}>
            List again
          </button>
          <button type="button" className="act soft" onClick={() => remove.mutate(root.id)}>
            Take out
          </button>
        </span>
      </div>
      {root.notes.slice(0, 3).map((note) => (
        <p key={note} className="pl-20 text-[12px] leading-4 text-quiet">
          {note}
        </p>
      ))}
      {root.notes.length > 3 && (
        <p className="pl-20 text-[12px] text-quiet">and {count(root.notes.length - 3)} more notes</p>
      )}
      {root.rules.map((rule) => (
        <p key={`${rule.from} ${rule.to}`} className="flex gap-3 pl-20 text-[12px] leading-5 text-quiet">
          approved before:
          <code className="truncate text-[11.5px] text-soft">
            {rule.from} to {rule.to}
          </code>
          <button type="button" className="act soft" onClick={() => acts.forget.mutate(rule)}>
            Forget
          </button>
        </p>
      ))}
    </li>
  );
}
