import clsx from 'clsx';
import type { ComparedScene, SceneDetail } from '../../api/client';
import { count } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';

interface Rung {
  name: string;
  here: number;
  /** The count in the compared scene; undefined where it is not compared. */
  there?: number | undefined;
  head?: boolean;
}

/** Counts as rungs on one rail, or between two when another scene stands beside. */
export function CountRail({ scene, beside }: { scene: SceneDetail; beside: ComparedScene | null }) {
  const plural = (n: number, one: string, more = `${one}s`) => (n === 1 ? one : more);
  const rungs: Rung[] = [
    { name: plural(scene.nodes, 'node'), here: scene.nodes, there: beside?.nodes, head: true },
    { name: plural(scene.meshes, 'mesh', 'meshes'), here: scene.meshes, there: beside?.meshes },
    { name: plural(scene.triangles, 'triangle'), here: scene.triangles, there: beside?.triangles, head: true },
    { name: plural(scene.materials, 'material'), here: scene.materials, there: beside?.materials, head: true },
    { name: plural(scene.images, 'image'), here: scene.images, there: beside?.images, head: true },
    { name: 'called from outside', here: scene.images - scene.carriedImages },
    { name: 'carried inside', here: scene.carriedImages },
    { name: 'other files', here: scene.buffers + scene.libraries + scene.layers, head: true },
    { name: plural(scene.buffers, 'buffer'), here: scene.buffers },
    { name: plural(scene.libraries, 'material library', 'material libraries'), here: scene.libraries },
    { name: plural(scene.layers, 'layer or document', 'layers and documents'), here: scene.layers },
  ];
  return (
    <div className="relative">
      {beside && (
        <div className="grid grid-cols-[52px_60px_minmax(0,1fr)] gap-x-2 pb-1 text-[12px]">
          <span className="truncate text-right text-soft">{beside.older ? `v${beside.version}` : 'beside'}</span>
          <span />
          <span className="pl-2 text-soft">here</span>
        </div>
      )}
      {rungs.map((rung) => (
        <RungLine key={rung.name} rung={rung} compared={beside !== null} />
      ))}
    </div>
  );
}

function relation(here: number, there: number): { glyph: string; word: string } {
  if (here === there) return { glyph: 'same', word: 'the same' };
  if (there === 0) return { glyph: 'new', word: 'new' };
  return here < there ? { glyph: 'lost', word: 'fewer' } : { glyph: 'changed', word: 'more' };
}

function RungLine({ rung, compared }: { rung: Rung; compared: boolean }) {
  const { head, here, there, name } = rung;
  const figure = head ? 'text-[14px] font-[680]' : 'mono text-[12px] text-soft';
  const related = there === undefined ? undefined : relation(here, there);
  const lost = related?.glyph === 'lost';
  return (
    <div
      className={clsx(
        'grid items-center gap-x-2',
        compared ? 'grid-cols-[52px_60px_minmax(0,1fr)]' : 'grid-cols-[82px_16px_minmax(0,1fr)]',
        head ? 'h-[26px]' : 'h-[21px]',
      )}
    >
      <span className={`text-right ${compared ? 'mono text-[12px] text-soft' : figure}`}>
        {compared ? (there === undefined ? '' : count(there)) : count(here)}
      </span>
      <span className={`relative flex h-full items-center justify-center ${lost ? 'text-clay' : 'text-soft'}`}>
        {compared && <span className="absolute inset-y-0 left-0 border-l-2 border-ink" aria-hidden="true" />}
        <span
          className={`absolute inset-y-0 border-l-2 border-ink ${compared ? 'right-0' : 'left-[7px]'}`}
          aria-hidden="true"
        />
        {!compared && (
          <span
            className="absolute left-[3px] size-[10px] rounded-full border-[1.5px] border-ink bg-ground"
            aria-hidden="true"
          />
        )}
        {related && <Glyph name={related.glyph} className="scale-x-[2.2]" />}
      </span>
      <span className={`flex items-baseline gap-2 truncate ${lost ? 'text-clay' : ''}`}>
        {compared && (
          <span className={`min-w-[50px] text-right ${figure} ${lost ? '!text-clay' : ''}`}>{count(here)}</span>
        )}
        <span className={head ? 'text-[14px] font-[680]' : `${compared ? '' : 'pl-3'} text-[12.5px] text-soft`}>
          {name}
        </span>
        {related && <span className="sr-only">{related.word}</span>}
      </span>
    </div>
  );
}
