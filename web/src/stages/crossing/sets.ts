import { create } from 'zustand';
import type { SetValueOf } from '../../api/client';

interface Sets {
  /** Numbers that were given in place of formulas, by scene, model and material. */
  sets: Readonly<Record<string, Readonly<Record<string, number[]>>>>;
  set: (scene: string, to: string, material: string, input: string, numbers: number[] | null) => void;
}

const keyOf = (scene: string, to: string, material: string) => JSON.stringify([scene, to, material]);

export const useSets = create<Sets>()((change) => ({
  sets: {},
  set: (scene, to, material, input, numbers) =>
    change((s) => {
      const key = keyOf(scene, to, material);
      const others = Object.fromEntries(Object.entries(s.sets[key] ?? {}).filter(([name]) => name !== input));
      return { sets: { ...s.sets, [key]: numbers === null ? others : { ...others, [input]: numbers } } };
    }),
}));

/** What was set of one material. */
export const setOf = (sets: Sets['sets'], scene: string, to: string, material: string): SetValueOf[] =>
  Object.entries(sets[keyOf(scene, to, material)] ?? {}).map(([input, numbers]) => ({ material, input, numbers }));
