import { Link } from 'react-router';
import type { SceneDetail } from '../../api/client';
import { bytes, count, many, when } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { ImageSheet } from './ImageSheet';

/** What came with the picked scene: the counts on one rail, what could not be read, and what is carried inside. */
export function WhatCame({ scene }: { scene: SceneDetail }) {
  const groups: [number, string, [number, string][]][] = [
    [scene.nodes, scene.nodes === 1 ? 'node' : 'nodes', [[scene.meshes, scene.meshes === 1 ? 'mesh' : 'meshes']]],
    [scene.triangles, scene.triangles === 1 ? 'triangle' : 'triangles', []],
    [scene.materials, scene.materials === 1 ? 'material' : 'materials', []],
    [
      scene.images,
      scene.images === 1 ? 'image' : 'images',
      [
        [scene.images - scene.carriedImages, 'called from outside'],
        [scene.carriedImages, 'carried inside'],
      ],
    ],
    [
      scene.buffers + scene.libraries,
      'other files called for',
      [
        [scene.buffers, scene.buffers === 1 ? 'buffer' : 'buffers'],
        [scene.libraries, scene.libraries === 1 ? 'material library' : 'material libraries'],
      ],
    ],
  ];
  return (
    <section aria-label="What came" className="flex h-full flex-col">
      <div className="flex items-baseline gap-3 pb-3">
        <h2 className="text-[15px] font-[680]">What came</h2>
        <span className="truncate text-[12px] text-quiet">
          {bytes(scene.bytes)}, {scene.uploaded ? 'kept in the store' : 'read where it lies'}, {when(scene.arrivedAt)}
        </span>
        <span className="flex-1" />
        <Link className="key" to={`/muster/${scene.id}`}>
          Muster its files <kbd>]</kbd>
        </Link>
      </div>
      <div className="grid grid-cols-[minmax(300px,340px)_minmax(0,1fr)] gap-x-6">
        <div className="relative">
          <span className="absolute bottom-2 left-[92px] top-1 border-l-2 border-ink" aria-hidden="true" />
          {groups.map(([n, name, parts]) => (
            <div key={name} className="pb-2">
              <Rung n={n} name={name} head />
              {parts.map(([m, part]) => (
                <Rung key={part} n={m} name={part} />
              ))}
            </div>
          ))}
        </div>
        <div className="min-w-0">
          <h3 className="text-[15px] font-[680]">
            {scene.notes.length === 0 ? 'Everything was read' : `${many(scene.notes.length, 'thing')} to know`}
          </h3>
          {scene.notes.length === 0 && (
            <p className="mt-1 text-[12px] text-quiet">The reader left nothing out and guessed nothing.</p>
          )}
          <ul className="mt-1 max-h-52 overflow-y-auto">
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
          <h3 className="mt-4 text-[13px] font-[680]">Materials</h3>
          <p className="mt-0.5 line-clamp-4 text-[12.5px] leading-[18px] text-soft">
            {scene.materialNames.join(', ') || 'none'}
          </p>
          <h3 className="mt-4 text-[13px] font-[680]">Where it lies</h3>
          <code className="mt-0.5 block break-all text-[11.5px] leading-4 text-quiet">{scene.path}</code>
        </div>
      </div>
      <span className="flex-1" />
      <ImageSheet scene={scene} />
    </section>
  );
}

function Rung({ n, name, head = false }: { n: number; name: string; head?: boolean }) {
  return (
    <div className="relative grid h-[21px] grid-cols-[82px_minmax(0,1fr)] items-center gap-x-5">
      <span
        className="absolute left-[88px] size-[10px] rounded-full border-[1.5px] border-ink bg-ground"
        aria-hidden="true"
      />
      <span className={`text-right ${head ? 'text-[14px] font-[680]' : 'mono text-[12px] text-soft'}`}>{count(n)}</span>
      <span className={head ? 'text-[14px] font-[680]' : 'pl-3 text-[12.5px] text-soft'}>{name}</span>
    </div>
  );
}
