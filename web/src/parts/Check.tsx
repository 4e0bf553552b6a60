import clsx from 'clsx';
import { Checkbox } from 'radix-ui';

interface CheckProps {
  label: string;
  on: boolean;
  onToggle: () => void;
  className?: string;
}

/** Taken along or not. The keys of the screen go on working while it has the focus. */
export function Check({ label, on, onToggle, className }: CheckProps) {
  return (
    <Checkbox.Root
      aria-label={label}
      checked={on}
      onCheckedChange={onToggle}
      className={clsx(
        'grid size-3.5 flex-none place-items-center border border-rule bg-ground',
        'aria-checked:border-lichen aria-checked:bg-lichen',
        className,
      )}
    >
      <Checkbox.Indicator>
        <svg
          width="10"
          height="10"
          viewBox="0 0 10 10"
          fill="none"
          stroke="var(--rc-ground)"
          strokeWidth="2"
          aria-hidden="true"
        >
          <path d="M1.5 5.2 4 7.6 8.5 2.4" />
        </svg>
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
