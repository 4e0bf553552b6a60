import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { AuditView, CauseItem } from '../../api/client';
import { useAudit, useCause, useFindingActs } from '../../api/queries';
import { Frame } from '../../frame/Frame';
import { useKey, useSpace } from '../../frame/keys';
import { many } from '../../parts/format';
import { useInAddress } from '../../state/address';
import { useFocus } from '../../state/focus';
import { CauseList } from './CauseList';
import { Evidence } from './Evidence';
import { FindingsCall } from './FindingsCall';
import { HandSheet, type Reach } from './hand/HandSheet';
import { DestinationSheet } from './sheets/DestinationSheet';
import { EditsSheet } from './sheets/EditsSheet';
import { HouseSheet } from './sheets/HouseSheet';
import { RecipesSheet } from './sheets/RecipesSheet';
import { RuleSheet } from './sheets/RuleSheet';
import { WaiveSheet } from './sheets/WaiveSheet';
import type { Sheet } from './sheets/sheet';

const keys: [string, string][] = [
  ['J and K, ↓ ↑', 'next and previous cause'],
  ['⇧→ and ⇧←', 'step to the next and the previous finding'],
  ['Space', 'add the material in hand to the focus'],
  ['⇧F', 'fix the whole family'],
  ['F', 'fix what is in focus'],
  ['T', 'fix this one'],
  ['C', 'choose by hand what no rule can know'],
  ['W', 'waive the cause with a reason, or take the waiver back'],
];

/** Stage 3: what is wrong, why we think so, what the fix would do. */
export function Findings() {
  const { sceneId = '' } = useParams();
  const query = useAudit(sceneId);
  const view = query.data;
  const find = useFocus((s) => s.find);
  const causes = useMemo(() => matching(view, find), [view, find]);
  const [picked, setPicked] = useInAddress('cause');
  const [member, setMember] = useState<string>();
  const [sheet, setSheet] = useState<Sheet>();
  const cause = causes.find((c) => c.key === picked) ?? causes[0];
  const evidence = useCause(sceneId, cause?.key, member).data ?? undefined;
  const acts = useFindingActs(sceneId);
  const { materials, toggle: add } = useFocus();

  const pick = (key: string | undefined) => {
    setPicked(key);
    setMember(undefined);
  };
  const move = (by: 1 | -1) => {
    const at = causes.findIndex((c) => c.key === cause?.key);
    pick(causes[Math.min(causes.length - 1, Math.max(0, at + by))]?.key);
  };
  const members = evidence?.members ?? [];
  // The finding that was asked for counts, so that steps taken quickly do not wait for its evidence.
  const asked = members.findIndex((m) => m.key === member);
  const at = asked >= 0 ? asked : members.findIndex((m) => m.key === evidence?.member);
  const step = (by: 1 | -1) => {
    const next = members[at + by];
    if (next) setMember(next.key);
    else move(by);
  };
  const inHand = members[at];
  const inFocus = members.filter((m) => m.material !== null && materials.has(m.material));
  const toggle = (material: string | null | undefined) => {
    if (material != null) add(material);
  };
  const fixFamily = () => cause && cause.fixable > 0 && acts.fix.mutate({ cause: cause.key });
  const fixThis = () => cause && inHand?.title && acts.fix.mutate({ cause: cause.key, keys: [inHand.key] });
  const fixFocus = () =>
    cause && inFocus.length > 0 && acts.fix.mutate({ cause: cause.key, keys: inFocus.map((m) => m.key) });

  const free = sheet === undefined || sheet === 'edits' || sheet === 'rule';
  useKey('j, down', () => move(1), free);
  useKey('k, up', () => move(-1), free);
  useKey('shift+right', () => step(1), free);
  useKey('shift+left', () => step(-1), free);
  useSpace(() => toggle(inHand?.material), free);
  useKey('shift+f', () => fixFamily(), free);
  useKey('f', () => fixFocus(), free);
  useKey('t', () => fixThis(), free);
  useKey('c', () => cause && evidence && setSheet('hand'), free);
  useKey('w', () => cause && (cause.waived === null ? setSheet('waive') : acts.unwaive.mutate(cause.key)), free);

  const close = (open: boolean) => !open && setSheet(undefined);
  return (
    <Frame
      here="Findings"
      sceneId={sceneId}
      call={
        query.isError ? (
          <em>{query.error.message}</em>
        ) : (
          <FindingsCall
            view={view}
            safe={safeIn(view, materials)}
            onSafe={(all) => acts.fix.mutate({ safe: true, ...(!all && { materials: [...materials] }) })}
          />
        )
      }
      among={many(view?.causes.length ?? 0, 'cause')}
      focus={<Tools open={setSheet} destination={view?.destination.name} picked={materials.size} />}
      keys={keys}
    >
      {view && view.causes.length === 0 && <Nothing view={view} sceneId={sceneId} />}
      {view && view.causes.length > 0 && (
        <div className="grid h-full grid-cols-[446px_26px_minmax(0,1fr)] px-7 pb-2 pt-2">
          <CauseList
            sceneId={sceneId}
            causes={causes}
            coverage={view.coverage}
            failed={view.failed}
            current={cause?.key}
            onPick={pick}
          />
          <Thread />
          {cause && evidence ? (
            <Evidence
              sceneId={sceneId}
              view={evidence}
              position={at}
              inFocus={inFocus.length}
              focus={materials}
              busy={acts.fix.isPending}
              onMember={setMember}
              onToggle={toggle}
              onFamily={fixFamily}
              onFocus={fixFocus}
              onThis={fixThis}
              onWaive={() => setSheet('waive')}
              onUnwaive={() => acts.unwaive.mutate(cause.key)}
              onOpen={setSheet}
            />
          ) : (
            <p className="pt-1 text-quiet">{causes.length === 0 ? 'No cause has these letters in it.' : ''}</p>
          )}
        </div>
      )}
      {sheet === 'destination' && <DestinationSheet sceneId={sceneId} onOpenChange={close} />}
      {sheet === 'house' && <HouseSheet onOpenChange={close} />}
      {sheet === 'recipes' && <RecipesSheet sceneId={sceneId} onOpenChange={close} />}
      {sheet === 'rule' && evidence && <RuleSheet rule={evidence.rule} onOpenChange={close} />}
      {sheet === 'edits' && evidence && <EditsSheet fix={evidence.fix} onOpenChange={close} />}
      {sheet === 'hand' && cause && inHand && (
        <HandSheet
          sceneId={sceneId}
          title={cause.sentence}
          reaches={reachesOf(
            cause,
            inHand.key,
            inFocus.map((m) => m.key),
          )}
          onOpenChange={close}
        />
      )}
      {sheet === 'hand-focus' && materials.size > 0 && (
        <HandSheet
          sceneId={sceneId}
          title={`${many(materials.size, 'material')} in focus`}
          reaches={[{ name: 'in focus', of: { cause: null, keys: null, materials: [...materials] } }]}
          onOpenChange={close}
        />
      )}
      {sheet === 'waive' && cause && (
        <WaiveSheet
          cause={cause}
          onOpenChange={close}
          onWaive={(reason) =>
            acts.waive.mutate({ cause: cause.key, reason }, { onSuccess: () => setSheet(undefined) })
          }
        />
      )}
    </Frame>
  );
}

