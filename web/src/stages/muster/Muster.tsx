import clsx from 'clsx';
import { useCallback, useDeferredValue, useEffect, useMemo, useState, type CSSProperties } from 'react';
import { Link, useParams } from 'react-router';
import type { BundleItem, MusterView, ReferenceItem } from '../../api/client';
import { useAddRoot, useDecide, useMuster, useMusterActs, useScene, useWork } from '../../api/queries';
import { useUpload, type Sending as OnItsWay } from '../../api/useUpload';
import { Frame } from '../../frame/Frame';
import { useKey } from '../../frame/keys';
import { FolderSheet } from '../../parts/folders/FolderSheet';
import { many } from '../../parts/format';
import { useDrop } from '../../parts/useDrop';
import { isOpen, WorkLine } from '../../parts/WorkLine';
import { stateWords } from '../../parts/words';
import { useShallow } from 'zustand/react/shallow';
import { useInAddress } from '../../state/address';
import { useFocus } from '../../state/focus';
import { DecideMenu, type Sheet } from './acts/DecideMenu';
import { FindReplace } from './acts/FindReplace';
import { HouseOrder } from './acts/HouseOrder';
import { feeds, inFocus, within } from './acts/inFocus';
import { MapVariants } from './acts/MapVariants';
import { Evidence } from './Evidence';
import { found, warm } from './find';
import { LargePicture } from './LargePicture';
import { leastHeight } from './map/layout';
import { MusterCall } from './MusterCall';
import { ColumnsMenu, ReferenceList } from './ReferenceList';
import { RelocationMap } from './map/RelocationMap';
import { RootsSheet } from './roots/RootsSheet';
import { StateFilter } from './StateFilter';

const keys: [string, string][] = [
  ['J K, arrows', 'move in the list'],
  ['Space', 'add to the focus'],
  ['Shift Space', 'add a range'],
  ['Enter', 'open large'],
  ['F', 'relink what is in focus'],
  ['Shift F', 'relink all bundles'],
  ['T', 'relink this one'],
  ['E', 'find and replace in paths'],
  ['Q', 'switch variants'],
  ['I', 'tidy files'],
  ['A', 'accept the change of files'],
];

/** Stage 2: which calls are answered, and which few decisions answer the rest? */
export function Muster() {
  const { sceneId = '' } = useParams();
  const muster = useMuster(sceneId);
  const [adding, setAdding] = useState(false);
  const addRoot = useAddRoot(sceneId);
  const view = muster.data;
  const relinks = view?.bundles.filter((b) => b.state === 'elsewhere' && b.entry === null) ?? [];
  const decide = useDecide(sceneId);
  const numbers = useNumbers(view);
  const focus = useMemo(() => numbers && new Set(numbers), [numbers]);
  const approve = (bundle: BundleItem, only: number[] | null) =>
    decide.mutateAsync({
      from: bundle.from,
      to: bundle.to[0]?.path ?? '',
      numbers: only?.length === bundle.numbers.length ? null : only,
    });
  const approveAll = async (only: ReadonlySet<number> | null) => {
    for (const bundle of relinks)
      if (within(bundle, only).length > 0) await approve(bundle, only && within(bundle, only));
  };
  useKey('f', () => void approveAll(focus), relinks.length > 0 && !decide.isPending);
  useKey('shift+f', () => void approveAll(null), relinks.length > 0 && !decide.isPending);

  return (
    <Frame
      here="Muster"
      sceneId={sceneId}
      call={
        muster.isError ? (
          <em>{muster.error.message}</em>
        ) : (
          <MusterCall view={view} focus={focus} onRelinkAll={() => void approveAll(focus)} />
        )
      }
      among={many(view?.references.length ?? 0, 'reference')}
      keys={keys}
    >
      {view && (
        <MusterContent
          sceneId={sceneId}
          view={view}
          numbers={numbers}
          focus={focus}
          busy={decide.isPending}
          onApprove={(b, only) => void approve(b, only)}
          onSearchWider={() => setAdding(true)}
        />
      )}
      {muster.isError && (
        <p className="px-7 pt-4">
          <Link className="act" to="/arrivals">
            Go to Arrivals
          </Link>
        </p>
      )}
      <FolderSheet
        open={adding}
        onOpenChange={setAdding}
        title="Look in another folder"
        takes="folder"
        verb="Add as a root"
        onTake={([path]) => path && addRoot.mutate(path)}
      />
    </Frame>
  );
}

