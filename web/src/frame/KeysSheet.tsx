import { Dialog } from 'radix-ui';
import { Toggle } from '../parts/Toggle';
import { useSettings } from '../state/settings';

/** The keys of this screen, and the switches for them and for the height of rows. */
export function KeysSheet({
  open,
  onOpenChange,
  keys,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  keys: [string, string][];
}) {
  const settings = useSettings();
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet w-[440px]" aria-describedby={undefined}>
          <Dialog.Title className="mb-3 text-[17px] font-[680]">Keys of this screen</Dialog.Title>
          <dl className="grid grid-cols-[110px_1fr] gap-x-4 gap-y-1.5">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd className="text-soft">{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 flex flex-col gap-2 border-t border-hair pt-3">
            <Labelled
              label="Single keys do things"
              on={settings.keys}
              set={(keysOn) => settings.set({ keys: keysOn })}
            />
            <Labelled label="Roomy rows" on={settings.roomy} set={(roomy) => settings.set({ roomy })} />
          </div>
          <Dialog.Close className="act soft mt-3 self-end">
            Close <kbd>Esc</kbd>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Labelled({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="flex items-center justify-between">
      {label}
      <Toggle on={on} onChange={set} />
    </label>
  );
}
