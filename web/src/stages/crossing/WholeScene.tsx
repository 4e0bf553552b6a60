import type { CrossingView, WorkItem } from '../../api/client';
import { useCrossedFrames, useCrossingActs } from '../../api/queries';
import { FrameTriple } from '../../parts/compare/FrameTriple';
import { Hint } from '../../parts/Hint';
import { RisingSheet } from '../../parts/RisingSheet';
import { WorkLine } from '../../parts/WorkLine';
import { many, when } from '../../parts/format';

interface WholeSceneProps {
  sceneId: string;
  view: CrossingView;
  work: WorkItem | undefined;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The whole scene as it arrived and with every look carried over, drawn when somebody asks for it. */
export function WholeScene({ sceneId, view, work, open, onOpenChange }: WholeSceneProps) {
  const { to, route, fit } = view;
  const drawn = useCrossedFrames(sceneId, to, route, fit, open).data;
  const { draw } = useCrossingActs(sceneId);
  const start = () => !work && draw.mutate({ to, route, fit });
  return (
    <RisingSheet
      open={open}
      onOpenChange={onOpenChange}
      title="The whole scene, before and after"
      about={`As it arrived, and with every look in ${view.name}${fit ? ' by the best fit' : ''}. Nothing of it is taken over.`}
      aside={
        drawn &&
        !work && (
          <button type="button" className="act" onClick={start}>
            Draw it again
          </button>
        )
      }
    >
      {work ? (
        <WorkLine item={work} verb="Drawing the scene before and after" />
      ) : (
        drawn === null && (
          <button type="button" className="key self-start" disabled={draw.isPending} onClick={start}>
            Draw both
          </button>
        )
      )}
      {drawn && (
        <div className={drawn.isCurrent ? '' : 'opacity-60'}>
          <p className="pb-2 text-[12.5px] text-quiet">
            <span className="text-[15px] font-[680] text-ink" data-frames="mean">
              {drawn.mean.toFixed(1)}
            </span>{' '}
            mean ΔE, 95th percentile {drawn.high.toFixed(1)}.{' '}
            {drawn.isSeen
              ? `Largest ${drawn.most.toFixed(1)}, noise of few samples among it.`
              : 'Nobody sees a difference.'}{' '}
            {drawn.isCurrent ? `Drawn ${when(drawn.at)}.` : 'Drawn before the last change.'}
            {drawn.told.length > 0 && (
              <Hint text={drawn.told.slice(0, 8).join(' ')}>
                <span className="ml-2 underline decoration-dotted" tabIndex={0}>
                  {many(drawn.told.length, 'thing is', 'things are')} not shown
                </span>
              </Hint>
            )}
          </p>
          <FrameTriple
            of={[
              [drawn.pictures.before, 'as it arrived'],
              [drawn.pictures.after, `in ${view.name}`],
              [drawn.pictures.difference, 'where they differ, kiln scale'],
            ]}
            className="max-h-[38vh]"
          />
        </div>
      )}
    </RisingSheet>
  );
}
