import type { MusterView } from '../../api/client';
import { capital, count, inWords } from '../../parts/format';
import { useFocus } from '../../state/focus';
import { within } from './acts/inFocus';

interface MusterCallProps {
  view: MusterView | undefined;
  /** Numbers of the references in focus; null for all. */
  focus: ReadonlySet<number> | null;
  /** Takes the relinks of what is in focus. */
  onRelinkAll: () => void;
}

/** "52 of 158 references answer. Three relinks settle 86 more; 9 are missing." */
export function MusterCall({ view, focus, onRelinkAll }: MusterCallProps) {
  if (!view)
    return (
      <>
        <b className="mono">–</b> of <b className="mono">–</b> references answer.
      </>
    );
  const total = view.references.length;
  const of = (state: string) => view.totals.find((t) => t.state === state)?.count ?? 0;
  if (total === 0) return <>The scene calls for no files.</>;
  const standIns = view.references.filter((r) => r.flags.includes('stand-in')).length;
  const changed = view.references.filter((r) => r.flags.includes('changed'));
  if (view.answering === total && standIns === 0)
    return (
      <>
        {total === 1 ? (
          'The one reference answers.'
        ) : (
          <>
            Every one of <b>{count(total)}</b> references answers.
          </>
        )}
        <Changed references={changed} />
      </>
    );
  const open = view.bundles.filter((b) => b.state === 'elsewhere' && b.entry === null && within(b, focus).length > 0);
  const settled = open.reduce((n, b) => n + within(b, focus).length, 0);
  const pending = view.references.filter((r) => r.entry !== null).length;
  const broken = [
    of('missing') > 0 && `${count(of('missing'))} ${of('missing') === 1 ? 'is' : 'are'} missing`,
    of('damaged') > 0 && `${count(of('damaged'))} damaged`,
    standIns > 0 && `${count(standIns)} ${standIns === 1 ? 'stands' : 'stand'} in`,
  ].filter(Boolean);
  return (
    <>
      <b>{count(view.answering - standIns)}</b> of {count(total)} references{' '}
      {view.answering - standIns === 1 ? 'answers' : 'answer'}.{' '}
      {open.length > 0 && (
        <>
          <button type="button" onClick={onRelinkAll} title="Put all of them into the ledger">
            {capital(inWords(open.length))} {open.length === 1 ? 'relink' : 'relinks'}
          </button>{' '}
          {open.length === 1 ? 'settles' : 'settle'} <b>{count(settled)}</b> more{focus && ' in focus'}
          {broken.length > 0 ? '; ' : '.'}
        </>
      )}
      {open.length === 0 && pending > 0 && (
        <>
          <b>{count(pending)}</b> {pending === 1 ? 'is' : 'are'} decided and pending
          {broken.length > 0 ? '; ' : '.'}
        </>
      )}
      {broken.length > 0 && (
        <>
          <em>{broken.join(', ')}</em>.
        </>
      )}
      <Changed references={changed} />
    </>
  );
}

/** Files that were written over since somebody looked; pressing it narrows the list to them. */
function Changed({ references }: { references: MusterView['references'] }) {
  const narrow = useFocus((s) => s.narrow);
  if (references.length === 0) return null;
  const n = references.length;
  return (
    <>
      {' '}
      <button
        type="button"
        onClick={() =>
          narrow({ bundle: { name: 'changed since last look', numbers: new Set(references.map((r) => r.number)) } })
        }
      >
        {n === 1 ? 'One file' : `${count(n)} files`}
      </button>{' '}
      changed.
    </>
  );
}
