import { create } from 'zustand';

/** Counts up when files change on disk, so that pictures are loaded again. */
export const useTouched = create<{ times: number; touch: () => void }>()((set) => ({
  times: 0,
  touch: () => set((s) => ({ times: s.times + 1 })),
}));
