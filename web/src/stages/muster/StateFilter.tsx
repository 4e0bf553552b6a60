import { ToggleGroup } from 'radix-ui';
import type { MusterView } from '../../api/client';
import { count } from '../../parts/format';
import { Glyph, stateColour } from '../../parts/Glyph';
import { stateWords } from '../../parts/words';

/** The totals by state; pressing some narrows the list to them. */
export function StateFilter({
  totals,
  value,
  onChange,
}: {
  totals: MusterView['totals'];
  value: string[];
  onChange: (states: string[]) => void;
}) {
  return (
    <ToggleGroup.Root
      type="multiple"
      value={value}
      onValueChange={onChange}
      aria-label="States shown"
      className="flex gap-1 whitespace-nowrap"
    >
      {totals
        .filter((t) => t.count > 0)
        .map(({ state, count: n }) => (
          <ToggleGroup.Item
            key={state}
            value={state}
            className={`flex h-6 items-center gap-1.5 px-1.5 text-[12px] hover:bg-raise data-[state=on]:bg-held ${stateColour(state)}`}
          >
            <Glyph name={state} />
            {stateWords(state)} <span className="mono text-[11.5px]">{count(n)}</span>
          </ToggleGroup.Item>
        ))}
    </ToggleGroup.Root>
  );
}
