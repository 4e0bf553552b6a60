import clsx from 'clsx';
import { useEffect, useRef } from 'react';
import type { AuditView, CauseItem } from '../../api/client';
import { count, many } from '../../parts/format';
import { Reports } from '../../parts/Reports';
import { Glyph } from '../../parts/Glyph';

interface CauseListProps {
  sceneId: string;
  causes: readonly CauseItem[];
  coverage: string;
  failed: AuditView['failed'];
  current: string | undefined;
  onPick: (key: string) => void;
}

const meaning: Record<string, string> = {
  blocker: 'stop the render or falsify it',
  warning: 'change the look',
  note: 'cost room, time or order',
};

/** Causes as sentences, the worst first; those that are waived stand last. */
export function CauseList({ sceneId, causes, coverage, failed, current, onPick }: CauseListProps) {
  const open = causes.filter((c) => c.waived === null);
  const waived = causes.filter((c) => c.waived !== null);
  return (
    <nav aria-label="Causes" className="min-h-0 overflow-y-auto overflow-x-hidden pr-[26px]">
      {['blocker', 'warning', 'note'].map((severity) => {
        const own = open.filter((c) => c.severity === severity);
        return (
          own.length > 0 && (
            <section key={severity} className="mb-2.5">
              <h2
                className={clsx(
                  'flex h-[22px] items-center gap-[7px] border-b border-hair pb-1 text-[12.5px]',
                  severity === 'blocker' && 'text-clay',
                )}
              >
                <Glyph name={severity} />
                <b className="font-[680]">{severity}</b>
                <span className="text-quiet">
                  {many(own.length, 'cause')}{' '}
                  {own.length === 1 ? meaning[severity]?.replace(/^(\w+?)( |$)/, '$1s$2') : meaning[severity]}
                </span>
              </h2>
              {own.map((c) => (
                <Cause key={c.key} cause={c} current={c.key === current} onPick={onPick} />
              ))}
            </section>
          )
        );
      })}
      {waived.length > 0 && (
        <section>
          <h2 className="flex h-[22px] items-center gap-[7px] border-b border-hair pb-1 text-[12.5px] text-quiet">
            waived
          </h2>
          {waived.map((c) => (
            <Cause key={c.key} cause={c} current={c.key === current} onPick={onPick} />
          ))}
        </section>
      )}
      <p className="mt-2 text-[12px] text-quiet">{coverage}</p>
      <Reports sceneId={sceneId} />
      {failed.map((f) => (
        <p key={f.rule} className="mt-2 flex gap-1.5 text-[12px] text-clay">
          <Glyph name="damaged" />
          {f.rule} could not be run: {f.reason} The other rules were.
        </p>
      ))}
    </nav>
  );
}

function Cause({ cause, current, onPick }: { cause: CauseItem; current: boolean; onPick: (key: string) => void }) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (current) button.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  const second = cause.waived !== null ? `Waived: ${cause.waived}` : cause.names;
  return (
    <button
      ref={button}
      type="button"
      aria-current={current || undefined}
      onClick={() => onPick(cause.key)}
      className={clsx(
        'relative grid w-full grid-cols-[54px_minmax(0,1fr)] items-start gap-x-3.5 pr-2 text-left',
        current ? 'my-1 bg-held py-2.5' : 'py-1.5 hover:bg-raise',
      )}
    >
      {current && <span className="absolute right-[-26px] top-1/2 w-[26px] border-t-2 border-ink" aria-hidden="true" />}
      <span
        className={clsx(
          'text-right tracking-[-.02em]',
          current ? 'text-[40px] font-[720] leading-[38px]' : 'text-[24px] font-[640] leading-6 text-soft',
        )}
      >
        {count(cause.count)}
      </span>
      <span className="min-w-0">
        <span className={`block ${current ? 'text-[17px] leading-[21px]' : 'text-[14px] leading-[18px]'}`}>
          {cause.sentence}
        </span>
        <span className={`block truncate text-[12px] leading-4 ${current ? 'text-soft' : 'text-quiet'}`}>
          {cause.pending !== null && <b className="font-semibold text-lichen">pending, entry {cause.pending}. </b>}
          {second}
        </span>
      </span>
    </button>
  );
}
