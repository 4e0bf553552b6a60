import { useState } from 'react';
import { toast } from 'sonner';
import type { EntryItem, LedgerView } from '../api/client';
import { type LedgerActs, useRecipeActs } from '../api/queries';
import { capital, count, inWords, when } from '../parts/format';
import { Glyph } from '../parts/Glyph';
import { RisingSheet } from '../parts/RisingSheet';
import { EntryLooks } from './EntryLooks';
import { RecipeName } from './RecipeName';

interface LedgerSheetProps {
  sceneId: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  ledger: LedgerView;
  acts: LedgerActs;
}

const columns = 'grid grid-cols-[30px_30px_minmax(0,1fr)_56px_140px_150px_230px] items-center gap-x-3';

/** The ledger, opened upward over the screen, which stays live above it. */
export function LedgerSheet({ sceneId, open, onOpenChange, ledger, acts }: LedgerSheetProps) {
  const entries = ledger.entries;
  const [current, setCurrent] = useState<string>();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const recipes = useRecipeActs(sceneId);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  // In hand from the start: what would be applied next, or else what was done last.
  const first = entries.find((e) => e.state === 'pending') ?? entries.at(-1);
  const at = Math.max(
    0,
    entries.findIndex((e) => e.id === (current ?? first?.id)),
  );
  const inHand = entries[at];
  const fold = (id: string) =>
    setUnfolded((now) => (now.has(id) ? new Set([...now].filter((x) => x !== id)) : new Set([...now, id])));

  const bead = (id: string) =>
    setPicked((now) => (now.has(id) ? new Set([...now].filter((x) => x !== id)) : new Set([...now, id])));
  const chosen = entries.filter((e) => picked.has(e.id));
  const [isNaming, setNaming] = useState(false);
  const record = (name: string) => {
    recipes.record.mutate(
      { name, entries: chosen.map((e) => e.id) },
      {
        onSuccess: (recipe) => {
          setNaming(false);
          setPicked(new Set());
          toast(`Recorded “${recipe.name}”: ${recipe.stepList.map((s) => `${s.what}, for ${s.match}`).join('; ')}.`);
        },
      },
    );
  };

  const onKeyDown = (event: React.KeyboardEvent) => {
    const to = { ArrowDown: 1, j: 1, ArrowUp: -1, k: -1 }[event.key];
    if (to !== undefined) setCurrent(entries[Math.min(entries.length - 1, Math.max(0, at + to))]?.id);
    else if (event.key === 'Enter' && inHand) fold(inHand.id);
    else if (event.key === 'Backspace' && inHand) acts.takeBack.mutate(inHand.id);
    else if (event.key === 'U' && inHand) acts.undoTo.mutate(inHand.id);
    else if (event.key === ' ' && inHand) bead(inHand.id);
    else if (event.key === 'R' && chosen.length > 0) setNaming(true);
    else return;
    event.preventDefault();
  };

  return (
    <RisingSheet
      open={open}
      onOpenChange={onOpenChange}
      onKeyDown={onKeyDown}
      onOpened={(e) => {
        e.preventDefault();
        document.querySelector<HTMLElement>('[data-entry="in-hand"]')?.focus();
      }}
      title={
        entries.length === 0
          ? 'Nothing edited since it arrived'
          : `${capital(inWords(entries.length))} ${entries.length === 1 ? 'entry' : 'entries'} since it arrived`
      }
      about="The arrived file is untouched. What is written is written elsewhere."
      aside={
        <>
          {isNaming && chosen[0] && (
            <RecipeName
              proposed={chosen[0].sentence}
              busy={recipes.record.isPending}
              onName={record}
              onCancel={() => setNaming(false)}
            />
          )}
          {!isNaming && chosen.length > 0 && (
            <button type="button" className="key" onClick={() => setNaming(true)}>
              Make a recipe of {chosen.length === 1 ? 'this' : `these ${count(chosen.length)}`} <kbd>⇧R</kbd>
            </button>
          )}
          <button type="button" className="act soft" onClick={() => acts.redo.mutate(undefined)}>
            Redo
          </button>
          <a
            className="act soft"
            href={`/api/scenes/${sceneId}/ledger/file${chosen.length > 0 ? `?${chosen.map((e) => `entries=${e.id}`).join('&')}` : ''}`}
            download
          >
            Export {chosen.length > 0 && count(chosen.length)}
          </a>
        </>
      }
    >
      <div className={`${columns} h-5 text-[11.5px] text-quiet`} aria-hidden="true">
        <span />
        <span />
        <span>Entry</span>
        <span className="text-right">Edits</span>
        <span>Proposed by</span>
        <span>Put in</span>
        <span />
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto" aria-label="Entries">
        {entries.map((entry, i) => (
          <li key={entry.id}>
            {entry.state === 'pending' && (i === 0 || entries[i - 1]?.state === 'applied') && (
              <div className="py-1 pl-[72px] text-[12px] text-quiet">
                {i === 0 ? 'nothing applied yet' : 'so far applied'}; below, pending until{' '}
                <b className="text-soft">Apply {count(ledger.pending)}</b>
              </div>
            )}
            <Entry
              entry={entry}
              inHand={entry === inHand}
              picked={picked.has(entry.id)}
              onBead={() => bead(entry.id)}
              unfolded={unfolded.has(entry.id)}
              onPick={() => setCurrent(entry.id)}
              onFold={() => fold(entry.id)}
              acts={acts}
              sceneId={sceneId}
            />
          </li>
        ))}
      </ol>
    </RisingSheet>
  );
}

