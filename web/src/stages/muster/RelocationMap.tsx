import { memo, useState } from 'react';
import type { BundleItem } from '../../api/client';
import { count } from '../../parts/format';
import { FolderSheet } from '../../parts/FolderSheet';
import { Glyph, stateColour } from '../../parts/Glyph';
import { layOut, leastHeight, strand, type Band, type Place, type Row } from './layout';
import { useSize } from './useSize';

interface RelocationMapProps {
  bundles: BundleItem[];
  picked: BundleItem | undefined;
  busy: boolean;
  onApprove: (bundle: BundleItem) => void;
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
        onTake={(path) => pointing && onRule(pointing.from, path)}
      />
    </section>
  );
});

/** What a dragged row carries: the folder as it is written. */
const dragged = 'text/x-rootcall-folder';

/** Rows that a rule can answer. */
const canMove = (bundle: BundleItem) => bundle.from !== '' && bundle.state !== 'folded' && bundle.state !== 'embedded';

const depth = ['present', 'elsewhere', 'contested'];

/** What answers lies at the bottom; a contested fork is drawn last, on top. */
const inDrawingOrder = (bands: Band[]) =>
  [...bands].sort((a, b) => depth.indexOf(a.row.bundle.state) - depth.indexOf(b.row.bundle.state));

const rail = (bundle: BundleItem) =>
  bundle.state === 'elsewhere'
    ? 'var(--rc-lichen)'
    : bundle.state === 'missing' || bundle.state === 'damaged'
      ? 'var(--rc-clay)'
      : bundle.state === 'present' || bundle.state === 'embedded'
        ? '#868686'
        : 'var(--rc-ink)';

function RowLabel({
  row,
  picked,
  onHover,
  onPick,
}: {
  row: Row;
  picked: boolean;
  onHover: (b: BundleItem | undefined) => void;
  onPick: () => void;
}) {
  const { bundle } = row;
  const cut = bundle.from.length - (/[^/]+(\/[^/]+)?$/.exec(bundle.from)?.[0].length ?? 0);
  return (
    <button
      type="button"
      aria-pressed={picked}
      title={
        bundle.state === 'folded'
          ? undefined
          : `Narrow the list to these ${bundle.numbers.length}; drag to a folder on the right to write a rule`
      }
      draggable={canMove(bundle)}
      onDragStart={(e) => {
        e.dataTransfer.setData(dragged, bundle.from);
        e.dataTransfer.effectAllowed = 'link';
      }}
      className={`absolute left-0 flex items-center gap-2 ${picked ? 'bg-held' : 'hover:bg-raise'}`}
      style={{ top: row.top + row.height / 2 - 12, height: 24, width: labels - 20 }}
      onMouseEnter={() => onHover(bundle)}
      onMouseLeave={() => onHover(undefined)}
      onClick={onPick}
    >
      <b
        className={`w-11 flex-none text-right font-[650] ${bundle.numbers.length < 1000 ? 'text-[17px]' : 'text-[14px]'} ${bundle.state === 'missing' || bundle.state === 'damaged' ? 'text-clay' : ''}`}
      >
        {count(bundle.numbers.length)}
      </b>
      <span className={stateColour(bundle.state)}>
        <Glyph name={bundle.standIns ? 'stand-in' : bundle.state} />
        <span className="sr-only">{bundle.standIns ? 'stand-in' : bundle.state}</span>
      </span>
      <code className="truncate text-[12px]" title={bundle.from}>
        {bundle.state === 'folded' ? (
          bundle.from
        ) : bundle.from === '' ? (
          'inside the scene'
        ) : (
          <>
            <span className="text-quiet">{bundle.from.slice(0, cut)}</span>
            {bundle.from === '.' ? 'beside the scene' : bundle.from.slice(cut)}
          </>
        )}
      </code>
    </button>
  );
}

function BandDrawing({
  band,
  width,
  pitch,
  solid,
  dim,
}: {
  band: Band;
  width: number;
  pitch: number;
  solid: boolean;
  dim: boolean;
}) {
  const { bundle } = band.row;
  const opacity = dim ? 0.35 : 1;
  const body = (
    <path
      d={`${strand(width, band.from, band.to)}V${(band.to + band.height).toFixed(1)}C${(width * 0.54).toFixed(1)} ${(band.to + band.height).toFixed(1)} ${(width * 0.46).toFixed(1)} ${(band.from + band.height).toFixed(1)} 0 ${(band.from + band.height).toFixed(1)}Z`}
      fill={
        bundle.state === 'present'
          ? 'var(--rc-hair)'
          : bundle.entry !== null
            ? 'var(--rc-lichen-faint)'
            : 'var(--rc-lichen-body)'
      }
    />
  );
  const edges = (
    <path
      d={strand(width, band.from, band.to) + strand(width, band.from + band.height, band.to + band.height)}
      fill="none"
      stroke={bundle.state === 'present' ? '#868686' : 'var(--rc-lichen)'}
      strokeWidth="1.2"
      strokeDasharray={bundle.entry !== null ? '6 3' : undefined}
    />
  );
  if (bundle.state === 'present' || (solid && bundle.state === 'elsewhere'))
    return (
      <g opacity={opacity} className="drawn">
        {body}
        {edges}
      </g>
    );
  const contested = bundle.state === 'contested';
  const step = solid ? 8 : 1;
  const lines = Array.from({ length: Math.ceil(band.count / step) }, (_, i) => {
    const y = (i * step + 0.5) * pitch;
    return strand(width, band.from + y, band.to + y);
  });
  return (
    <path
      className="drawn"
      d={lines.join('')}
      fill="none"
      opacity={opacity}
      stroke={contested ? 'var(--rc-ink)' : 'var(--rc-lichen)'}
      strokeWidth={Math.min(1.6, Math.max(0.6, pitch * 0.62))}
      strokeDasharray={contested ? '6 3' : bundle.entry !== null ? '7 4' : undefined}
    />
  );
}

