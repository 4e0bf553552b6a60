import type { HandPlaceItem } from '../../../api/client';
import { Check } from '../../../parts/Check';
import { count } from '../../../parts/format';
import { MidCut } from '../../../parts/MidCut';
import { Swatch } from '../../../parts/Swatch';

interface PlacesProps {
  sceneId: string;
  places: HandPlaceItem[];
  /** Keys of those that it is not said of. */
  left: ReadonlySet<string>;
  onToggle: (key: string) => void;
}

/** As many rows are drawn: nobody picks single ones from more. */
const most = 200;

/** What it is said of; each can be left out. */
export function Places({ sceneId, places, left, onToggle }: PlacesProps) {
  return (
    <div className="min-h-0 overflow-y-auto pr-2">
      <h3 className="pb-1 text-[12px] text-quiet">
        <b className="font-bold text-ink">{count(places.length - left.size)}</b> of {count(places.length)}
      </h3>
      {places.slice(0, most).map((p) => (
        <div key={p.key} className="flex min-h-8 items-center gap-2 border-t border-hair py-0.5">
          <Check
            label={p.part === null ? p.name : `${p.name}, ${p.part}`}
            on={!left.has(p.key)}
            onToggle={() => onToggle(p.key)}
          />
          {p.material !== null && <Swatch sceneId={sceneId} material={p.material} size={28} />}
          <span className="min-w-0 flex-1 leading-4">
            <MidCut text={p.name} className="block text-[12.5px]" />
            <span className="flex min-w-0 gap-1.5 text-[11.5px] text-quiet">
              {p.part !== null && <span className="flex-none">{p.part}</span>}
              {p.now !== '' && <MidCut text={p.now} className="mono" />}
            </span>
          </span>
        </div>
      ))}
      {places.length > most && (
        <p className="pt-1 text-[12px] text-quiet">and {count(places.length - most)} more, all of them</p>
      )}
    </div>
  );
}