interface ContentProps {
  sceneId: string;
  view: MusterView;
  /** References in focus; null for all. */
  numbers: number[] | null;
  focus: ReadonlySet<number> | null;
  busy: boolean;
  onApprove: (bundle: BundleItem, only: number[] | null) => void;
  onSearchWider: () => void;
}

/** Numbers of the references in focus; null for all. */
function useNumbers(view: MusterView | undefined): number[] | null {
  const picked = useFocus(useShallow(({ files, materials, bundle }) => ({ files, materials, bundle })));
  return useMemo(() => inFocus(view?.references ?? [], picked), [view?.references, picked]);
}

function MusterContent(props: ContentProps) {
  const { sceneId, view, numbers, focus, busy, onApprove, onSearchWider } = props;
  const { materials, bundle, narrow } = useFocus(
    useShallow(({ materials, bundle, narrow }) => ({ materials, bundle, narrow })),
  );
  const find = useDeferredValue(useFocus((s) => s.find));
  const [inState, setInState] = useInAddress('states');
  const states = useMemo(() => inState?.split(' ') ?? [], [inState]);
  const [inHandAt, setInHandAt] = useInAddress('reference');
  const current = inHandAt === undefined ? undefined : Number(inHandAt);
  const setCurrent = useCallback((to: number | undefined) => setInHandAt(to?.toString()), [setInHandAt]);
  const [large, setLarge] = useState<{ candidate?: number }>();
  const [sheet, setSheet] = useState<Sheet | 'roots'>();
  const acts = useMusterActs(sceneId);
  const scene = useScene(sceneId).data;
  const upload = useUpload(scene);
  const over = useDrop(upload.send);
  const focused = useMemo(
    () => (focus ? view.references.filter((r) => focus.has(r.number)) : view.references),
    [view.references, focus],
  );
  const unanswered = focused
    .filter((r) => r.kind === 'image' && r.entry === null && ['missing', 'outside', 'damaged'].includes(r.state))
    .map((r) => r.number);
  const changed = focused.filter((r) => r.flags.includes('changed')).map((r) => r.number);
  const seen = () => acts.seen.mutate(numbers);
  useKey('e', () => setSheet('replace'));
  useKey('q', () => setSheet('variants'));
  useKey('i', () => setSheet('house'));
  useKey('a', seen, changed.length > 0);
  const work = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'search' && isOpen(w));
  const shows = useMemo(
    () => (r: ReferenceItem) =>
      (states.length === 0 || states.includes(r.state)) &&
      feeds(r, { materials }) &&
      (bundle === undefined || bundle.numbers.has(r.number)) &&
      found(r, find),
    [states, materials, bundle, find],
  );
  useEffect(() => warm(view.references), [view.references]);
  const inHand = view.references.find((r) => r.number === current);
  const alike = view.references.filter((r) => r.state === inHand?.state && r.entry === null).map((r) => r.number);
  const open = useCallback(() => setLarge({}), []);
  const close = () => setSheet(undefined);
  const pick = (b: BundleItem) =>
    narrow({
      bundle: bundle?.name === nameOf(b) ? undefined : { name: nameOf(b), numbers: new Set(b.numbers) },
    });

  // A scene with few bundles leaves its room to the list.
  const mapHeight = Math.max(leastHeight(view.bundles), view.references.length * 1.45, 160) + 24;

  return (
    <div
      className={clsx(
        'grid h-full gap-x-6 gap-y-1.5 px-7 pb-1 pt-2',
        'grid-cols-[minmax(0,1fr)_clamp(350px,26vw,420px)] grid-rows-[min(var(--map),60%)_24px_minmax(0,1fr)]',
        // With room beside it the map has the height, and what is decided about it stands at its right.
        'min-[1900px]:grid-cols-[minmax(0,58fr)_minmax(0,42fr)] min-[1900px]:gap-x-10',
        'min-[1900px]:grid-rows-[auto_minmax(0,1fr)_auto]',
      )}
      style={{ '--map': `${mapHeight}px` } as CSSProperties}
    >
      <div className="col-span-2 min-h-0 min-[1900px]:col-span-1 min-[1900px]:row-span-3">
        <RelocationMap
          bundles={view.bundles}
          picked={bundle && view.bundles.find((b) => nameOf(b) === bundle.name)}
          focus={focus}
          busy={busy}
          onApprove={onApprove}
          onPick={pick}
          onSearchWider={onSearchWider}
          onRule={(from, to) => acts.rule.mutate({ from, to, numbers })}
        />
      </div>
      <div
        className={clsx(
          'col-span-2 flex min-w-0 items-center gap-4 whitespace-nowrap',
          'min-[1900px]:col-span-1 min-[1900px]:flex-wrap min-[1900px]:gap-y-0.5',
        )}
      >
        <StateFilter
          totals={view.totals}
          value={states}
          onChange={(to) => setInState(to.length === 0 ? undefined : to.join(' '))}
        />
        <span className="flex-1" />
        {over ? (
          <b className="text-[12.5px] text-lichen">Textures for {scene?.title}, or a new scene</b>
        ) : upload.sending ? (
          <Sending sending={upload.sending} />
        ) : work ? (
          <WorkLine item={work} verb="Searching the roots" />
        ) : (
          <button type="button" className="act soft" onClick={() => setSheet('roots')}>
            {many(view.roots.length, 'root')}
          </button>
        )}
        <DecideMenu
          numbers={numbers}
          all={view.references.length}
          unanswered={unanswered.length}
          changed={changed.length}
          onSheet={setSheet}
          onStyle={(style) => acts.style.mutate({ style, numbers })}
          onStandIn={() => acts.standIn.mutate(unanswered)}
          onSeen={seen}
        />
        <ColumnsMenu />
      </div>
      <div className="min-h-0">
        <ReferenceList
          references={view.references}
          shows={shows}
          current={current}
          onCurrent={setCurrent}
          onOpen={open}
        />
      </div>
      <div className="min-h-0 min-[1900px]:max-h-[46vh] min-[1900px]:overflow-y-auto">
        {inHand && (
          <Evidence
            key={inHand.number}
            sceneId={sceneId}
            reference={inHand}
            alike={alike}
            onSearchWider={onSearchWider}
            onOpenLarge={(candidate) => setLarge(candidate === undefined ? {} : { candidate })}
          />
        )}
      </div>
      {sheet === 'replace' && (
        <FindReplace sceneId={sceneId} numbers={numbers} all={view.references.length} onClose={close} />
      )}
      {sheet === 'variants' && (
        <MapVariants sceneId={sceneId} numbers={numbers} all={view.references.length} onClose={close} />
      )}
      {sheet === 'house' && (
        <HouseOrder sceneId={sceneId} numbers={numbers} all={view.references.length} onClose={close} />
      )}
      {sheet === 'roots' && (
        <RootsSheet sceneId={sceneId} muster={view} onAdd={onSearchWider} onFiles={upload.send} onClose={close} />
      )}
      {large && inHand && (
        <LargePicture
          sceneId={sceneId}
          reference={inHand}
          candidate={large.candidate}
          onClose={() => setLarge(undefined)}
        />
      )}
    </div>
  );
}

function Sending({ sending }: { sending: OnItsWay }) {
  return (
    <span role="status" className="flex items-baseline gap-3 text-[12px] text-soft">
      Sending {sending.name}, {Math.round(sending.part * 100)} %
      <button type="button" className="act" onClick={sending.stop}>
        Stop
      </button>
    </span>
  );
}

const nameOf = (b: BundleItem) =>
  `${stateWords(b.state)}, called from ${b.from === '' ? 'inside' : b.from === '.' ? 'beside the scene' : b.from}`;
