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
  if (view.rows.length === 0) return <>Nothing has to cross to {view.name}.</>;
  // What waits in the ledger, or is taken over, needs no decision any more.
  const rows = view.rows.filter((r) => r.entry === null);
  const all = rows.length;
  if (all === 0)
    return (
      <>
        All <b>{count(view.rows.length)}</b> are {view.rows.some((r) => r.isPending) ? 'to be carried' : 'carried'} to{' '}
        {view.name}. <Link to={`/send-off/${sceneId}`}>Go on to Send-off</Link>.
      </>
    );
  const measured = rows.filter((r) => r.moved);
  const open = rows.filter((r) => !r.isMeasured).length;
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
          {measured.length === 1 ? 'crosses' : 'cross'} within the limit.{' '}
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
        open > 0 &&
        !work && (
          <button type="button" onClick={onMeasure}>
            Measure {open === all ? 'how far they move' : `the other ${count(open)}`}
          </button>
        )
      )}
    </>
  );
}
