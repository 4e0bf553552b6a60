import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';
import type { ReferenceItem } from '../../api/client';
import { many } from '../../parts/format';
import { Swatch } from '../../parts/Swatch';
import { useFocus } from '../../state/focus';

/** Narrows the focus to the files of some materials: each that is picked is added, or taken off again. */
export function MaterialPicker({ sceneId, references }: { sceneId: string; references: ReferenceItem[] }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const { materials: picked, toggle } = useFocus();
  const materials = useMemo(() => {
    const files = new Map<string, number>();
    for (const r of references)
      for (const m of new Set(r.usedBy.map((u) => u.material))) if (m) files.set(m, (files.get(m) ?? 0) + 1);
    return [...files].sort(([a], [b]) => a.localeCompare(b));
  }, [references]);
  const shown = materials.filter(([name]) => name.toLowerCase().includes(text.toLowerCase())).slice(0, 200);
  if (materials.length === 0) return null;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="act soft bg-ground px-1 leading-6">
        {picked.size === 0 ? 'Pick materials' : 'Pick more'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-72" align="start" sideOffset={6} aria-label="Materials">
          <input
            type="search"
            aria-label="Find a material"
            placeholder={`find among ${many(materials.length, 'material')}`}
            className="mx-3 mb-1 w-[calc(100%-24px)] border-b border-rule bg-transparent py-1 outline-none"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <div role="listbox" aria-label="Materials" aria-multiselectable="true" className="max-h-72 overflow-y-auto">
            {shown.map(([name, files]) => (
              <button
                key={name}
                type="button"
                role="option"
                aria-selected={picked.has(name)}
                className="flex w-full items-center gap-2.5 text-left hover:bg-held focus-visible:bg-held aria-selected:bg-held"
                onClick={() => toggle(name)}
              >
                <Swatch sceneId={sceneId} material={name} size={36} />
                <span className="flex-1 truncate">{name}</span>
                <span className="text-[12px] text-quiet">
                  {picked.has(name) && 'in focus, '}
                  {many(files, 'file')}
                </span>
              </button>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
