import { ToggleGroup } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useSettings } from '../../state/settings';
import type { Loaded } from '../Picture';
import { Sphere } from '../Swatch';

/** One of two looks, and what it is called: “arrived”, “crossed”. */
export interface ComparedLook {
  name: string;
  loaded: Loaded | null;
}

interface CompareProps {
  of: string;
  before: ComparedLook;
  after: ComparedLook;
  /** Width of one picture, in CSS pixels. */
  size: number;
  /** Width of a picture by its height. */
  aspect?: number;
}

const ways = { wipe: 'wipe', flicker: 'flicker', beside: 'side by side' } as const;

/** Two looks of one thing: under one wipe, one after the other, or side by side. */
export function Compare({ aspect = 1, ...props }: CompareProps) {
  const way = useSettings((s) => s.compare);
  return (
    <div className="w-fit">
      {way === 'wipe' && <Wipe {...props} aspect={aspect} />}
      {way === 'flicker' && <Flicker {...props} aspect={aspect} />}
      {way === 'beside' && <Beside {...props} aspect={aspect} />}
    </div>
  );
}

/** How the two are held beside each other, the same in every stage. */
export function CompareWays() {
  const { compare, set } = useSettings();
  return (
    <ToggleGroup.Root
      type="single"
      value={compare}
      onValueChange={(value) => value in ways && set({ compare: value as keyof typeof ways })}
      aria-label="How the two looks are held beside each other"
      className="flex gap-3 text-[12px]"
    >
      {Object.entries(ways).map(([value, word]) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          className="text-white data-[state=on]:font-[720] data-[state=on]:underline data-[state=on]:underline-offset-4"
        >
          {word}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** The second look right of a line that is moved by pointer or arrow keys. */
function Wipe({ of, before, after, size, aspect }: Required<CompareProps>) {
  const [at, setAt] = useState(0.5);
  const move = (event: React.PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setAt(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)));
  };
  return (
    <div
      className="relative cursor-ew-resize touch-none select-none pt-5"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        move(e);
      }}
      onPointerMove={(e) => e.buttons === 1 && move(e)}
    >
      <span
        className="absolute top-0 text-[12px] font-[680] text-white"
        style={{ right: `calc(${(1 - at) * 100}% + 8px)` }}
      >
        {at > 0.2 && before.name}
      </span>
      <span className="absolute top-0 text-[12px] font-[680] text-white" style={{ left: `calc(${at * 100}% + 8px)` }}>
        {at < 0.8 && after.name}
      </span>
      <div className="relative" style={{ width: size, height: size / aspect }}>
        <Sphere loaded={before.loaded} size={size} aspect={aspect} alt={`${of}, ${before.name}`} />
        <div className="absolute inset-0" style={{ clipPath: `inset(0 0 0 ${at * 100}%)` }}>
          <Sphere loaded={after.loaded} size={size} aspect={aspect} alt={`${of}, ${after.name}`} />
        </div>
      </div>
      <span
        className="absolute bottom-[-12px] top-0 w-0.5 -translate-x-1/2 bg-white"
        style={{ left: `${at * 100}%` }}
      />
      <span
        role="slider"
        tabIndex={0}
        aria-label={`Wipe between ${before.name} and ${after.name}`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(at * 100)}
        onKeyDown={(e) => {
          const by = e.key === 'ArrowLeft' ? -0.05 : e.key === 'ArrowRight' ? 0.05 : 0;
          if (by === 0) return;
          e.preventDefault();
          e.stopPropagation();
          setAt((now) => Math.min(1, Math.max(0, now + by)));
        }}
        className="absolute size-5 -translate-x-1/2 -translate-y-1/2 rounded-full border-[3px] border-[#6a6a6a] bg-white"
        style={{ left: `${at * 100}%`, top: `calc(20px + ${size / aspect / 2}px)` }}
      />
    </div>
  );
}

/** Half a second each, or as long as the button is held: a difference in place is seen as a change. */
const beat = 600;

function Flicker({ of, before, after, size, aspect }: Required<CompareProps>) {
  const [second, setSecond] = useState(false);
  const [still, setStill] = useState(() => matchMedia('(prefers-reduced-motion: reduce)').matches);
  useEffect(() => {
    if (still) return;
    const timer = setInterval(() => setSecond((s) => !s), beat);
    return () => clearInterval(timer);
  }, [still]);
  const shown = second ? after : before;
  return (
    <div>
      <div className="flex h-5 items-baseline gap-3 text-[12px] text-white">
        <b className="w-16 font-[680]">{shown.name}</b>
        <button type="button" className="underline" onClick={() => setStill(!still)}>
          {still ? 'go on' : 'hold'}
        </button>
        {still && (
          <button type="button" className="underline" onClick={() => setSecond(!second)}>
            the other
          </button>
        )}
      </div>
      <div className="relative" style={{ width: size, height: size / aspect }}>
        <Sphere loaded={before.loaded} size={size} aspect={aspect} alt={`${of}, ${before.name}`} />
        <div className="absolute inset-0" style={{ visibility: second ? 'visible' : 'hidden' }}>
          <Sphere loaded={after.loaded} size={size} aspect={aspect} alt={`${of}, ${after.name}`} />
        </div>
      </div>
    </div>
  );
}

function Beside({ of, before, after, size, aspect }: Required<CompareProps>) {
  const each = Math.floor(size / 2) - 4;
  return (
    <div className="flex gap-2" style={{ minHeight: size / aspect + 20 }}>
      {[before, after].map((look) => (
        <div key={look.name}>
          <p className="h-5 text-[12px] font-[680] text-white">{look.name}</p>
          <Sphere loaded={look.loaded} size={each} aspect={aspect} alt={`${of}, ${look.name}`} />
        </div>
      ))}
    </div>
  );
}
