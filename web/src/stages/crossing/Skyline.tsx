import clsx from 'clsx';
import type { CrossRow, WorkItem } from '../../api/client';
import { apart } from '../../parts/format';
import { Swatch } from '../../parts/Swatch';
import { useSize } from '../../parts/useSize';
import { WorkLine } from '../../parts/WorkLine';
import { bars, high, labels, limitAt } from './skyline';

interface SkylineProps {
  sceneId: string;
  rows: CrossRow[];
  limit: number;
  onLimit: (limit: number) => void;
  current: string | undefined;
  inFocus: ReadonlySet<string>;
  onPick: (material: string) => void;
  onWhole: () => void;
  work: WorkItem | undefined;
}

/** Every material as a bar on its own swatch, the farthest moved first; those above the limit are named in place. */
export function Skyline({ sceneId, rows, limit, onLimit, current, inFocus, onPick, onWhole, work }: SkylineProps) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const { pitch, items, top } = bars(rows, width, limit);
  const far = labels(items, limit);
  const swatch = pitch >= 20 ? Math.min(48, pitch - 3) : 0;
  return (
    <section className="flex-none px-7" aria-label="How far each material moves">
      <div className="flex h-5 items-baseline justify-end gap-4">
        <button type="button" className="act soft mr-auto" onClick={onWhole}>
          The whole scene, before and after <kbd>D</kbd>
        </button>
        {work && <WorkLine item={work} verb="Measuring" />}
        <span className="text-[12.5px] text-quiet">mean ΔE under three lights, sorted</span>
      </div>
      <div ref={box} className="relative overflow-x-auto overflow-y-hidden" style={{ height: high + swatch + 14 }}>
        <div className="relative" style={{ width: Math.max(width, pitch * rows.length) }}>
          <svg width="100%" height={high} className="block" aria-hidden="true">
            {items.map((b) => (
              <rect
                key={b.row.material}
                x={b.x}
                y={high - b.height}
                width={b.width}
                height={b.height}
                fill={b.row.moved && b.row.moved.mean > limit ? 'var(--rc-clay)' : 'var(--rc-soft)'}
                opacity={b.row.moved ? 1 : 0.35}
              />
            ))}
            <path d={`M0 ${high - 0.5}H${Math.max(width, pitch * rows.length)}`} stroke="var(--rc-rule)" />
          </svg>
          {far.map((l) => (
            <span
              key={l.row.material}
              className="pointer-events-none absolute whitespace-nowrap text-[12.5px] leading-4"
              style={{ left: l.x, top: l.y }}
            >
              {l.row.material} <b className="font-[680] text-clay">{l.row.moved && apart(l.row.moved.mean, limit)}</b>
            </span>
          ))}
          <ul className="absolute inset-0" aria-label="Materials, the farthest moved first">
            {items.map((b) => (
              <li key={b.row.material}>
                <button
                  type="button"
                  aria-pressed={b.row.material === current}
                  aria-label={
                    b.row.moved
                      ? `${b.row.material}, mean ΔE ${apart(b.row.moved.mean, limit)}`
                      : `${b.row.material}, not measured`
                  }
                  title={b.row.material}
                  onClick={() => onPick(b.row.material)}
                  className={clsx(
                    'absolute top-0 flex flex-col items-center justify-end',
                    b.row.material === current && 'outline outline-2 -outline-offset-1 outline-white',
                  )}
                  style={{ left: b.x - (pitch - b.width) / 2, width: pitch, top: high + 2, height: swatch + 8 }}
                >
                  {swatch > 0 && <Swatch sceneId={sceneId} material={b.row.material} size={swatch} />}
                  {inFocus.has(b.row.material) && (
                    <span className="absolute -top-1 size-1.5 rounded-full bg-white" aria-hidden="true" />
                  )}
                </button>
              </li>
            ))}
          </ul>
        </div>
        <Limit limit={limit} top={top} onLimit={onLimit} />
      </div>
    </section>
  );
}

/** The line that a look must stay under; it is dragged, or moved by arrow keys. */
function Limit({ limit, top, onLimit }: { limit: number; top: number; onLimit: (limit: number) => void }) {
  const to = (value: number) => onLimit(Math.round(Math.min(top, Math.max(0.1, value)) * 10) / 10);
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Pass limit, mean ΔE"
      aria-orientation="vertical"
      aria-valuemin={0.1}
      aria-valuemax={Math.round(top * 10) / 10}
      aria-valuenow={limit}
      className="absolute inset-x-0 h-3 -translate-y-1/2 cursor-ns-resize touch-none"
      style={{ top: limitAt(limit, top) }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        const box = e.currentTarget.parentElement?.getBoundingClientRect();
        if (e.buttons === 1 && box) to(((high - (e.clientY - box.top)) / high) * top);
      }}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowUp' ? 0.1 : e.key === 'ArrowDown' ? -0.1 : 0;
        if (by === 0) return;
        e.preventDefault();
        e.stopPropagation();
        to(limit + by);
      }}
    >
      <span className="absolute inset-x-0 top-1/2 border-t-[1.5px] border-dashed border-soft" />
      <b className="absolute -top-3 right-0 bg-ground pl-2 text-[12.5px] font-[680] leading-4">
        pass limit, mean ΔE {limit.toFixed(1)}
      </b>
    </div>
  );
}
