import { useEffect, useMemo, useRef, useState } from 'react';
import { isolines, type Apart } from './isolines';
import { kiln, kilnScale } from './kiln';

interface ApartPictureProps {
  apart: Apart | undefined;
  /** Of the square, in CSS pixels. */
  size: number;
  /** The line at which a look has moved too far is the heavier one. */
  limit: number;
  alt: string;
}

const levels = [2, 4, 8];

/** Where two looks lie apart, from dark to light, with numbered lines of equal difference, and the value under the pointer. */
export function ApartPicture({ apart, size, limit, alt }: ApartPictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [value, setValue] = useState<number>();
  const lines = useMemo(
    () =>
      apart
        ? isolines(
            apart,
            [...new Set([...levels, limit])].sort((a, b) => a - b),
          )
        : [],
    [apart, limit],
  );
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (context && apart) paint(context, apart);
  }, [apart]);
  const under = (event: React.PointerEvent<HTMLDivElement>) => {
    if (!apart) return;
    const box = event.currentTarget.getBoundingClientRect();
    const cell = (at: number, from: number, length: number) => Math.floor(((at - from) / length) * apart.cells);
    const tenths =
      apart.tenths[cell(event.clientY, box.top, box.height) * apart.cells + cell(event.clientX, box.left, box.width)];
    setValue(tenths === undefined || tenths < 0 ? undefined : tenths / 10);
  };
  return (
    <figure className="w-fit" aria-label={alt}>
      <div
        className="relative"
        style={{ width: size, height: size }}
        onPointerMove={under}
        onPointerLeave={() => setValue(undefined)}
      >
        <canvas
          ref={canvas}
          width={apart?.cells ?? 1}
          height={apart?.cells ?? 1}
          className="size-full"
          role="img"
          aria-label={alt}
        />
        <svg viewBox="0 0 100 100" className="absolute inset-0 size-full" aria-hidden="true">
          {lines.map((l) => (
            <path
              key={l.level}
              d={l.path}
              fill="none"
              stroke={l.level > 6 ? '#000' : '#fff'}
              strokeWidth={l.level === limit ? 1 : 0.5}
            />
          ))}
          {lines.map(
            (l) =>
              l.at && (
                <text
                  key={l.level}
                  x={l.at[0]}
                  y={l.at[1]}
                  fontSize="4.4"
                  textAnchor="middle"
                  dominantBaseline="central"
                  className="mono"
                  fill={l.level > 6 ? '#000' : '#fff'}
                  stroke={l.level > 6 ? 'var(--rc-kiln-6)' : 'var(--rc-kiln-1)'}
                  strokeWidth="1.4"
                  paintOrder="stroke"
                >
                  {l.level}
                </text>
              ),
          )}
        </svg>
      </div>
      <Scale top={apart?.top ?? 12} size={size} value={value} />
    </figure>
  );
}

function paint(context: CanvasRenderingContext2D, { cells, top, tenths }: Apart) {
  const image = context.createImageData(cells, cells);
  const kilnAt = kilnScale();
  tenths.forEach((t, i) => {
    const [r, g, b] = kilnAt(t / 10 / top);
    image.data.set([r, g, b, t < 0 ? 0 : 255], i * 4);
  });
  context.putImageData(image, 0, 0);
}

/** The scale with its numbers; the end says that it clips. */
function Scale({ top, size, value }: { top: number; size: number; value: number | undefined }) {
  const at = (n: number) => (n / top) * size;
  return (
    <svg width={size} height={34} className="mono mt-2 block overflow-visible text-[11px]" aria-hidden="true">
      <defs>
        <linearGradient id="kiln">
          {kiln.map((c, i) => (
            <stop key={c} offset={i / (kiln.length - 1)} stopColor={`var(${c})`} />
          ))}
        </linearGradient>
      </defs>
      <rect width={size} height={12} fill="url(#kiln)" />
      {[0, ...levels].map((n) => (
        <g key={n} transform={`translate(${at(n)} 0)`}>
          <path d="M0 12V17" stroke="#fff" />
          {at(n) < size - 58 && (
            <text y={29} textAnchor={n === 0 ? 'start' : 'middle'} fill="#fff">
              {n}
            </text>
          )}
        </g>
      ))}
      <text x={size} y={29} textAnchor="end" fill="#fff">
        ΔE {top}+
      </text>
      {value !== undefined && (
        <g transform={`translate(${Math.min(size, at(value))} 0)`}>
          <path d="M0 -3V15" stroke="#000" strokeWidth="3" />
          <path d="M0 -3V15" stroke="#fff" strokeWidth="1.5" />
          <text y={-6} textAnchor={value > top / 2 ? 'end' : 'start'} fill="#fff" className="font-bold">
            {value.toFixed(1)}
          </text>
        </g>
      )}
    </svg>
  );
}
