import clsx from 'clsx';
import { useState } from 'react';
import type { DestinationChange } from '../../../api/client';
import { useDestinationChanges, useDestinationText, useFindingActs, useHouseActs } from '../../../api/queries';
import { count, many } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';
import { DestinationForm } from './DestinationForm';
import { JsonEditor } from './JsonEditor';

/** Where the scene goes. Each destination says what choosing it would change in what is found. */
export function DestinationSheet({
  sceneId,
  onOpenChange,
}: {
  sceneId: string;
  onOpenChange: (open: boolean) => void;
}) {
  const changes = useDestinationChanges(sceneId).data;
  const acts = useFindingActs(sceneId);
  const [editing, setEditing] = useState<string>();
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      tall
      title="What the scene must run on"
      about="The audit always runs for a destination. Destinations are data: change one, and it becomes the house's own."
    >
      {editing !== undefined ? (
        <Editor id={editing} onBack={() => setEditing(undefined)} />
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto" role="list">
          {(changes ?? []).map((c) => (
            <Row
              key={c.destination.id}
              change={c}
              busy={acts.destination.isPending}
              onChoose={() => acts.destination.mutate(c.destination.id)}
              onEdit={() => setEditing(c.destination.id)}
            />
          ))}
        </div>
      )}
    </RisingSheet>
  );
}

interface RowProps {
  change: DestinationChange;
  busy: boolean;
  onChoose: () => void;
  onEdit: () => void;
}

function Row({ change, busy, onChoose, onEdit }: RowProps) {
  const { destination: d, comes, goes } = change;
  return (
    <div
      role="listitem"
      className={clsx(
        'grid grid-cols-[250px_minmax(0,1fr)_190px_150px] items-start gap-x-5 border-t border-hair px-2 py-2',
        change.chosen && 'bg-held',
      )}
    >
      <div>
        <b className="text-[14px] font-[680]">{d.name}</b>
        {d.own && <span className="ml-2 text-[12px] text-quiet">of the house</span>}
        <p className="text-[12px] leading-4 text-quiet">
          {d.models}
          {d.limit && `, ${d.limit}`}
        </p>
      </div>
      <div className="text-[12.5px]">
        <p className="text-soft">{d.description}</p>
        {comes.length > 0 && <p className="mt-0.5">Comes: {some(comes)}.</p>}
        {goes.length > 0 && <p className="mt-0.5 text-quiet">Goes: {some(goes)}.</p>}
        {!change.chosen && comes.length + goes.length === 0 && (
          <p className="mt-0.5 text-quiet">Nothing would change.</p>
        )}
      </div>
      <p className="mono text-[12px]">
        <span className={change.blockers > 0 ? 'text-clay' : 'text-quiet'}>{many(change.blockers, 'blocker')}</span>
        <br />
        {many(change.warnings, 'warning')}
        <br />
        <span className="text-quiet">{many(change.notes, 'note')}</span>
      </p>
      <div className="flex flex-col items-end gap-1">
        {change.chosen ? (
          <span className="text-[12.5px] text-soft">chosen</span>
        ) : (
          <button type="button" className="act" disabled={busy} onClick={onChoose}>
            Audit for it
          </button>
        )}
        {d.id !== 'plain' && (
          <button type="button" className="act soft" onClick={onEdit}>
            Edit
          </button>
        )}
      </div>
    </div>
  );
}

const some = (sentences: readonly string[]) =>
  sentences.slice(0, 3).join('; ') + (sentences.length > 3 ? `; and ${count(sentences.length - 3)} more causes` : '');

function Editor({ id, onBack }: { id: string; onBack: () => void }) {
  const text = useDestinationText(id).data?.text;
  const acts = useHouseActs();
  const [asJson, setAsJson] = useState(false);
  if (text === undefined) return null;
  const save = (t: string) => acts.writeDestination.mutate(t, { onSuccess: onBack });
  if (!asJson)
    return (
      <DestinationForm
        text={text}
        busy={acts.writeDestination.isPending}
        onSave={save}
        onJson={() => setAsJson(true)}
        onBack={onBack}
      />
    );
  return (
    <JsonEditor
      label={`Destination ${id}`}
      text={text}
      file={`${id}.json`}
      busy={acts.writeDestination.isPending}
      onSave={save}
      onBack={() => setAsJson(false)}
    />
  );
}
