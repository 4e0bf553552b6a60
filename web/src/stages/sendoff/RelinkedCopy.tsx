import { useState } from 'react';
import type { SendOffView } from '../../api/client';
import { useMusterActs, useWork } from '../../api/queries';
import { isOpen, WorkLine } from '../../parts/WorkLine';

/** Writes the scene's own files, relinked, into a root for output; no image is copied. */
export function RelinkedCopy({ sceneId, outputs }: { sceneId: string; outputs: SendOffView['outputs'] }) {
  const [folder, setFolder] = useState('relinked');
  const { copy } = useMusterActs(sceneId);
  const work = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'writecopy' && isOpen(w));
  const [first] = outputs;
  if (!first) return null;
  return (
    <form
      aria-label="Relinked copy"
      className="mb-4"
      onSubmit={(e) => {
        e.preventDefault();
        copy.mutate({ root: first.id, folder });
      }}
    >
      <h2 className="pb-1 text-[15px] font-[680]">A relinked copy, without images</h2>
      {work ? (
        <WorkLine item={work} verb="Writing a relinked copy" />
      ) : (
        <div className="flex items-center gap-2 border-t border-hair pt-1.5 text-[12.5px]">
          <code className="text-[12px] text-quiet">{first.name}/</code>
          <input
            aria-label="Folder"
            className="mono h-7 min-w-0 flex-1 border border-rule bg-ground px-2 text-[12px]"
            value={folder}
            onChange={(e) => setFolder(e.target.value)}
          />
          <button type="submit" className="key outlined" disabled={folder.trim() === '' || copy.isPending}>
            Write it
          </button>
        </div>
      )}
    </form>
  );
}
