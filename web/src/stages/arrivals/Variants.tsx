import { DropdownMenu } from 'radix-ui';
import type { VariantItem } from '../../api/client';
import { useChooseVariant } from '../../api/queries';

/** What can be chosen in the file itself; another choice is an entry in the ledger. */
export function Variants({ sceneId, variants }: { sceneId: string; variants: VariantItem[] }) {
  const choose = useChooseVariant(sceneId);
  if (variants.length === 0) return null;
  return (
    <section className="mt-4" aria-label="Variants">
      <h3 className="text-[13px] font-[680]">Variants</h3>
      {variants.map((v) => (
        <div key={`${v.place} ${v.set}`} className="mt-1 flex items-center gap-3 text-[12.5px]">
          <span className="min-w-0 flex-1 truncate text-soft">
            {v.set} <code className="text-[11.5px] text-quiet">{v.place}</code>
          </span>
          <DropdownMenu.Root modal={false}>
            <DropdownMenu.Trigger
              className="key outlined"
              aria-label={`${v.set}, variant ${v.selected || 'not chosen'}`}
            >
              {v.selected || 'none chosen'} <span aria-hidden="true">▾</span>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content className="menu" sideOffset={4} align="end">
                <DropdownMenu.RadioGroup
                  value={v.selected}
                  onValueChange={(option) => choose.mutate({ place: v.place, set: v.set, option })}
                >
                  {v.options.map((option) => (
                    <DropdownMenu.RadioItem
                      key={option}
                      value={option}
                      className="px-3 py-1 text-[13px] data-[highlighted]:bg-held data-[state=checked]:font-semibold"
                    >
                      {option}
                    </DropdownMenu.RadioItem>
                  ))}
                </DropdownMenu.RadioGroup>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </div>
      ))}
    </section>
  );
}
