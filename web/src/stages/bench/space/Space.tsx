import { Canvas } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import type { BenchItem, SceneViewed } from '../../../api/client';
import { useReadyView, useSceneView } from '../../../api/space';
import { useWork } from '../../../api/queries';
import { useEnter, useKey } from '../../../frame/keys';
import { isOpen, WorkLine } from '../../../parts/WorkLine';
import { useFocus } from '../../../state/focus';
import { useSettings } from '../../../state/settings';
import { useShapeOn } from '../../../state/shapeOn';
import { useTouched } from '../../../state/touched';
import { BenchTop, type BenchShown } from '../BenchTop';
import { boxAround, reaches, Wearing, type Reach } from './dress';
import type { Overlay } from './overlays';
import { boxOf, mostTriangles, wanted } from './parts';
import { Room } from './Room';
import { SceneParts } from './SceneParts';
import { SpaceBar } from './SpaceBar';
import { SpaceSaid } from './SpaceSaid';
import { useModels, type Piece } from './useModels';
import { Walk, type Walking } from './Walk';
import { Wardrobe } from './wardrobe';

interface SpaceProps {
  sceneId: string;
  rows: BenchItem[];
  /** The material in hand. */
  held: string | undefined;
  /** The sheet stands beside it. */
  isBeside: boolean;
  onPick: (material: string) => void;
  onShow: (shown: BenchShown) => void;
}

/** The whole scene, to be walked around. It takes the sheet's place where the window has no room for both. */
export default function Space(props: SpaceProps) {
  const { sceneId, isBeside, onShow } = props;
  const query = useSceneView(sceneId);
  const last = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'makeview');
  const work = last && isOpen(last) ? last : undefined;
  const view = query.data;
  const make = useReadyView(sceneId, view?.made === null && !work);
  const failed = make.status === 'success' && (last?.state === 'failed' || last?.state === 'cancelled');
  if (view?.made) return <Made {...props} view={view} made={view.made} />;
  return (
    <div className="flex h-full flex-col">
      <BenchTop shown="space" onShow={onShow} isBeside={isBeside}>
        {work && <WorkLine item={work} verb="Making the scene ready" />}
      </BenchTop>
      <p className="field flex-1 px-7 pt-4 text-[13px] text-white">
        {query.isError ? query.error.message : failed ? 'It could not be made ready.' : 'Its geometry is on its way.'}{' '}
        {failed && (
          <button type="button" className="underline" onClick={() => make.mutate(undefined)}>
            Try again
          </button>
        )}
      </p>
    </div>
  );
}

interface MadeProps extends SpaceProps {
  view: SceneViewed;
  made: NonNullable<SceneViewed['made']>;
}

function Made({ sceneId, rows, held, isBeside, onPick, onShow, view, made }: MadeProps) {
  const [overlay, setOverlay] = useState<Overlay>('looks');
  const [variant, setVariant] = useState<string>();
  const [wantedReach, setReach] = useState<Reach>('all');
  const [picked, setPicked] = useState<Pick<Piece, 'node' | 'part'>>();
  const [pictures, setPictures] = useState(0);
  const [at, setAt] = useState<[number, number, number]>();
  const walking = useRef<Walking>(null);
  const { materials: focus, toggle } = useFocus();
  const touched = useTouched((s) => s.times);
  const { print, files } = made;

  const around = useMemo(() => {
    const { min, max } = boxOf(files);
    return new THREE.Box3(new THREE.Vector3(...min), new THREE.Vector3(...max));
  }, [files]);
  // Whoever stands still has loaded what is near; from the first place that is what lies in the middle.
  const isTooMuch = made.triangles > mostTriangles;
  const from = isTooMuch ? at : undefined;
  const near = useMemo(
    () => wanted(files, from ?? around.getCenter(new THREE.Vector3()).toArray()),
    [files, from, around],
  );
  const models = useModels(sceneId, print, near);
  const wearing = useMemo(() => new Wearing(view, rows), [view, rows]);
  const [wardrobe, setWardrobe] = useState(() => open());
  function open() {
    return Wardrobe.for(sceneId, touched, view.materials, () => setPictures((n) => n + 1));
  }
  // What a picture shows may be another since: all are asked for anew.
  const [dressedAt, setDressedAt] = useState(touched);
  if (dressedAt !== touched) {
    setDressedAt(touched);
    setWardrobe(open());
  }
  useEffect(() => {
    wardrobe.open();
    return () => wardrobe.close();
  }, [wardrobe]);

  const pick = (piece: Piece) => {
    setPicked({ node: piece.node, part: piece.part });
    const material = wearing.materialOf(piece, variant);
    if (material === '') return;
    // What is in hand and in focus already is let go.
    if (!focus.has(material) || material === held) toggle(material);
    onPick(material);
  };
  const frame = () => {
    const worn = boxAround(models, (p) => wearing.materialOf(p, variant) === held);
    walking.current?.frame(worn.isEmpty() ? boxAround(models, () => true) : worn);
  };
  const standIn = (node: number) => {
    useShapeOn.setState({ on: { sceneId, node, name: view.objects.find((o) => o.node === node)?.name ?? '' } });
    useSettings.getState().set({ shape: 'object' });
    onShow('sheet');
  };
  const onRest = useCallback((place: THREE.Vector3) => setAt(place.toArray()), []);
  const offered = reaches.filter((r) => r !== 'focus' || focus.size > 0);
  // A focus that was emptied hides nothing.
  const reach = offered.includes(wantedReach) ? wantedReach : 'all';
  const next = () => setReach(offered[(offered.indexOf(reach) + 1) % offered.length] ?? 'all');
  useEnter(frame);
  useKey('shift+z', next);
  useKey('down', () => walking.current?.turn(15));
  useKey('up', () => walking.current?.turn(-15));
  useKey('+, =', () => walking.current?.dolly(0.8));
  useKey('-', () => walking.current?.dolly(1.25));

  return (
    <div className="flex h-full min-h-0 flex-col" role="region" aria-label="The scene in 3D">
      <SpaceBar
        isBeside={isBeside}
        overlay={overlay}
        onOverlay={setOverlay}
        variants={view.variants}
        variant={variant}
        onVariant={setVariant}
        reach={reach}
        onReach={setReach}
        focus={focus.size}
        onShow={onShow}
      />
      <div className="field relative min-h-0 flex-1" data-loaded={models.length === near.length || undefined}>
        <Canvas
          flat
          frameloop="demand"
          dpr={[1, 2]}
          camera={{ fov: 35, position: [0.6, 0.35, 1] }}
          onCreated={() => requestAnimationFrame(() => walking.current?.frame(around))}
          aria-label={`${view.objects.length} objects, seen in space`}
          role="img"
        >
          <Room />
          <Walk ref={walking} onRest={onRest} />
          <SceneParts
            models={models}
            wearing={wearing}
            wardrobe={wardrobe}
            overlay={overlay}
            variant={variant}
            reach={reach}
            focus={focus}
            held={held}
            pictures={pictures}
            onPick={pick}
          />
        </Canvas>
      </div>
      <SpaceSaid
        view={view}
        rows={rows}
        overlay={overlay}
        wearing={wearing}
        variant={variant}
        picked={picked}
        loaded={models}
        near={near}
        all={made}
        onFrame={frame}
        onStandIn={standIn}
      />
    </div>
  );
}
