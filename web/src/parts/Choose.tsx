import clsx from 'clsx';
import { Select } from 'radix-ui';

interface ChooseProps {
  label: string;
  value: string;
  options: { value: string; words: string; note?: string }[];
  /** Stands there until something is chosen. */
  empty?: string;
  /** It stands on the field. */
  onField?: boolean;
  onChoose: (value: string) => void;
}

/** One of several, by name. */
export function Choose({ label, value, options, empty, onField, onChoose }: ChooseProps) {
  return (
    <Select.Root value={value} onValueChange={onChoose}>
      <Select.Trigger
        aria-label={label}
        className={clsx('act min-w-0 whitespace-nowrap text-left', onField && '!text-white')}
      >
        <Select.Value placeholder={empty} /> <span aria-hidden="true">▾</span>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content className="menu max-h-80 overflow-y-auto" position="popper" sideOffset={4}>
          <Select.Viewport>
            {options.map((o) => (
              <Select.Item key={o.value} value={o.value} className="flex items-baseline gap-4">
                <Select.ItemText>{o.words}</Select.ItemText>
                {o.note && <span className="ml-auto text-[12px] text-quiet">{o.note}</span>}
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
