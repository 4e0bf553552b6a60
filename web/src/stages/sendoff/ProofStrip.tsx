import { RadioGroup } from 'radix-ui';
import { useState } from 'react';
import type { PackageItem, WorkItem } from '../../api/client';
import { useRemovePackage } from '../../api/shelf';
import { bytes, count, many, when } from '../../parts/format';
import { FrameTriple } from '../../parts/compare/FrameTriple';
import { Glyph } from '../../parts/Glyph';
import { MidCut } from '../../parts/MidCut';
import { WorkLine } from '../../parts/WorkLine';

interface ProofStripProps {
  packages: PackageItem[];
  work: WorkItem | undefined;
  zip: boolean;
  /** Another format that it is built in; undefined for its own. */
  as: string | undefined;
  onZip: (zip: boolean) => void;
  onBuild: () => void;
  busy: boolean;
}

/** From left to right: built, what resolved inside, the frame from before, the one from the package, where they differ, the verdict. */
export function ProofStrip({ packages, work, zip, as, onZip, onBuild, busy }: ProofStripProps) {
  const [last, ...older] = packages;
  return (
    <section aria-label="Proof" className="relative border-t-2 border-ink pt-4">
      {beads.map((left) => (
        <span
          key={left}
          className="absolute -top-[5px] size-2 rounded-full bg-ink"
          style={{ left }}
          aria-hidden="true"
        />
      ))}
      <div className="grid grid-cols-[204px_150px_minmax(0,1fr)_190px] gap-x-5">
        <div>
          <h2 className="text-[15px] font-[680]">{last ? `Proof of package ${packages.length}` : 'No package yet'}</h2>
          <p className="mb-2.5 mt-0.5 text-[12.5px] leading-[17px] text-quiet">
            {last
              ? `Built ${when(last.builtAt)}, opened alone in an empty place.`
              : 'It is built, opened alone in an empty place, and drawn beside the scene.'}
          </p>
          {work ? (
            <WorkLine item={work} verb="Building and proving" />
          ) : (
            <div className="flex items-start gap-3">
              <div>
                <button type="button" className={last ? 'key outlined' : 'key'} disabled={busy} onClick={onBuild}>
                  Build and prove <kbd>⇧B</kbd>
                </button>
                {as && <p className="pt-1 text-[12px] text-soft">as {as}</p>}
              </div>
              <Kind zip={zip} onZip={onZip} />
            </div>
          )}
        </div>
        {last && <Proof last={last} />}
      </div>
      {older.length > 0 && (
        <p className="absolute bottom-0 left-0 right-0 truncate text-[12px] text-quiet">
          Before it:{' '}
          {older.slice(0, 4).map((p, i) => (
            <span key={p.id}>
              {i > 0 && ', '}
              {p.zip ? (
                <a className="text-soft underline underline-offset-2" href={`/api/packages/${p.id}/download`} download>
                  {p.name}
                </a>
              ) : (
                p.name
              )}{' '}
              at {when(p.builtAt)} <RemovePackage item={p} />
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

/** Its files go from the store; asked by a second press. */
function RemovePackage({ item }: { item: PackageItem }) {
  const [asked, ask] = useState(false);
  const remove = useRemovePackage();
  return (
    <button
      type="button"
      className="act soft"
      {...(!asked && { 'aria-label': `Remove ${item.name}` })}
      onBlur={() => ask(false)}
      onClick={() => (asked ? remove.mutate(item.id) : ask(true))}
    >
      {asked ? `Remove ${bytes(item.bytesAfter)} for good` : 'Remove'}
    </button>
  );
}

/** Where the thread has beads: at the head of each part. */
const beads = ['0px', '224px', '394px', 'calc(100% - 190px)'];

function Kind({ zip, onZip }: { zip: boolean; onZip: (zip: boolean) => void }) {
  return (
    <RadioGroup.Root
      value={zip ? 'zip' : 'folder'}
      onValueChange={(v) => onZip(v === 'zip')}
      className="flex flex-col"
      aria-label="Kind of package"
    >
      {['zip', 'folder'].map((kind) => (
        <RadioGroup.Item key={kind} value={kind} className="group flex h-6 items-center gap-1.5 text-[12.5px]">
          <span className="size-3 rounded-full border-[1.5px] border-lichen group-data-[state=checked]:bg-lichen" />
          {kind}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

function Proof({ last }: { last: PackageItem }) {
  const total = last.resolved + last.unresolved.length;
  const whole = last.unresolved.length === 0;
  return (
    <>
      <div>
        <p className="h-10 text-[40px] font-[700] leading-[40px]" data-proof="resolved">
          {count(last.resolved)}
          <span className="text-[22px] font-normal text-quiet">/{count(total)}</span>
        </p>
        <p className="mt-1 text-[12.5px] leading-[17px]">
          {whole ? 'references resolve inside' : 'resolve inside; its report names the others'}
        </p>
        {!whole && (
          <ul className="mt-1 text-[12px] leading-4 text-clay">
            {last.unresolved.slice(0, 2).map((u) => (
              <li key={u} className="truncate" title={u}>
                {u}
              </li>
            ))}
            {last.unresolved.length > 2 && <li className="text-quiet">and {last.unresolved.length - 2} more</li>}
          </ul>
        )}
        <p className="mt-1 text-[12px] leading-4 text-quiet">
          {last.brokenFiles.length === 0 ? (
            many(last.files, 'file matches its SHA-256', 'files match their SHA-256')
          ) : (
            <span className="text-clay">
              {many(last.brokenFiles.length, 'file differs', 'files differ')} from the manifest
            </span>
          )}
        </p>
      </div>
      {last.frames ? (
        <FrameTriple
          of={[
            [`/api/packages/${last.id}/pictures/before`, 'before packing'],
            [`/api/packages/${last.id}/pictures/after`, 'from the package'],
            [`/api/packages/${last.id}/pictures/difference`, `ΔE, kiln scale to ${last.frames.top}`],
          ]}
          className="max-h-[118px]"
        />
      ) : (
        <p className="pt-1 text-[12.5px] text-quiet">{last.noFrames ?? 'No frame was drawn when it was built.'}</p>
      )}
      <div>
        {last.frames && (
          <>
            <p className="h-10 text-[40px] font-[700] leading-[40px]" data-proof="apart">
              {last.frames.mean.toFixed(2)}
            </p>
            <p className="mb-1.5 mt-1 text-[12.5px] leading-[17px]">
              mean ΔE. {last.frames.isSeen ? `Largest ${last.frames.most.toFixed(1)}.` : 'Nobody sees a difference.'}
            </p>
          </>
        )}
        <p className="mb-2 truncate text-[12.5px]" title={last.name}>
          <Glyph name={whole ? 'present' : 'damaged'} className="mr-1.5 inline align-[-3px]" />
          {bytes(last.bytesAfter)}, <code className="text-[12px]">{last.name}</code>
        </p>
        {last.zip ? (
          <a className="key inline-block" href={`/api/packages/${last.id}/download`} download>
            Download
          </a>
        ) : (
          <span className="flex items-baseline gap-2 text-[12px]" data-written={last.path}>
            <MidCut text={last.path ?? ''} className="mono min-w-0 flex-1 text-[11.5px] text-soft" />
            <button
              type="button"
              className="act flex-none"
              onClick={() => void navigator.clipboard.writeText(last.path ?? '')}
            >
              Copy the path
            </button>
          </span>
        )}
        <p className="pt-1.5">
          <RemovePackage item={last} />
        </p>
      </div>
    </>
  );
}
