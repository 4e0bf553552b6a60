import { useSyncExternalStore } from 'react';

/** Windows from this width on, and how much larger pictures are in them: evidence is looked at, and there is room. */
const steps = [
  [2200, 2],
  [1700, 1.5],
] as const;

const grown = () => steps.find(([width]) => window.innerWidth >= width)?.[1] ?? 1;

function listen(onChange: () => void): () => void {
  window.addEventListener('resize', onChange);
  return () => window.removeEventListener('resize', onChange);
}

/** Two views that share a field stand beside each other from this width on. */
const roomForTwo = 1800;

const isWide = () => window.innerWidth >= roomForTwo;

export const useIsWide = () => useSyncExternalStore(listen, isWide);

/** A picture's side in CSS pixels, grown with the window. */
export function useGrown(side: number): number {
  return Math.round(side * useSyncExternalStore(listen, grown));
}
