import { create } from 'zustand';

/**
 * Whether the sheet stands still. Beside the sheet and not in it: tiles that have their pictures do not listen, so that the first and the
 * last frame of a scroll redraw none of them.
 */
export const useRest = create<{ still: boolean }>(() => ({ still: true }));
