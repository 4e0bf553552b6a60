import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { MappingItem } from '../../api/client';
import { MidCut } from '../../parts/MidCut';

interface OverrideProps {
  mapping: MappingItem;
  set: number[] | undefined;
  onSet: (numbers: number[] | null) => void;
}

const shown = (numbers: number[]) => numbers.map((n) => String(Math.round(n * 1e4) / 1e4)).join(' ');

/** The value that the other model gets; an artist may say another one. */
export function Override({ mapping: m, set, onSet }: OverrideProps) {
  const [open, setOpen] = useState(false);
  const value = set ? shown(set) : m.after;
  if (m.numbers === 0) return <code className="truncate text-[11.5px] text-quiet">{value}</code>;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className="act mono min-w-0 text-left !text-[11.5px] !font-normal"
        title={value}
        aria-label={`${m.to} is ${value}; say another value`}
      >
        <MidCut text={value} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-72 p-3" align="end" sideOffset={4}>
          <Form
            mapping={m}
            value={value}
            isSet={set !== undefined}
            onSet={(numbers) => {
              onSet(numbers);
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Form({
  mapping: m,
  value,
  isSet,
  onSet,
}: {
  mapping: MappingItem;
  value: string;
  isSet: boolean;
  onSet: (numbers: number[] | null) => void;
}) {
  const [text, setText] = useState(() => (/^[-\d. e]+$/.test(value) ? value : ''));
  const numbers =
    text.trim() === ''
      ? []
      : text
          .trim()
          .split(/[\s,]+/)
          .map(Number);
  const why = whyNot(m, numbers);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (why === undefined) onSet(numbers);
      }}
    >
      <label className="grid gap-1 text-[12.5px]">
        <span>
          <b className="font-[680]">{m.to}</b>{' '}
          <span className="text-quiet">
            {m.numbers === 1 ? 'a number' : `${String(m.numbers)} numbers`}
            {m.low !== null && m.high !== null && `, ${String(m.low)} to ${String(m.high)}`}
          </span>
        </span>
        <input
          className="field-input mono border border-rule bg-ground px-2 py-1 text-[12px]"
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-invalid={why !== undefined}
          autoFocus
        />
      </label>
      <p className="min-h-4 py-1 text-[12px] leading-4 text-clay">{text.trim() !== '' && why}</p>
      <div className="flex items-center gap-4">
        <button type="submit" className="key" disabled={why !== undefined}>
          Use this
        </button>
        {isSet && (
          <button type="button" className="act soft" onClick={() => onSet(null)}>
            Back to the formula
          </button>
        )}
      </div>
    </form>
  );
}

function whyNot(m: MappingItem, numbers: number[]): string | undefined {
  if (numbers.length !== m.numbers || numbers.some((n) => !Number.isFinite(n)))
    return m.numbers === 1 ? 'It takes one number.' : `It takes ${String(m.numbers)} numbers.`;
  if (numbers.some((n) => (m.low !== null && n < m.low) || (m.high !== null && n > m.high)))
    return `It takes ${String(m.low ?? 'any')} to ${String(m.high ?? 'any')}.`;
  return undefined;
}
