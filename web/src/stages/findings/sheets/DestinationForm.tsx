import clsx from 'clsx';
import { useState } from 'react';
import { Toggle } from '../../../parts/Toggle';
import { changed, fields, shown, type Draft, type Field } from './destination';

interface DestinationFormProps {
  text: string;
  busy: boolean;
  onSave: (text: string) => void;
  onJson: () => void;
  onBack: () => void;
}

/** Limits and features of a destination, field by field. Under another id it becomes a destination of its own. */
export function DestinationForm({ text, busy, onSave, onJson, onBack }: DestinationFormProps) {
  const [draft, setDraft] = useState<Draft>(() => JSON.parse(text) as Draft);
  return (
    <form
      className="flex min-h-0 flex-1 flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        onSave(JSON.stringify(draft, null, 2));
      }}
    >
      <div className="grid min-h-0 flex-1 grid-cols-3 content-start gap-x-8 overflow-y-auto">
        <Line label="Id">
          <Text value={typeof draft.id === 'string' ? draft.id : ''} onChange={(id) => setDraft({ ...draft, id })} />
        </Line>
        {fields.map((f) => (
          <FieldLine key={f.key} field={f} draft={draft} onChange={setDraft} />
        ))}
      </div>
      <div className="flex items-center gap-5 pt-2">
        <button type="submit" className="key" disabled={busy}>
          Keep
        </button>
        <button type="button" className="act" onClick={onJson}>
          As JSON, export and import
        </button>
        <span className="text-[12px] text-quiet">An empty limit is none. Switches and names are in the JSON.</span>
        <span className="flex-1" />
        <button type="button" className="act soft" onClick={onBack}>
          Back
        </button>
      </div>
    </form>
  );
}

function FieldLine({ field, draft, onChange }: { field: Field; draft: Draft; onChange: (draft: Draft) => void }) {
  if (field.kind === 'flag') {
    const on = draft[field.key] === true;
    return (
      <Line label={field.label}>
        <Toggle on={on} onChange={(to) => onChange({ ...draft, [field.key]: to })} />
      </Line>
    );
  }
  return (
    <Line label={field.label}>
      <Text
        value={shown(draft, field)}
        number={field.kind === 'number'}
        onChange={(text) => onChange(changed(draft, field, text))}
      />
      {field.unit && <span className="pl-1 text-quiet">{field.unit}</span>}
    </Line>
  );
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <label className="grid min-h-8 grid-cols-[150px_minmax(0,1fr)] items-center border-t border-hair text-[12.5px]">
      {label}
      <span className="flex items-center">{children}</span>
    </label>
  );
}

function Text({ value, number, onChange }: { value: string; number?: boolean; onChange: (text: string) => void }) {
  return (
    <input
      type={number ? 'number' : 'text'}
      step="any"
      className={clsx(
        'mono h-7 min-w-0 flex-1 border border-transparent bg-transparent px-1 text-[11.5px] text-soft',
        'hover:border-rule focus:border-rule',
      )}
      value={value}
      spellCheck={false}
      placeholder={number ? 'no limit' : ''}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
