import type { BenchItem, ViewedLook, ViewPart } from '../../../api/client';

/** What is laid over a view of the scene. */
export const overlays = ['looks', 'apart', 'missing', 'checker', 'findings', 'variants'] as const;
export type Overlay = (typeof overlays)[number];

export const overlayWords: Record<Overlay, string> = {
  looks: 'as it looks',
  apart: 'materials apart',
  missing: 'missing images',
  checker: 'UV checker',
  findings: 'findings',
  variants: 'what variants change',
};

/** Hatches that tell things apart without hues; none for 0. */
export const hatches = ['none', 'diagonal', 'dots', 'lines', 'uprights', 'cross', 'wave'] as const;
export type Hatch = (typeof hatches)[number];

/** How a part is drawn that does not show its look. */
export interface Marked {
  hatch: Hatch;
  /** Of its ground, 0 to 1 as the screen has it. */
  grey: number;
}

const plain: Marked = { hatch: 'none', grey: 0.62 };
const woven: Marked = { hatch: 'cross', grey: 0.5 };
const greys = [0.86, 0.62, 0.42];

/** Each of 21 materials in a row has a mark of its own; a neighbour differs in both. */
const apart = (at: number): Marked => ({
  hatch: hatches[at % hatches.length] ?? 'none',
  grey: greys[(at + Math.floor(at / hatches.length)) % greys.length] ?? 0.62,
});

interface Known {
  part: ViewPart;
  look: ViewedLook | undefined;
  row: BenchItem | undefined;
  /** Place of the material among all; -1 for none. */
  at: number;
}

/** How an overlay draws a part; null where its look is shown. */
export function markOf(overlay: Overlay, { part, look, row, at }: Known): Marked | null {
  switch (overlay) {
    case 'apart':
      return at < 0 ? plain : apart(at);
    case 'missing':
      return look && look.missing > 0 ? woven : null;
    case 'findings':
      return row?.worst === 'blocker'
        ? { hatch: 'diagonal', grey: 0.3 }
        : row?.worst === 'warning'
          ? { hatch: 'lines', grey: 0.46 }
          : row?.worst === 'note'
            ? { hatch: 'dots', grey: 0.62 }
            : { hatch: 'none', grey: 0.8 };
    case 'variants':
      return Object.keys(part.byVariant).length > 0 ? { hatch: 'diagonal', grey: 0.42 } : plain;
    case 'looks':
      return look?.isMapMissing ? woven : null;
    default:
      return null;
  }
}

/** What the hatches mean, as lines of a legend. */
export function legendOf(
  overlay: Overlay,
  looks: readonly ViewedLook[],
  rows: readonly BenchItem[],
): [Hatch, string][] {
  const worst = (of: BenchItem['worst']) => rows.filter((r) => r.worst === of).length;
  switch (overlay) {
    case 'looks':
      return looks.some((l) => l.isMapMissing) ? [['cross', 'its base colour did not come']] : [];
    case 'missing':
      return [['cross', `${looks.filter((l) => l.missing > 0).length} with images missing`]];
    case 'findings':
      return [
        ['diagonal', `${worst('blocker')} blocked`],
        ['lines', `${worst('warning')} with warnings`],
        ['dots', `${worst('note')} with notes`],
      ];
    case 'variants':
      return [['diagonal', 'worn otherwise in a variant']];
    case 'checker':
      return [['none', 'a cell is 64 texels of the base colour']];
    default:
      return [];
  }
}
