import type { ReactNode } from 'react';
import { OneOf } from '../../parts/OneOf';

/** What stands left of the material in hand. */
const views = { sheet: 'sheet', compare: 'compare', space: 'scene in 3D' } as const;
export type BenchShown = keyof typeof views;

const order: BenchShown[] = ['sheet', 'compare', 'space'];

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
        <OneOf
          label="What is shown"
          value={shown}
          options={order.map((v) => [
            v,
            <>
              {views[v]} {v !== shown && <kbd>{keys[v]}</kbd>}
            </>,
          ])}
          onChoose={onShow}
        />
      )}
      <div className="flex min-w-0 flex-1 items-baseline justify-end gap-3">{children}</div>
    </div>
  );
}
