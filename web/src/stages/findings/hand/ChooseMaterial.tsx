import { useState } from 'react';
import { many } from '../../../parts/format';
import { Swatch } from '../../../parts/Swatch';
import { Field, FindIn } from './Field';

interface ChooseMaterialProps {
  sceneId: string;
  names: string[];
  chosen: string | null;
  onChoose: (name: string) => void;
}

/** The scene's materials as they look. */
export function ChooseMaterial({ sceneId, names, chosen, onChoose }: ChooseMaterialProps) {
  const [text, setText] = useState('');
  const shown = names.filter((n) => n.toLowerCase().includes(text.toLowerCase())).slice(0, 200);
  return (
    <>
      <Field label="Wear">
        <FindIn what={many(names.length, 'material')} text={text} onText={setText} />
      </Field>
      <div
        role="listbox"
        aria-label="Materials"
        className="field mt-2 grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(92px,1fr))] gap-2 overflow-y-auto p-2"
      >
        {shown.map((name) => (
          <button
            key={name}
            type="button"
            role="option"
            aria-selected={chosen === name}
            className="grid justify-items-center gap-1 p-1 text-black aria-selected:outline-2 aria-selected:outline-white"
            onClick={() => onChoose(name)}
          >
            <Swatch sceneId={sceneId} material={name} size={72} />
            <span className="w-full truncate text-[11.5px]" title={name}>
              {name}
            </span>
          </button>
        ))}
      </div>
    </>
  );
}
