import { Choose } from '../../parts/Choose';
import { useSettings } from '../../state/settings';
import { sorts, sortWords } from './order';

/** In which order the sheet shows materials, and how large. */
export function SheetTop() {
  const { benchSize, benchSort, set } = useSettings();
  return (
    <>
      <Choose
        label="Order of the materials"
        value={benchSort}
        options={sorts.map((s) => ({ value: s, words: sortWords[s] }))}
        onChoose={(s) => set({ benchSort: sorts.find((x) => x === s) ?? 'file' })}
      />
      <label className="flex items-center gap-2 text-[12.5px] text-quiet">
        size
        <input
          type="range"
          aria-label="Size of the swatches"
          min={48}
          max={192}
          step={4}
          value={benchSize}
          className="w-20 accent-[var(--rc-soft)]"
          onChange={(e) => set({ benchSize: Number(e.target.value) })}
        />
      </label>
    </>
  );
}
