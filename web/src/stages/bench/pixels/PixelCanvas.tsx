import { useEffect, useMemo, useRef } from 'react';
import { useSize } from '../../../parts/useSize';
import { fitted, pieceSide, piecesOf, pixelAt, samePlace, zoomed, type Point, type Size, type View } from './view';
import { usePieces } from './usePieces';

interface PixelCanvasProps {
  /** Of its windows. */
  address: string;
  about: string;
  size: Size;
  /** The image that the view and the pixel in hand are told by; images beside it are laid so that both cover the same. */
  frame: Size;
  copies: number;
  /** Edges that are drawn over it, in its pixels. */
  uvs: Path2D | undefined;
  /** Undefined before somebody moved it: then all is in view. */
  moved: View | undefined;
  onMove: (view: View) => void;
  at: Point | undefined;
  onPoint: (at: Point | undefined) => void;
}

/** An image that is moved, zoomed and pointed into; two beside each other move as one. */
export function PixelCanvas({
  address,
  about,
  size,
  frame,
  copies,
  uvs,
  moved,
  onMove,
  at: pointed,
  onPoint,
}: PixelCanvasProps) {
  const [box, room] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const base = useMemo(() => moved ?? fitted(frame, room, copies), [moved, frame, room, copies]);
  const view = useMemo(() => ({ ...base, scale: (base.scale * frame.width) / size.width }), [base, frame, size]);
  const at = useMemo(() => pointed && samePlace(pointed, frame, size), [pointed, frame, size]);
  const setAt = (place: Point | undefined) => onPoint(place && samePlace(place, size, frame));
  const pieces = useMemo(() => piecesOf(view, size, room, copies), [view, size, room, copies]);
  const come = usePieces(address, pieces);
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
      onMove(zoomed(base, 1.2 ** (-e.deltaY / 100), placeOf(e)));
    };
    element?.addEventListener('wheel', onWheel, { passive: false });
    return () => element?.removeEventListener('wheel', onWheel);
  }, [base, onMove]);
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
      onMove(zoomed(base, e.key === '-' ? 0.5 : 2, middle));
    } else return;
    e.preventDefault();
    // The sheet behind steps by the same keys.
    e.nativeEvent.stopPropagation();
  };
  return (
    <div ref={box} className="relative size-full overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`${about}; arrows move over its pixels, + and − zoom`}
        width={room.width * Math.min(2, devicePixelRatio)}
        height={room.height * Math.min(2, devicePixelRatio)}
        className="absolute inset-0 size-full cursor-crosshair touch-none focus-visible:-outline-offset-2"
        onKeyDown={onKeyDown}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => {
          if (e.buttons === 1) onMove({ ...base, x: base.x + e.movementX, y: base.y + e.movementY });
          else setAt(pixelAt(view, size, placeOf(e), copies));
        }}
      />
    </div>
  );
}

const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
