const width = 220;
const height = 56;

interface HistogramProps {
  bins: readonly number[];
  letter: string;
  min: number;
  mean: number;
  max: number;
}

/** The values of one channel as they are stored, from 0 to 1. */
export function Histogram({ bins, letter, min, mean: middle, max }: HistogramProps) {
  const most = Math.max(1, ...bins);
  const bar = width / bins.length;
  const mean = Math.min(1, Math.max(0, middle));
  return (
    <figure className="flex-none">
      <figcaption className="mb-1 text-[12px] font-medium text-quiet">
        Values in {letter} of this image, stored
      </figcaption>
      <svg
        width={width}
        height={height + 22}
        role="img"
        aria-label={`Values from ${min.toFixed(2)} to ${max.toFixed(2)}, mean ${middle.toFixed(2)}`}
      >
        {bins.map((n, i) => (
          <rect
            key={i}
            x={i * bar}
            y={height - (n / most) * (height - 4)}
            width={Math.max(1, bar - 1.5)}
            height={(n / most) * (height - 4)}
            fill="var(--rc-soft)"
          />
        ))}
        <path d={`M0 ${height + 0.5}H${width}`} stroke="var(--rc-rule)" />
        <path d={`M${mean * width} ${height + 1}v6`} stroke="var(--rc-ink)" strokeWidth="2" />
        <text className="mono" x="0" y={height + 16} fontSize="11" fill="var(--rc-quiet)">
          0
        </text>
        <text
          className="mono"
          x={Math.min(width - 46, Math.max(46, mean * width))}
          y={height + 19}
          fontSize="11"
          fill="var(--rc-ink)"
          textAnchor="middle"
        >
          mean {middle.toFixed(2)}
        </text>
        <text className="mono" x={width} y={height + 16} fontSize="11" fill="var(--rc-quiet)" textAnchor="end">
          1
        </text>
      </svg>
    </figure>
  );
}