/** How many of the safe fixes are about what is in focus; null when that is the whole scene. */
const safeIn = (view: AuditView | undefined, focus: ReadonlySet<string>) =>
  focus.size === 0 ? null : [...focus].reduce((n, m) => n + (view?.safeByMaterial[m] ?? 0), 0);

function matching(view: AuditView | undefined, find: string): CauseItem[] {
  const letters = find.trim().toLowerCase();
  return (view?.causes ?? []).filter((c) => `${c.sentence} ${c.rule} ${c.names}`.toLowerCase().includes(letters));
}

/** One finding, those in focus, and the whole family. */
function reachesOf(cause: CauseItem, one: string, inFocus: string[]): Reach[] {
  const of = (keys: string[] | null) => ({ cause: cause.key, keys, materials: null });
  return [
    { name: 'this one', of: of([one]) },
    ...(inFocus.length > 0 ? [{ name: `${inFocus.length} in focus`, of: of(inFocus) }] : []),
    ...(cause.count > 1 ? [{ name: `all ${cause.count}`, of: of(null) }] : []),
  ];
}

interface ToolsProps {
  open: (sheet: Sheet) => void;
  destination: string | undefined;
  picked: number;
}

/** Where the scene goes, by which rules it is looked at, and what was recorded. */
function Tools({ open, destination, picked }: ToolsProps) {
  return (
    <span className="flex items-center gap-4 bg-ground px-3">
      {picked > 0 && (
        <button type="button" className="act" onClick={() => open('hand-focus')}>
          Set {many(picked, 'material')} by hand
        </button>
      )}
      <button type="button" className="act soft" onClick={() => open('destination')}>
        For: {destination ?? '–'}
      </button>
      <button type="button" className="act soft" onClick={() => open('house')}>
        House rules
      </button>
      <button type="button" className="act soft" onClick={() => open('recipes')}>
        Recipes
      </button>
    </span>
  );
}

/** The thread that ties the picked cause to its evidence. */
function Thread() {
  return (
    <div className="relative" aria-hidden="true">
      <span className="absolute bottom-0 left-0 top-3 border-l-2 border-ink" />
    </div>
  );
}

function Nothing({ view, sceneId }: { view: AuditView; sceneId: string }) {
  return (
    <div className="px-7 pt-3 text-soft">
      {view.toMeasure > 0 ? (
        <p>{many(view.toMeasure, 'image')} are being measured; what they say comes in when they are known.</p>
      ) : (
        <p>
          {view.coverage}{' '}
          {!view.isCovered && (
            <>
              <Link className="act" to={`/muster/${sceneId}`}>
                Find the images in Muster
              </Link>
              {', or '}
            </>
          )}
          <Link className="act" to={`/send-off/${sceneId}`}>
            {view.isCovered ? 'Go on to Send-off' : 'go on to Send-off'}
          </Link>
        </p>
      )}
    </div>
  );
}
