import clsx from 'clsx';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { useBench, useBenchActs, useHeld, useLooks, type Assigning } from '../../api/bench';
import { useWork } from '../../api/queries';
import { Frame } from '../../frame/Frame';
import { useEnter, useKey, useSpace } from '../../frame/keys';
import { many } from '../../parts/format';
import { useIsWide } from '../../parts/useGrown';
import { isOpen } from '../../parts/WorkLine';
import { useInAddress } from '../../state/address';
import { useFocus } from '../../state/focus';
import { lights, useSettings } from '../../state/settings';
import { BenchCall } from './BenchCall';
import { BenchTop, type BenchShown } from './BenchTop';
import { useDrafts, useTried } from './drafts';
import { AssignSheet } from './held/AssignSheet';
import { MomentsView } from './compare/MomentsView';
import { CopySheet } from './held/CopySheet';
import { Held } from './held/Held';
import { LargeLook } from './LargeLook';
import { arranged, needsLooks } from './order';
import { PixelView } from './pixels/PixelView';
import { Sheet } from './Sheet';
import { SheetBar } from './SheetBar';
import { SheetTop } from './SheetTop';
import { useShape } from './useShape';
import { WrongWord } from './WrongWord';

/** Loaded when somebody asks for it: it brings all that draws in space. */
const Space = lazy(() => import('./space/Space'));

const keys: [string, string][] = [
  ['← → ↑ ↓, J and K', 'step through the materials'],
  ['Space', 'mark as seen, or not'],
  ['X', 'mark as not right, with a word'],
  ['Enter', 'open large; Esc steps out'],
  ['⇧→ and ⇧←', 'next and previous that does not look as it should'],
  ['⇧Space', 'add the material in hand to the focus'],
  ['Z', 'the scene in 3D; ⇧Z how much of it is shown, Enter frames, ↑ ↓ turn, + − go nearer'],
  ['V', 'compare two moments, or two scenes'],
  ['T', 'take the values that are tried into the ledger'],
  ['⇧C', 'copy inputs to other materials'],
  ['R G B A', 'one channel of the image that is open'],
  ['S', 'the next shape'],
  ['H', 'the next light'],
  ['+ and −', 'larger and smaller swatches'],
];

