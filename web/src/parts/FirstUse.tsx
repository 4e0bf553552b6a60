import type { ReactNode } from 'react';
import { useSettings } from '../state/settings';

/** One line that explains a stage's own words, until it is read. */
export function FirstUse({ of, children }: { of: string; children: ReactNode }) {
  const { read, set } = useSettings();
  if (read.includes(of)) return null;
  return (
    <p className="mx-7 flex flex-none items-baseline gap-4 border-b border-hair pb-1 text-[12.5px] text-soft">
      <span>{children}</span>
      <button type="button" className="act flex-none" onClick={() => set({ read: [...read, of] })}>
        Understood
      </button>
    </p>
  );
}
