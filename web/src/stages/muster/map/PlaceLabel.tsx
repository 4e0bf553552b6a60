import { useState } from 'react';
import { count } from '../../../parts/format';
import type { Place } from './layout';
import { dragged } from './moving';

interface PlaceLabelProps {
  place: Place;
  left: number;
  onRule: (from: string, to: string) => void;
}

/** A folder that answers; a bundle dropped on it becomes a rule. */
export function PlaceLabel({ place, left, onRule }: PlaceLabelProps) {
  const [over, setOver] = useState(false);
  const cut = place.name.lastIndexOf('/') + 1;
  const words = [
    place.offered > 0 && `${count(place.offered)} offered`,
    place.answering > 0 && `${count(place.answering)} answer now`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <div
      className={`absolute grid w-80 leading-[17px] ${over ? 'outline-2 outline-dashed outline-lichen' : ''}`}
      style={{ left, top: place.top + place.height / 2 - 17 }}
      title={place.path}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(dragged)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        const from = e.dataTransfer.getData(dragged);
        setOver(false);
        if (!from) return;
        e.preventDefault();
        e.stopPropagation();
        onRule(from, place.path);
      }}
    >
      <code className="truncate text-[13px] font-medium">
        <span className="text-quiet">{place.name.slice(0, cut)}</span>
        {place.name.slice(cut)}
      </code>
      <span className="text-[12px] text-quiet">{words}</span>
    </div>
  );
}
