import { AlertDialog } from 'radix-ui';
import { Link } from 'react-router';
import type { SendOffView } from '../../api/client';
import { count, many } from '../../parts/format';
import { State } from '../../parts/Glyph';

interface AskMissingProps {
  sceneId: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  unresolved: SendOffView['unresolved'];
  standIns: SendOffView['standIns'];
  onBuild: () => void;
}

/** A package that misses files is built only when somebody says so; its report names them. */
export function AskMissing({ sceneId, open, onOpenChange, unresolved, standIns, onBuild }: AskMissingProps) {
  const answerable = unresolved.filter((u) => u.state === 'elsewhere' || u.state === 'contested').length;
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="veil" />
        <AlertDialog.Content className="sheet w-[640px]">
          <AlertDialog.Title className="text-[17px] font-[680]">
            {[
              unresolved.length > 0 && `${many(unresolved.length, 'reference')} will not be answered in the package`,
              standIns.length > 0 && `${many(standIns.length, 'placeholder stands', 'placeholders stand')} in`,
            ]
              .filter(Boolean)
              .join('; ')}
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-soft">
            The scene keeps calling for them as it does now. The package’s report names each one.
          </AlertDialog.Description>
          <ul className="my-3 min-h-0 flex-1 overflow-y-auto">
            {[...unresolved, ...standIns.map((u) => ({ ...u, state: 'stand-in' }))].slice(0, 200).map((u) => (
              <li
                key={u.number}
                className="grid grid-cols-[132px_minmax(0,1fr)] gap-x-3 border-t border-hair py-1 text-[12.5px]"
              >
                <State name={u.state} />
                <code className="truncate text-[11.5px] leading-[18px]" title={u.written}>
                  {u.written}
                </code>
              </li>
            ))}
            {unresolved.length > 200 && <li className="text-quiet">and {count(unresolved.length - 200)} more</li>}
          </ul>
          <div className="flex justify-end gap-5">
            <AlertDialog.Cancel className="act soft">
              Back <kbd>Esc</kbd>
            </AlertDialog.Cancel>
            {answerable > 0 && (
              <Link className="key" to={`/muster/${sceneId}`}>
                {answerable === unresolved.length
                  ? `Answer ${answerable === 1 ? 'it' : 'them'} in Muster`
                  : `Answer ${count(answerable)} of them in Muster`}
              </Link>
            )}
            <AlertDialog.Action className={answerable > 0 ? 'act' : 'key'} onClick={onBuild}>
              {unresolved.length > 0
                ? `Build without ${count(unresolved.length)}`
                : `Build with ${count(standIns.length)} standing in`}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
