import type { SceneSummary } from '../../api/client';
import { useSweep } from '../../api/shelf';
import { Choose } from '../../parts/Choose';
import { count } from '../../parts/format';
import { useSettings } from '../../state/settings';
import { isShown, shows, showWords, sorts, sortWords, type ShelfShow, type ShelfSort } from './shelf';

interface ShelfBarProps {
  scenes: SceneSummary[];
  /** How many are taken together. */
  together: number;
  onTogether: () => void;
}

/** In which order the scenes stand, which of them, and what the numbers in their rows are. */
export function ShelfBar({ scenes, together, onTogether }: ShelfBarProps) {
  const { shelfSort, shelfShow, set } = useSettings();
  const sweep = useSweep();
  return (
    <div className="flex h-7 flex-none items-center gap-4 pl-[26px] pr-2 text-[12px]">
      <Choose
        label="Order"
        value={shelfSort}
        options={sorts.map((s) => ({ value: s, words: sortWords[s] }))}
        onChoose={(s) => set({ shelfSort: s as ShelfSort })}
      />
      <Choose
        label="Show"
        value={shelfShow}
        options={shows.map((s) => ({ value: s, words: showWords[s], note: count(scenes.filter(isShown[s]).length) }))}
        onChoose={(s) => set({ shelfShow: s as ShelfShow })}
      />
      {together > 0 ? (
        <button type="button" className="act whitespace-nowrap" onClick={onTogether}>
          Decide for {count(together)} <kbd>M</kbd>
        </button>
      ) : (
        <button
          type="button"
          className="act soft"
          title="Remove from the store what nothing uses any more"
          disabled={sweep.isPending}
          onClick={() => sweep.mutate(undefined)}
        >
          Sweep
        </button>
      )}
      <span className="ml-auto flex gap-2 text-right text-quiet" aria-hidden="true">
        <span className="w-[34px]">block</span>
        <span className="w-[34px]">warn</span>
        <span className="w-[70px]">unanswered</span>
      </span>
    </div>
  );
}
