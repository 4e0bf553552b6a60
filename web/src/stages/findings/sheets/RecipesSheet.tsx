import { useState } from 'react';
import type { RecipeItem } from '../../../api/client';
import { useDryRun, useRecipeActs, useRecipes, useRecipeText } from '../../../api/queries';
import { many } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';
import { Lines } from './EditsSheet';
import { JsonEditor } from './JsonEditor';

/** Recorded fixes with their matchers, and what each would do in this scene. */
export function RecipesSheet({ sceneId, onOpenChange }: { sceneId: string; onOpenChange: (open: boolean) => void }) {
  const recipes = useRecipes().data;
  const acts = useRecipeActs(sceneId);
  const [picked, setPicked] = useState<string>();
  const [editing, setEditing] = useState(false);
  const recipe = recipes?.find((r) => r.id === picked) ?? recipes?.[0];
  const text = useRecipeText(editing ? recipe?.id : undefined).data?.text;
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      tall
      title="Recipes"
      about="Recorded from entries of the ledger: open the ledger, pick entries, and make a recipe of them."
    >
      {recipes?.length === 0 && (
        <p className="text-soft">
          No recipe yet. Fix something, open the ledger (L), pick the entry with its bead, and record it.
        </p>
      )}
      {recipe && editing && text !== undefined && (
        <JsonEditor
          label={`Recipe ${recipe.name}`}
          text={text}
          file={`${recipe.id}.json`}
          busy={acts.write.isPending}
          onSave={(t) => acts.write.mutate({ id: recipe.id, text: t }, { onSuccess: () => setEditing(false) })}
          onBack={() => setEditing(false)}
        />
      )}
      {recipe && !editing && (
        <div className="grid min-h-0 flex-1 grid-cols-[360px_minmax(0,1fr)] gap-x-7">
          <div className="min-h-0 overflow-y-auto" role="listbox" aria-label="Recipes">
            {recipes?.map((r) => (
              <button
                key={r.id}
                type="button"
                role="option"
                aria-selected={r.id === recipe.id}
                className={`block w-full border-t border-hair px-2 py-1.5 text-left ${r.id === recipe.id ? 'bg-held' : 'hover:bg-raise'}`}
                onClick={() => setPicked(r.id)}
              >
                <span className="block truncate text-[14px]">{r.name}</span>
                <span className="block truncate text-[12px] text-quiet">
                  {many(r.steps, 'step')}
                  {r.source && `, for every arrival from ${r.source}`}
                </span>
              </button>
            ))}
          </div>
          <DryRun
            sceneId={sceneId}
            recipe={recipe}
            onApply={() => acts.apply.mutate(recipe.id)}
            onEdit={() => setEditing(true)}
            onRemove={() => acts.remove.mutate(recipe.id)}
            busy={acts.apply.isPending}
          />
        </div>
      )}
    </RisingSheet>
  );
}

interface DryRunProps {
  sceneId: string;
  recipe: RecipeItem;
  busy: boolean;
  onApply: () => void;
  onEdit: () => void;
  onRemove: () => void;
}

function DryRun({ sceneId, recipe, busy, onApply, onEdit, onRemove }: DryRunProps) {
  const run = useDryRun(sceneId, recipe.id).data;
  return (
    <div className="flex min-h-0 flex-col">
      <ul className="flex-none pb-2 text-[12.5px] text-soft">
        {recipe.stepList.map((s) => (
          <li key={s.what + s.match}>
            {s.what}, for <code className="text-[11.5px] text-ink">{s.match}</code>
          </li>
        ))}
      </ul>
      {run && (
        <>
          <p className="pb-1 font-[680]">
            {run.fix.edits > 0 ? `Here it would make ${run.fix.count}` : 'Here it would change nothing.'}
          </p>
          <Lines fix={run.fix} />
          {run.unmatched.map((u) => (
            <p key={u} className="text-[12px] text-quiet">
              {u}
            </p>
          ))}
        </>
      )}
      <div className="flex items-center gap-5 pt-2">
        <button type="button" className="key" disabled={busy || !run || run.fix.edits === 0} onClick={onApply}>
          Put into the ledger
        </button>
        <button type="button" className="act" onClick={onEdit}>
          Edit, export
        </button>
        <span className="flex-1" />
        <button type="button" className="act soft" onClick={onRemove}>
          Remove it
        </button>
      </div>
    </div>
  );
}
