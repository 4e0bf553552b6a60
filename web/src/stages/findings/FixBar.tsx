import type { CauseView } from '../../api/client';
import { count } from '../../parts/format';
import type { Sheet } from './sheets/sheet';

interface FixBarProps {
  view: CauseView;
  position: number;
  inFocus: number;
  busy: boolean;
  onFamily: () => void;
  onFocus: () => void;
  onThis: () => void;
  onWaive: () => void;
  onUnwaive: () => void;
  onOpen: (sheet: Sheet) => void;
}

/** The fix in words, its edits counted, its certainty, and its three reaches. */
export function FixBar({
  view,
  position,
  inFocus,
  busy,
  onFamily,
  onFocus,
  onThis,
  onWaive,
  onUnwaive,
  onOpen,
}: FixBarProps) {
  const { fix, cause, members } = view;
  const inHand = members[position];
  const fixable = fix.findings > 0;
  const waived = cause.waived !== null;
  return (
    <div className="mt-2.5 grid flex-none grid-cols-[minmax(0,1fr)_auto] gap-x-6 border-t-2 border-ink pt-2.5">
      <div className="min-w-0">
        <p className="leading-[18px]">
          {fixable ? (
            <>
              <b className="font-[680]">{inHand?.title ?? fix.title}.</b>
              {fix.findings > 1 && <> The same for {count(fix.findings)}.</>}
            </>
          ) : (
            <b className="font-[680]">Only a person can decide.</b>
          )}{' '}
          {inHand?.decide}
        </p>
        {fixable && (
          <p className="mt-0.5">
            <button type="button" className="act soft mono !text-[11.5px] !font-normal" onClick={() => onOpen('edits')}>
              {fix.count}
            </button>
          </p>
        )}
        <p className="mt-0.5 text-[12px] text-quiet">
          {fixable && <>Certainty {fix.certainty.toFixed(2)}. </>}
          {fix.left.length > 0 && fixable && <>{count(fix.left.length)} of the family are left to you. </>}
          {view.rule.source}
        </p>
      </div>
      <div className="grid content-start items-center justify-items-start gap-x-[18px] gap-y-2 [grid-template-columns:auto_auto]">
        {waived ? (
          <button type="button" className="act" onClick={onUnwaive}>
            Take the waiver back <kbd>W</kbd>
          </button>
        ) : cause.pending !== null ? (
          <span className="border border-dashed border-lichen px-2.5 py-1 text-[12.5px] text-lichen">
            pending, entry {cause.pending}
          </span>
        ) : !fixable ? (
          <button type="button" className="key" onClick={() => onOpen('hand')}>
            Choose by hand <kbd>C</kbd>
          </button>
        ) : (
          <button type="button" className="key" disabled={busy} onClick={onFamily}>
            {fix.findings > 1 ? `Fix all ${count(fix.findings)}` : 'Fix it'} <kbd>⇧F</kbd>
          </button>
        )}
        {!waived && cause.pending === null && (
          <>
            {fixable && (
              <>
                <button type="button" className="act" disabled={inFocus === 0 || busy} onClick={onFocus}>
                  Fix {inFocus > 0 ? `${count(inFocus)} in focus` : 'what is in focus'} <kbd>F</kbd>
                </button>
                <button
                  type="button"
                  className="act"
                  disabled={!inHand?.title || inHand.pending || busy}
                  onClick={onThis}
                >
                  Fix this one <kbd>T</kbd>
                </button>
                <button type="button" className="act soft" onClick={() => onOpen('hand')}>
                  Choose by hand <kbd>C</kbd>
                </button>
              </>
            )}
            <button type="button" className="act soft" onClick={onWaive}>
              Waive with a reason <kbd>W</kbd>
            </button>
          </>
        )}
      </div>
    </div>
  );
}