/** Strands that reach nobody: fraying, broken, or stopped at a wall. */
function LooseEnd({ row, width, pitch, dim }: { row: Row; width: number; pitch: number; dim: boolean }) {
  const { state, numbers } = row.bundle;
  // No closer than three pixels: beyond that a body stands for them.
  const crowded = numbers.length > 40 || row.strandsHeight / numbers.length < 3;
  const shown = crowded ? Math.max(1, Math.min(40, Math.floor(row.strandsHeight / 3))) : numbers.length;
  const step = row.strandsHeight / shown;
  const ys = Array.from({ length: shown }, (_, i) => row.strandsTop + (i + 0.5) * step);
  const centre = row.strandsTop + row.strandsHeight / 2;
  const opacity = dim ? 0.35 : 1;
  const thick = Math.min(1.4, Math.max(0.7, pitch * 0.6));
  if (state === 'missing') {
    const from = width * 0.15;
    // Each strand parts into three hairs; of many only one each is drawn, or the fray becomes a blot.
    const hairs = shown > 6 ? [0] : [-1, 0, 1];
    const d = ys.map((y, i) => {
      const ends = hairs.map((hair) => {
        const away = shown > 6 ? ((i * 37) % 11) - 5 : hair * 3;
        const reach = width * (0.21 + ((i * 53 + hair * 29 + 60) % 17) / 220);
        return `M${from.toFixed(1)} ${y.toFixed(1)}C${(from + 16).toFixed(1)} ${y.toFixed(1)} ${(reach - 16).toFixed(1)} ${(y + away * 1.6).toFixed(1)} ${reach.toFixed(1)} ${(y + away * 2).toFixed(1)}`;
      });
      return `M0 ${y.toFixed(1)}H${from.toFixed(1)}${ends.join('')}`;
    });
    return (
      <g opacity={opacity}>
        {crowded && <rect y={row.strandsTop} width={from} height={row.strandsHeight} fill="var(--rc-clay-body)" />}
        <path d={d.join('')} fill="none" stroke="var(--rc-clay)" strokeWidth={crowded ? 0.8 : thick} />
      </g>
    );
  }
  if (state === 'damaged') {
    const at = width * 0.3;
    const d = ys.map(
      (y) => `M0 ${y.toFixed(1)}H${at.toFixed(1)}l6 -3.5M${(at + 12).toFixed(1)} ${(y + 2).toFixed(1)}h26`,
    );
    return (
      <path
        d={d.join('')}
        fill="none"
        stroke="var(--rc-clay)"
        strokeWidth={thick}
        opacity={opacity}
        strokeDasharray={`${at + 8} 4 3 4 3 400`}
      />
    );
  }
  if (state === 'outside') {
    const at = width * 0.28;
    return (
      <g opacity={opacity} fill="none" stroke="var(--rc-ink)">
        <path d={ys.map((y) => `M0 ${y.toFixed(1)}H${at.toFixed(1)}`).join('')} strokeWidth={thick} />
        <path d={`M${at.toFixed(1)} ${centre - 11}V${centre + 11}`} strokeWidth="1.6" />
        <path d={`M${(at + 6).toFixed(1)} ${centre}h48`} strokeWidth="1.2" strokeDasharray="1.6 4" />
      </g>
    );
  }
  if (state === 'embedded')
    return (
      <g opacity={opacity}>
        <path
          d={ys.map((y) => `M0 ${y.toFixed(1)}H${(width * 0.06).toFixed(1)}`).join('')}
          stroke="#868686"
          strokeWidth={thick}
        />
        <circle cx={width * 0.06 + 6} cy={centre} r="5" fill="none" stroke="#868686" strokeWidth="1.4" />
        <circle cx={width * 0.06 + 6} cy={centre} r="2" fill="#868686" />
      </g>
    );
  return null;
}

interface DecisionProps {
  row: Row;
  left: number;
  filled: boolean;
  busy: boolean;
  onApprove: (bundle: BundleItem) => void;
  onPick: (bundle: BundleItem) => void;
  onSearchWider: () => void;
  onPoint: (bundle: BundleItem) => void;
}

