import type { ReactNode } from 'react';
import type { HandInputItem } from '../../../api/client';
import { Choose } from '../../../parts/Choose';
import { many } from '../../../parts/format';

/** A field with its word before it. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 flex-none items-center gap-3 text-[12.5px]">
      <span className="w-14 flex-none text-quiet">{label}</span>
      {children}
    </div>
  );
}

export function FindIn({ what, text, onText }: { what: string; text: string; onText: (text: string) => void }) {
  return (
    <input
      type="search"
      aria-label={`Find among ${what}`}
      placeholder={`find among ${what}`}
      className="w-72 border-b border-rule bg-transparent py-0.5 outline-none focus:border-lichen"
      value={text}
      onChange={(e) => onText(e.target.value)}
    />
  );
}

interface InputFieldProps {
  inputs: HandInputItem[];
  places: number;
  chosen: string | null;
  onChoose: (input: string) => void;
}

/** The input that it is about; how many of the places have it, where that is not all. */
export function InputField({ inputs, places, chosen, onChoose }: InputFieldProps) {
  return (
    <Field label="Input">
      <Choose
        label="Input"
        value={chosen ?? ''}
        options={inputs.map((i) => ({
          value: i.name,
          words: i.what === i.name ? i.name : `${i.name}, ${i.what}`,
          note: i.among < places ? `${many(i.among, 'place')} of ${places}` : '',
        }))}
        empty="choose an input"
        onChoose={onChoose}
      />
    </Field>
  );
}
