import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

/** What stands left of the material in hand. */
const views = { sheet: 'sheet', compare: 'compare', space: 'scene in 3D' } as const;
export type BenchShown = keyof typeof views;

const keys: Record<BenchShown, string> = { sheet: 'Esc', compare: 'V', space: 'Z' };

interface BenchTopProps {
  shown: BenchShown;
  onShow: (shown: BenchShown) => void;
  /** It stands beside one that offers the views. */
  isBeside?: boolean;
  /** What is chosen for it. */
  children: ReactNode;
}

/** Above the field: what lies on it, and what that shows. */
export function BenchTop({ shown, onShow, isBeside, children }: BenchTopProps) {
  return (
    <div className="flex h-8 min-w-0 flex-none items-baseline gap-4 whitespace-nowrap bg-ground pl-7 pr-4 text-[13px]">
      {isBeside !== true && (
        <ToggleGroup.Root
          type="single"
          value={shown}
          onValueChange={(v) => v in views && onShow(v as BenchShown)}
          aria-label="What is shown"
          className="flex flex-none gap-3"
        >
          {Object.entries(views).map(([value, words]) => (
            <ToggleGroup.Item
              key={value}
              value={value}
              className="act soft aria-checked:font-[680] aria-checked:!text-ink"
            >
              {words} {value !== shown && <kbd>{keys[value as BenchShown]}</kbd>}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
      )}
      <div className="flex min-w-0 flex-1 items-baseline justify-end gap-3">{children}</div>
    </div>
  );
}
