import { useState } from 'react';
import type { HandInputItem, HandView } from '../../../api/client';
import { numbersOf } from '../../../parts/numbers';
import { hexOf, linearOf } from '../../../parts/srgb';
import { Field, InputField } from './Field';
import { whyNot, type Said } from './said';

interface ChooseValueProps {
  view: HandView;
  said: Said;
  onSay: (to: Partial<Said>) => void;
}

/** A number or a colour for an input. */
export function ChooseValue({ view, said, onSay }: ChooseValueProps) {
  const only = view.inputs.length === 1 ? view.inputs[0] : undefined;
  const input = view.inputs.find((i) => i.name === said.input) ?? only;
  return (
    <>
      <InputField
        inputs={view.inputs}
        places={view.places.length}
        chosen={input?.name ?? null}
        onChoose={(name) => onSay({ input: name, numbers: null })}
      />
      {input && (
        <Numbers key={input.name} input={input} onNumbers={(numbers) => onSay({ input: input.name, numbers })} />
      )}
    </>
  );
}

const shown = (numbers: number[]) => numbers.map((n) => String(Math.round(n * 1e5) / 1e5)).join(' ');

function Numbers({ input, onNumbers }: { input: HandInputItem; onNumbers: (numbers: number[] | null) => void }) {
  const [text, setText] = useState(shown(input.now));
  const numbers = numbersOf(text);
  const why = whyNot(input, numbers);
  const write = (to: string) => {
    setText(to);
    const next = numbersOf(to);
    onNumbers(whyNot(input, next) === undefined ? next : null);
  };
  const low = input.min ?? 0;
  const high = input.max ?? 1;
  return (
    <>
      <Field label="Value">
        {input.isColour && (
          <input
            type="color"
            aria-label={`${input.name} as a display shows it`}
            className="h-7 w-11 border border-rule bg-transparent"
            value={hexOf(numbers ?? [0, 0, 0])}
            onChange={(e) => write(shown([...linearOf(e.target.value), ...(numbers ?? []).slice(3)]))}
          />
        )}
        {input.numbers === 1 && (
          <input
            type="range"
            aria-label={`${input.name}, by hand`}
            min={low}
            max={high}
            step={(high - low) / 200}
            value={numbers?.[0] ?? low}
            className="w-48 accent-[var(--rc-lichen)]"
            onChange={(e) => write(e.target.value)}
          />
        )}
        <input
          type="text"
          inputMode="decimal"
          aria-label={input.name}
          aria-invalid={why !== undefined}
          className="mono w-56 border border-rule bg-ground px-2 py-1 text-[12px]"
          value={text}
          onChange={(e) => write(e.target.value)}
        />
        <span className="text-[12px] text-clay">{text.trim() !== '' && why}</span>
      </Field>
      <p className="pl-[68px] pt-1 text-[12px] text-quiet">
        {input.isColour ? 'Linear, red green blue. ' : ''}
        {input.min !== null && input.max !== null && `From ${input.min} to ${input.max}. `}
        {input.default.length > 0 && (
          <>
            Its default is{' '}
            <button type="button" className="act soft mono !text-[12px]" onClick={() => write(shown(input.default))}>
              {shown(input.default)}
            </button>
            .
          </>
        )}
      </p>
    </>
  );
}
