import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { SceneDetail } from '../../api/client';
import { useDraw, useFrame, useWork } from '../../api/queries';
import { useKey } from '../../frame/keys';
import { count, many, when } from '../../parts/format';
import { Hint } from '../../parts/Hint';
import { isOpen, WorkLine } from '../../parts/WorkLine';
import { useSettings } from '../../state/settings';

/** The whole scene as it stands, drawn when somebody asks for it. */
export function TestFrame({ scene }: { scene: SceneDetail }) {
  const swatches = useSettings((s) => s.light);
  const [own, setOwn] = useState(false);
  const light = own ? 'scene' : swatches;
  const [camera, setCamera] = useState<string | null>(null);
  const frame = useFrame(scene.id, light, camera).data;
  const draw = useDraw(scene.id);
  const work = useWork().data?.find((w) => w.sceneId === scene.id && w.kind === 'draw' && isOpen(w));
  const start = () => {
    if (!work) draw.mutate({ light, camera });
  };
  const made = frame?.made;
  // One that was stopped half-way can be drawn to its end.
  const wanted = !work && scene.meshes > 0 && frame !== undefined && !(frame.isCurrent && made?.isDone);
  useKey('d', start, wanted);
  if (!frame || scene.meshes === 0) return null;
  return (
    <section aria-label="Test frame" className="pb-3">
      <div className="flex flex-wrap items-baseline gap-x-3 pb-1.5">
        <h3 className="text-[15px] font-[680] whitespace-nowrap">Test frame</h3>
        <span className="min-w-0 flex-1 truncate text-[12px] text-quiet">
          {made && !frame.isCurrent && !work
            ? 'drawn before the last change'
            : made && aboutOf(made, frame.cameras.length)}
        </span>
        <View frame={frame} camera={camera} onCamera={setCamera} own={own} onOwn={setOwn} />
        {wanted && (
          <button type="button" className="act flex-none" onClick={start}>
            {made ? 'Draw it again' : 'Draw the scene'} <kbd>D</kbd>
          </button>
        )}
      </div>
      {made && (
        <div className="field relative aspect-video">
          <img
            src={made.picture}
            alt={`${scene.name}, drawn ${when(made.at)}`}
            className={`size-full object-cover ${frame.isCurrent || work ? '' : 'opacity-60'}`}
          />
          {made.told.length > 0 && (
            <Hint
              text={
                <>
                  {made.told.slice(0, 8).map((t) => (
                    <span key={t} className="block">
                      {t}
                    </span>
                  ))}
                  {made.told.length > 8 && `and ${count(made.told.length - 8)} more`}
                </>
              }
            >
              <button
                type="button"
                className="absolute bottom-0 right-0 bg-field px-1 text-[12px] leading-4 text-black"
                aria-label={`${many(made.told.length, 'thing')} that the frame does not show`}
              >
                <span aria-hidden="true">≈</span> {count(made.told.length)}
              </button>
            </Hint>
          )}
        </div>
      )}
      {work && (
        <div className={made ? 'pt-1.5' : ''}>
          <WorkLine item={work} verb="Drawing the scene" />
        </div>
      )}
    </section>
  );
}

interface Made {
  camera?: string | null;
  samples: number;
  wanted: number;
  isDone: boolean;
}

/** Where cameras can be chosen the choice says which. */
const aboutOf = (made: Made, cameras: number) =>
  !made.isDone
    ? `${made.samples} of ${made.wanted} samples`
    : made.camera
      ? cameras === 1 && `by ${made.camera}`
      : 'framed by Root Call';

interface ViewProps {
  frame: { cameras: string[]; lamps: number };
  camera: string | null;
  onCamera: (camera: string | null) => void;
  own: boolean;
  onOwn: (own: boolean) => void;
}

/** By which camera and which light the scene is seen; nothing where there is nothing to choose. */
function View({ frame, camera, onCamera, own, onOwn }: ViewProps) {
  const swatches = useSettings((s) => s.light);
  const [first] = frame.cameras;
  const hasCameras = frame.cameras.length > 1;
  if (!hasCameras && frame.lamps === 0) return null;
  const lit = own ? 'own lights' : swatches;
  const shown = [hasCameras && (camera ?? first), frame.lamps > 0 && lit].filter(Boolean).join(', ');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="act soft max-w-56 flex-none truncate" aria-label={`Seen by ${shown}`}>
        {shown} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" sideOffset={4} align="end">
          {hasCameras && (
            <DropdownMenu.RadioGroup
              value={camera ?? first ?? ''}
              onValueChange={(v) => onCamera(v === first ? null : v)}
            >
              <DropdownMenu.Label className="px-2 pt-1 text-[12px] text-quiet">Camera</DropdownMenu.Label>
              {frame.cameras.map((c) => (
                <DropdownMenu.RadioItem key={c} value={c}>
                  {c}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          )}
          {frame.lamps > 0 && (
            <DropdownMenu.RadioGroup value={own ? 'scene' : 'swatches'} onValueChange={(v) => onOwn(v === 'scene')}>
              <DropdownMenu.Label className="px-2 pt-1 text-[12px] text-quiet">Light</DropdownMenu.Label>
              <DropdownMenu.RadioItem value="swatches">as the swatches, {swatches}</DropdownMenu.RadioItem>
              <DropdownMenu.RadioItem value="scene">the scene’s own, {count(frame.lamps)}</DropdownMenu.RadioItem>
            </DropdownMenu.RadioGroup>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
