import type { HeldFinding } from '../../../api/client';
import { curve, type Wire, type Wires } from './wires';
import type { Drag } from './Wiring';

interface StrandsProps {
  wires: Wires;
  drag: Drag | undefined;
  /** What a drop would do. */
  meant: Wire | undefined;
  refused: boolean;
  findings: HeldFinding[];
}

/** Words of nodes stand on the strands where there are few of them; elsewhere they are told on pointing. */
const mostWords = 8;

/** The lines: white where they flow, clay where a finding says that they are wrong, dashed lichen what a drop would lay. */
export function Strands({ wires, drag, meant, refused, findings }: StrandsProps) {
  const wrong = new Set(findings.filter((f) => f.severity !== 'note').map((f) => f.input));
  const showWords = wires.strands.reduce((n, s) => n + s.knots.length, 0) <= mostWords;
  const held = drag?.grip.kind === 'end' ? drag.grip.input : undefined;
  return (
    <svg width="100%" height={wires.height + 8} className="absolute inset-0" role="img" aria-label={about(wires)}>
      <path d={`M${wires.railX} 2V${wires.height}`} stroke="var(--rc-ink)" strokeWidth="2" />
      {wires.strands.map((s) => (
        <g
          key={`${s.input} ${s.node}`}
          stroke={wrong.has(s.input) ? 'var(--rc-clay)' : 'var(--rc-ink)'}
          strokeWidth="1.6"
          fill="none"
          opacity={held !== undefined && held !== s.input ? 0.35 : 1}
        >
          {s.from.map((from, i) => (
            <path key={i} d={curve(from, { x: s.to.x, y: s.to.y + (i - (s.from.length - 1) / 2) * 2.4 })} />
          ))}
          {s.knots.map((k, i) => (
            <g key={i}>
              <circle cx={k.x} cy={k.y} r="3.2" fill="var(--rc-ground)">
                <title>{k.word}</title>
              </circle>
              {showWords && (
                <text
                  x={k.x}
                  // Two that lie close are told above and below.
                  y={k.y + (i % 2 === 0 ? -7 : 15)}
                  fontSize="11"
                  textAnchor="middle"
                  fill="var(--rc-quiet)"
                  stroke="var(--rc-ground)"
                  strokeWidth="4"
                  paintOrder="stroke"
                >
                  {k.word}
                </text>
              )}
            </g>
          ))}
        </g>
      ))}
      {drag && (
        <path
          d={curve(beginning(wires, drag), end(wires, drag, meant))}
          stroke={refused ? 'var(--rc-soft)' : 'var(--rc-lichen)'}
          strokeWidth="2"
          strokeDasharray="7 5"
          fill="none"
        />
      )}
    </svg>
  );
}

function beginning(wires: Wires, { grip }: Drag) {
  if (grip.kind === 'end') return wires.strands.find((s) => s.input === grip.input)?.from[0] ?? { x: 0, y: 0 };
  const letter = wires.sources.find((s) => s.node === grip.node)?.letters.find((l) => l.letter === grip.letter);
  return { x: wires.lettersX + 14, y: letter?.y ?? 0 };
}

function end(wires: Wires, drag: Drag, meant: Wire | undefined) {
  const rung = wires.rungs.find((r) => r.input.name === meant?.to);
  return rung ? { x: wires.railX - 9, y: rung.y } : drag.at;
}

const about = (wires: Wires) =>
  wires.strands.length === 0
    ? 'No image feeds an input'
    : wires.strands.map((s) => `${s.letters.join('').toUpperCase()} of ${s.node} feeds ${s.input}`).join('; ');