interface EntryProps {
  sceneId: string;
  entry: EntryItem;
  inHand: boolean;
  unfolded: boolean;
  picked: boolean;
  onBead: () => void;
  onPick: () => void;
  onFold: () => void;
  acts: LedgerActs;
}

function Entry({ sceneId, entry, inHand, unfolded, picked, onBead, onPick, onFold, acts }: EntryProps) {
  const pending = entry.state === 'pending';
  const line = pending ? 'border-dashed border-lichen' : 'border-soft';
  return (
    <div className={`relative ${inHand ? 'bg-held' : 'hover:bg-raise'}`} onMouseDown={onPick}>
      <span className={`absolute inset-y-0 left-[14px] border-l-2 ${line}`} />
      <div className={`${columns} min-h-6`}>
        <span className="relative h-6">
          <span className={`absolute left-[9px] top-[11px] w-3 border-t-2 ${line}`} />
          <button
            type="button"
            className="absolute inset-0"
            aria-pressed={picked}
            aria-label={`Pick entry ${entry.place}`}
            onClick={onBead}
          >
            {picked && <span className="absolute left-[10px] top-[7px] size-[9px] rounded-full bg-ink" />}
          </button>
        </span>
        <span className={`mono text-right text-[12px] ${pending ? 'text-lichen' : 'text-quiet'}`}>{entry.place}</span>
        <button
          type="button"
          className="truncate text-left"
          aria-expanded={unfolded}
          data-entry={inHand ? 'in-hand' : undefined}
          aria-current={inHand || undefined}
          onClick={onFold}
          onFocus={onPick}
        >
          {entry.sentence}
          {pending && <span className="sr-only">, pending</span>}
          {entry.refused.length > 0 && (
            <span className="ml-2 text-[12px] text-clay">{count(entry.refused.length)} no longer apply</span>
          )}
        </button>
        <span className="mono text-right text-[12px]">{count(entry.edits)}</span>
        <span className="truncate text-[12px] text-soft" title={entry.proposedBy}>
          {entry.proposedBy}
        </span>
        <span className="text-[12px] text-quiet">{when(entry.at)}</span>
        <span className="flex justify-end gap-3 pr-1">
          {inHand && (
            <>
              <button type="button" className="act" onClick={() => acts.undoTo.mutate(entry.id)}>
                Undo to here <kbd>⇧U</kbd>
              </button>
              <button type="button" className="act" onClick={() => acts.takeBack.mutate(entry.id)}>
                Take back <kbd aria-label="Backspace">⌫</kbd>
              </button>
            </>
          )}
        </span>
      </div>
      {unfolded && <EntryLooks sceneId={sceneId} entry={entry.id} />}
      {unfolded && (
        <div className="grid grid-cols-[60px_180px_minmax(0,1fr)_minmax(0,1fr)] gap-x-3 pb-2 pl-[84px] pr-2 text-[12px]">
          {['Edit', 'Where', 'Before', 'After'].map((h) => (
            <span key={h} className="text-[11.5px] text-quiet">
              {h}
            </span>
          ))}
          {entry.first.map((edit) => (
            <div key={`${edit.what} ${edit.where} ${edit.before} ${edit.after}`} className="contents">
              <span className="text-quiet">{edit.what}</span>
              <span className="truncate">{edit.where}</span>
              <code className="truncate text-[11.5px] text-quiet" title={edit.before}>
                {edit.before}
              </code>
              <code className="truncate text-[11.5px]" title={edit.after}>
                {edit.after}
              </code>
            </div>
          ))}
          {entry.refused.map((edit) => (
            <p key={edit.what + edit.reason} className="col-span-4 flex gap-1.5 text-clay">
              <Glyph name="blocker" />
              {edit.what}: no longer applies, {edit.reason}
            </p>
          ))}
          {entry.edits > entry.first.length && (
            <span className="col-span-4 text-quiet">
              and {count(entry.edits - entry.first.length)} more, the same change
            </span>
          )}
        </div>
      )}
    </div>
  );
}
