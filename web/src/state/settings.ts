import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { BenchSort } from '../stages/bench/order';
import type { ShelfShow, ShelfSort } from '../stages/arrivals/shelf';

/** Lights that swatches can be under. */
export const lights = ['studio', 'dusk', 'lamp'] as const;
export type Light = (typeof lights)[number];

/** What swatches can be shown on. */
export const shapes = ['sphere', 'slab', 'drape', 'own', 'object'] as const;
export type Shape = (typeof shapes)[number];

/** What each person chooses for themselves; kept in this browser. */
interface Settings {
  /** Columns of the muster's list that are hidden. */
  hidden: string[];
  roomy: boolean;
  /** What swatches are lit by. */
  light: Light;
  /** What the Bench shows materials on, how large in CSS pixels, and in which order. */
  shape: Shape;
  benchSize: number;
  benchSort: BenchSort;
  /** How far a crossing may move a look, in mean ΔE; null for what the server says. */
  crossingLimit: number | null;
  /** How two looks are held beside each other. */
  compare: 'wipe' | 'flicker' | 'beside';
  /** Explanations that were read. */
  read: string[];
  /** In which order Arrivals shows scenes, and which of them. */
  shelfSort: ShelfSort;
  shelfShow: ShelfShow;
  /** Single-key shortcuts (WCAG 2.1.4: they can be turned off). */
  keys: boolean;
  set: (change: Partial<Omit<Settings, 'set'>>) => void;
}

export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      hidden: ['flags', 'answer'],
      roomy: false,
      light: 'studio',
      keys: true,
      shape: 'sphere',
      benchSize: 76,
      benchSort: 'file',
      crossingLimit: null,
      compare: 'wipe',
      read: [],
      shelfSort: 'newest',
      shelfShow: 'all',
      set,
    }),
    {
      name: 'rootcall',
    },
  ),
);
