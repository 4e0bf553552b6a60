import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { IntoForm, SendOffView } from '../../api/client';
import { useBuild, useSendOff, useWork, useWriteChoices } from '../../api/queries';
import { Frame } from '../../frame/Frame';
import { useKey } from '../../frame/keys';
import { bytes, count, many } from '../../parts/format';
import { State } from '../../parts/Glyph';
import { isOpen } from '../../parts/WorkLine';
import { MidCut } from '../../parts/MidCut';
import { Reports } from '../../parts/Reports';
import { WriteScene } from '../../parts/write/WriteScene';
import { useFocus } from '../../state/focus';
import { AskMissing } from './AskMissing';
import { Gauge } from './Gauge';
import { ProofStrip } from './ProofStrip';
import { Treemap } from './Treemap';

const keys: [string, string][] = [['Shift B', 'build and prove']];

/** Stage 6: is it whole, and does it stand alone? */
export function SendOff() {
  const { sceneId = '' } = useParams();
  const query = useSendOff(sceneId);
  const build = useBuild(sceneId);
  const choices = useWriteChoices(sceneId).data;
  const [zip, setZip] = useState(true);
  const [into, setInto] = useState<IntoForm | null>(null);
  const [asking, setAsking] = useState(false);
  const view = query.data;
  const work = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'pack' && isOpen(w));
  const start = () => {
    if (!view || work || build.isPending) return;
    if (view.unresolved.length + view.standIns.length > 0) setAsking(true);
    else build.mutate({ zip, allowMissing: false, allowStandIns: false, into });
  };
  useKey('shift+b', start);

  return (
    <Frame
      here="Send-off"
      sceneId={sceneId}
      call={
        query.isError ? <em>{query.error.message}</em> : <SendOffCall view={view} sceneId={sceneId} onBuild={start} />
      }
      among={many(view?.files.length ?? 0, 'file')}
      keys={keys}
    >
      {view && (
        <div className="grid h-full grid-rows-[46px_minmax(0,1fr)_190px] gap-y-4 px-7 pb-2 pt-3">
          <Gauge before={view.bytesBefore} after={view.bytesAfter} files={view.files} />
          <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_448px] gap-x-7">
            <Treemap files={view.files} />
            <div className="flex min-h-0 flex-col gap-2">
              <Settled view={view} sceneId={sceneId} />
              <section aria-label="The scene alone, and reports" className="flex-none border-t-2 border-ink pt-1.5">
                {choices && (
                  <>
                    <h2 className="text-[15px] font-[680]">Write the scene alone, without images</h2>
                    <WriteScene sceneId={sceneId} choices={choices} into={into} onInto={setInto} />
                  </>
                )}
                <Reports sceneId={sceneId} />
              </section>
            </div>
          </div>
          <ProofStrip
            packages={view.packages}
            work={work}
            zip={zip}
            as={choices?.forms.find((f) => f.form === into?.form)?.name}
            onZip={setZip}
            onBuild={start}
            busy={build.isPending}
          />
        </div>
      )}
      {view && (
        <AskMissing
          sceneId={sceneId}
          open={asking}
          onOpenChange={setAsking}
          unresolved={view.unresolved}
          standIns={view.standIns}
          onBuild={() => build.mutate({ zip, allowMissing: true, allowStandIns: true, into })}
        />
      )}
    </Frame>
  );
}

function SendOffCall({
  view,
  sceneId,
  onBuild,
}: {
  view: SendOffView | undefined;
  sceneId: string;
  onBuild: () => void;
}) {
  if (!view)
    return (
      <>
        The package weighs <b className="mono">–</b>.
      </>
    );
  const left = view.unresolved.length;
  return (
    <>
      The package weighs <b>{bytes(view.bytesAfter)}</b>
      {left === 0 ? (
        <>
          ; all <b>{count(view.references)}</b> references are answered in it.
          {view.packages.length === 0 && (
            <>
              {' '}
              <button type="button" onClick={onBuild}>
                Build and prove
              </button>{' '}
              it.
            </>
          )}
        </>
      ) : (
        <>
          . <Link to={`/muster/${sceneId}`}>{many(left, 'reference')}</Link> {left === 1 ? 'is' : 'are'}{' '}
          <em>not answered</em>.
        </>
      )}
    </>
  );
}

