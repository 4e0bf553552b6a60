import { useState } from 'react';
import type { CandidateItem, EvidenceView, ReferenceItem } from '../../api/client';
import { useDecide, useEvidence, useMusterActs } from '../../api/queries';
import { useKey } from '../../frame/keys';
import { FolderSheet } from '../../parts/folders/FolderSheet';
import { bytes, capital, count, inWords, pixels, tail, when } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { Hint } from '../../parts/Hint';
import { Picture } from '../../parts/Picture';
import { useGrown } from '../../parts/useGrown';
import { flagWords } from '../../parts/words';
import { Swatch } from '../../parts/Swatch';

interface EvidenceProps {
  sceneId: string;
  reference: ReferenceItem;
  /** References that a candidate's folder may answer together with this one. */
  alike: number[];
  onSearchWider: () => void;
  onOpenLarge: (candidate?: number) => void;
}

/** What speaks for each file that could answer the reference in hand. */
export function Evidence({ sceneId, reference, alike, onSearchWider, onOpenLarge }: EvidenceProps) {
  const evidence = useEvidence(sceneId, reference.number).data;
  const decide = useDecide(sceneId);
  const acts = useMusterActs(sceneId);
  const changed = reference.flags.includes('changed');
  const standIn = reference.flags.includes('stand-in');
  const side = useGrown(92);
  const [choosing, setChoosing] = useState(false);
  const pending = reference.entry !== null;
  const byHand = (path: string) => decide.mutate({ number: reference.number, path });
  const clear = reference.state === 'elsewhere' && !pending ? evidence?.candidates[0] : undefined;
  const take = ({ folder }: CandidateItem) => decide.mutate({ numbers: [reference.number], folder });
  useKey('t', () => clear && take(clear), clear !== undefined && !decide.isPending);

  return (
    <section aria-label="Evidence" className="flex h-full flex-col overflow-y-auto pr-1">
      <div className="mb-2 flex gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[14px] font-[680] leading-[19px]">
            {evidence ? title(reference, evidence) : <span className="mono">–</span>}
          </h2>
          <p className="mt-0.5 text-[12px] leading-4 text-quiet">{evidence && second(reference, evidence)}</p>
        </div>
        <Wearers sceneId={sceneId} reference={reference} />
      </div>
      {pending && (
        <p className="mb-2 border border-dashed border-lichen px-2 text-[12.5px] leading-6 text-lichen">
          Decided; pending as entry {reference.entry}.
        </p>
      )}
      {evidence && changed && (
        <Changed
          sceneId={sceneId}
          reference={reference}
          evidence={evidence}
          busy={acts.seen.isPending}
          onSeen={() => acts.seen.mutate([reference.number])}
        />
      )}
      {evidence && evidence.blocked.length > 0 && (
        <p className="mb-2 text-[12.5px] leading-[18px] text-soft">
          <span className="text-quiet">{standIn ? 'Stands in on ' : 'Blocks '}</span>
          {evidence.blocked.slice(0, 4).join(', ')}
          {evidence.blocked.length > 4 && ` and ${count(evidence.blocked.length - 4)} more meshes`}.
        </p>
      )}
      <div className="min-[1900px]:grid min-[1900px]:grid-cols-2 min-[1900px]:gap-x-6">
        {evidence?.candidates.map((candidate) => (
          <Candidate
            key={candidate.path}
            sceneId={sceneId}
            number={reference.number}
            candidate={candidate}
            wearer={evidence.candidates.length > 1 ? reference.usedBy.find((u) => u.material)?.material : undefined}
            disabled={pending || decide.isPending}
            onUse={(all) => decide.mutate({ numbers: all ? alike : [reference.number], folder: candidate.folder })}
            onOpenLarge={() => onOpenLarge(candidate.index)}
          />
        ))}
      </div>
      {evidence && evidence.candidates.length === 0 && (
        <div className="flex gap-3 border-t border-hair py-2">
          <button
            type="button"
            aria-label={`${reference.number}, ${reference.name}: open large`}
            onClick={() => onOpenLarge()}
          >
            <Picture sceneId={sceneId} number={reference.number} alt="" size={side} missing={noPicture(reference)} />
          </button>
          <dl className="grid grid-cols-[auto_1fr] content-start gap-x-3 text-[12px] leading-[18px] text-soft">
            {facts(reference, evidence).map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd className="line-clamp-3 min-w-0 break-all" title={value}>
                  {value}
                </dd>
              </div>
            ))}
          </dl>
        </div>
      )}
      {reference.flags.length > 0 && (
        <p className="border-t border-hair py-1.5 text-[12px] leading-4 text-quiet">
          Told of its path: {flagWords(reference.flags)}
        </p>
      )}
      {reference.state !== 'embedded' && (
        <div className="flex flex-wrap gap-x-5 border-t border-hair pt-2">
          <button type="button" className="act" disabled={pending} onClick={() => setChoosing(true)}>
            Choose a file by hand
          </button>
          {reference.kind === 'image' && reference.state !== 'present' && (
            <button
              type="button"
              className="act"
              disabled={pending || acts.standIn.isPending}
              onClick={() => acts.standIn.mutate([reference.number])}
            >
              Use a placeholder
            </button>
          )}
          {reference.state !== 'present' && (
            <button type="button" className="act soft" onClick={onSearchWider}>
              Search wider
            </button>
          )}
        </div>
      )}
      <FolderSheet
        open={choosing}
        onOpenChange={setChoosing}
        title={`A file for ${reference.name}`}
        takes="file"
        verb="Use this file"
        onTake={([path]) => path && byHand(path)}
      />
    </section>
  );
}

