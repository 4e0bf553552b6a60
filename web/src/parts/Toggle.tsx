import clsx from 'clsx';
import { Switch } from 'radix-ui';

/** On or off, at once. */
export function Toggle({ on, onChange }: { on: boolean; onChange: (on: boolean) => void }) {
  return (
    <Switch.Root
      checked={on}
      onCheckedChange={onChange}
      className="h-5 w-9 rounded-full border border-rule data-[state=checked]:border-lichen-dim"
    >
      <Switch.Thumb
        className={clsx(
          'block size-3 translate-x-1 rounded-full bg-quiet transition-transform',
          'data-[state=checked]:translate-x-[18px] data-[state=checked]:bg-lichen',
        )}
      />
    </Switch.Root>
  );
}
