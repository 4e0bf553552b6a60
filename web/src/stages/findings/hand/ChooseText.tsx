import { useState } from 'react';
import type { HandPlaceItem } from '../../../api/client';
import { Field } from './Field';
import type { Said } from './said';

interface ChooseUvSetProps {
  sets: string[];
  said: Said;
  onSay: (to: Partial<Said>) => void;
}

/** The UV sets that the meshes carry. */
export function ChooseUvSet({ sets, said, onSay }: ChooseUvSetProps) {
  return (
    <Field label="Read">
      <div role="radiogroup" aria-label="UV set" className="flex flex-wrap gap-x-5 gap-y-1">
        {sets.map((set) => (
          <label key={set} className="flex items-center gap-1.5">
            <input type="radio" name="uv-set" checked={said.choice === set} onChange={() => onSay({ choice: set })} />
            <code className="text-[12px]">{set}</code>
          </label>
        ))}
      </div>
    </Field>
  );
}

interface ChooseNameProps {
  places: HandPlaceItem[];
  said: Said;
  onSay: (to: Partial<Said>) => void;
}

/** One name is for one thing: with several places it is said that the rest is refused. */
export function ChooseName({ places, said, onSay }: ChooseNameProps) {
  const [text, setText] = useState(said.choice ?? places[0]?.name ?? '');
  return (
    <>
      <Field label="Name">
        <input
          type="text"
          aria-label="Name"
          className="mono w-80 border border-rule bg-ground px-2 py-1 text-[12px]"
          value={text}
          autoFocus
          onChange={(e) => {
            setText(e.target.value);
            onSay({ choice: e.target.value === places[0]?.name ? null : e.target.value });
          }}
        />
      </Field>
      {places.length > 1 && (
        <p className="pl-[68px] pt-1 text-[12px] text-quiet">A name belongs to one thing: leave all but one out.</p>
      )}
    </>
  );
}