/** A reference with its state, its name and who uses it. */
function Call({ item, state }: { item: SendOffView['unresolved'][number]; state: string }) {
  return (
    <div className="grid grid-cols-[132px_minmax(0,1fr)_110px] gap-x-2 border-t border-hair py-[3px] text-[12.5px]">
      <State name={state} />
      <MidCut text={item.name || item.written} title={item.written} className="mono text-[11.5px] leading-[18px]" />
      <span className="truncate text-right text-[12px] text-quiet">{item.usedBy.join(', ')}</span>
    </div>
  );
}

/** What would be missing, how clashes were settled, and the files that go in. */
function Settled({ view, sceneId }: { view: SendOffView; sceneId: string }) {
  const find = useFocus((s) => s.find).toLowerCase();
  const files = view.files.filter((f) => `${f.name} ${f.role}`.toLowerCase().includes(find));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pr-1">
      {view.pendingEntries > 0 && (
        <p className="mb-3 border border-dashed border-lichen px-2 py-1 text-[12.5px] leading-[18px] text-lichen">
          {many(view.pendingEntries, 'entry is', 'entries are')} pending and not part of the package. Apply{' '}
          {view.pendingEntries === 1 ? 'it' : 'them'} first with ⇧P.
        </p>
      )}
      {view.unresolved.length > 0 && (
        <>
          <Heading text="Not answered" n={view.unresolved.length} />
          {view.unresolved.map((u) => (
            <Call key={u.number} item={u} state={u.state} />
          ))}
          <Link to={`/muster/${sceneId}`} className="act mb-4 mt-1 inline-block">
            Answer them in Muster
          </Link>
        </>
      )}
      {view.standIns.length > 0 && (
        <>
          <Heading text="Placeholders" n={view.standIns.length} />
          {view.standIns.map((u) => (
            <Call key={u.number} item={u} state="stand-in" />
          ))}
          <div className="h-4" />
        </>
      )}
      {view.clashes.length > 0 && (
        <>
          <Heading text="Name clashes, settled" n={view.clashes.length} />
          {view.clashes.map((c) => (
            <div key={c.names.join()} className="grid grid-cols-2 gap-x-2 border-t border-hair py-[3px] text-[12px]">
              <code className="truncate text-[11.5px]">{c.name}</code>
              <span className="truncate text-soft">
                {c.sameContents ? 'same contents twice: one file' : `different: ${c.names.join(', ')}`}
              </span>
            </div>
          ))}
          <div className="h-4" />
        </>
      )}
      <Heading text="Files in the package" n={files.length} />
      {files.slice(0, 400).map((f) => (
        <div
          key={f.name}
          className="grid grid-cols-[minmax(0,1fr)_112px_62px] gap-x-2 border-t border-hair py-[3px] text-[12px]"
        >
          <code className="truncate text-[11.5px]" title={f.name}>
            {f.name}
          </code>
          <span className="truncate text-soft">{f.role}</span>
          <span className="mono text-right text-[11.5px] text-soft">{bytes(f.bytes)}</span>
        </div>
      ))}
      {files.length > 400 && (
        <p className="text-[12px] text-quiet">and {count(files.length - 400)} more; find narrows the list</p>
      )}
    </div>
  );
}

const Heading = ({ text, n }: { text: string; n: number }) => (
  <h2 className="flex justify-between pb-1 text-[15px] font-[680]">
    {text} <span className="text-[12px] font-normal text-quiet">{count(n)}</span>
  </h2>
);
