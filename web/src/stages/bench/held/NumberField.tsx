import clsx from 'clsx';
import { useState } from 'react';
import type { HeldInput } from '../../../api/client';
import { numbersOf } from '../../../parts/numbers';

interface NumberFieldProps {
  input: HeldInput;
  now: number[];
  locked: boolean;
  onSay: (numbers: number[]) => void;
  /** Its digits alone. */
  plain?: boolean;
}

const text = (numbers: number[]) => numbers.map((n) => String(Math.round(n * 1e5) / 1e5)).join(' ');

/** A number by slider and by its digits; several numbers by their digits. */
export function NumberField({ input, now, locked, onSay, plain }: NumberFieldProps) {
  const [writing, setWriting] = useState<string>();
  const value = now[0] ?? 0;
  const low = Math.min(input.min ?? 0, value);
  const high = Math.max(input.max ?? (input.min === null || input.min < 1 ? 1 : input.min * 2), value);
  return (
    <span className="flex min-w-0 items-center gap-2">
      {now.length === 1 && !plain && (
        <input
          type="range"
          aria-label={`${input.name} by slider`}
          min={low}
          max={high}
          step={(high - low) / 200}
          value={value}
          disabled={locked}
          className="min-w-0 flex-1 accent-[var(--rc-soft)]"
          onChange={(e) => {
            setWriting(undefined);
            onSay([Number(e.target.value)]);
          }}
        />
      )}
      <input
        type="text"
        inputMode="decimal"
        aria-label={input.name}
        disabled={locked}
        className={clsx(
          'mono border-b border-rule bg-transparent text-right text-[12px] outline-none focus:border-lichen',
          now.length === 1 ? 'w-14' : 'min-w-0 flex-1',
        )}
        value={writing ?? text(now)}
        onChange={(e) => {
          setWriting(e.target.value);
          const numbers = numbersOf(e.target.value);
          if (numbers?.length === now.length) onSay(numbers);
        }}
        onBlur={() => setWriting(undefined)}
      />
      {input.unit !== null && <span className="flex-none text-[11.5px] text-quiet">{input.unit}</span>}
    </span>
  );
}
