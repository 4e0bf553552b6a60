import { useEffect, useState } from 'react';
import { usePixel } from '../../../api/bench';
import type { OtherImage } from '../../../api/client';
import { samePlace, type Point, type Size } from './view';

interface PixelTableProps {
  sceneId: string;
  material: string;
  number: number;
  at: Point | undefined;
  /** What stands beside it, as large as it is. */
  other: (OtherImage & { frame: Size; size: Size }) | undefined;
}

/** Whoever moves over an image passes many pixels; they rest on the one that they want to know of. */
const rest = 40;

/** What lies under the pointer: as it is stored, as linear light or number, and at the inputs that read it. */
export function PixelTable({ sceneId, material, number, at, other }: PixelTableProps) {
  const [asked, setAsked] = useState(at);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(at), rest);
    return () => clearTimeout(timer);
  }, [at]);
  const value = usePixel(sceneId, material, number, asked).data;
  const place = other && asked && samePlace(asked, other.frame, other.size);
  const beside = usePixel(sceneId, material, number, place, other?.of).data;
  return (
    <div
      className="h-[104px] flex-none overflow-y-auto bg-ground px-7 py-1.5"
      role="status"
      aria-label="Under the pointer"
    >
      <table className="w-full text-[12.5px]">
        <thead>
          <tr className="text-left text-quiet">
            <th className="w-1/3 font-normal">
              Under the pointer {asked && <span className="mono text-[11.5px]">{`${asked.x}, ${asked.y}`}</span>}
            </th>
            <th className="font-normal">stored</th>
            <th className="font-normal">linear</th>
          </tr>
        </thead>
        <tbody className="mono text-[12px]">
          <tr className="border-t border-hair">
            <th className="text-left font-sans text-[12.5px] font-[620]">pixel</th>
            <td>{value ? numbers(value.stored) : '–'}</td>
            <td>{value ? numbers(value.linear) : '–'}</td>
          </tr>
          {other && (
            <tr className="border-t border-hair">
              <th className="truncate text-left font-sans text-[12.5px] font-[620]">{other.title}</th>
              <td>{beside ? numbers(beside.stored) : '–'}</td>
              <td>{beside ? numbers(beside.linear) : '–'}</td>
            </tr>
          )}
          {value?.inputs.map((i) => (
            <tr key={i.input} className="border-t border-hair">
              <th className="text-left font-sans text-[12.5px] font-normal text-soft">
                {i.input.replaceAll('_', ' ')}
              </th>
              <td className="text-quiet">arrives{i.isWhole ? '' : ', nodes between not counted'}</td>
              <td>{numbers(i.numbers)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const numbers = (all: number[]) => all.map((n) => n.toFixed(3)).join(' ');
