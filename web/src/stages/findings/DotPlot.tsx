import type { PlotView } from '../../api/client';
import { layDots, scaleOf, short } from './dots';

const width = 484;
const height = 56;
const size = 8;

/** Every member of the family as a dot against the range that is expected. */
export function DotPlot({ plot, current, onPick }: { plot: PlotView; current: string; onPick: (key: string) => void }) {
  const scale = scaleOf(
    plot.dots.map((d) => d.value),
    plot.low,
    plot.high,
  );
  const x = (v: number) => ((v - scale.from) / (scale.to - scale.from)) * width;
  const dots = layDots(plot.dots, scale, width, size);
  const rows = Math.max(1, ...dots.map((d) => d.row + 1));
  const lift = Math.min(size, (height - 10) / rows);
  const outside = (v: number) => (plot.low !== null && v < plot.low) || (plot.high !== null && v > plot.high);
  const unit = plot.unit ? ` ${plot.unit}` : '';
  const expected =
    plot.low !== null && plot.high !== null
      ? plot.low === plot.high
        ? `expected: ${short(plot.low)}${unit}`
        : `expected: ${short(plot.low)} to ${short(plot.high)}${unit}`
      : plot.high !== null
        ? `expected: at most ${short(plot.high)}${unit}`
        : plot.low !== null
          ? `expected: at least ${short(plot.low)}${unit}`
          : '';
  const [only] = plot.dots;
  if (plot.dots.length === 1 && only)
    return (
      <dl className="flex-none text-[12.5px]">
        <dt className="text-quiet">{plot.what}</dt>
        <dd className={`text-[20px] font-[680] leading-7 ${outside(only.value) ? 'text-clay' : ''}`}>
          {short(only.value)}
          {unit}
        </dd>
        <dd className="text-quiet">{expected}</dd>
      </dl>
    );
  const left = plot.low === null ? 0 : x(plot.low);
  const right = plot.high === null ? width : x(plot.high);
  const bounded = plot.low !== null || plot.high !== null;
  return (
    <figure className="min-w-0 flex-none">
      <figcaption className="mb-1 flex justify-between text-[12px] font-medium text-quiet" style={{ width }}>
        <span className="truncate">
          {plot.dots.length === 1 ? plot.what : `${plot.what}, all ${plot.dots.length}`}
          {plot.unit && `, in ${plot.unit}`}
        </span>
        <span className="flex-none text-soft">{expected}</span>
      </figcaption>
      <svg
        width={width}
        height={height + 22}
        className="overflow-visible"
        role="img"
        aria-label={`${plot.what}: ${plot.dots.length} values; ${expected}`}
      >
        {bounded && (
          <>
            <rect x={left} y="4" width={Math.max(2, right - left)} height={height - 4} fill="var(--rc-hair)" />
            {plot.low !== null && <path d={`M${left} 4V${height}`} stroke="var(--rc-quiet)" strokeWidth="1.2" />}
            {plot.high !== null && <path d={`M${right} 4V${height}`} stroke="var(--rc-quiet)" strokeWidth="1.2" />}
          </>
        )}
        {dots.map((d) => (
          <circle
            key={d.key}
            cx={d.x}
            cy={height - 5 - d.row * lift}
            r={d.key === current ? 4.6 : 3.4}
            fill={d.key === current ? 'var(--rc-ink)' : outside(d.value) ? 'var(--rc-clay)' : 'var(--rc-soft)'}
            onClick={() => onPick(d.key)}
          />
        ))}
        <path d={`M0 ${height + 0.5}H${width}`} stroke="var(--rc-rule)" />
        <text className="mono" x="0" y={height + 16} fontSize="11" fill="var(--rc-quiet)">
          {short(scale.from)}
        </text>
        <text className="mono" x={width} y={height + 16} fontSize="11" fill="var(--rc-quiet)" textAnchor="end">
          {short(scale.to)}
        </text>
      </svg>
    </figure>
  );
}
