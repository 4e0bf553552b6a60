import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What each person chooses for themselves; kept in this browser. */
interface Settings {
  /** Columns of the muster's list that are hidden. */
  hidden: string[];
  roomy: boolean;
  /** What swatches are lit by. */
  light: 'studio' | 'dusk';
  /** Single-key shortcuts (WCAG 2.1.4: they can be turned off). */
  keys: boolean;
  set: (change: Partial<Omit<Settings, 'set'>>) => void;
}

export const useSettings = create<Settings>()(
  persist((set) => ({ hidden: ['flags', 'answer'], roomy: false, light: 'studio', keys: true, set }), {
    name: 'rootcall',
  }),
);
