import { create } from 'zustand';

interface Drafts {
  /** Values that are tried, by scene and material: nothing of them is written. */
  tried: Readonly<Record<string, Readonly<Record<string, number[]>>>>;
  /** @param numbers Undefined to let go of what was tried. */
  tryOut: (scene: string, material: string, input: string, numbers: number[] | undefined) => void;
  letGo: (scene: string, material: string) => void;
}

const keyOf = (scene: string, material: string) => JSON.stringify([scene, material]);

export const useDrafts = create<Drafts>()((set) => ({
  tried: {},
  tryOut: (scene, material, input, numbers) =>
    set(({ tried }) => {
      const key = keyOf(scene, material);
      const others = Object.entries(tried[key] ?? {}).filter(([name]) => name !== input);
      return { tried: { ...tried, [key]: Object.fromEntries(numbers ? [...others, [input, numbers]] : others) } };
    }),
  letGo: (scene, material) =>
    set(({ tried }) => ({
      tried: Object.fromEntries(Object.entries(tried).filter(([key]) => key !== keyOf(scene, material))),
    })),
}));

const none: Readonly<Record<string, number[]>> = {};

/** What is tried of one material. */
export const useTried = (scene: string, material: string | undefined) =>
  useDrafts((s) => (material === undefined ? none : (s.tried[keyOf(scene, material)] ?? none)));
