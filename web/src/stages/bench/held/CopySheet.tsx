import { useState } from 'react';
import type { BenchItem, HeldView } from '../../../api/client';
import { useBenchActs, useCopyPreview } from '../../../api/bench';
import { Check } from '../../../parts/Check';
import { many } from '../../../parts/format';
import { OneOf } from '../../../parts/OneOf';
import { RisingSheet } from '../../../parts/RisingSheet';
import { toggled } from '../../../state/toggled';
import { Lines } from '../../findings/sheets/EditsSheet';

interface CopySheetProps {
  sceneId: string;
  view: HeldView;
  rows: BenchItem[];
  focus: ReadonlySet<string>;
  onOpenChange: (open: boolean) => void;
}

/** Gives other materials what this one has in some inputs, matched by role; tried before it is put in. */
export function CopySheet({ sceneId, view, rows, focus, onOpenChange }: CopySheetProps) {
  const own = view.inputs.filter((i) => i.differs);
  const [inputs, setInputs] = useState<ReadonlySet<string>>(new Set(own.map((i) => i.name)));
  const row = rows.find((r) => r.name === view.name);
  const others = rows.filter((r) => r.name !== view.name);
  const reaches = [
    { name: 'in focus', to: others.filter((r) => focus.has(r.name)) },
    { name: `of its family`, to: others.filter((r) => r.family === row?.family) },
    { name: 'all others', to: others },
  ].filter((r) => r.to.length > 0);
  const [name, setName] = useState(reaches[0]?.name);
  const to = (reaches.find((r) => r.name === name) ?? reaches[0])?.to.map((r) => r.name) ?? [];
  const copy = { from: view.name, inputs: own.map((i) => i.name).filter((i) => inputs.has(i)), to };
  const preview = useCopyPreview(sceneId, copy);
  const acts = useBenchActs(sceneId);
  const tried = copy.inputs.length > 0 && to.length > 0 ? preview.data : undefined;
  return (
    <RisingSheet
      open
      tall
      onOpenChange={onOpenChange}
      title={`Copy inputs of ${view.title}`}
      about="Inputs are matched by what they are for. It is one entry in the ledger; nothing is written until it is applied."
      aside={
        <OneOf
          label="To which materials"
          value={name ?? ''}
          options={reaches.map((r) => [r.name, `${many(r.to.length, 'material')} ${r.name}`])}
          className="gap-4"
          onChoose={setName}
        />
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)] gap-x-7">
        <div className="min-h-0 overflow-y-auto">
          {own.map((i) => (
            <div key={i.name} className="flex min-h-7 items-center gap-2 border-t border-hair text-[12.5px]">
              <Check label={i.name} on={inputs.has(i.name)} onToggle={() => setInputs((now) => toggled(now, i.name))} />
              <span className="min-w-0 flex-1 truncate">{i.name.replaceAll('_', ' ')}</span>
              <code className="max-w-32 truncate text-[11.5px] text-quiet">
                {i.maps.length > 0 ? 'map' : (i.text ?? i.now.map((n) => Math.round(n * 1000) / 1000).join(' '))}
              </code>
            </div>
          ))}
        </div>
        <div className="min-h-0 overflow-y-auto text-[12.5px]">
          {reaches.length === 0 && <p className="text-quiet">There is no other material in the scene.</p>}
          {preview.isError && <p className="text-clay">{preview.error.message}</p>}
          {tried && (
            <>
              <p className="pb-1">
                <b className="font-bold">{tried.taking}</b> of {many(tried.of, 'material')}{' '}
                {tried.taking === 1 ? 'takes' : 'take'} it.
              </p>
              {tried.left.map((l) => (
                <p key={l.reason} className="text-soft">
                  <b className="font-bold">{l.materials.length}</b>{' '}
                  {l.reason.replace(/^It has/, l.materials.length === 1 ? 'has' : 'have')}{' '}
                  <span className="text-quiet">{l.materials.slice(0, 6).join(', ')}</span>
                  {l.materials.length > 6 && <span className="text-quiet"> and {l.materials.length - 6} more</span>}
                </p>
              ))}
              <div className="pt-2">
                <Lines fix={{ ...tried.fix, left: [] }} />
              </div>
            </>
          )}
        </div>
      </div>
      <div className="flex flex-none justify-end border-t border-hair pt-2">
        <button
          type="button"
          className="key"
          disabled={!tried || tried.taking === 0 || acts.copy.isPending}
          onClick={() => acts.copy.mutate(copy, { onSuccess: () => onOpenChange(false) })}
        >
          Copy to {many(tried?.taking ?? 0, 'material')}
        </button>
      </div>
    </RisingSheet>
  );
}
