import type { BundleItem } from '../../../api/client';

/** What a dragged row carries: the folder as it is written. */
export const dragged = 'text/x-rootcall-folder';

/** Rows that a rule can answer. */
export const canMove = (bundle: BundleItem) =>
  bundle.from !== '' && bundle.state !== 'folded' && bundle.state !== 'embedded';
