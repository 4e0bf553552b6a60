import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useKey } from '../../frame/keys';

interface NotedProps {
  material: string;
  busy: boolean;
  onNote: (note: string) => void;
}

/** Takes over a look that moves too far, with the reason, which stays in the ledger. */
export function Noted({ material, busy, onNote }: NotedProps) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  useKey('n', () => setOpen(true));
  const accept = () => {
    if (busy || note.trim() === '') return;
    setOpen(false);
    onNote(note.trim());
    setNote('');
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="key" disabled={busy}>
        Accept with a note <kbd>N</kbd>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-80 !p-3 text-[12.5px]" side="top" align="end" sideOffset={6}>
          <form
            className="grid gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              accept();
            }}
          >
            <label className="grid gap-1">
              Why {material} may move so far
              <input
                className="field-input border border-rule bg-ground px-2 py-1"
                autoFocus
                maxLength={300}
                value={note}
                onChange={(e) => {
                  setNote(e.target.value);
                }}
              />
            </label>
            <button type="submit" className="key justify-self-end" disabled={busy || note.trim() === ''}>
              Take it over
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
