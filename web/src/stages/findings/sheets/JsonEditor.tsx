import { useState } from 'react';

interface JsonEditorProps {
  label: string;
  text: string;
  /** Name of the file it is exported as. */
  file: string;
  busy: boolean;
  onSave: (text: string) => void;
  onBack: () => void;
}

/** The whole of it as JSON, to be changed, exported and imported. The server says in one sentence what cannot be read. */
export function JsonEditor({ label, text, file, busy, onSave, onBack }: JsonEditorProps) {
  const [now, setNow] = useState(text);
  const save = () => {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([now], { type: 'application/json' }));
    link.download = file;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <textarea
        aria-label={label}
        className="mono min-h-0 flex-1 resize-none border border-rule bg-ground p-2 text-[12px] leading-[17px]"
        spellCheck={false}
        value={now}
        onChange={(e) => setNow(e.target.value)}
      />
      <div className="flex items-center gap-5">
        <button type="button" className="key" disabled={busy || now === text} onClick={() => onSave(now)}>
          Keep
        </button>
        <button type="button" className="act" onClick={save}>
          Export
        </button>
        <label className="act cursor-default">
          Import
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(e) => void e.target.files?.[0]?.text().then(setNow)}
          />
        </label>
        <span className="flex-1" />
        <button type="button" className="act soft" onClick={onBack}>
          Back
        </button>
      </div>
    </div>
  );
}
