import { RadioGroup } from 'radix-ui';
import type { PackageItem, WorkItem } from '../../api/client';
import { bytes, count, many, when } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { WorkLine } from '../../parts/WorkLine';

interface ProofStripProps {
  packages: PackageItem[];
  work: WorkItem | undefined;
  zip: boolean;
  onZip: (zip: boolean) => void;
  onBuild: () => void;
  busy: boolean;
}

/** From left to right: build, what resolved inside, its checksums, the file; older packages below. */
export function ProofStrip({ packages, work, zip, onZip, onBuild, busy }: ProofStripProps) {
  const [last, ...older] = packages;
  return (
    <section aria-label="Proof" className="relative border-t-2 border-ink pt-4">
      {[0, 24, 48, 74].map((left) => (
        <span
          key={left}
          className="absolute -top-[5px] size-2 rounded-full bg-ink"
          style={{ left: `${left}%` }}
          aria-hidden="true"
        />
      ))}
      <div className="grid grid-cols-[24%_24%_26%_26%]">
        <div className="pr-6">
          <h2 className="text-[15px] font-[680]">{last ? `Proof of package ${packages.length}` : 'No package yet'}</h2>
          <p className="mb-2.5 mt-0.5 text-[12.5px] text-quiet">
            {last
              ? `Built ${when(last.builtAt)}, opened alone in an empty place.`
              : 'It is built, then opened alone in an empty place.'}
          </p>
          {work ? (
            <WorkLine item={work} verb="Building and proving" />
          ) : (
            <div className="flex items-center gap-4">
              <button type="button" className={last ? 'key outlined' : 'key'} disabled={busy} onClick={onBuild}>
                Build and prove <kbd>⇧B</kbd>
              </button>
              <RadioGroup.Root
                value={zip ? 'zip' : 'folder'}
                onValueChange={(v) => onZip(v === 'zip')}
                className="flex gap-3"
                aria-label="Kind of package"
              >
                {['zip', 'folder'].map((kind) => (
                  <RadioGroup.Item
                    key={kind}
                    value={kind}
                    className="group flex h-6 items-center gap-1.5 text-[12.5px]"
                  >
                    <span className="size-3 rounded-full border-[1.5px] border-lichen group-data-[state=checked]:bg-lichen" />
                    {kind}
                  </RadioGroup.Item>
                ))}
              </RadioGroup.Root>
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
              at {when(p.builtAt)}
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

function Proof({ last }: { last: PackageItem }) {
  const total = last.resolved + last.unresolved.length;
  const whole = last.unresolved.length === 0;
  return (
    <>
      <div className="pr-6">
        <p className="h-10 text-[40px] font-[700] leading-[40px]" data-proof="resolved">
          {count(last.resolved)}
          <span className="text-[22px] font-normal text-quiet">/{count(total)}</span>
        </p>
        <p className="mt-1 text-[12.5px]">
          {whole ? 'references resolve inside' : 'resolve inside; its report names the others'}
        </p>
        {!whole && (
          <ul className="mt-1 text-[12px] leading-4 text-clay">
            {last.unresolved.slice(0, 3).map((u) => (
              <li key={u} className="truncate" title={u}>
                {u}
              </li>
            ))}
            {last.unresolved.length > 3 && <li className="text-quiet">and {last.unresolved.length - 3} more</li>}
          </ul>
        )}
      </div>
      <div className="pr-6">
        <p className="h-10 text-[40px] font-[700] leading-[40px]">{count(last.files)}</p>
        <p className="mt-1 text-[12.5px]">
          {last.brokenFiles.length === 0 ? (
            'files match their SHA-256 in the BagIt manifest'
          ) : (
            <span className="text-clay">
              files; {many(last.brokenFiles.length, 'file differs', 'files differ')} from the manifest
            </span>
          )}
        </p>
      </div>
      <div>
        <p className="h-10 text-[40px] font-[700] leading-[40px]">{bytes(last.bytesAfter)}</p>
        <p className="mb-2.5 mt-1 truncate text-[12.5px]">
          <Glyph name={whole ? 'present' : 'damaged'} className="mr-1.5 inline align-[-3px]" />
          <code className="text-[12px]">{last.name}</code>
        </p>
        {last.zip ? (
          <a className="key inline-block" href={`/api/packages/${last.id}/download`} download>
            Download
          </a>
        ) : (
          <span className="text-[12px] text-quiet">A folder in the store; build a zip to download it.</span>
        )}
      </div>
    </>
  );
}
