import { useState } from 'react';
import type { NamesView } from '../../../api/client';
import { useNames, useWriteNames } from '../../../api/queries';
import { fromLines, toLines } from './names';

/** One line a meaning: "normal: nrm norm nor". */
export function NamesEditor({ onSaved }: { onSaved: () => void }) {
  const names = useNames().data;
  return names ? <Lines key={JSON.stringify(names)} names={names} onSaved={onSaved} /> : null;
}

function Lines({ names, onSaved }: { names: NamesView; onSaved: () => void }) {
  const write = useWriteNames();
  const [lines, setLines] = useState(() => toLines(names));
  const changed = JSON.stringify(lines) !== JSON.stringify(toLines(names));
  return (
    <form
      className="flex min-h-0 flex-1 flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        write.mutate(fromLines(lines), { onSuccess: onSaved });
      }}
    >
      <div className="grid min-h-0 flex-1 grid-cols-2 content-start gap-x-8 overflow-y-auto">
        {lines.map((line, i) => (
          <label
            key={line.meaning}
            className="grid grid-cols-[130px_minmax(0,1fr)] items-center border-t border-hair text-[12.5px]"
          >
            {line.meaning}
            <input
              className="mono h-7 border border-transparent bg-transparent px-1 text-[11.5px] text-soft hover:border-rule focus:border-rule"
              value={line.words}
              spellCheck={false}
              onChange={(e) => setLines(lines.map((l, n) => (n === i ? { ...l, words: e.target.value } : l)))}
            />
          </label>
        ))}
      </div>
      <div className="flex items-center gap-5 pt-2">
        <button type="submit" className="key" disabled={!changed || write.isPending}>
          Use these words
        </button>
        <button type="button" className="act soft" disabled={!changed} onClick={() => setLines(toLines(names))}>
          Back to what was
        </button>
        <span className="text-[12px] text-quiet">
          Sizes such as 2k and 2048x1024, versions, tiles and frames are known without a word.
        </span>
      </div>
    </form>
  );
}
