import { useState } from 'react';
import type { HeldInput } from '../../../api/client';
import { hexOf, linearOf } from '../../../parts/srgb';
import { numbersOf } from '../../../parts/numbers';

interface ColourFieldProps {
  input: HeldInput;
  now: number[];
  locked: boolean;
  onSay: (numbers: number[]) => void;
}

const text = (numbers: number[]) => numbers.map((n) => n.toFixed(3).replace(/0+$/, '').replace(/\.$/, '')).join(' ');
const isHex = (t: string) => /^#[0-9a-f]{6}$/i.test(t.trim());

/** A colour as a display shows it, in linear numbers, and in hexadecimal digits of the display's values. */
export function ColourField({ input, now, locked, onSay }: ColourFieldProps) {
  const [linear, setLinear] = useState<string>();
  const [hex, setHex] = useState<string>();
  const rest = now.slice(3);
  return (
    <span className="flex min-w-0 items-center gap-2">
      <input
        type="color"
        aria-label={`${input.name} as a display shows it`}
        disabled={locked}
        className="h-5 w-7 flex-none border border-rule bg-transparent p-0"
        value={hexOf(now)}
        onChange={(e) => onSay([...linearOf(e.target.value), ...rest])}
      />
      <input
        type="text"
        aria-label={`${input.name}, linear`}
        title="linear: red, green, blue"
        disabled={locked}
        className="mono min-w-0 flex-1 border-b border-rule bg-transparent text-[12px] outline-none focus:border-lichen"
        value={linear ?? text(now)}
        onChange={(e) => {
          setLinear(e.target.value);
          const numbers = numbersOf(e.target.value);
          if (numbers?.length === now.length) onSay(numbers);
        }}
        onBlur={() => setLinear(undefined)}
      />
      <input
        type="text"
        aria-label={`${input.name}, hexadecimal as a display shows it`}
        disabled={locked}
        className="mono w-[58px] flex-none border-b border-rule bg-transparent text-[12px] text-soft outline-none focus:border-lichen"
        value={hex ?? hexOf(now)}
        onChange={(e) => {
          setHex(e.target.value);
          if (isHex(e.target.value)) onSay([...linearOf(e.target.value.trim()), ...rest]);
        }}
        onBlur={() => setHex(undefined)}
      />
    </span>
  );
}
