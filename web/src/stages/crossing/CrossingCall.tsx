import { Link } from 'react-router';
import type { CrossingView, WorkItem } from '../../api/client';
import { count, many } from '../../parts/format';

interface CrossingCallProps {
  view: CrossingView | undefined;
  limit: number;
  work: WorkItem | undefined;
  sceneId: string;
  onMeasure: () => void;
}

/** The job in numbers: what blocks comes first, then what is not measured, then what moves too far. */
export function CrossingCall({ view, limit, work, sceneId, onMeasure }: CrossingCallProps) {
  if (!view)
    return (
      <>
        <b className="mono">–</b> materials can cross.
      </>
    );
  const all = view.rows.length;
  if (all === 0) return <>Nothing has to cross to {view.name}.</>;
  const measured = view.rows.filter((r) => r.moved);
  const far = measured.filter((r) => r.moved && r.moved.mean > limit).length;
  return (
    <>
      {measured.length === 0 ? (
        <>
          <b>{count(all)}</b> {all === 1 ? 'material' : 'materials'} can cross to {view.name}.{' '}
        </>
      ) : (
        <>
          <b>{count(measured.length - far)}</b> of {many(measured.length, 'material')}{' '}
          {measured.length === 1 ? 'crosses' : 'cross'} to {view.name} within the limit.{' '}
          {far > 0 && (
            <em>
              {count(far)} {far === 1 ? 'moves' : 'move'} too far.{' '}
            </em>
          )}
        </>
      )}
      {view.blockers > 0 ? (
        <>
          <Link to={`/findings/${sceneId}`}>Mend {many(view.blockers, 'blocker')}</Link> first.
        </>
      ) : (
        view.measured < all &&
        !work && (
          <button type="button" onClick={onMeasure}>
            Measure {view.measured === 0 ? 'how far they move' : `the other ${count(all - view.measured)}`}
          </button>
        )
      )}
    </>
  );
}
