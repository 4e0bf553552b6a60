import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useShown } from '../api/live';
import { useAudit, useLedger, useLedgerActs, useMuster, useScene, useSendOff } from '../api/queries';
import { FirstUse } from '../parts/FirstUse';
import { useFocus } from '../state/focus';
import { FindField } from './FindField';
import { FocusPicker } from './FocusPicker';
import { FocusLine } from './FocusLine';
import { commonKeys, useKey } from './keys';
import { KeysSheet } from './KeysSheet';
import { LedgerBar } from './LedgerBar';
import { RouteLine } from './RouteLine';
import { stages, type StageName } from './stages';

interface FrameProps {
  here: StageName;
  sceneId: string | undefined;
  /** The sentence that states the job in numbers. */
  call: ReactNode;
  /** What the find field searches, as "158 references". */
  among: string;
  /** More on the focus line. */
  focus?: ReactNode;
  keys: [string, string][];
  /** What is open in this stage, where only the stage knows. */
  open?: number | undefined;
  children: ReactNode;
}

/** The bands of every screen: route, focus, the call, content, ledger. The frame never scrolls. */
export function Frame({ here, sceneId, call, among, focus, keys, open, children }: FrameProps) {
  const scene = useScene(sceneId);
  const muster = useMuster(sceneId);
  const sendOff = useSendOff(sceneId);
  const audit = useAudit(sceneId);
  const ledger = useLedger(sceneId);
  const enter = useFocus((s) => s.enter);
  const [showKeys, setShowKeys] = useState(false);
  const navigate = useNavigate();
  useShown(sceneId, here === 'Arrivals');
  // While the list of scenes is on its way nobody has gone elsewhere.
  useEffect(() => {
    if (sceneId) enter(sceneId);
  }, [enter, sceneId]);
  useEffect(() => {
    document.title = scene.data ? `${scene.data.title} · ${here} · Root Call` : `${here} · Root Call`;
  }, [scene.data, here]);

  const walk = (by: 1 | -1) => {
    const next = stages[stages.findIndex((s) => s.name === here) + by];
    if (next && sceneId) void navigate(`/${next.path}/${sceneId}`);
  };
  useKey(']', () => walk(1));
  useKey('[', () => walk(-1));
  useKey('shift+?', () => setShowKeys(true));

  return (
    <div className="relative flex h-full min-w-[1024px] flex-col">
      <RouteLine
        here={here}
        scene={scene.data}
        muster={muster.data}
        sendOff={sendOff.data}
        audit={audit.data}
        openHere={open}
      />
      <FocusLine>
        {sceneId && here !== 'Arrivals' && <FocusPicker sceneId={sceneId} />}
        {focus}
      </FocusLine>
      <FindField among={among} />
      <h1 className="call mx-7 mt-[120px] flex-none">{call}</h1>
      {here === 'Muster' && (
        <FirstUse of="muster">
          A <b>call</b> is a path that the scene asks for, an <b>answer</b> the file that is there. The <b>muster</b>{' '}
          holds every call against the files in the roots.
        </FirstUse>
      )}
      <main className="min-h-0 flex-1">{children}</main>
      {sceneId && ledger.data ? (
        <SceneLedger sceneId={sceneId} ledger={ledger.data} />
      ) : (
        <footer className="h-[38px] flex-none bg-well" />
      )}
      <KeysSheet open={showKeys} onOpenChange={setShowKeys} keys={[...keys, ...commonKeys]} />
    </div>
  );
}

function SceneLedger({
  sceneId,
  ledger,
}: {
  sceneId: string;
  ledger: NonNullable<ReturnType<typeof useLedger>['data']>;
}) {
  return <LedgerBar sceneId={sceneId} ledger={ledger} acts={useLedgerActs(sceneId)} />;
}
