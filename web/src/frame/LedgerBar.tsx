import { useState } from 'react';
import type { LedgerView } from '../api/client';
import type { LedgerActs } from '../api/queries';
import { count } from '../parts/format';
import { useKey } from './keys';
import { LedgerSheet } from './LedgerSheet';
import { Tally } from './Tally';

/** The bottom band: what was changed since the scene arrived, what waits, and the way back. */
export function LedgerBar({ sceneId, ledger, acts }: { sceneId: string; ledger: LedgerView; acts: LedgerActs }) {
  const [open, setOpen] = useState(false);
  const next = ledger.entries.find((e) => e.state === 'pending');
  const empty = ledger.entries.length === 0;
  useKey('l', () => setOpen((now) => !now));
  useKey('p', () => setOpen(true), !empty);
  useKey('u', () => acts.undo.mutate(undefined), !empty && !acts.undo.isPending);
  useKey('shift+p', () => acts.apply.mutate(undefined), ledger.pending > 0);
  return (
    <footer className="relative z-20 flex h-[38px] flex-none items-center gap-3 bg-well px-7 text-[12.5px]">
      <LedgerSheet sceneId={sceneId} open={open} onOpenChange={setOpen} ledger={ledger} acts={acts} />
      <button
        type="button"
        className="flex items-center gap-1.5 font-bold"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        Ledger <kbd>L</kbd>
      </button>
      <Tally applied={ledger.applied} pending={ledger.pending} />
      <span className="whitespace-nowrap text-soft" role="status">
        {count(ledger.applied)} applied
        {ledger.pending > 0 && (
          <>
            , <b className="font-semibold text-lichen">{count(ledger.pending)} pending</b>
          </>
        )}
      </span>
      <span className="truncate text-quiet">
        {next ? `Next: ${next.sentence}` : empty ? 'Nothing edited since it arrived.' : ''}
      </span>
      <span className="flex-1" />
      <button type="button" className="act soft" disabled={empty} onClick={() => acts.undo.mutate(undefined)}>
        Undo <kbd>U</kbd>
      </button>
      <button type="button" className="act" disabled={ledger.pending === 0} onClick={() => setOpen(true)}>
        Preview <kbd>P</kbd>
      </button>
      <button
        type="button"
        className="key"
        disabled={ledger.pending === 0}
        onClick={() => acts.apply.mutate(undefined)}
      >
        Apply {ledger.pending > 0 && count(ledger.pending)} <kbd>⇧P</kbd>
      </button>
    </footer>
  );
}
