import type { MomentItem } from '../../../api/client';
import type { TwoMoments } from '../../../api/compare';
import type { PairAddresses } from '../../../parts/compare/PairOnField';

/** Which two are held beside each other: those of the address as long as they are there, or arrived beside now. */
export function momentsOf(kept: string | undefined, moments: readonly MomentItem[]): TwoMoments {
  const [before = 'arrived', after = 'now'] = kept?.split('~') ?? [];
  const there = (word: string) => moments.length === 0 || moments.some((m) => m.word === word);
  return { before: there(before) ? before : 'arrived', after: there(after) ? after : 'now' };
}

interface Shown {
  light: string;
  side: number;
  /** Counts the changes of the scene's looks that this window has heard of. */
  touched: number;
}

/** Where the pictures of a material at two moments are asked for. */
export function addressesOf(
  sceneId: string,
  material: string,
  { before, after }: TwoMoments,
  { light, side, touched }: Shown,
): PairAddresses {
  const stem = `/api/scenes/${sceneId}/compare`;
  const of = new URLSearchParams({ material, before, after }).toString();
  const query = new URLSearchParams({ light, side: String(side), ...(touched > 0 && { touched: String(touched) }) });
  return {
    before: `${stem}/swatch?${of}&look=before&${query}`,
    after: `${stem}/swatch?${of}&${query}`,
    apart: `${stem}/apart?${of}&${query}`,
    stem: `${stem}/swatch?${of}&`,
  };
}
