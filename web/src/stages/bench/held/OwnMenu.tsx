import { DropdownMenu } from 'radix-ui';
import type { HeldView } from '../../../api/client';
import { useBenchActs } from '../../../api/bench';
import { count } from '../../../parts/format';

interface OwnMenuProps {
  sceneId: string;
  view: HeldView;
  wearer: HeldView['wearers'][number];
}

/** Which of the places that share geometry is to have its own: it can wear another material then. */
export function OwnMenu({ sceneId, view, wearer }: OwnMenuProps) {
  const { own } = useBenchActs(sceneId);
  const left = wearer.places - wearer.instances.length;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`Make its own: a place of ${wearer.name}`}
        className="act soft flex-none !text-[12px]"
      >
        make its own <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu max-h-[60vh] w-64 overflow-y-auto" align="end" sideOffset={2}>
          <p className="px-3 py-1 text-[12px] text-quiet">
            {view.noOwn ?? 'It no longer shares its geometry, and can wear another material.'}
          </p>
          {wearer.instances.map((i) => (
            <DropdownMenu.Item
              key={i.id}
              disabled={view.noOwn !== null || own.isPending}
              className="data-[disabled]:text-quiet"
              onSelect={() => own.mutate({ material: view.name, mesh: wearer.mesh, instance: i.id })}
            >
              {i.name}
            </DropdownMenu.Item>
          ))}
          {wearer.instances.length > 1 && left > 0 && (
            <p className="px-3 py-1 text-[12px] text-quiet">and {count(left)} more</p>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
