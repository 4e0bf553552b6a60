import clsx from 'clsx';
import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

interface OneOfProps<T extends string> {
  label: string;
  value: T;
  /** Each with its words. */
  options: readonly (readonly [T, ReactNode])[];
  className?: string;
  onChoose: (value: T) => void;
}

/** One of a few words that stand in a row; one of them always holds. */
export function OneOf<T extends string>({ label, value, options, className, onChoose }: OneOfProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      value={value}
      // What holds already is not let go.
      onValueChange={(v) => v !== '' && onChoose(v as T)}
      aria-label={label}
      className={clsx('flex flex-none', className ?? 'gap-3')}
    >
      {options.map(([option, words]) => (
        <ToggleGroup.Item
          key={option}
          value={option}
          className="act soft aria-checked:font-[680] aria-checked:!text-ink"
        >
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
