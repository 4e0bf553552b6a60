import { create } from 'zustand';

interface Touched {
  /** Counts up when files change on disk, so that pictures are loaded again. */
  times: number;
  /** Counts up for each scene whose materials may look different from now on. */
  looks: Readonly<Record<string, number>>;
  touch: () => void;
  look: (scene: string) => void;
}

export const useTouched = create<Touched>()((set) => ({
  times: 0,
  looks: {},
  touch: () => set((s) => ({ times: s.times + 1 })),
  look: (scene) => set((s) => ({ looks: { ...s.looks, [scene]: (s.looks[scene] ?? 0) + 1 } })),
}));
