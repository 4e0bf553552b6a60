import { useEffect, useMemo, useRef, useState } from 'react';
import type { HeldImage } from '../../../api/client';
import { usePlane } from '../../../api/bench';
import { useKey } from '../../../frame/keys';
import { pixels } from '../../../parts/format';
import { useSize } from '../../../parts/useSize';
import { PixelTable } from './PixelTable';
import { fitted, pieceSide, piecesOf, pixelAt, zoomed, type View } from './view';
import { usePieces } from './usePieces';
import { useUvPath } from './useUvPath';

interface PixelViewProps {
  sceneId: string;
  material: string;
  image: HeldImage & { number: number };
  onClose: () => void;
}

/** An image down to the pixel: all of it or a channel, once or as it tiles, with the values under the pointer. */
export function PixelView({ sceneId, material, image, onClose }: PixelViewProps) {
  const plane = usePlane(sceneId, image.number);
  const [letter, setLetter] = useState<string>();
  const [tiles, setTiles] = useState(false);
  const [isLaid, setLaid] = useState(false);
  const layout = useUvPath(sceneId, material, image.number, plane.data, isLaid);
  const toggle = (l: string) => () => setLetter((now) => (now === l ? undefined : l));
  useKey('r', toggle('r'));
  useKey('g', toggle('g'));
  useKey('b', toggle('b'));
  useKey('a', toggle('a'));
  const letters = (plane.data?.channels ?? 0) > 2 ? ['r', 'g', 'b', 'a'].slice(0, plane.data?.channels) : [];
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="field relative min-h-0 flex-1">
        {plane.data ? (
          <Canvas
            key={`${image.number} ${tiles}`}
            sceneId={sceneId}
            material={material}
            number={image.number}
            size={plane.data}
            letter={letter}
            copies={tiles ? 3 : 1}
            uvs={layout.path}
          />
        ) : (
          <p className="p-7 text-white">
            {plane.isPending
              ? `Opening ${image.name} pixel by pixel.`
              : `${image.name} cannot be opened pixel by pixel.`}
          </p>
        )}
        <div className="field absolute right-3 top-2 flex items-center gap-4 px-2 py-0.5 text-[12.5px] font-semibold text-white">
          {letters.map((l) => (
            <button
              key={l}
              type="button"
              aria-pressed={letter === l}
              className="aria-pressed:underline"
              onClick={toggle(l)}
            >
              {l.toUpperCase()}
            </button>
          ))}
          <button
            type="button"
            aria-pressed={tiles}
            className="aria-pressed:underline"
            onClick={() => setTiles(!tiles)}
          >
            3 × 3
          </button>
          <button
            type="button"
            aria-pressed={isLaid}
            className="aria-pressed:underline"
            onClick={() => setLaid(!isLaid)}
          >
            UVs
          </button>
          <button type="button" onClick={onClose}>
            Back to the sheet <kbd className="!border-white !text-white">Esc</kbd>
          </button>
        </div>
        <span className="field pointer-events-none absolute left-5 top-2 px-2 py-0.5 text-[12.5px] text-white">
          <b className="font-[680]">{image.name}</b>{' '}
          {plane.data && `${pixels(plane.data.width, plane.data.height)}, ${plane.data.bits} bit`}
          {layout.said && `, ${layout.said}`}
        </span>
      </div>
    </div>
  );
}

interface CanvasProps {
  sceneId: string;
  material: string;
  number: number;
  size: { width: number; height: number };
  letter: string | undefined;
  copies: number;
  /** Edges that are drawn over it, in its pixels. */
  uvs: Path2D | undefined;
}

