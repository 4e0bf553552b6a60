import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { TransferView } from '../../api/client';
import { useOpenScenes, useRestore, useScene, useScenes, useTransfer, useWork, type Beside } from '../../api/queries';
import { useUpload } from '../../api/useUpload';
import { Frame } from '../../frame/Frame';
import { useEnter, useKey } from '../../frame/keys';
import { FolderSheet } from '../../parts/folders/FolderSheet';
import { capital, count, inWords, many } from '../../parts/format';
import { useInAddress } from '../../state/address';
import { toggled } from '../../state/toggled';
import { ArrivalsList } from './ArrivalsList';
import { CompareSheet } from './CompareSheet';
import { DropPlace } from './DropPlace';
import { ManySheet } from './ManySheet';
import { WhatCame } from './WhatCame';

const keys: [string, string][] = [
  ['O', 'open from a server folder'],
  ['J K, arrows', 'move among scenes'],
  ['Enter', 'go to Muster'],
  ['Space', 'take together with other scenes'],
  ['M', 'decide the same for those taken together'],
  ['V', 'compare with another scene'],
  ['F', 'take the lost values from the compared scene'],
  ['D', 'draw a test frame'],
  ['⇧X', 'extract what is carried inside'],
];

/** Stage 1: bring a scene in, see what came. */
export function Arrivals() {
  const { sceneId } = useParams();
  const scenes = useScenes();
  const picked = sceneId ?? scenes.data?.[0]?.id;
  const scene = useScene(picked);
  const work = useWork();
  const open = useOpenScenes();
  const upload = useUpload(scene.data);
  const navigate = useNavigate();
  const [opening, setOpening] = useState(false);
  const [together, setTogether] = useState<ReadonlySet<string>>(new Set());
  const [deciding, setDeciding] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [besides, setBesides] = useBesides();
  const transfer = useTransfer(picked, picked ? besides[picked] : undefined);
  const restore = useRestore(picked ?? '');
  useKey('o', () => setOpening(true));
  useKey('m', () => setDeciding(true), together.size > 0);
  useKey('v', () => setComparing(true), picked !== undefined);
  // Also when the row that had the keyboard was redrawn, and nothing has it.
  useEnter(() => picked && void navigate(`/muster/${picked}`), !opening && !deciding && !comparing);

  const needing = scenes.data?.filter((s) => s.unanswered > 0).length ?? 0;
  const call = scenes.isError ? (
    <em>{scenes.error.message}</em>
  ) : !scenes.data ? (
    <b className="mono">–</b>
  ) : scenes.data.length === 0 ? (
    <>
      No scene yet.{' '}
      <button type="button" onClick={() => setOpening(true)}>
        Bring one in
      </button>
      .
    </>
  ) : (
    <>
      {scene.data && (
        <>
          <b>{count(scene.data.nodes)}</b> {scene.data.nodes === 1 ? 'node' : 'nodes'} came with{' '}
          <b>{count(scene.data.materials)}</b> {scene.data.materials === 1 ? 'material' : 'materials'}.{' '}
        </>
      )}
      {transfer.data?.with && transfer.data.lost > 0 ? (
        <Lost transfer={transfer.data} onTake={(body) => restore.mutate(body)} />
      ) : needing > 0 ? (
        <>
          <button type="button" onClick={() => void navigate(`/muster/${picked}`)}>
            {needing} of {many(scenes.data.length, 'scene')}
          </button>{' '}
          {needing === 1 ? 'has' : 'have'} calls that nobody answers.
        </>
      ) : (
        <>Every reference answers.</>
      )}
    </>
  );

  return (
    <Frame here="Arrivals" sceneId={picked} call={call} among={many(scenes.data?.length ?? 0, 'scene')} keys={keys}>
      <div className="grid h-full grid-cols-[clamp(380px,40%,512px)_minmax(0,1fr)] px-7 pt-2">
        <div className="flex min-h-0 flex-col border-r-2 border-ink pr-6">
          <DropPlace picked={scene.data?.title} onOpen={() => setOpening(true)} onFiles={upload.send} />
          <ArrivalsList
            scenes={scenes.data}
            work={work.data ?? []}
            sending={upload.sending}
            picked={picked}
            together={together}
            onTogether={(id) => setTogether((now) => toggled(now, id))}
            onDecideTogether={() => setDeciding(true)}
            onPick={(id) => void navigate(`/arrivals/${id}`)}
            onEnter={(id) => void navigate(`/muster/${id}`)}
          />
        </div>
        <div className="min-h-0 overflow-y-auto pl-6">
          {scene.data && (
            <WhatCame
              key={scene.data.id}
              scene={scene.data}
              transfer={transfer.data}
              onCompare={() => setComparing(true)}
            />
          )}
        </div>
      </div>
      {deciding && <ManySheet scenes={[...together]} onClose={() => setDeciding(false)} />}
      {scene.data && (
        <CompareSheet
          scene={scene.data}
          open={comparing}
          onOpenChange={setComparing}
          onTake={(beside) => setBesides(scene.data.id, beside)}
        />
      )}
      <FolderSheet
        open={opening}
        onOpenChange={setOpening}
        title="Open from a server folder"
        takes="scene"
        verb="Open the scene"
        onTake={(paths) => open.mutate(paths)}
      />
    </Frame>
  );
}

/** What each scene is held beside, in this window; kept over a refresh. */
function useBesides(): [Record<string, Beside>, (id: string, beside: Beside) => void] {
  const [kept, keep] = useInAddress('beside');
  const besides: Record<string, Beside> = {};
  for (const word of kept?.split(' ') ?? []) {
    const [id, other, version] = word.split('_');
    if (id && other) besides[id] = { with: other, version: Number(version) };
  }
  const set = (id: string, beside: Beside) =>
    keep(
      Object.entries({ ...besides, [id]: beside })
        .map(([of, b]) => `${of}_${b.with}_${b.version}`)
        .join(' '),
    );
  return [besides, set];
}

/** How much was lost, and who still has it: one act takes back all that can be. */
function Lost({ transfer, onTake }: { transfer: TransferView; onTake: (body: Beside & { rows: number[] }) => void }) {
  const beside = transfer.with;
  const rows = transfer.families.flatMap((f) => f.rows.filter((r) => r.edits > 0).map((r) => r.number));
  if (!beside) return null;
  return (
    <>
      <b className="!text-clay">
        {capital(inWords(transfer.lost))} {transfer.lost === 1 ? 'thing' : 'things'}
      </b>{' '}
      did not survive
      {rows.length > 0 && (
        <>
          ;{' '}
          <button type="button" onClick={() => onTake({ with: beside.id, version: beside.version, rows })}>
            take back {inWords(rows.length)}
          </button>
        </>
      )}
      .
    </>
  );
}
