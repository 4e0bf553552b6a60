import type { AuditView } from '../../api/client';
import { count, inWords } from '../../parts/format';

interface FindingsCallProps {
  view: AuditView | undefined;
  /** Findings in focus that have a safe fix; null when nothing is in focus. */
  safe: number | null;
  /** @param all Also what is not in focus. */
  onSafe: (all: boolean) => void;
}

/** "61 findings come from 9 causes. 3 of them block the render." */
export function FindingsCall({ view, safe, onSafe }: FindingsCallProps) {
  if (!view)
    return (
      <>
        <b className="mono">–</b> findings come from <b className="mono">–</b> causes.
      </>
    );
  const open = view.causes.filter((c) => c.waived === null);
  if (open.length === 0)
    return view.causes.length > 0 ? (
      <>Everything that was found is waived.</>
    ) : view.toMeasure > 0 ? (
      <>Nothing so far.</>
    ) : !view.isCovered ? (
      <>
        Nothing was found in what could be looked at. <Open view={view} />
      </>
    ) : (
      <>Nothing is wrong that the rules know of.</>
    );
  return (
    <>
      <b>{count(view.findings)}</b> {view.findings === 1 ? 'finding comes' : 'findings come'} from{' '}
      <b>{inWords(open.length)}</b> {open.length === 1 ? 'cause' : 'causes'}.{' '}
      {view.blockers > 0 && (
        <>
          <em>{view.blockers === view.findings ? 'All' : count(view.blockers)}</em>{' '}
          {view.blockers === 1 ? 'blocks' : 'block'} the render.{' '}
        </>
      )}
      <Open view={view} />
      {safe !== null && safe > 0 && (
        <button
          type="button"
          onClick={() => onSafe(false)}
          title="Put every fix in focus that is at least 0.9 sure into the ledger"
        >
          Fix the {count(safe)} safe in focus
        </button>
      )}
      {safe !== null && view.safe > safe && (
        <>
          {safe > 0 && ', or '}
          <button type="button" onClick={() => onSafe(true)} title="In focus or not">
            {safe > 0 ? `all ${count(view.safe)}` : `Fix the ${count(view.safe)} safe outside the focus`}
          </button>
        </>
      )}
      {safe === null && view.safe > 0 && (
        <button
          type="button"
          onClick={() => onSafe(true)}
          title="Put every fix that is at least 0.9 sure into the ledger"
        >
          Fix the {count(view.safe)} that {view.safe === 1 ? 'is' : 'are'} safe
        </button>
      )}
    </>
  );
}

/** Where maps did not come nothing is proven, and that is said with what was found. */
function Open({ view }: { view: AuditView }) {
  if (view.isCovered || view.toMeasure > 0 || view.openChecks === 0) return null;
  return (
    <span title={view.coverage}>
      <b>{count(view.openChecks)}</b> {view.openChecks === 1 ? 'check was' : 'checks were'} left open.{' '}
    </span>
  );
}
