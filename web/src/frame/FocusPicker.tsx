import { Popover, Tabs } from 'radix-ui';
import { useState } from 'react';
import { useFocusChoices } from '../api/shelf';
import { many } from '../parts/format';
import { Swatch } from '../parts/Swatch';
import { useFocus } from '../state/focus';

/** Rows that are drawn; letters find the others. */
const most = 200;

/** Takes materials into the focus, one by one, by what an object wears, or all that the letters find. */
export function FocusPicker({ sceneId }: { sceneId: string }) {
  const [open, setOpen] = useState(false);
  const picked = useFocus((s) => s.materials.size);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="act soft bg-ground px-1 leading-6">
        {picked === 0 ? 'Pick materials' : 'Pick more'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-80" align="start" sideOffset={6} aria-label="Materials">
          <Choices sceneId={sceneId} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Choices({ sceneId }: { sceneId: string }) {
  const view = useFocusChoices(sceneId).data;
  const { materials: picked, toggle, narrow } = useFocus();
  const [text, setText] = useState('');
  const [by, setBy] = useState('materials');
  if (!view) return <p className="px-3 text-quiet">One moment.</p>;
  const letters = text.toLowerCase();
  const materials = view.materials.filter((m) => m.name.toLowerCase().includes(letters));
  const objects = view.objects.filter((o) => o.name.toLowerCase().includes(letters));
  const take = (names: string[]) => narrow({ materials: new Set([...picked, ...names]) });
  const found = by === 'materials' ? materials.map((m) => m.name) : objects.flatMap((o) => o.materials);
  return (
    <Tabs.Root value={by} onValueChange={setBy}>
      <Tabs.List aria-label="Pick by" className="flex gap-4 px-3 pb-1">
        {[
          ['materials', 'by material'],
          ['objects', 'by object'],
        ].map(([value, words]) => (
          <Tabs.Trigger
            key={value}
            value={value ?? ''}
            className="act soft data-[state=active]:font-[680] data-[state=active]:!text-ink"
          >
            {words}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <input
        type="search"
        aria-label={by === 'materials' ? 'Find a material' : 'Find an object'}
        placeholder={`find among ${by === 'materials' ? many(view.materials.length, 'material') : many(view.objects.length, 'object')}`}
        className="mx-3 mb-1 w-[calc(100%-24px)] border-b border-rule bg-transparent py-1 outline-none"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Tabs.Content value={by} className="max-h-72 overflow-y-auto" tabIndex={-1}>
        <div role="listbox" aria-label={by === 'materials' ? 'Materials' : 'Objects'} aria-multiselectable="true">
          {by === 'materials'
            ? materials.slice(0, most).map((m) => (
                <button
                  key={m.name}
                  type="button"
                  role="option"
                  aria-selected={picked.has(m.name)}
                  className="flex w-full items-center gap-2.5 text-left hover:bg-held focus-visible:bg-held aria-selected:bg-held"
                  onClick={() => toggle(m.name)}
                >
                  <Swatch sceneId={sceneId} material={m.name} size={36} />
                  <span className="flex-1 truncate">{m.name}</span>
                  <span className="text-[12px] text-quiet">
                    {picked.has(m.name) && 'in focus, '}
                    {many(m.files, 'file')}
                  </span>
                </button>
              ))
            : objects.slice(0, most).map((o) => (
                <button
                  key={o.name}
                  type="button"
                  role="option"
                  aria-selected={o.materials.every((m) => picked.has(m))}
                  className="flex w-full items-center gap-2.5 text-left hover:bg-held focus-visible:bg-held aria-selected:bg-held"
                  onClick={() => take(o.materials)}
                >
                  <span className="flex-1 truncate">{o.name}</span>
                  <span className="max-w-36 truncate text-[12px] text-quiet">{o.materials.join(', ')}</span>
                </button>
              ))}
        </div>
      </Tabs.Content>
      {letters !== '' && found.length > 1 && (
        <button type="button" className="act mx-3 mt-1" onClick={() => take(found)}>
          Take all {many(new Set(found).size, 'material')} found
        </button>
      )}
    </Tabs.Root>
  );
}