const mostWearers = 2;

/** The materials that read it, as they look now. */
function Wearers({ sceneId, reference }: { sceneId: string; reference: ReferenceItem }) {
  const names = [...new Set(reference.usedBy.map((u) => u.material))].filter(Boolean);
  if (reference.kind !== 'image' || names.length === 0) return null;
  return (
    <div className="field flex h-fit flex-none" aria-label="Materials that read it" role="group">
      {names.slice(0, mostWearers).map((name) => (
        <Hint key={name} text={name}>
          <span tabIndex={0}>
            <Swatch sceneId={sceneId} material={name} size={44} alt={name} />
          </span>
        </Hint>
      ))}
      {names.length > mostWearers && (
        <span className="self-center px-1 text-[12px] text-white">+{names.length - mostWearers}</span>
      )}
    </div>
  );
}

const noPicture = (r: ReferenceItem) => r.kind !== 'image' || r.state === 'missing' || r.state === 'outside';

function title(reference: ReferenceItem, evidence: EvidenceView): string {
  const n = evidence.candidates.length;
  switch (reference.state) {
    case 'contested':
      return n === 1
        ? evidence.candidates[0]?.damage
          ? 'One file could answer, but it is damaged'
          : 'One file could answer, but that is not sure'
        : `${capital(inWords(n))} files could answer this call`;
    case 'elsewhere':
      return 'One file answers this call';
    case 'missing':
      return `Nothing in the roots answers: it was ${article(reference.role)} ${reference.role} map`;
    case 'outside':
      return 'It points outside every root';
    case 'damaged':
      return 'The file is there, but damaged';
    case 'embedded':
      return 'Carried inside the scene';
    default:
      return reference.flags.includes('stand-in')
        ? 'A neutral placeholder stands in for it'
        : reference.flags.includes('changed')
          ? 'It changed since it was last looked at'
          : 'It answers where it is called';
  }
}

function second(reference: ReferenceItem, evidence: EvidenceView): string {
  if (reference.state === 'contested' && (evidence.candidates[0]?.score ?? 0) < evidence.settlesAt)
    return `${evidence.candidates[0]?.score.toFixed(2)} at best. Root Call settles alone from ${evidence.settlesAt.toFixed(2)} on.`;
  if (reference.state === 'contested' && evidence.margin !== null)
    return `${evidence.margin.toFixed(2)} apart. Root Call settles alone from ${evidence.settlesFrom.toFixed(2)} on.`;
  if (reference.state === 'damaged') return evidence.damage ? `It ${evidence.damage}.` : '';
  if (reference.state === 'missing' && reference.flags.includes('remote')) return 'A network address is never fetched.';
  if (reference.state === 'outside') return 'Root Call reads nothing outside its roots; it was not looked at.';
  if (reference.state === 'missing')
    return reference.usedBy.length === 0 ? 'No material calls for it.' : `Called for by ${users(reference)}.`;
  return users(reference);
}

const users = (r: ReferenceItem) => r.usedBy.map((u) => [u.material, u.input].filter(Boolean).join(', ')).join('; ');

function facts(reference: ReferenceItem, evidence: EvidenceView): [string, string][] {
  const rows: [string, string | null][] = [
    ['Written', evidence.written],
    ['Answers', evidence.resolved],
    ['Format', evidence.format],
    [
      'Pixels',
      evidence.width === null
        ? null
        : `${pixels(evidence.width, evidence.height)}, ${evidence.channels} × ${evidence.bitDepth} bit`,
    ],
    ['Colour tag', evidence.format === null ? null : (evidence.colour ?? 'none')],
    ['Size', reference.bytes === null ? null : bytes(reference.bytes)],
    ['Used by', users(reference) || null],
    ['Last seen', evidence.seen === null || reference.state === 'present' ? null : seenWords(evidence.seen)],
    ['Will be written', evidence.writtenAs],
    ['In a package', evidence.place],
  ];
  return rows.filter((r): r is [string, string] => r[1] !== null);
}