/** Stage 4: how each material looks, and where its values come from. */
export function Bench() {
  const { sceneId = '' } = useParams();
  const query = useBench(sceneId);
  const view = query.data;
  const { benchSort: sort, benchSize, light, set } = useSettings();
  const { shape, choices } = useShape(sceneId);
  const looks = useLooks(sceneId, needsLooks(sort)).data;
  const work = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'measurelooks' && isOpen(w));
  const { find, materials: focus, toggle } = useFocus();
  const [only, setOnly] = useState(false);
  const [picked, pick] = useInAddress('material');
  const [columns, setColumns] = useState(1);
  const [large, setLarge] = useState(false);
  const [shown, show] = useInAddress('show');
  const isCompared = shown === 'compare';
  const isInSpace = shown === 'space';
  const isWide = useIsWide();
  const showAs = (as: BenchShown) => show(as === 'sheet' ? undefined : as);
  const [open, setOpen] = useState<string>();
  const [sheet, setSheet] = useState<'word' | 'copy'>();
  const [wearers, setWearers] = useState<Assigning['wearers']>();
  const acts = useBenchActs(sceneId);
  const letGo = useDrafts((s) => s.letGo);

  const onlyFocus = only && focus.size > 0;
  const rows = useMemo(() => {
    const shown = (view?.rows ?? []).filter((r) => !onlyFocus || focus.has(r.name));
    return arranged(shown, sort, looks, find);
  }, [view, onlyFocus, focus, sort, looks, find]);
  const at = Math.max(
    0,
    rows.findIndex((r) => r.name === picked),
  );
  const row = rows[at];
  const held = useHeld(sceneId, row?.name).data;
  const tried = useTried(sceneId, row?.name);
  const opened = held?.images.find((i) => i.node === open && i.number !== null);
  const strange = useMemo(() => (view?.rows ?? []).filter((r) => r.isStrange), [view]);

  // An order that needs looks in numbers has them measured.
  const left = looks?.left ?? 0;
  const measure = acts.measure.mutate;
  const wants = needsLooks(sort) && left > 0 && !work && acts.measure.status === 'idle';
  useEffect(() => {
    if (wants) measure(undefined);
  }, [wants, measure]);

  const go = (to: number) => pick(rows[Math.min(rows.length - 1, Math.max(0, to))]?.name);
  const step = (by: 1 | -1) => {
    for (let i = at + by; i >= 0 && i < rows.length; i += by) {
      const next = rows[i];
      if (next?.isStrange) return pick(next.name);
    }
  };
  const isSeen = row?.mark?.kind === 'seen' && !row.mark.isOld;
  const seen = () => row && acts.mark.mutate({ materials: [row.name], kind: isSeen ? null : 'seen', word: null });
  const take = () => {
    if (!row || Object.keys(tried).length === 0 || acts.take.isPending) return;
    acts.take.mutate({ material: row.name, values: tried }, { onSuccess: () => letGo(sceneId, row.name) });
  };

  const free = sheet === undefined && wearers === undefined;
  const isSheet = free && !large && !opened && shown === undefined;
  useKey('right, j', () => go(at + 1), free);
  useKey('left, k', () => go(at - 1), free);
  useKey('down', () => go(at + columns), isSheet);
  useKey('up', () => go(at - columns), isSheet);
  useKey('home', () => go(0), isSheet);
  useKey('end', () => go(rows.length - 1), isSheet);
  useKey('shift+right', () => step(1), free);
  useKey('shift+left', () => step(-1), free);
  useSpace(() => seen(), free);
  useSpace(() => row && toggle(row.name), free, 'shift+space');
  useKey('x', () => row && setSheet('word'), free);
  useEnter(() => row && setLarge(true), isSheet);
  useKey(
    'escape',
    () => {
      if (Object.keys(tried).length > 0 && row) letGo(sceneId, row.name);
      else if (opened) setOpen(undefined);
      else if (large) setLarge(false);
      else show(undefined);
    },
    free,
  );
  useKey('t', take, free);
  useKey('z', () => show(isInSpace ? undefined : 'space'), free);
  useKey('v', () => show(isCompared ? undefined : 'compare'), free);
  useKey('shift+c', () => held && setSheet('copy'), free);
  useKey('s', () => set({ shape: choices[(choices.indexOf(shape) + 1) % choices.length] ?? 'sphere' }), free);
  useKey('h', () => set({ light: lights[(lights.indexOf(light) + 1) % lights.length] ?? 'studio' }), free);
  useKey('+, =', () => set({ benchSize: Math.min(192, benchSize + 12) }), isSheet);
  useKey('-', () => set({ benchSize: Math.max(48, benchSize - 12) }), isSheet);

  /** What stands beside it, when the window has room for both. */
  const sheetAs = (as: BenchShown) => (
    <div className="flex h-full min-h-0 min-w-0 flex-col">
      <BenchTop shown={as} onShow={showAs}>
        <SheetTop />
      </BenchTop>
      <div className="min-h-0 flex-1">
        <Sheet
          sceneId={sceneId}
          rows={rows}
          at={at}
          size={benchSize}
          focus={focus}
          looks={looks}
          showsMoved={sort === 'moved'}
          drafts={tried}
          onPick={pick}
          onOpen={() => setLarge(true)}
          onColumns={setColumns}
        />
      </div>
    </div>
  );
  return (
    <Frame
      here="Bench"
      sceneId={sceneId}
      call={
        query.isError ? (
          <em>{query.error.message}</em>
        ) : (
          <BenchCall view={view} strange={strange.length} onStep={() => pick(strange[0]?.name)} />
        )
      }
      among={many(view?.rows.length ?? 0, 'material')}
      keys={keys}
      open={view && strange.length}
    >
      {view && view.rows.length > 0 && (
        <div className="grid h-full grid-cols-[minmax(0,1fr)_minmax(400px,36%)] grid-rows-[minmax(0,1fr)_auto] pt-2">
          {rows.length === 0 ? (
            <p className="px-7 pt-2 text-quiet">No material has these letters in its name.</p>
          ) : opened?.number != null && row ? (
            <PixelView
              sceneId={sceneId}
              material={row.name}
              image={{ ...opened, number: opened.number }}
              onClose={() => setOpen(undefined)}
            />
          ) : isInSpace ? (
            <div className={clsx('grid h-full min-h-0', isWide && 'grid-cols-2')}>
              {isWide && sheetAs('space')}
              <Suspense fallback={<div className="field h-full" />}>
                <Space
                  sceneId={sceneId}
                  rows={view.rows}
                  held={row?.name}
                  isBeside={isWide}
                  onPick={pick}
                  onShow={showAs}
                />
              </Suspense>
            </div>
          ) : isCompared && row ? (
            <MomentsView
              sceneId={sceneId}
              row={row}
              focused={rows.filter((r) => focus.has(r.name))}
              onPick={pick}
              onShow={showAs}
            />
          ) : large && row ? (
            <LargeLook
              sceneId={sceneId}
              row={row}
              drafts={tried}
              inFocus={focus.has(row.name)}
              onClose={() => setLarge(false)}
            />
          ) : (
            sheetAs('sheet')
          )}
          {held && row && (
            <Held
              key={row.name}
              sceneId={sceneId}
              view={held}
              row={row}
              tried={tried}
              busy={acts.take.isPending}
              onTake={take}
              onWire={(wire) => acts.wire.mutate({ material: row.name, ...wire })}
              onPick={pick}
              onCopy={() => setSheet('copy')}
              onOpenImage={setOpen}
              onAssign={setWearers}
            />
          )}
          <SheetBar
            sceneId={sceneId}
            shown={isInSpace && !isWide ? 'space' : isCompared ? 'compare' : 'sheet'}
            seen={view.seen}
            all={view.rows.length}
            focus={focus.size}
            onlyFocus={onlyFocus}
            onFocus={setOnly}
            work={work}
          />
        </div>
      )}
      {sheet === 'word' && row && (
        <WrongWord
          material={row.title}
          word={row.mark?.kind === 'wrong' ? row.mark.word : ''}
          onOpenChange={(open) => !open && setSheet(undefined)}
          onSay={(word) =>
            acts.mark.mutate({ materials: [row.name], kind: 'wrong', word }, { onSuccess: () => setSheet(undefined) })
          }
        />
      )}
      {wearers && held && view && (
        <AssignSheet
          sceneId={sceneId}
          view={held}
          rows={view.rows}
          wearers={wearers}
          onOpenChange={(open) => !open && setWearers(undefined)}
        />
      )}
      {sheet === 'copy' && held && view && (
        <CopySheet
          sceneId={sceneId}
          view={held}
          rows={view.rows}
          focus={focus}
          onOpenChange={(open) => !open && setSheet(undefined)}
        />
      )}
    </Frame>
  );
}
