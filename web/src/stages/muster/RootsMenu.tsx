import { DropdownMenu } from 'radix-ui';
import type { MusterView } from '../../api/client';
import { useRemoveRoot, useSearch } from '../../api/queries';
import { count, many, when } from '../../parts/format';

/** The roots that are searched: add one, take one out, search again. */
export function RootsMenu({ sceneId, muster, onAdd }: { sceneId: string; muster: MusterView; onAdd: () => void }) {
  const remove = useRemoveRoot(sceneId);
  const search = useSearch(sceneId);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="act soft">{many(muster.roots.length, 'root')}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu w-80" align="end" sideOffset={4}>
          <DropdownMenu.Label className="px-3 py-1 text-[12px] text-quiet">
            {count(muster.filesIndexed)} files listed, {when(muster.musteredAt)}. The scene’s own folder is always
            searched.
          </DropdownMenu.Label>
          {muster.roots.map((root) => (
            <DropdownMenu.Sub key={root.id}>
              <DropdownMenu.SubTrigger>
                <code className="truncate text-[12px]" title={root.folder}>
                  {root.folder}
                </code>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className="menu">
                  <DropdownMenu.Item onSelect={() => remove.mutate(root.id)}>
                    Stop looking in {root.name}
                  </DropdownMenu.Item>
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-hair" />
          <DropdownMenu.Item className="text-lichen" onSelect={onAdd}>
            Add a root
          </DropdownMenu.Item>
          <DropdownMenu.Item className="text-lichen" onSelect={() => search.mutate(undefined)}>
            Search again
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
