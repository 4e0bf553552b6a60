import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import type { FixView, HandKind, HandOf, HandView } from '../../../api/client';
import { useHand, useHandActs, useHandPreview } from '../../../api/hand';
import { many } from '../../../parts/format';
import { OneOf } from '../../../parts/OneOf';
import { RisingSheet } from '../../../parts/RisingSheet';
import { toggled } from '../../../state/toggled';
import { Lines } from '../sheets/EditsSheet';
import { ChooseMap } from './ChooseMap';
import { ChooseMaterial } from './ChooseMaterial';
import { ChooseName, ChooseUvSet } from './ChooseText';
import { ChooseValue } from './ChooseValue';
import { Places } from './Places';
import { kindWords, nothing, type Said } from './said';

/** How far a decision reaches: what it is called, and what it is about. */
export interface Reach {
  name: string;
  of: HandOf;
}

interface HandSheetProps {
  sceneId: string;
  title: string;
  /** Narrowest first. */
  reaches: Reach[];
  onOpenChange: (open: boolean) => void;
}

/** Where no rule can know, a person says what it is: for one, for what is in focus, or for the whole family. */
export function HandSheet({ sceneId, title, reaches, onOpenChange }: HandSheetProps) {
  const [name, setName] = useState(reaches[0]?.name);
  const reach = reaches.find((r) => r.name === name) ?? reaches[0];
  const view = useHand(sceneId, reach?.of);
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      tall
      title={title}
      about="What you say goes into the ledger like any fix; nothing is written until it is applied."
      aside={
        reaches.length > 1 && (
          <OneOf
            label="How far it reaches"
            value={reach?.name ?? ''}
            options={reaches.map((r) => [r.name, r.name])}
            className="gap-4"
            onChoose={setName}
          />
        )
      }
    >
      {view.isError && <p className="text-clay">{view.error.message}</p>}
      {view.data && reach && (
        <Decision
          key={reach.name}
          sceneId={sceneId}
          of={reach.of}
          view={view.data}
          onDone={() => onOpenChange(false)}
        />
      )}
    </RisingSheet>
  );
}

interface DecisionProps {
  sceneId: string;
  of: HandOf;
  view: HandView;
  onDone: () => void;
}

function Decision({ sceneId, of, view, onDone }: DecisionProps) {
  const [said, setSaid] = useState<Said>(() => nothing(view.kinds[0] ?? 'value'));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const places = view.places.filter((p) => !left.has(p.key));
  const body = { of, places: left.size === 0 ? null : places.map((p) => p.key), ...said };
  const preview = useHandPreview(sceneId, body, isWhole(said) && places.length > 0);
  const acts = useHandActs(sceneId);
  if (view.kinds.length === 0)
    return (
      <p className="text-soft">
        Nothing of the scene can be said otherwise here: it is about the scene as a whole, or about a file. Waive it, or
        mend it where it was made.
      </p>
    );
  const refusal = view.refused.find((r) => r.kind === said.kind)?.why;
  const say = (to: Partial<Said>) => setSaid((now) => ({ ...now, ...to }));
  const put = () => acts.decide.mutate(body, { onSuccess: onDone });
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(200px,300px)_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto] gap-x-7">
      <Places
        sceneId={sceneId}
        places={view.places}
        left={left}
        onToggle={(key) => setLeft((now) => toggled(now, key))}
      />
      <div className="flex min-h-0 flex-col">
        <ToggleGroup.Root
          type="single"
          value={said.kind}
          onValueChange={(kind) => kind && setSaid(nothing(kind as HandKind))}
          aria-label="What to say"
          className="flex flex-none gap-5 border-b border-hair pb-1"
        >
          {view.kinds.map((kind) => (
            <ToggleGroup.Item
              key={kind}
              value={kind}
              className="act soft aria-checked:border-b-2 aria-checked:border-ink aria-checked:font-[680] aria-checked:!text-ink"
            >
              {kindWords[kind]}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
        <div className="flex min-h-0 flex-1 flex-col pt-2">
          {refusal !== undefined && <p className="text-soft">{refusal}</p>}
          {refusal === undefined && said.kind === 'material' && (
            <ChooseMaterial
              sceneId={sceneId}
              names={view.materials}
              chosen={said.choice}
              onChoose={(choice) => say({ choice })}
            />
          )}
          {refusal === undefined && said.kind === 'map' && <ChooseMap view={view} said={said} onSay={say} />}
          {refusal === undefined && said.kind === 'value' && <ChooseValue view={view} said={said} onSay={say} />}
          {refusal === undefined && said.kind === 'uv-set' && (
            <ChooseUvSet sets={view.uvSets} said={said} onSay={say} />
          )}
          {refusal === undefined && said.kind === 'name' && <ChooseName places={places} said={said} onSay={say} />}
        </div>
      </div>
      <div className="col-span-2 flex min-h-[52px] items-end gap-6 border-t border-hair pt-2">
        <div className="max-h-24 min-w-0 flex-1 overflow-y-auto">
          {preview.isError && <p className="text-[12.5px] text-clay">{preview.error.message}</p>}
          {preview.data && isWhole(said) && <Preview fix={preview.data} />}
        </div>
        <button
          type="button"
          className="key flex-none"
          disabled={!isWhole(said) || !preview.data || preview.data.edits === 0 || acts.decide.isPending}
          onClick={put}
        >
          Put in for {many(places.length, 'place')}
        </button>
      </div>
    </div>
  );
}

function Preview({ fix }: { fix: FixView }) {
  return fix.edits === 0 && fix.left.length === 0 ? (
    <p className="text-[12.5px] text-quiet">It is so already.</p>
  ) : (
    <Lines fix={fix} />
  );
}

/** Enough was said to try it. */
function isWhole(said: Said): boolean {
  if (said.kind === 'value') return said.input !== null && said.numbers !== null;
  if (said.kind === 'map') return said.input !== null && said.path !== null;
  return said.choice !== null && said.choice.trim() !== '';
}
