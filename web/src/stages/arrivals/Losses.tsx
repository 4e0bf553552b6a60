import { useState } from 'react';
import type { ComparedScene, FamilyItem, TransferView } from '../../api/client';
import { useRestore } from '../../api/queries';
import { useKey } from '../../frame/keys';
import { capital, count, many } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { Picture } from '../../parts/Picture';
import { Sphere, useSwatch } from '../../parts/Swatch';

interface LossesProps {
  sceneId: string;
  transfer: TransferView;
  picked: string | undefined;
  onPick: (key: string) => void;
}

const label = (scene: ComparedScene) => (scene.older ? `v${scene.version}` : scene.source);

/** What did not survive, by cause: the picked one opens with its evidence and the edit that takes it back. */
export function Losses({ sceneId, transfer, picked, onPick }: LossesProps) {
  const restore = useRestore(sceneId);
  const { with: beside, families } = transfer;
  const open = families.find((f) => f.key === picked) ?? families[0];
  const take = (rows: number[]) => beside && restore.mutate({ with: beside.id, version: beside.version, rows });
  const takeFamily = () => {
    if (open && open.edits > 0) take(open.rows.map((r) => r.number));
  };
  useKey('f', takeFamily, open !== undefined && open.edits > 0);
  if (!beside) return null;
  if (families.length === 0) return <p className="text-[15px]">Everything that {label(beside)} has came along.</p>;
  return (
    <ol aria-label="Did not survive">
      {families.map((family) => (
        <li key={family.key}>
          {family === open ? (
            <OpenFamily
              sceneId={sceneId}
              family={family}
              beside={beside}
              busy={restore.isPending}
              onTake={takeFamily}
              onTakeRow={(row) => take([row])}
            />
          ) : (
            <button
              type="button"
              className="grid w-full grid-cols-[44px_minmax(0,1fr)] gap-x-3 px-2 py-1.5 text-left hover:bg-raise"
              onClick={() => onPick(family.key)}
            >
              <Numeral family={family} className="text-[22px] leading-6" />
              <span className="min-w-0">
                <span className="block truncate text-[14px] leading-[18px]">{withoutCount(family)}</span>
                <span className="block truncate text-[12px] leading-4 text-quiet">{names(family)}</span>
              </span>
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** The sentence without the number that stands before it in large. */
const withoutCount = (family: FamilyItem) =>
  /^\d/.test(family.sentence) ? family.sentence.replace(/^[\d,]+ /, '') : capital(family.sentence);

const names = (family: FamilyItem) => [...new Set(family.rows.map((r) => r.name))].slice(0, 6).join(', ');

function Numeral({ family, className }: { family: FamilyItem; className: string }) {
  return (
    <span className={`text-right font-[680] ${family.edits > 0 ? '' : 'text-soft'} ${className}`}>
      {count(family.rows.length)}
    </span>
  );
}

interface OpenFamilyProps {
  sceneId: string;
  family: FamilyItem;
  beside: ComparedScene;
  busy: boolean;
  onTake: () => void;
  onTakeRow: (row: number) => void;
}

const shownRows = 6;

function OpenFamily({ sceneId, family, beside, busy, onTake, onTakeRow }: OpenFamilyProps) {
  const [all, setAll] = useState(false);
  const first = family.rows[0];
  const rows = all ? family.rows : family.rows.slice(0, shownRows);
  const whyNot = family.rows.find((r) => r.whyNot)?.whyNot;
  return (
    <section className="mb-1 bg-held" aria-label={family.sentence}>
      <div className="grid grid-cols-[44px_minmax(0,1fr)] gap-x-3 px-2 pb-2 pt-2">
        <Numeral family={family} className="text-[36px] leading-9" />
        <h3 className="self-center text-[15px] leading-5">{withoutCount(family)}</h3>
      </div>
      {first && (first.imageA != null || first.imageB != null) && (
        <div className="field flex gap-4 px-4 py-2.5">
          {!beside.older && first.imageA != null && (
            <figure className="w-[146px]">
              <Picture sceneId={beside.id} number={first.imageA} alt={`${first.name} in ${label(beside)}`} size={104} />
              <figcaption className="truncate text-[11.5px] text-white">{`${label(beside)}, ${first.a ?? 'nothing'}`}</figcaption>
            </figure>
          )}
          <figure className="w-[146px]">
            <Picture
              sceneId={sceneId}
              number={first.imageB ?? first.imageA ?? 0}
              missing={first.imageB == null}
              alt={`${first.name} here`}
              size={104}
            />
            <figcaption className="truncate text-[11.5px] text-white">{`here, ${first.b ?? 'nothing'}`}</figcaption>
          </figure>
        </div>
      )}
      {first?.kind === 'material' &&
        first.imageA == null &&
        first.imageB == null &&
        first.a !== null &&
        first.b !== null && <MaterialPair sceneId={sceneId} beside={beside} material={first.name} />}
      <table className="w-full text-[12px] leading-[18px]">
        <thead className="sr-only">
          <tr>
            <th>What</th>
            <th>{label(beside)}</th>
            <th>Here</th>
            <th>Take</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.number} className="border-t border-hair align-baseline">
              <td className="max-w-[130px] truncate py-1 pl-3 pr-2">{row.name}</td>
              <td className="mono max-w-[130px] truncate py-1 pr-2 text-[11.5px] text-quiet" title={row.a ?? ''}>
                {row.a ?? 'nothing'}
              </td>
              <td className="mono max-w-[130px] truncate py-1 pr-2 text-[11.5px]" title={row.b ?? ''}>
                {row.b ?? 'nothing'}
              </td>
              <td className="py-1 pr-3 text-right">
                {row.edits > 0 && family.rows.length > 1 && (
                  <button
                    type="button"
                    className="act"
                    aria-label={`Take ${row.name}`}
                    onClick={() => onTakeRow(row.number)}
                  >
                    Take
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex items-center gap-4 px-3 py-2">
        {family.edits > 0 ? (
          <button type="button" className="key" disabled={busy} onClick={onTake}>
            Take {many(family.edits, 'edit')} from {label(beside)} <kbd>F</kbd>
          </button>
        ) : (
          <span className="flex items-center gap-1.5 text-[12px] text-quiet">
            <Glyph name="note" />
            Cannot be taken back: {whyNot}
          </span>
        )}
        <span className="flex-1" />
        {family.rows.length > shownRows && (
          <button type="button" className="act soft" onClick={() => setAll(!all)}>
            {all ? 'Show fewer' : `Show all ${count(family.rows.length)}`}
          </button>
        )}
      </div>
    </section>
  );
}

const pairSize = 104;

/** A material as it looks in the compared scene, and here. */
function MaterialPair({ sceneId, beside, material }: { sceneId: string; beside: ComparedScene; material: string }) {
  const there = useSwatch(
    sceneId,
    `/api/scenes/${sceneId}/transfer/swatch`,
    { material, with: beside.id, version: String(beside.version) },
    pairSize,
  );
  const here = useSwatch(sceneId, `/api/scenes/${sceneId}/swatch`, { material }, pairSize);
  return (
    <div className="field flex gap-4 px-4 py-2.5">
      {[
        { loaded: there, where: label(beside) },
        { loaded: here, where: 'here' },
      ].map(({ loaded, where }) => (
        <figure key={where}>
          <Sphere loaded={loaded} size={pairSize} alt={`${material}, ${where}`} />
          <figcaption className="max-w-[146px] truncate text-[11.5px] text-white">{`${material}, ${where}`}</figcaption>
        </figure>
      ))}
    </div>
  );
}
