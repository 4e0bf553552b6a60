import { Choose } from '../../../parts/Choose';
import { BenchTop, type BenchShown } from '../BenchTop';
import { reaches, type Reach } from './dress';
import { overlays, overlayWords, type Overlay } from './overlays';

interface SpaceBarProps {
  overlay: Overlay;
  onOverlay: (overlay: Overlay) => void;
  variants: readonly string[];
  variant: string | undefined;
  onVariant: (variant: string | undefined) => void;
  reach: Reach;
  onReach: (reach: Reach) => void;
  /** Materials in focus. */
  focus: number;
  onShow: (shown: BenchShown) => void;
  isBeside: boolean;
}

/** Radix takes no empty value. */
const asItStands = '=';

/** What is laid over the scene, which variant it wears, and how much of it is shown. */
export function SpaceBar(props: SpaceBarProps) {
  const { overlay, onOverlay, variants, variant, onVariant, reach, onReach, focus, onShow, isBeside } = props;
  const words: Record<Reach, string> = { all: 'show all', focus: `show ${focus} in focus`, held: 'show in hand' };
  return (
    <BenchTop shown="space" onShow={onShow} isBeside={isBeside}>
      <Choose
        label="What is laid over it"
        value={overlay}
        options={overlays
          .filter((o) => o !== 'variants' || variants.length > 0)
          .map((o) => ({ value: o, words: overlayWords[o] }))}
        onChoose={(o) => onOverlay(overlays.find((x) => x === o) ?? 'looks')}
      />
      {variants.length > 0 && (
        <Choose
          label="Variant"
          value={variant ?? asItStands}
          options={[{ value: asItStands, words: 'as it stands' }, ...variants.map((v) => ({ value: v, words: v }))]}
          onChoose={(v) => onVariant(v === asItStands ? undefined : v)}
        />
      )}
      <Choose
        label="How much is shown"
        value={reach}
        options={reaches.filter((r) => r !== 'focus' || focus > 0).map((r) => ({ value: r, words: words[r] }))}
        onChoose={(r) => onReach(reaches.find((x) => x === r) ?? 'all')}
      />
      <kbd aria-hidden="true">⇧Z</kbd>
    </BenchTop>
  );
}
