import { useState } from 'react';

interface RecipeNameProps {
  /** What it is called when nobody says otherwise. */
  proposed: string;
  busy: boolean;
  onName: (name: string) => void;
  onCancel: () => void;
}

/** Asks what a recipe is called, before it is recorded. */
export function RecipeName({ proposed, busy, onName, onCancel }: RecipeNameProps) {
  const [name, setName] = useState(proposed);
  return (
    <form
      className="flex items-center gap-2"
      // The ledger's own keys sleep while the name is typed.
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onCancel();
      }}
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '') onName(name.trim());
      }}
    >
      <label className="text-[12px] text-quiet">
        Call the recipe{' '}
        <input
          autoFocus
          aria-label="Name of the recipe"
          className="h-7 w-72 border border-rule bg-ground px-2 text-[12.5px] text-ink"
          value={name}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <button type="submit" className="key" disabled={busy || name.trim() === ''}>
        Record it
      </button>
    </form>
  );
}
