import type { BenchView } from '../../api/client';
import { count } from '../../parts/format';

interface BenchCallProps {
  view: BenchView | undefined;
  /** Those that somebody or a rule says are not as they should be. */
  strange: number;
  onStep: () => void;
}

/** "48 materials under one light. 5 do not look as they should." */
export function BenchCall({ view, strange, onStep }: BenchCallProps) {
  if (!view)
    return (
      <>
        <b className="mono">–</b> materials under one light.
      </>
    );
  const all = view.rows.length;
  if (all === 0) return <>The scene has no materials.</>;
  return (
    <>
      <b>{count(all)}</b> {all === 1 ? 'material' : 'materials'} under one light.{' '}
      {strange > 0 ? (
        <>
          <em>{count(strange)}</em> {strange === 1 ? 'does' : 'do'} not look as {strange === 1 ? 'it' : 'they'} should.{' '}
          <button type="button" onClick={onStep}>
            Step through {strange === 1 ? 'it' : 'them'}
          </button>
        </>
      ) : view.seen < all ? (
        <>
          <b>{count(all - view.seen)}</b> are not seen yet.
        </>
      ) : (
        <>All are seen and right.</>
      )}
    </>
  );
}
