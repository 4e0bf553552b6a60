import { useDrawMoments, useMomentFrames, type TwoMoments } from '../../../api/compare';
import { useWork } from '../../../api/queries';
import { useKey } from '../../../frame/keys';
import { Compare, CompareWays } from '../../../parts/compare/Compare';
import { many, when } from '../../../parts/format';
import { Hint } from '../../../parts/Hint';
import { useSize } from '../../../parts/useSize';
import { isOpen, WorkLine } from '../../../parts/WorkLine';

interface MomentFramesProps {
  sceneId: string;
  moments: TwoMoments;
  names: [before: string, after: string];
  light: string;
}

/** As frames are drawn. */
const aspect = 16 / 9;

/** The whole of both moments, drawn when somebody asks for it. */
export function MomentFrames({ sceneId, moments, names, light }: MomentFramesProps) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const drawn = useMomentFrames(sceneId, moments, light).data;
  const draw = useDrawMoments(sceneId);
  const work = useWork().data?.find((w) => w.sceneId === sceneId && w.kind === 'drawmoments' && isOpen(w));
  const start = () => !work && draw.mutate({ ...moments, light });
  useKey('d', start, !work);
  const loaded = (url: string) => ({ url, source: url, told: [] });
  const size = Math.max(160, Math.min(width - 56, (height - 200) * aspect, 960));
  return (
    <div ref={box} className="field flex min-h-0 flex-1 flex-col gap-2 overflow-auto px-7 pt-2 text-white">
      {work ? (
        <div className="w-fit bg-ground px-3 py-1">
          <WorkLine item={work} verb="Drawing both moments" />
        </div>
      ) : (
        !drawn && (
          <p className="text-[13px]">
            <button type="button" className="key" disabled={draw.isPending} onClick={start}>
              Draw both <kbd>D</kbd>
            </button>
          </p>
        )
      )}
      {drawn && (
        <>
          <div className="flex items-baseline gap-4">
            <CompareWays />
            <span className="text-[12.5px]">
              <b data-frames="mean">{drawn.mean.toFixed(1)}</b> mean ΔE, 95th percentile {drawn.high.toFixed(1)}.{' '}
              {drawn.isSeen ? 'Noise of few samples is in it.' : 'Nobody sees a difference.'}{' '}
              {drawn.isCurrent ? `Drawn ${when(drawn.at)}.` : 'Drawn before the last change.'}
            </span>
            {drawn.told.length > 0 && (
              <Hint text={drawn.told.slice(0, 8).join(' ')}>
                <span className="text-[12.5px] underline decoration-dotted" tabIndex={0}>
                  {many(drawn.told.length, 'thing is', 'things are')} not shown
                </span>
              </Hint>
            )}
            {!work && (
              <button type="button" className="ml-auto text-[12.5px] font-semibold text-white" onClick={start}>
                Draw them again <kbd className="!border-white !text-white">D</kbd>
              </button>
            )}
          </div>
          <div className={drawn.isCurrent ? '' : 'opacity-60'}>
            <Compare
              of="the scene"
              before={{ name: names[0], loaded: loaded(drawn.pictures.before) }}
              after={{ name: names[1], loaded: loaded(drawn.pictures.after) }}
              size={size}
              aspect={aspect}
            />
          </div>
          <figure>
            <img
              src={drawn.pictures.difference}
              alt="Where the two frames differ, kiln scale"
              className="h-28 object-contain"
            />
            <figcaption className="text-[12px]">where they differ, kiln scale</figcaption>
          </figure>
        </>
      )}
    </div>
  );
}
