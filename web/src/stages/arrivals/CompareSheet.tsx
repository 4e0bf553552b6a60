import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { SceneDetail } from '../../api/client';
import { useScenes, type Beside } from '../../api/queries';
import { when } from '../../parts/format';

interface CompareSheetProps {
  scene: SceneDetail;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onTake: (beside: Beside) => void;
}

/** Which scene to hold the picked one beside: an older version of its own, or another that arrived. */
export function CompareSheet({ scene, open, onOpenChange, onTake }: CompareSheetProps) {
  const [find, setFind] = useState('');
  const others = useScenes().data?.filter((s) => s.id !== scene.id) ?? [];
  // What bears the same name is most likely the same asset.
  const shown = others
    .filter((s) => `${s.name} ${s.source}`.toLowerCase().includes(find.toLowerCase()))
    .sort((a, b) => Number(b.name === scene.name) - Number(a.name === scene.name));
  const older = scene.versions.filter((v) => v.version !== scene.version);
  const take = (beside: Beside) => {
    onTake(beside);
    onOpenChange(false);
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet w-[600px]" aria-describedby={undefined}>
          <Dialog.Title className="text-[17px] font-[680]">Compare {scene.name} with</Dialog.Title>
          <input
            className="mt-2 h-7 border border-rule bg-ground px-2 text-[13px]"
            placeholder="Find a scene"
            aria-label="Find a scene"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          <div className="mt-2 min-h-[200px] flex-1 overflow-y-auto border-y border-hair py-1">
            {older.map((v) => (
              <Choice
                key={v.version}
                name={`v${v.version} of this scene`}
                note={when(v.arrivedAt)}
                onTake={() => take({ with: scene.id, version: v.version })}
              />
            ))}
            {shown.map((s) => (
              <Choice
                key={s.id}
                name={s.name}
                note={`${s.format}, from ${s.source}`}
                onTake={() => take({ with: s.id, version: s.version })}
              />
            ))}
            {older.length + shown.length === 0 && (
              <p className="px-2 py-3 text-quiet">
                No other scene has arrived. Open the one it was made from, or an earlier delivery, with O.
              </p>
            )}
          </div>
          <div className="mt-3 flex justify-end">
            <Dialog.Close className="act soft">
              Close <kbd>Esc</kbd>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Choice({ name, note, onTake }: { name: string; note: string; onTake: () => void }) {
  return (
    <button
      type="button"
      className="grid w-full grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-3 px-2 py-1 text-left hover:bg-raise focus-visible:bg-held"
      onClick={onTake}
    >
      <code className="truncate text-[13px]">{name}</code>
      <span className="truncate text-[12px] leading-5 text-quiet">{note}</span>
    </button>
  );
}
