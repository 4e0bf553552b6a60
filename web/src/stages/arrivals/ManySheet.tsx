import { useState } from 'react';
import { Link } from 'react-router';
import type { ManyChoices, ManyDecision, ManyRow } from '../../api/client';
import { useManyApply, useManyChoices, useManyPreview } from '../../api/many';
import { count, many } from '../../parts/format';
import { MidCut } from '../../parts/MidCut';
import { RisingSheet } from '../../parts/RisingSheet';

interface ManySheetProps {
  scenes: string[];
  onClose: () => void;
}

/** One decision for several scenes: a dry run with a row for each, then one pending entry in each ledger. */
export function ManySheet({ scenes, onClose }: ManySheetProps) {
  const choices = useManyChoices(scenes);
  const [decision, decide] = useState<ManyDecision>();
  const preview = useManyPreview(decision);
  const apply = useManyApply();
  const rows = apply.data ?? preview.data ?? [];
  const able = rows.filter((r) => r.whyNot === null);
  return (
    <RisingSheet
      open
      onOpenChange={onClose}
      tall
      title={`The same for ${many(scenes.length, 'scene')}`}
      about="Choose what to do, see what it does in each, then put it in: an entry in each ledger, pending until you apply it there."
    >
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(260px,400px)_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto] gap-x-7">
        <div className="min-h-0 overflow-y-auto">
          {choices.isError && <p className="text-clay">{choices.error.message}</p>}
          {choices.data ? (
            <Choices choices={choices.data} scenes={scenes} decision={decision} onDecide={decide} />
          ) : (
            !choices.isError && <p className="text-quiet">Looking at what they have in common.</p>
          )}
        </div>
        <div className="min-h-0 overflow-y-auto">
          {decision === undefined ? (
            <p className="text-quiet">Nothing is chosen yet.</p>
          ) : preview.isError ? (
            <p className="text-clay">{preview.error.message}</p>
          ) : (
            rows.map((row) => <Row key={row.scene} row={row} done={apply.data !== undefined} />)
          )}
        </div>
        <div className="col-span-2 flex justify-end border-t border-hair pt-2">
          {apply.data ? (
            <span className="text-[12.5px] text-lichen">
              It waits in {many(able.length, 'ledger')}; each is applied there.
            </span>
          ) : (
            <button
              type="button"
              className="key"
              disabled={!decision || able.length === 0 || apply.isPending}
              onClick={() => decision && apply.mutate({ ...decision, scenes: able.map((r) => r.scene) })}
            >
              Put in for {many(able.length, 'scene')}
            </button>
          )}
        </div>
      </div>
    </RisingSheet>
  );
}

interface ChoicesProps {
  choices: ManyChoices;
  scenes: string[];
  decision: ManyDecision | undefined;
  onDecide: (decision: ManyDecision) => void;
}

function Choices({ choices, scenes, decision, onDecide }: ChoicesProps) {
  const nothing = choices.rules.length === 0 && choices.recipes.length === 0;
  return (
    <div role="radiogroup" aria-label="What to do">
      {nothing && (
        <p className="text-quiet">
          No relink suggests itself in any of them, and no recipe is recorded yet; the ledger records one.
        </p>
      )}
      {choices.rules.length > 0 && <h3 className="pb-1 text-[12px] text-quiet">Relink what moved</h3>}
      {choices.rules.map((r) => (
        <Choice
          key={`${r.from} ${r.to}`}
          on={decision?.rule?.from === r.from && decision.rule.to === r.to}
          onChoose={() => onDecide({ scenes, recipe: null, rule: { from: r.from, to: r.to } })}
          note={`${many(r.settles, 'reference')} in ${many(r.scenes, 'scene')}`}
        >
          <MidCut text={r.from} className="mono text-[12px]" />
          <span className="flex min-w-0 gap-1 text-[12px]">
            <span className="flex-none text-quiet">to</span>
            <MidCut text={r.name} className="mono" />
          </span>
        </Choice>
      ))}
      {choices.recipes.length > 0 && <h3 className="pb-1 pt-3 text-[12px] text-quiet">Recipes</h3>}
      {choices.recipes.map((r) => (
        <Choice
          key={r.id}
          on={decision?.recipe === r.id}
          onChoose={() => onDecide({ scenes, recipe: r.id, rule: null })}
          note={r.description}
        >
          {r.name}
        </Choice>
      ))}
    </div>
  );
}

interface ChoiceProps {
  on: boolean;
  onChoose: () => void;
  note: string;
  children: React.ReactNode;
}

function Choice({ on, onChoose, note, children }: ChoiceProps) {
  return (
    <label className={`flex items-start gap-2 border-t border-hair px-1 py-1 ${on ? 'bg-held' : 'hover:bg-raise'}`}>
      <input type="radio" name="many" className="mt-1" checked={on} onChange={onChoose} />
      <span className="min-w-0 flex-1 leading-4">
        {children}
        <span className="block text-[11.5px] text-quiet">{note}</span>
      </span>
    </label>
  );
}

function Row({ row, done }: { row: ManyRow; done: boolean }) {
  return (
    <div className="grid grid-cols-[minmax(0,220px)_minmax(0,1fr)] gap-4 border-t border-hair py-1 text-[12.5px]">
      {done && row.whyNot === null ? (
        <Link className="act min-w-0" to={`/muster/${row.scene}`}>
          <MidCut text={row.title} />
        </Link>
      ) : (
        <MidCut text={row.title} className="mono text-[12px]" />
      )}
      {row.whyNot === null ? (
        <span>
          {row.sentence} <span className="text-quiet">({many(row.edits, 'edit')}</span>
          <span className="text-quiet">{row.left > 0 && `, ${count(row.left)} left`})</span>
        </span>
      ) : (
        <span className="text-quiet">{row.whyNot}</span>
      )}
    </div>
  );
}
