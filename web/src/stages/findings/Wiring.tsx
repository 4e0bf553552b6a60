import type { ReactNode } from 'react';
import type { CauseView, ImageItem, RailInput } from '../../api/client';
import { pixels } from '../../parts/format';
import { PictureAt } from '../../parts/Picture';

type Evidence = CauseView['evidence'];

interface WiringProps {
  rail: RailInput[];
  wires: Evidence['wires'];
  image: ImageItem | undefined;
  values: Evidence['values'];
  /** What stands under the rungs, where there are few (roomUnder) and the evidence is wide. */
  children?: ReactNode;
}

const rung = 34;
const top = 22;
const railX = 400;
const pictureSide = 128;

/** So few rungs leave room for a small table under them. */
export const roomUnder = (rail: RailInput[]) => rail.length <= 3;

/** The shader's inputs as rungs on one rail: where the image arrives now, and where it would after the fix. */
export function Wiring({ rail, wires, image, children }: WiringProps) {
  const height = Math.max(top * 2 + rung * (rail.length - 1), image ? 214 : 60);
  const yOf = (input: string | null | undefined) => {
    const at = rail.findIndex((r) => r.input === input);
    return at < 0 ? undefined : top + at * rung;
  };
  const wire = wires[0];
  const letters = ['R', 'G', 'B', 'A'];
  const grey = image?.isGrey === true;
  const lit = (letter: string) =>
    image ? (image.channel.length > 1 ? letter !== 'A' : image.channel === letter.toLowerCase()) : false;
  const start = (n: number) => 56 + n * 30;
  const from = start(Math.max(0, letters.findIndex(lit)));
  const now = yOf(wire?.now);
  const after = yOf(wire?.after);
  return (
    <div className="relative mt-2" style={{ height }}>
      <svg
        width="100%"
        height={height}
        className="absolute inset-0"
        role="img"
        aria-label={
          wire
            ? `${wire.image} feeds ${wire.now || 'nothing'} now${wire.after ? `, and ${wire.after} after the fix` : ''}`
            : 'Inputs of the surface shader'
        }
      >
        <path d={`M${railX} 6V${height - 6}`} stroke="var(--rc-ink)" strokeWidth="2" />
        {image &&
          wire &&
          letters.map((l, i) => (
            <g key={l}>
              <text
                className="mono"
                x="138"
                y={start(i) + 4}
                fontSize="12"
                fontWeight={lit(l) ? 700 : 400}
                fill={lit(l) ? 'var(--rc-ink)' : 'var(--rc-quiet)'}
              >
                {l}
              </text>
              {!lit(l) && <path d={`M152 ${start(i)}h10`} stroke="var(--rc-rule)" strokeWidth="1.4" />}
            </g>
          ))}
        {image && now !== undefined && (
          <>
            <path
              d={`M154 ${from}C264 ${from} 246 ${now} ${railX - 8} ${now}`}
              stroke={
                after !== undefined && after !== now
                  ? 'var(--rc-clay)'
                  : wire?.after === wire?.now
                    ? 'var(--rc-ink)'
                    : 'var(--rc-clay)'
              }
              strokeWidth="3"
              fill="none"
            />
            {now !== after && (
              <text
                x="290"
                y={now + (after !== undefined && after > now ? -10 : 20)}
                fontSize="12"
                fontWeight="650"
                fill="var(--rc-clay)"
              >
                now
              </text>
            )}
          </>
        )}
        {image && after !== undefined && after !== now && (
          <>
            <path
              d={`M154 ${from - 1}C254 ${from - 1} 266 ${after} ${railX - 8} ${after}`}
              stroke="var(--rc-lichen)"
              strokeWidth="3"
              strokeDasharray="8 5"
              fill="none"
              className="drawn"
            />
            <text
              x="290"
              y={after + (now !== undefined && after > now ? 20 : -10)}
              fontSize="12"
              fontWeight="650"
              fill="var(--rc-lichen)"
            >
              after the fix
            </text>
          </>
        )}
        {rail.map((r, i) => {
          const y = top + i * rung;
          const colour =
            r.after !== null ? (r.input === wire?.after ? 'var(--rc-lichen)' : 'var(--rc-clay)') : 'var(--rc-ink)';
          const own = r.input === wire?.now || r.input === wire?.after;
          return (
            <g key={r.input}>
              {r.from !== null && !own && (
                <path d={`M330 ${y}H${railX - 8}`} stroke="var(--rc-quiet)" strokeWidth="1.6" />
              )}
              <path d={`M${railX - 8} ${y}h18`} stroke={colour} strokeWidth={r.after !== null ? 3 : 2} />
            </g>
          );
        })}
      </svg>
      {image && (
        <figure className="absolute left-0 top-[42px] w-[128px]">
          <PictureAt url={image.picture} alt={image.name} size={pictureSide} />
          <figcaption className="mt-1">
            <code className="block w-72 truncate text-[12px]" title={image.name}>
              {image.name}
            </code>
            <span className="block w-72 text-[12px] text-quiet">
              {pixels(image.width, image.height)}, {image.facts}
              {grey && image.facts.includes('channels') ? ', grey' : ''}
            </span>
          </figcaption>
        </figure>
      )}
      {rail.map((r, i) => (
        <Rung
          key={r.input}
          item={r}
          y={top + i * rung}
          touched={r.after !== null || r.input === wire?.now || r.input === wire?.after}
        />
      ))}
      {children && (
        <div className="absolute bottom-0 hidden @[740px]:block" style={{ left: railX + 20 }}>
          {children}
        </div>
      )}
    </div>
  );
}

function Rung({ item, y, touched }: { item: RailInput; y: number; touched: boolean }) {
  return (
    <div
      className="absolute right-0 grid grid-cols-[148px_minmax(0,1fr)] items-center"
      style={{ left: railX + 20, top: y - 16, height: 32 }}
    >
      <span className={`truncate text-[13.5px] ${touched ? 'font-[680] text-ink' : 'text-soft'}`} title={item.input}>
        {item.input}
      </span>
      {item.after !== null ? (
        <span className="min-w-0 text-[12px] leading-[15px]">
          <span className="block truncate text-clay">now: {item.now}</span>
          <span className="block truncate text-lichen">after: {item.after}</span>
        </span>
      ) : (
        <code className={`truncate text-[11.5px] ${touched ? 'text-clay' : 'text-quiet'}`} title={item.now}>
          {item.now}
        </code>
      )}
    </div>
  );
}
