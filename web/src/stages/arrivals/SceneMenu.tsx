import { AlertDialog, Dialog, DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { SceneDetail } from '../../api/client';
import { useScenes } from '../../api/queries';
import { useRemoval, useShelfActs } from '../../api/shelf';
import { bytes, many } from '../../parts/format';

/** What can be done with the scene as a whole: call it otherwise, remove it or one of its versions. */
export function SceneMenu({ scene }: { scene: SceneDetail }) {
  const [asks, setAsks] = useState<'rename' | 'remove' | number>();
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="act soft flex-none" title={`More about ${scene.title}`}>
          More <span aria-hidden="true">▾</span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
            <DropdownMenu.Item onSelect={() => setAsks('rename')}>Rename</DropdownMenu.Item>
            {scene.versions.length > 1 &&
              scene.versions.map((v) => (
                <DropdownMenu.Item key={v.version} onSelect={() => setAsks(v.version)}>
                  Remove version {v.version}
                </DropdownMenu.Item>
              ))}
            <DropdownMenu.Item onSelect={() => setAsks('remove')}>Remove the scene</DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {asks === 'rename' && <RenameScene scene={scene} onClose={() => setAsks(undefined)} />}
      {asks === 'remove' && <RemoveScene scene={scene} onClose={() => setAsks(undefined)} />}
      {typeof asks === 'number' && <RemoveVersion scene={scene} version={asks} onClose={() => setAsks(undefined)} />}
    </>
  );
}

interface AskProps {
  scene: SceneDetail;
  onClose: () => void;
}

function RenameScene({ scene, onClose }: AskProps) {
  const [title, setTitle] = useState(scene.title);
  const acts = useShelfActs(scene.id);
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet w-[460px]">
          <Dialog.Title className="text-[17px] font-[680]">Rename {scene.title}</Dialog.Title>
          <Dialog.Description className="text-[12.5px] text-quiet">
            Only here: its file {scene.name} keeps its name.
          </Dialog.Description>
          <form
            className="mt-3 flex items-center gap-4"
            onSubmit={(e) => {
              e.preventDefault();
              acts.rename.mutate(title, { onSuccess: onClose });
            }}
          >
            <input
              type="text"
              aria-label="Name of the scene"
              className="min-w-0 flex-1 border border-rule bg-ground px-2 py-1.5"
              value={title}
              maxLength={240}
              autoFocus
              onChange={(e) => setTitle(e.target.value)}
            />
            <button type="submit" className="key" disabled={title.trim() === '' || acts.rename.isPending}>
              Rename
            </button>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function RemoveScene({ scene, onClose }: AskProps) {
  const removal = useRemoval(scene.id, true);
  const acts = useShelfActs(scene.id);
  const scenes = useScenes().data;
  const navigate = useNavigate();
  const goes = removal.data && [
    many(removal.data.versions, 'version'),
    ...(removal.data.edits > 0 ? [many(removal.data.edits, 'entry of its ledger', 'entries of its ledger')] : []),
    ...(removal.data.waivers > 0 ? [many(removal.data.waivers, 'waiver')] : []),
    ...(removal.data.marks > 0 ? [many(removal.data.marks, 'mark')] : []),
    ...(removal.data.packages > 0 ? [many(removal.data.packages, 'package')] : []),
  ];
  return (
    <Ask
      title={`Remove ${scene.title}?`}
      verb="Remove the scene"
      ready={removal.data !== undefined && !acts.remove.isPending}
      onClose={onClose}
      onYes={() => {
        // What is gone is not asked for again: another scene is in hand before.
        const next = scenes?.find((s) => s.id !== scene.id);
        if (next) void navigate(`/arrivals/${next.id}`);
        acts.remove.mutate(undefined);
      }}
    >
      {removal.isError && <p className="text-clay">{removal.error.message}</p>}
      {goes && (
        <>
          <p>
            <b className="font-[680]">Goes:</b> {goes.join(', ')}
            {removal.data.bytes > 0 && `; ${bytes(removal.data.bytes)} in the store`}. This cannot be undone.
          </p>
          <p>
            <b className="font-[680]">Stays:</b>{' '}
            {removal.data.stays ? (
              <>
                the scene’s own file, <code className="break-all text-[12px]">{removal.data.stays}</code>, and all
                textures.
              </>
            ) : (
              'every file outside the store. What was dropped here is kept nowhere else.'
            )}
          </p>
        </>
      )}
    </Ask>
  );
}

function RemoveVersion({ scene, version, onClose }: AskProps & { version: number }) {
  const acts = useShelfActs(scene.id);
  return (
    <Ask
      title={`Remove version ${version} of ${scene.title}?`}
      verb={`Remove version ${version}`}
      ready={!acts.removeVersion.isPending}
      onClose={onClose}
      onYes={() => acts.removeVersion.mutate(version)}
    >
      <p>
        <b className="font-[680]">Goes:</b> what was read of it
        {scene.uploaded && ', and its files in the store'}. This cannot be undone.
      </p>
      <p>
        <b className="font-[680]">Stays:</b> the ledger, the other {many(scene.versions.length - 1, 'version')} and
        every file outside the store.
      </p>
    </Ask>
  );
}

interface QuestionProps {
  title: string;
  verb: string;
  ready: boolean;
  onClose: () => void;
  onYes: () => void;
  children: ReactNode;
}

/** Asked once, with what goes and what stays. */
function Ask({ title, verb, ready, onClose, onYes, children }: QuestionProps) {
  return (
    <AlertDialog.Root open onOpenChange={onClose}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="veil" />
        <AlertDialog.Content className="sheet w-[520px]">
          <AlertDialog.Title className="text-[17px] font-[680]">{title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2 grid gap-1.5 text-[13px] leading-5">{children}</div>
          </AlertDialog.Description>
          <div className="mt-4 flex items-center justify-end gap-5">
            <AlertDialog.Cancel className="act soft">
              Keep it <kbd>Esc</kbd>
            </AlertDialog.Cancel>
            <button
              type="button"
              className="key outlined"
              disabled={!ready}
              onClick={() => {
                onClose();
                onYes();
              }}
            >
              {verb}
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
