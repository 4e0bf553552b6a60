import { useState } from 'react';
import type { HeldView } from '../../../api/client';
import { useFocusChoices } from '../../../api/shelf';
import type { Assigning } from '../../../api/bench';
import { Check } from '../../../parts/Check';
import { count, many } from '../../../parts/format';
import { MidCut } from '../../../parts/MidCut';
import { useFocus } from '../../../state/focus';
import { toggled } from '../../../state/toggled';
import { OwnMenu } from './OwnMenu';

interface WearersProps {
  sceneId: string;
  view: HeldView;
  onAssign: (wearers: Assigning['wearers']) => void;
}

const keyOf = (w: HeldView['wearers'][number]) => JSON.stringify([w.mesh, w.part]);

/** Objects that wear it: they are taken into the focus with all that they wear, or given another material. */
export function Wearers({ sceneId, view, onAssign }: WearersProps) {
  const choices = useFocusChoices(sceneId).data;
  const { materials, narrow } = useFocus();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  if (view.wearers.length === 0) return <p className="text-[12.5px] text-quiet">Nothing in the scene wears it.</p>;
  const chosen = view.wearers.filter((w) => picked.has(keyOf(w)));
  const focus = () => {
    const names = new Set(chosen.map((w) => w.name));
    const worn = choices?.objects.filter((o) => names.has(o.name)).flatMap((o) => o.materials) ?? [view.name];
    narrow({ materials: new Set([...materials, ...worn]) });
  };
  return (
    <>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <p className="pb-1 text-[12px] text-quiet">
          <b className="font-bold text-ink">{count(view.parts)}</b> {view.parts === 1 ? 'part wears' : 'parts wear'} it
        </p>
        {view.wearers.map((w) => (
          <div key={keyOf(w)} className="flex min-h-7 items-center gap-2.5 border-t border-hair">
            <Check
              label={w.part === '' ? w.name : `${w.name}, ${w.part}`}
              on={picked.has(keyOf(w))}
              onToggle={() => setPicked((now) => toggled(now, keyOf(w)))}
            />
            <span className="min-w-0 flex-1">
              <MidCut text={w.name} className="text-[12.5px]" />
            </span>
            {w.part !== '' && <span className="max-w-32 truncate text-[12px] text-quiet">{w.part}</span>}
            <span className="flex-none text-[12px] text-quiet">
              {many(w.triangles, 'triangle')}
              {w.places > 1 && `, in ${count(w.places)} places`}
            </span>
            {w.instances.length > 0 && <OwnMenu sceneId={sceneId} view={view} wearer={w} />}
          </div>
        ))}
        {view.parts > view.wearers.length && (
          <p className="pt-1 text-[12px] text-quiet">and {count(view.parts - view.wearers.length)} more</p>
        )}
      </div>
      <div className="flex flex-none items-center gap-5 border-t border-hair py-2">
        {view.noAssign !== null ? (
          <span className="text-[12px] text-quiet">{view.noAssign}</span>
        ) : (
          <button
            type="button"
            className="act"
            onClick={() => onAssign(chosen.map((w) => ({ mesh: w.mesh, part: w.part })))}
          >
            Give {chosen.length > 0 ? many(chosen.length, 'part') : 'all that wear it'} another material
          </button>
        )}
        {chosen.length > 0 && (
          <button type="button" className="act soft" onClick={focus}>
            Take into the focus
          </button>
        )}
      </div>
    </>
  );
}
