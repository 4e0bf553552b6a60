import { useState } from 'react';
import type { HandImageItem, HandView } from '../../../api/client';
import { FolderSheet } from '../../../parts/folders/FolderSheet';
import { many, pixels } from '../../../parts/format';
import { MidCut } from '../../../parts/MidCut';
import { PictureAt } from '../../../parts/Picture';
import { Field, FindIn, InputField } from './Field';
import type { Said } from './said';

interface ChooseMapProps {
  view: HandView;
  said: Said;
  onSay: (to: Partial<Said>) => void;
}

const most = 120;

/** Images of the scene and of its folders, those of the same set first; or any other file. */
export function ChooseMap({ view, said, onSay }: ChooseMapProps) {
  const [text, setText] = useState('');
  const [browsing, setBrowsing] = useState(false);
  const inputs = view.inputs.filter((i) => i.takesImage);
  const input = said.input ?? (inputs.length === 1 ? inputs[0]?.name : undefined) ?? null;
  const wanted = inputs.find((i) => i.name === input)?.what;
  const shown = ranked(view.images, wanted).filter((i) =>
    `${i.where}/${i.name}`.toLowerCase().includes(text.toLowerCase()),
  );
  const pick = (path: string) => onSay({ input, path });
  return (
    <>
      <InputField
        inputs={inputs}
        places={view.places.length}
        chosen={input}
        onChoose={(name) => onSay({ input: name })}
      />
      <Field label="Image">
        <FindIn what={many(view.images.length, 'image')} text={text} onText={setText} />
        <button type="button" className="act" onClick={() => setBrowsing(true)}>
          Another file
        </button>
        {said.path !== null && !view.images.some((i) => i.path === said.path) && (
          <MidCut text={said.path} className="mono min-w-0 text-[11.5px]" />
        )}
      </Field>
      <div
        role="listbox"
        aria-label="Images"
        className="mt-2 grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-x-4 gap-y-1 overflow-y-auto"
      >
        {shown.slice(0, most).map((i) => (
          <button
            key={i.path}
            type="button"
            role="option"
            aria-selected={said.path === i.path}
            className="flex min-w-0 items-center gap-2 p-1 text-left hover:bg-raise aria-selected:bg-held"
            onClick={() => pick(i.path)}
          >
            <PictureAt url={i.picture} alt="" size={44} />
            <span className="min-w-0 flex-1 leading-4">
              <MidCut text={i.name} className="mono block text-[12px]" />
              <span className="block truncate text-[11.5px] text-quiet">
                {[i.isOfSet && 'of its set', i.role, i.width && pixels(i.width, i.height)].filter(Boolean).join(', ')}
              </span>
              <MidCut text={i.where} className="block text-[11.5px] text-quiet" />
            </span>
          </button>
        ))}
        {shown.length === 0 && <p className="text-quiet">No image here; choose another file.</p>}
      </div>
      <FolderSheet
        open={browsing}
        onOpenChange={setBrowsing}
        title="Take an image from a server folder"
        takes="file"
        verb="Take this image"
        onTake={([path]) => path && pick(path)}
      />
    </>
  );
}

/** Of its set and for that use first; the order is else the server's. */
function ranked(images: HandImageItem[], what: string | undefined): HandImageItem[] {
  const rank = (i: HandImageItem) => (i.isOfSet ? 2 : 0) + (i.role !== null && i.role === what ? 1 : 0);
  return [...images].sort((a, b) => rank(b) - rank(a));
}
