import { memo, useState } from 'react';
import type { BundleItem } from '../../../api/client';
import { FolderSheet } from '../../../parts/folders/FolderSheet';
import { useSize } from '../../../parts/useSize';
import { BandDrawing, inDrawingOrder } from './Band';
import { Decision } from './Decision';
import { layOut, leastHeight } from './layout';
import { LooseEnd } from './LooseEnd';
import { PlaceLabel } from './PlaceLabel';
import { RowLabel } from './RowLabel';

interface RelocationMapProps {
  bundles: BundleItem[];
  picked: BundleItem | undefined;
  /** References in focus; null for all. */
  focus: ReadonlySet<number> | null;
  busy: boolean;
  /** Takes a relink: all of it, or the part that is in focus. */
  onApprove: (bundle: BundleItem, only: number[] | null) => void;
  onPick: (bundle: BundleItem) => void;
  onSearchWider: () => void;
  /** A rule written by hand: what is called from one folder lies in another. */
  onRule: (from: string, to: string) => void;
}

const labels = 316;
const places = 352;

/** Old places to new places: one strand a reference, each bundle a decision. */
export const RelocationMap = memo(function RelocationMap({
  bundles,
  picked,
  focus,
  busy,
  onApprove,
  onPick,
  onSearchWider,
  onRule,
}: RelocationMapProps) {
  const [pointing, setPointing] = useState<BundleItem>();
  const [box, size] = useSize();
  const [hovered, setHovered] = useState<BundleItem>();
  const [unfolded, setUnfolded] = useState(false);
  const room = Math.max(120, size.height - 18);
  const height = unfolded ? Math.max(room, leastHeight(bundles)) : room;
  const layout = layOut(bundles, height, unfolded);
  const strands = Math.max(200, size.width - labels - places);
  const dim = (bundle: BundleItem) => hovered !== undefined && hovered !== bundle;
  const largestRelinks = bundles.filter((b) => b.state === 'elsewhere').slice(0, 3);

  return (
    <section ref={box} aria-label="Relocation map" className="relative h-full overflow-y-auto overflow-x-hidden">
      <div className="flex h-[18px] text-[12px] leading-4 text-quiet">
        <span style={{ width: labels + strands, paddingLeft: 76 }}>The scene calls</span>
        <span style={{ paddingLeft: 16 }}>Roots that answer</span>
      </div>
      <div className="absolute inset-x-0 top-[18px]" style={{ height }}>
        {layout.rows.map((row) => (
          <RowLabel
            key={`${row.bundle.state}${row.bundle.from}${row.bundle.to.map((t) => t.path).join()}`}
            row={row}
            width={labels - 20}
            picked={picked === row.bundle}
            onHover={setHovered}
            onPick={() => (row.bundle.state === 'folded' ? setUnfolded(true) : onPick(row.bundle))}
          />
        ))}
        <svg
          className="absolute top-0 overflow-visible"
          style={{ left: labels }}
          width={strands}
          height={height}
          aria-hidden="true"
        >
          {inDrawingOrder(layout.bands).map((band, i) => (
            <BandDrawing
              key={i}
              band={band}
              width={strands}
              pitch={layout.pitch}
              solid={layout.solid}
              dim={dim(band.row.bundle)}
            />
          ))}
          {layout.rows.map((row, i) => (
            <LooseEnd key={i} row={row} width={strands} pitch={layout.pitch} dim={dim(row.bundle)} />
          ))}
          {layout.rows.map((row, i) => (
            <rect key={i} x="-6" y={row.strandsTop} width="3" height={row.strandsHeight} fill={rail(row.bundle)} />
          ))}
          {layout.places.map((place) => (
            <rect key={place.path} x={strands + 3} y={place.top} width="3" height={place.height} fill="var(--rc-ink)" />
          ))}
        </svg>
        {layout.rows.map((row) => (
          <Decision
            key={`${row.bundle.state}${row.bundle.from}${row.bundle.to.map((t) => t.path).join()}`}
            row={row}
            left={labels + 16}
            filled={largestRelinks.includes(row.bundle)}
            focus={focus}
            busy={busy}
            onApprove={onApprove}
            onPick={onPick}
            onSearchWider={onSearchWider}
            onPoint={setPointing}
          />
        ))}
        {layout.places.map((place) => (
          <PlaceLabel key={place.path} place={place} left={labels + strands + 16} onRule={onRule} />
        ))}
      </div>
      <FolderSheet
        open={pointing !== undefined}
        onOpenChange={(open) => !open && setPointing(undefined)}
        title={`Where does what was in ${pointing?.from ?? ''} lie now?`}
        takes="folder"
        verb="It lies here"
        onTake={([path]) => path && pointing && onRule(pointing.from, path)}
      />
    </section>
  );
});

const rail = (bundle: BundleItem) =>
  bundle.state === 'elsewhere'
    ? 'var(--rc-lichen)'
    : bundle.state === 'missing' || bundle.state === 'damaged'
      ? 'var(--rc-clay)'
      : bundle.state === 'present' || bundle.state === 'embedded'
        ? '#868686'
        : 'var(--rc-ink)';
