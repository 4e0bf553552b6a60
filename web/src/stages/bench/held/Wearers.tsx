import type { HeldView } from '../../../api/client';
import { useFocusChoices } from '../../../api/shelf';
import { count, many } from '../../../parts/format';
import { MidCut } from '../../../parts/MidCut';
import { useFocus } from '../../../state/focus';

/** Objects that wear it; picking one takes all that it wears into the focus. */
export function Wearers({ sceneId, view }: { sceneId: string; view: HeldView }) {
  const choices = useFocusChoices(sceneId).data;
  const { materials, narrow } = useFocus();
  if (view.wearers.length === 0) return <p className="text-[12.5px] text-quiet">Nothing in the scene wears it.</p>;
  const wornBy = (mesh: string) => choices?.objects.find((o) => o.name === mesh)?.materials ?? [view.name];
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <p className="pb-1 text-[12px] text-quiet">
        <b className="font-bold text-ink">{count(view.parts)}</b> {view.parts === 1 ? 'part wears' : 'parts wear'} it.
        Picking an object takes what it wears into the focus.
      </p>
      {view.wearers.map((w) => (
        <button
          key={`${w.mesh} ${w.part}`}
          type="button"
          className="flex w-full items-baseline gap-3 border-t border-hair py-1 text-left hover:bg-raise"
          onClick={() => narrow({ materials: new Set([...materials, ...wornBy(w.name)]) })}
        >
          <span className="min-w-0 flex-1">
            <MidCut text={w.name} className="text-[12.5px]" />
          </span>
          {w.part !== '' && <span className="max-w-32 truncate text-[12px] text-quiet">{w.part}</span>}
          <span className="flex-none text-[12px] text-quiet">
            {many(w.triangles, 'triangle')}
            {w.places > 1 && `, in ${count(w.places)} places`}
          </span>
        </button>
      ))}
      {view.parts > view.wearers.length && (
        <p className="pt-1 text-[12px] text-quiet">and {count(view.parts - view.wearers.length)} more</p>
      )}
    </div>
  );
}