const article = (word: string) => (/^[aeiou]/.test(word) ? 'an' : 'a');

const seenWords = (seen: NonNullable<EvidenceView['seen']>) =>
  [seen.width === null ? null : pixels(seen.width, seen.height), bytes(seen.bytes), when(seen.modifiedAt)]
    .filter(Boolean)
    .join(', ');

interface ChangedProps {
  sceneId: string;
  reference: ReferenceItem;
  evidence: EvidenceView;
  busy: boolean;
  onSeen: () => void;
}

/** The file as it was last looked at, and as it is now. */
function Changed({ sceneId, reference, evidence, busy, onSeen }: ChangedProps) {
  const side = useGrown(92);
  return (
    <div className="mb-2 border-t border-hair pt-2">
      <div className="grid grid-cols-2 gap-x-3">
        {[true, false].map((before) => (
          <figure key={String(before)}>
            <Picture
              sceneId={sceneId}
              number={reference.number}
              {...(before ? { before } : {})}
              alt={before ? `${reference.name} before` : `${reference.name} now`}
              size={side}
            />
            <figcaption className="pt-1 text-[12px] leading-4 text-soft">
              <span className="text-quiet">{before ? 'Last looked at' : 'Now'}</span>
              <br />
              {before
                ? evidence.seen && seenWords(evidence.seen)
                : `${pixels(evidence.width, evidence.height)}, ${bytes(reference.bytes)}`}
            </figcaption>
          </figure>
        ))}
      </div>
      <button type="button" className="key mt-2" disabled={busy} onClick={onSeen}>
        Accept the change <kbd>A</kbd>
      </button>
    </div>
  );
}

interface CandidateProps {
  sceneId: string;
  number: number;
  candidate: CandidateItem;
  /** A material to be shown with this file. */
  wearer: string | undefined;
  disabled: boolean;
  onUse: (all: boolean) => void;
  onOpenLarge: () => void;
}

function Candidate({ sceneId, number, candidate, wearer, disabled, onUse, onOpenLarge }: CandidateProps) {
  const side = useGrown(60);
  return (
    <div
      className="grid gap-3 border-t border-hair py-2"
      style={{ gridTemplateColumns: `${side}px minmax(0, 1fr) 84px` }}
    >
      <div>
        <button type="button" aria-label={`Open ${candidate.name} large`} onClick={onOpenLarge}>
          <Picture sceneId={sceneId} number={number} candidate={candidate.index} alt={candidate.name} size={side} />
        </button>
        {wearer !== undefined && (
          <Swatch
            sceneId={sceneId}
            material={wearer}
            with={{ number, candidate: candidate.index }}
            size={side}
            alt={`${wearer} with it`}
          />
        )}
      </div>
      <div className="min-w-0">
        <code className="block truncate text-[12px] leading-4" title={candidate.path}>
          {tail(candidate.folderName)}
        </code>
        <p className="mt-px text-[12px] leading-4 text-soft">{candidate.reasons.join('. ')}.</p>
        <p className="text-[11.5px] leading-4 text-quiet">
          {candidate.width !== null && `${pixels(candidate.width, candidate.height)}, `}
          {bytes(candidate.bytes)}, {when(candidate.modifiedAt)}
        </p>
        {candidate.damage && (
          <p className="flex items-center gap-1 text-[12px] text-clay">
            <Glyph name="damaged" /> {candidate.damage}
          </p>
        )}
      </div>
      <div className="grid content-start justify-items-end gap-1">
        <span className="mono text-[15px] leading-4">{candidate.score.toFixed(2)}</span>
        <span className="h-[3px] w-[84px] bg-hair">
          <span className="block h-[3px] bg-ink" style={{ width: `${candidate.score * 100}%` }} />
        </span>
        {candidate.sharedBy > 1 ? (
          <>
            <button type="button" className="act mt-1" disabled={disabled} onClick={() => onUse(true)}>
              Use for all {count(candidate.sharedBy)}
            </button>
            <button type="button" className="act soft" disabled={disabled} onClick={() => onUse(false)}>
              Use for this
            </button>
          </>
        ) : (
          <button type="button" className="act mt-1" disabled={disabled} onClick={() => onUse(false)}>
            Use this
          </button>
        )}
      </div>
    </div>
  );
}
