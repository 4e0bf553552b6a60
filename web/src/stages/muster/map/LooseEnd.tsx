import type { Row } from './layout';
import { path } from './svgPath';

const widest = 620;

/** Strands that reach nobody: fraying, broken, or stopped at a wall. */
export function LooseEnd({ row, width: room, pitch, dim }: { row: Row; width: number; pitch: number; dim: boolean }) {
  const { state, numbers } = row.bundle;
  // On a wide map it ends where its acts begin.
  const width = Math.min(room, widest);
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
        return path`M${from} ${y}C${from + 16} ${y} ${reach - 16} ${y + away * 1.6} ${reach} ${y + away * 2}`;
      });
      return path`M0 ${y}H${from}` + ends.join('');
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
    const d = ys.map((y) => path`M0 ${y}H${at}l6 -3.5M${at + 12} ${y + 2}h26`);
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
        <path d={ys.map((y) => path`M0 ${y}H${at}`).join('')} strokeWidth={thick} />
        <path d={path`M${at} ${centre - 11}V${centre + 11}`} strokeWidth="1.6" />
        <path d={path`M${at + 6} ${centre}h48`} strokeWidth="1.2" strokeDasharray="1.6 4" />
      </g>
    );
  }
  if (state === 'embedded')
    return (
      <g opacity={opacity}>
        <path d={ys.map((y) => path`M0 ${y}H${width * 0.06}`).join('')} stroke="#868686" strokeWidth={thick} />
        <circle cx={width * 0.06 + 6} cy={centre} r="5" fill="none" stroke="#868686" strokeWidth="1.4" />
        <circle cx={width * 0.06 + 6} cy={centre} r="2" fill="#868686" />
      </g>
    );
  return null;
}
