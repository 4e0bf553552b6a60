import { create } from 'zustand';
import { toggled } from './toggled';
import { createJSONStorage, persist } from 'zustand/middleware';

/** What the artist has picked. It stays while moving between stages and belongs to one scene. */
interface Focus {
  sceneId: string | undefined;
  files: ReadonlySet<number>;
  /** Materials, by name. */
  materials: ReadonlySet<string>;
  /** References of a bundle on the relocation map, with the name it is called by. */
  bundle: { name: string; numbers: ReadonlySet<number> } | undefined;
  find: string;
  enter: (sceneId: string | undefined) => void;
  pick: (numbers: readonly number[], on: boolean) => void;
  /** Takes a material into the focus, or out of it. */
  toggle: (material: string) => void;
  narrow: (to: Partial<Pick<Focus, 'materials' | 'bundle' | 'find'>>) => void;
  clearFiles: () => void;
  clear: () => void;
}

const none = {
  files: new Set<number>(),
  materials: new Set<string>(),
  bundle: undefined,
  find: '',
};

export const useFocus = create<Focus>()(
  persist(
    (set) => ({
      sceneId: undefined,
      ...none,
      enter: (sceneId) => set((now) => (now.sceneId === sceneId ? now : { ...none, sceneId })),
      pick: (numbers, on) =>
        set((now) => {
          const files = new Set(now.files);
          for (const n of numbers)
            if (on) files.add(n);
            else files.delete(n);
          return { files };
        }),
      toggle: (material) => set((now) => ({ materials: toggled(now.materials, material) })),
      narrow: (to) => set(to),
      clearFiles: () => set({ files: new Set() }),
      clear: () => set(none),
    }),
    {
      name: 'rootcall-focus',
      // For this window: another one may work on other things.
      storage: createJSONStorage(() => sessionStorage, {
        // JSON knows no sets.
        replacer: (_, value: unknown) => (value instanceof Set ? { set: [...(value as Set<unknown>)] } : value),
        reviver: (_, value) =>
          typeof value === 'object' && value !== null && 'set' in value && Array.isArray(value.set)
            ? new Set(value.set as unknown[])
            : value,
      }),
    },
  ),
);
