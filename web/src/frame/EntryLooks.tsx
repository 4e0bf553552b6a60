import { useChangedLooks } from '../api/queries';
import { count } from '../parts/format';
import { LookDistance, LookPair } from '../parts/LookPair';
import { useSwatch } from '../parts/Swatch';

/** What an entry of the ledger does to the look of materials: before it, and with it. */
export function EntryLooks({ sceneId, entry }: { sceneId: string; entry: string }) {
  const looks = useChangedLooks(sceneId, entry).data;
  if (!looks || looks.materials.length === 0) return null;
  return (
    <ul aria-label="Looks that it changes" className="flex flex-wrap gap-x-5 gap-y-2 pb-2 pl-[84px] pt-1">
      {looks.materials.map((m) => (
        <Changed key={m} sceneId={sceneId} entry={entry} material={m} />
      ))}
      {looks.more > 0 && <li className="self-end text-[12px] text-quiet">and {count(looks.more)} more materials</li>}
    </ul>
  );
}

const size = 72;

function Changed({ sceneId, entry, material }: { sceneId: string; entry: string; material: string }) {
  const address = `/api/scenes/${sceneId}/ledger/${entry}/swatch`;
  const before = useSwatch(sceneId, address, { material, before: 'true' }, size);
  const after = useSwatch(sceneId, address, { material }, size);
  return (
    <li>
      <LookPair material={material} before={before} after={after} size={size} second="with the entry" />
      <span className="flex max-w-[144px] gap-2 text-[11.5px] leading-4">
        <span className="min-w-0 flex-1 truncate" title={material}>
          {material}
        </span>
        <LookDistance before={before} after={after} />
      </span>
    </li>
  );
}
