import { strand, type Band } from './layout';
import { path } from './svgPath';

interface BandDrawingProps {
  band: Band;
  width: number;
  pitch: number;
  solid: boolean;
  dim: boolean;
}

/** A bundle's strands to one place, or one body where they are too many to be told apart. */
export function BandDrawing({ band, width, pitch, solid, dim }: BandDrawingProps) {
  const { bundle } = band.row;
  const opacity = dim ? 0.35 : 1;
  const [left, low] = [band.from + band.height, band.to + band.height];
  const body = (
    <path
      d={strand(width, band.from, band.to) + path`V${low}C${width * 0.54} ${low} ${width * 0.46} ${left} 0 ${left}Z`}
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
      d={strand(width, band.from, band.to) + strand(width, left, low)}
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

const depth = ['present', 'elsewhere', 'contested'];

/** What answers lies at the bottom; a contested fork is drawn last, on top. */
export const inDrawingOrder = (bands: Band[]) =>
  [...bands].sort((a, b) => depth.indexOf(a.row.bundle.state) - depth.indexOf(b.row.bundle.state));
