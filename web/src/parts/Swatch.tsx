import { useEffect, useRef, useState } from 'react';
import { useSettings } from '../state/settings';
import { useTouched } from '../state/touched';
import { useLoaded, type Loaded } from './Picture';

/** Pictures are made in a few sizes; each is shown no larger than it was made. */
const sides = [48, 96, 192, 256, 384];

/** Behind many others, or behind images of 8k, one may take minutes. */
const patience = 300;

interface SwatchProps {
  sceneId: string;
  material: string;
  /** As it would look if that candidate answered that reference. */
  with?: { number: number; candidate: number };
  /** Of the square, in CSS pixels. */
  size: number;
  /** Empty where the name stands beside it. */
  alt?: string;
}

/** A material on a sphere, on the 18 % field. It is asked for when it comes into view, and again when an edit touches the scene. */
export function Swatch({ sceneId, material, with: answer, size, alt = '' }: SwatchProps) {
  const box = useRef<HTMLSpanElement>(null);
  const seen = useSeen(box);
  const of = answer ? { material, number: String(answer.number), candidate: String(answer.candidate) } : { material };
  const loaded = useSwatch(sceneId, seen ? `/api/scenes/${sceneId}/swatch` : undefined, of, size);
  return (
    <span ref={box} className="block flex-none">
      <Sphere loaded={loaded} size={size} alt={alt} />
    </span>
  );
}

/** Loads a swatch in the size and under the light that are wanted. */
export function useSwatch(sceneId: string, address: string | undefined, of: Record<string, string>, size: number) {
  const light = useSettings((s) => s.light);
  const look = useTouched((s) => s.looks[sceneId] ?? 0);
  const side = sides.find((s) => s >= size * Math.min(2, devicePixelRatio)) ?? 256;
  const query = new URLSearchParams({ ...of, light, side: String(side) });
  if (look > 0) query.set('look', String(look));
  return useLoaded(address && `${address}?${query}`, patience);
}

interface SphereProps {
  loaded: Loaded | null;
  size: number;
  /** Width by height. */
  aspect?: number;
  alt: string;
}

/** The picture before stays until the next one is there, so that nothing blinks. */
export function Sphere({ loaded, size, aspect = 1, alt }: SphereProps) {
  const told = loaded?.told ?? [];
  return (
    <span className="field relative block flex-none" style={{ width: size, height: size / aspect }}>
      {loaded?.source && <img src={loaded.source} alt={alt} className="size-full" draggable={false} decoding="async" />}
      {loaded?.source === false && <None size={size} />}
      {told.length > 0 && size >= 40 && (
        <span
          className="absolute bottom-0 right-0 bg-field px-0.5 text-[11px] leading-[13px] text-black"
          title={told.join('\n')}
        >
          ≈
        </span>
      )}
    </span>
  );
}

/** A circle of hatch: there is no surface, or none whose look is worked out. */
function None({ size }: { size: number }) {
  return (
    <span
      className="hatch absolute rounded-full"
      style={{ inset: size * 0.04 }}
      title="There is no surface, or none whose look is worked out here."
    />
  );
}

/** What is scrolled past is gone before it is asked for. */
const rest = 150;

/** True once an element has stayed near the window for a moment. */
function useSeen(of: React.RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(() => !('IntersectionObserver' in globalThis));
  useEffect(() => {
    const element = of.current;
    if (seen || !element) return;
    let stays: ReturnType<typeof setTimeout> | undefined;
    const watch = new IntersectionObserver(
      (entries) => {
        clearTimeout(stays);
        if (entries.at(-1)?.isIntersecting) stays = setTimeout(() => setSeen(true), rest);
      },
      { rootMargin: '100px' },
    );
    watch.observe(element);
    return () => {
      watch.disconnect();
      clearTimeout(stays);
    };
  }, [of, seen]);
  return seen;
}