/** What can be done about a bundle, standing on it. */
function Decision({ row, left, filled, busy, onApprove, onPick, onSearchWider, onPoint }: DecisionProps) {
  const { bundle } = row;
  const n = count(bundle.numbers.length);
  const place = { left, top: row.top + row.height / 2 - 12 };
  if (bundle.entry !== null)
    return (
      <span
        className="absolute border border-dashed border-lichen bg-ground px-2 text-[12.5px] font-semibold leading-[22px] text-lichen"
        style={place}
      >
        pending, entry {bundle.entry}
      </span>
    );
  switch (bundle.state) {
    case 'elsewhere':
      return (
        <span className="absolute flex items-center gap-2" style={place}>
          <button
            type="button"
            className={`key ${filled ? '' : 'outlined'}`}
            style={{ height: 24, lineHeight: filled ? '24px' : '21px' }}
            disabled={busy}
            onClick={() => onApprove(bundle)}
          >
            Relink {n}
          </button>
          {bundle.approvedBefore && (
            <span className="bg-ground px-1 text-[12px] leading-5 text-soft">approved before</span>
          )}
          {bundle.contradicts.length > 0 && (
            <button
              type="button"
              className="act soft bg-ground px-1 leading-5"
              title="Called from the same place, with a clear answer elsewhere: the rule leaves them out"
              onClick={() =>
                onPick({
                  ...bundle,
                  state: 'contradicting',
                  numbers: bundle.contradicts,
                })
              }
            >
              leaves {count(bundle.contradicts.length)} out
            </button>
          )}
        </span>
      );
    case 'contested':
      return (
        <button
          type="button"
          className="key outlined absolute"
          style={{ ...place, height: 24, lineHeight: '21px' }}
          onClick={() => onPick(bundle)}
        >
          Choose for {n}
        </button>
      );
    case 'present':
      return row.height < 24 ? null : (
        <span
          className="absolute bg-ground px-1.5 text-[12.5px] leading-5 text-soft"
          style={{ ...place, top: place.top + 2 }}
        >
          {bundle.standIns
            ? `${n} neutral ${bundle.numbers.length === 1 ? 'picture stands in' : 'pictures stand in'}`
            : bundle.numbers.length === 1
              ? '1 answers'
              : `${n} answer`}
          {bundle.standIns
            ? ''
            : bundle.relinked
              ? ', relinked'
              : bundle.numbers.length === 1
                ? ' where it is called'
                : ' where they are called'}
        </span>
      );
    case 'missing':
      return (
        <span className="absolute flex gap-4 bg-ground px-1 leading-6" style={{ ...place, left: left + 210 }}>
          <button type="button" className="act" onClick={onSearchWider}>
            Search wider
          </button>
          {canMove(bundle) && (
            <button type="button" className="act soft" onClick={() => onPoint(bundle)}>
              Point to its folder
            </button>
          )}
        </span>
      );
    case 'damaged':
      return (
        <span
          className="absolute bg-ground px-1 text-[12.5px] leading-6 text-clay"
          style={{ ...place, left: left + 210 }}
        >
          {n} damaged
        </span>
      );
    case 'outside':
      return (
        <span
          className="absolute bg-ground px-1 text-[12.5px] leading-6 text-quiet"
          style={{ ...place, left: left + 210 }}
        >
          outside every root, not looked at
        </span>
      );
    case 'embedded':
      return (
        <span className="absolute text-[12.5px] leading-6 text-soft" style={{ ...place, left: left + 44 }}>
          carried inside the scene
        </span>
      );
    case 'folded':
      return (
        <span className="absolute text-[12.5px] leading-6 text-quiet" style={place}>
          {wordsOf(row.folded)}
        </span>
      );
    default:
      return null;
  }
}

/** "2,000 missing, 4,500 elsewhere": what a folded row holds. */
function wordsOf(bundles: BundleItem[]): string {
  const states = new Map<string, number>();
  for (const b of bundles) states.set(b.state, (states.get(b.state) ?? 0) + b.numbers.length);
  return [...states].map(([state, n]) => `${count(n)} ${state}`).join(', ');
}

function PlaceLabel({
  place,
  left,
  onRule,
}: {
  place: Place;
  left: number;
  onRule: (from: string, to: string) => void;
}) {
  const [over, setOver] = useState(false);
  const cut = place.name.lastIndexOf('/') + 1;
  const words = [
    place.offered > 0 && `${count(place.offered)} offered`,
    place.answering > 0 && `${count(place.answering)} answer now`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <div
      className={`absolute grid w-80 leading-[17px] ${over ? 'outline-2 outline-dashed outline-lichen' : ''}`}
      style={{ left, top: place.top + place.height / 2 - 17 }}
      title={place.path}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(dragged)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        const from = e.dataTransfer.getData(dragged);
        setOver(false);
        if (!from) return;
        e.preventDefault();
        e.stopPropagation();
        onRule(from, place.path);
      }}
    >
      <code className="truncate text-[13px] font-medium">
        <span className="text-quiet">{place.name.slice(0, cut)}</span>
        {place.name.slice(cut)}
      </code>
      <span className="text-[12px] text-quiet">{words}</span>
    </div>
  );
}
