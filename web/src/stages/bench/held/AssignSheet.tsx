import { useState } from 'react';
import type { BenchItem, HeldView } from '../../../api/client';
import { useAssignPreview, useBenchActs, type Assigning } from '../../../api/bench';
import { many } from '../../../parts/format';
import { OneOf } from '../../../parts/OneOf';
import { RisingSheet } from '../../../parts/RisingSheet';
import { ChooseMaterial } from '../../findings/hand/ChooseMaterial';
import { Lines } from '../../findings/sheets/EditsSheet';

interface AssignSheetProps {
  sceneId: string;
  view: HeldView;
  rows: BenchItem[];
  /** Parts that were picked; none for all that wear it. */
  wearers: Assigning['wearers'];
  onOpenChange: (open: boolean) => void;
}

/** Gives what was picked another material of the scene, or one of its own that is like it. */
export function AssignSheet({ sceneId, view, rows, wearers, onOpenChange }: AssignSheetProps) {
  const [isSplit, setSplit] = useState(false);
  const [to, setTo] = useState('');
  const assign = { material: view.name, wearers, to, isSplit };
  const preview = useAssignPreview(sceneId, assign);
  const acts = useBenchActs(sceneId);
  const parts = wearers.length === 0 ? view.parts : wearers.length;
  const tried = to.trim() === '' ? undefined : preview.data;
  return (
    <RisingSheet
      open
      tall
      onOpenChange={onOpenChange}
      title={`What ${many(parts, 'part')} in ${view.title} ${parts === 1 ? 'wears' : 'wear'}`}
      about="It is one entry in the ledger; nothing is written until it is applied."
      aside={
        <OneOf
          label="What it is to wear"
          value={isSplit ? 'split' : 'other'}
          options={[
            ['other', 'another material'],
            ['split', 'one of its own'],
          ]}
          className="gap-4"
          onChoose={(v) => {
            setSplit(v === 'split');
            setTo('');
          }}
        />
      }
    >
      <div className="flex min-h-0 flex-1 flex-col">
        {isSplit ? (
          <label className="flex items-center gap-3 text-[12.5px]">
            <span className="text-quiet">called</span>
            <input
              autoFocus
              aria-label="Name of the new material"
              className="h-7 w-72 border border-rule bg-ground px-2 text-[13px]"
              value={to}
              onChange={(e) => setTo(e.target.value)}
            />
            <span className="text-quiet">It begins as a copy of {view.title}.</span>
          </label>
        ) : (
          <ChooseMaterial
            sceneId={sceneId}
            names={rows.map((r) => r.name).filter((n) => n !== view.name)}
            chosen={to}
            onChoose={setTo}
          />
        )}
      </div>
      <div className="flex min-h-[52px] flex-none items-end gap-6 border-t border-hair pt-2">
        <div className="max-h-24 min-w-0 flex-1 overflow-y-auto">
          {preview.isError && to.trim() !== '' && <p className="text-[12.5px] text-clay">{preview.error.message}</p>}
          {tried && <Lines fix={tried} />}
        </div>
        <button
          type="button"
          className="key flex-none"
          disabled={!tried || tried.edits === 0 || acts.assign.isPending}
          onClick={() => acts.assign.mutate(assign, { onSuccess: () => onOpenChange(false) })}
        >
          {isSplit ? 'Split off' : 'Assign to'} {many(parts, 'part')}
        </button>
      </div>
    </RisingSheet>
  );
}
