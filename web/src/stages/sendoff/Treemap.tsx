import type { SendOffView } from '../../api/client';
import { bytes } from '../../parts/format';
import { useSize } from '../../parts/useSize';
import { areas } from './treemap';

/** Hatches by what a file is for: never a hue, always with the word. */
const hatches: Record<string, string> = {
  'base colour': 'flat',
  normal: 'wave',
  bump: 'wave',
  displacement: 'diagonal',
  roughness: 'dots',
  'metallic roughness': 'dots',
  glossiness: 'dots',
  environment: 'lines',
  geometry: 'triangles',
  scene: 'triangles',
  metalness: 'uprights',
  occlusion: 'cross',
};

/** The bytes of the package by what they are for; each cell is a file. */
export function Treemap({ files }: { files: SendOffView['files'] }) {
  const [box, size] = useSize<HTMLDivElement>();
  const groups = areas(files, size.width, size.height);
  return (
    <div
      ref={box}
      className="h-full min-h-0 overflow-hidden"
      role="img"
      aria-label={`Bytes by kind: ${groups.map((g) => `${g.role} ${bytes(g.bytes)}`).join(', ')}`}
    >
      <svg width={size.width} height={size.height} aria-hidden="true">
        <Patterns />
        {groups.map((group) => (
          <g key={group.role}>
            {group.cells.map((cell) => (
              <rect
                key={cell.file.name}
                x={cell.x}
                y={cell.y}
                width={Math.max(0, cell.width)}
                height={Math.max(0, cell.height)}
                fill={`url(#hatch-${hatches[group.role] ?? 'flat'})`}
                stroke="var(--rc-ground)"
              >
                <title>{`${cell.file.name}, ${bytes(cell.file.bytes)}`}</title>
              </rect>
            ))}
            {group.width > 70 && group.height > 40 && (
              <foreignObject x={group.x} y={group.y} width={Math.min(group.width, 170)} height="40">
                <div className="inline-block max-w-full bg-ground pl-2 pr-2.5 pb-1 leading-4">
                  <b className="block truncate text-[13px] font-[680] leading-4">{group.role}</b>
                  <code className="text-[12px] text-soft">{bytes(group.bytes)}</code>
                </div>
              </foreignObject>
            )}
          </g>
        ))}
      </svg>
    </div>
  );
}

function Patterns() {
  const pattern = (name: string, w: number, h: number, d: string, fill = false) => (
    <pattern key={name} id={`hatch-${name}`} width={w} height={h} patternUnits="userSpaceOnUse">
      <rect width={w} height={h} fill="#2b2b2b" />
      <path d={d} stroke={fill ? 'none' : '#7d7d7d'} fill={fill ? '#8a8a8a' : 'none'} strokeWidth="1" />
    </pattern>
  );
  return (
    <defs>
      <pattern id="hatch-flat" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="#5a5a5a" />
      </pattern>
      {pattern('wave', 12, 7, 'M0 5Q3 1 6 5T12 5')}
      {pattern('diagonal', 7, 7, 'M-1 8L8 -1M-1 1L1 -1M6 8L8 6')}
      {pattern('dots', 6, 6, 'M2 2h1.6v1.6h-1.6z', true)}
      {pattern('lines', 8, 5, 'M0 2.5H8')}
      {pattern('triangles', 14, 12, 'M0 11L7 1L14 11Z')}
      {pattern('uprights', 5, 8, 'M2.5 0V8')}
      {pattern('cross', 8, 8, 'M0 4H8M4 0V8')}
    </defs>
  );
}
