import { useVirtualizer } from '@tanstack/react-virtual';
import { Checkbox } from 'radix-ui';
import { useDeferredValue, useRef, useState } from 'react';
import type { ReplacedItem } from '../../../api/client';
import { useMusterActs, useReplacePreview } from '../../../api/queries';
import { count, many } from '../../../parts/format';
import { Glyph } from '../../../parts/Glyph';
import { RisingSheet } from '../../../parts/RisingSheet';
import { differing } from './differing';
import { focusWords } from './inFocus';

interface FindReplaceProps {
  sceneId: string;
  numbers: number[] | null;
  all: number;
  onClose: () => void;
}

/** Find and replace in the paths as they are written, with every change shown before it is made. */
export function FindReplace({ sceneId, numbers, all, onClose }: FindReplaceProps) {
  const [find, setFind] = useState('');
  const [put, setPut] = useState('');
  const [options, setOptions] = useState({ matchCase: false, wholeName: false, regex: false });
  const asked = useDeferredValue({ find, with: put, ...options, numbers });
  const preview = useReplacePreview(sceneId, asked);
  const { replace } = useMusterActs(sceneId);
  const rows = find === '' ? [] : (preview.data?.rows ?? []);
  const wrong = preview.error?.message ?? preview.data?.whyNot;
  const resolve = rows.filter((r) => r.whyNot === null).length;
  const act = () => replace.mutate({ find, with: put, ...options, numbers }, { onSuccess: onClose });

  return (
    <RisingSheet
      open
      tall
      onOpenChange={onClose}
      title="Find and replace in paths"
      about={`In ${focusWords(numbers, all)}. Backslashes are read as slashes. The arrived file is untouched.`}
    >
      <div className="grid h-full grid-cols-[320px_minmax(0,1fr)] gap-x-6">
        <form
          className="flex flex-col gap-2.5"
          onSubmit={(e) => {
            e.preventDefault();
            if (resolve > 0) act();
          }}
        >
          <Field label="Find" value={find} onChange={setFind} autoFocus />
          <Field label="Put in its place" value={put} onChange={setPut} />
          <div className="flex flex-col gap-1 pt-1">
            <Option
              label="Capitals count"
              on={options.matchCase}
              set={(matchCase) => setOptions({ ...options, matchCase })}
            />
            <Option
              label="Whole names between slashes"
              on={options.wholeName}
              set={(wholeName) => setOptions({ ...options, wholeName })}
            />
            <Option
              label="Regular expression; groups as $1"
              on={options.regex}
              set={(regex) => setOptions({ ...options, regex })}
            />
          </div>
          {wrong && find !== '' && (
            <p role="alert" className="flex gap-1.5 text-[12.5px] leading-[18px] text-clay">
              <Glyph name="blocker" className="mt-px" />
              {wrong}
            </p>
          )}
          <span className="flex-1" />
          <p className="text-[12px] leading-4 text-quiet">
            Paths that would not resolve are shown and left as they are.
          </p>
          <button type="submit" className="key self-start" disabled={resolve === 0 || replace.isPending}>
            {resolve === 0 ? 'Replace' : `Replace in ${count(resolve)}`}
          </button>
        </form>
        <Changes
          rows={rows}
          resolve={resolve}
          empty={find === '' ? 'Every change is shown here before it is made.' : 'No path contains it.'}
        />
      </div>
    </RisingSheet>
  );
}

function Field({
  label,
  value,
  onChange,
  autoFocus,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  autoFocus?: boolean;
}) {
  return (
    <label className="block text-[12px] text-quiet">
      {label}
      <input
        className="mono mt-0.5 block h-7 w-full border border-rule bg-ground px-2 text-[12.5px] text-ink"
        value={value}
        spellCheck={false}
        autoFocus={autoFocus}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}

function Option({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-2 text-[12.5px] text-soft">
      <Checkbox.Root
        checked={on}
        onCheckedChange={(c) => set(c === true)}
        className="flex size-4 items-center justify-center rounded-full border border-rule"
      >
        <Checkbox.Indicator className="size-2 rounded-full bg-ink" />
      </Checkbox.Root>
      {label}
    </label>
  );
}

const height = 22;

function Changes({ rows, resolve, empty }: { rows: ReplacedItem[]; resolve: number; empty: string }) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 8,
  });
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      <p className="pb-1 text-[12.5px] text-soft" role="status">
        {rows.length === 0
          ? empty
          : `${many(rows.length, 'path changes', 'paths change')}; ${count(resolve)} of them ${resolve === 1 ? 'resolves' : 'resolve'}.`}
      </p>
      <div
        ref={scroller}
        tabIndex={0}
        aria-label="Changes"
        role="list"
        className="min-h-0 flex-1 overflow-y-auto border-t border-hair"
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (!row) return null;
            const [start, end] = differing(row.before, row.after);
            return (
              <div
                key={row.number}
                role="listitem"
                className="absolute inset-x-0 grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)_150px] items-center gap-x-3 text-[11.5px]"
                style={{ height, transform: `translateY(${item.start}px)` }}
              >
                <code className="truncate text-quiet" title={row.before}>
                  {row.before}
                </code>
                <code className="truncate" title={row.after}>
                  <span className="text-quiet">{row.after.slice(0, start)}</span>
                  <span className="differs">{row.after.slice(start, end)}</span>
                  <span className="text-quiet">{row.after.slice(end)}</span>
                </code>
                {row.whyNot === null ? (
                  <span className="flex items-center gap-1.5 truncate text-[12px] text-soft">
                    <Glyph name="present" /> {row.answer}
                  </span>
                ) : (
                  <span className="flex items-center gap-1.5 text-[12px] text-clay">
                    <Glyph name="missing" /> {row.whyNot}
                  </span>
                )}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
