import { useState } from 'react';
import { Link } from 'react-router';
import type { SceneDetail, TransferView } from '../../api/client';
import { bytes, many, when } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { AddedTextures } from '../../parts/AddedTextures';
import { CountRail } from './CountRail';
import { ImageSheet } from './ImageSheet';
import { Losses } from './Losses';
import { MaterialSheet } from './MaterialSheet';
import { SceneMenu } from './SceneMenu';
import { TestFrame } from './TestFrame';
import { Variants } from './Variants';

interface WhatCameProps {
  scene: SceneDetail;
  transfer: TransferView | undefined;
  onCompare: () => void;
}

/** What came with the picked scene, beside another when one is compared; what could not be read; what is carried inside. */
export function WhatCame({ scene, transfer, onCompare }: WhatCameProps) {
  const [cause, setCause] = useState<string>();
  const beside = transfer?.with ?? null;
  return (
    <section aria-label="What came" className="flex min-h-full flex-col">
      <div className="flex items-baseline gap-3 pb-3">
        <h2 className="flex-none text-[15px] font-[680]">What came</h2>
        <span className="truncate text-[12px] text-quiet">
          {beside ? (
            <>
              Beside <b className="text-ink">{beside.older ? `v${beside.version}` : beside.name}</b>
              {!beside.older && `, from ${beside.source}`}
            </>
          ) : (
            `${bytes(scene.bytes)}, ${scene.uploaded ? 'kept in the store' : 'read where it lies'}, ${when(scene.arrivedAt)}`
          )}
        </span>
        <span className="flex-1" />
        <button type="button" className="act flex-none" onClick={onCompare}>
          Compare with another <kbd>V</kbd>
        </button>
        <SceneMenu key={scene.id} scene={scene} />
        <Link className="key flex-none" to={`/muster/${scene.id}`}>
          Muster its files <kbd>]</kbd>
        </Link>
      </div>
      <div className="grid grid-cols-[minmax(240px,320px)_minmax(0,1fr)] gap-x-6">
        <div>
          <CountRail scene={scene} beside={beside} />
          {beside && <Known scene={scene} />}
        </div>
        <div className="min-w-0">
          {beside && transfer ? (
            <>
              <h2 className="pb-2 text-[15px] font-[680]">Did not survive</h2>
              <Losses sceneId={scene.id} transfer={transfer} picked={cause} onPick={setCause} />
              <Variants sceneId={scene.id} variants={scene.variants} />
            </>
          ) : (
            <>
              <TestFrame key={scene.id} scene={scene} />
              <Known scene={scene} />
              <Variants sceneId={scene.id} variants={scene.variants} />
              <h3 className="mt-4 text-[13px] font-[680]">Where it lies</h3>
              <code className="mt-0.5 block break-all text-[11.5px] leading-4 text-quiet">{scene.path}</code>
              <AddedTextures sceneId={scene.id} />
            </>
          )}
        </div>
      </div>
      <span className="flex-1" />
      {!beside && <MaterialSheet scene={scene} />}
      <ImageSheet scene={scene} />
    </section>
  );
}

/** Unit and axis, and what the reader could not read or had to guess. */
function Known({ scene }: { scene: SceneDetail }) {
  const facts = [scene.unit && `in ${scene.unit}`, scene.upAxis && `${scene.upAxis} up`].filter(Boolean).join(', ');
  return (
    <div className="min-w-0 pt-1">
      <h3 className="text-[15px] font-[680]">
        {scene.notes.length === 0 ? 'Everything was read' : `${many(scene.notes.length, 'thing')} to know`}
      </h3>
      <p className="mt-1 text-[12px] leading-4 text-quiet">
        {scene.notes.length === 0 && 'The reader left nothing out and guessed nothing. '}
        {facts && `It is ${facts}. `}
        {scene.readOnlyBecause && `${scene.readOnlyBecause}.`}
      </p>
      <ul className="mt-1 max-h-44 overflow-y-auto">
        {scene.notes.map((note) => (
          <li key={note.place + note.message} className="flex gap-2 border-t border-hair py-1.5">
            <Glyph name="note" className="mt-0.5" />
            <div className="min-w-0 text-[12.5px] leading-4">
              {note.message}
              <code className="block truncate text-[11.5px] text-quiet">{note.place}</code>
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