function Canvas({ sceneId, material, number, size, letter, copies, uvs }: CanvasProps) {
  const [box, room] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [moved, setMoved] = useState<View>();
  const [at, setAt] = useState<{ x: number; y: number }>();
  const fit = useMemo(() => fitted(size, room, copies), [size, room, copies]);
  const view = moved ?? fit;
  const pieces = useMemo(() => piecesOf(view, size, room, copies), [view, size, room, copies]);
  const come = usePieces(`/api/scenes/${sceneId}/references/${number}/plane/window?channel=${letter ?? 'rgb'}`, pieces);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const dense = Math.min(2, devicePixelRatio);
    context.setTransform(dense, 0, 0, dense, 0, 0);
    context.clearRect(0, 0, room.width, room.height);
    // A pixel is a square of its own colour.
    context.imageSmoothingEnabled = view.scale < 1;
    for (const p of pieces) {
      const bitmap = come.of(p.key);
      if (!bitmap) continue;
      // Whole pixels of the window, so that no seam shows between two pieces.
      const x = Math.round(view.x + (p.column * size.width + p.left) * view.scale);
      const y = Math.round(view.y + (p.row * size.height + p.top) * view.scale);
      const right = p.column * size.width + Math.min(p.left + pieceSide * p.step, size.width);
      const bottom = p.row * size.height + Math.min(p.top + pieceSide * p.step, size.height);
      const [w, h] = [Math.round(view.x + right * view.scale) - x, Math.round(view.y + bottom * view.scale) - y];
      context.drawImage(bitmap, x, y, w, h);
    }
    if (uvs)
      for (let copy = 0; copy < copies * copies; copy++) {
        const [column, row] = [copy % copies, Math.floor(copy / copies)];
        context.save();
        context.translate(view.x + column * size.width * view.scale, view.y + row * size.height * view.scale);
        context.scale(view.scale, view.scale);
        // Dark beneath, so that it shows on whatever it lies on.
        for (const [ink, width] of [
          ['rgba(0, 0, 0, 0.55)', 2.2],
          ['#fff', 0.9],
        ] as const) {
          context.strokeStyle = ink;
          context.lineWidth = width / view.scale;
          context.stroke(uvs);
        }
        context.restore();
      }
    if (at && view.scale >= 6) {
      context.strokeStyle = '#000';
      context.lineWidth = 3;
      const mark = () =>
        context.strokeRect(view.x + at.x * view.scale, view.y + at.y * view.scale, view.scale, view.scale);
      mark();
      context.strokeStyle = '#fff';
      context.lineWidth = 1.5;
      mark();
    }
  }, [view, pieces, come, room, size, at, copies, uvs]);
  const placeOf = (e: { clientX: number; clientY: number }) => {
    const rect = canvas.current?.getBoundingClientRect();
    return { x: e.clientX - (rect?.left ?? 0), y: e.clientY - (rect?.top ?? 0) };
  };
  // A wheel that zooms must not scroll as well, and React listens to it passively.
  useEffect(() => {
    const element = canvas.current;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      setMoved((now) => zoomed(now ?? fit, 1.2 ** (-e.deltaY / 100), placeOf(e)));
    };
    element?.addEventListener('wheel', onWheel, { passive: false });
    return () => element?.removeEventListener('wheel', onWheel);
  }, [fit]);
  const onKeyDown = (e: React.KeyboardEvent) => {
    const by = steps[e.key];
    if (by) {
      const far = e.shiftKey ? 10 : 1;
      const from = at ?? { x: Math.floor(size.width / 2), y: Math.floor(size.height / 2) };
      const inside = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
      setAt({ x: inside(from.x + by[0] * far, size.width), y: inside(from.y + by[1] * far, size.height) });
    } else if (e.key === '+' || e.key === '=' || e.key === '-') {
      const middle = at
        ? { x: view.x + (at.x + 0.5) * view.scale, y: view.y + (at.y + 0.5) * view.scale }
        : { x: room.width / 2, y: room.height / 2 };
      setMoved(zoomed(view, e.key === '-' ? 0.5 : 2, middle));
    } else return;
    e.preventDefault();
    // The sheet behind steps by the same keys.
    e.nativeEvent.stopPropagation();
  };
  return (
    <div className="flex h-full flex-col">
      <div ref={box} className="relative min-h-0 flex-1 overflow-hidden">
        <canvas
          ref={canvas}
          tabIndex={0}
          role="img"
          aria-label="The image; arrows move over its pixels, + and − zoom"
          width={room.width * Math.min(2, devicePixelRatio)}
          height={room.height * Math.min(2, devicePixelRatio)}
          className="absolute inset-0 size-full cursor-crosshair touch-none focus-visible:-outline-offset-2"
          onKeyDown={onKeyDown}
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={(e) => {
            if (e.buttons === 1) setMoved({ ...view, x: view.x + e.movementX, y: view.y + e.movementY });
            else setAt(pixelAt(view, size, placeOf(e), copies));
          }}
        />
      </div>
      <PixelTable sceneId={sceneId} material={material} number={number} at={at} />
    </div>
  );
}

const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
