import clsx from 'clsx';
import { Hint } from '../../parts/Hint';

interface RungProps {
  kind: 'exact' | 'approximate' | 'lost' | 'set';
  detail: string;
  isClamped: boolean;
}

/** What lies between two rails: two lines where nothing is lost, a wave where a formula comes near, a fray where it ends. */
export function Rung({ kind, detail, isClamped }: RungProps) {
  const words = [detail, isClamped && 'cut off at the range'].filter(Boolean).join('; ');
  // Its source stands behind it, for whoever asks.
  const short = (detail.split('; ')[0] ?? detail).replace(/ \([^()]{12,}\)$/, '') || words;
  return (
    <div className="relative flex items-center justify-center px-1.5">
      <Line kind={kind} />
      {words !== '' && (
        <Hint text={words}>
          <span
            tabIndex={0}
            className={clsx(
              'relative max-w-[78%] truncate bg-ground px-2 text-[11.5px]',
              kind === 'exact' ? 'mono text-quiet' : kind === 'lost' ? 'text-clay' : 'text-soft',
            )}
          >
            {short}
          </span>
        </Hint>
      )}
      <span className="sr-only">{kind}</span>
    </div>
  );
}

function Line({ kind }: { kind: RungProps['kind'] }) {
  const dots = (
    <>
      <span className="absolute -left-[5px] top-1/2 size-2 -translate-y-1/2 rounded-full border-[1.5px] border-ink bg-ground" />
      {kind !== 'lost' && (
        <span className="absolute -right-[5px] top-1/2 size-2 -translate-y-1/2 rounded-full border-[1.5px] border-ink bg-ground" />
      )}
    </>
  );
  if (kind === 'exact' || kind === 'set')
    return (
      <>
        <span
          className={clsx(
            'absolute inset-x-1 top-1/2 h-[5px] -translate-y-1/2 border-y',
            kind === 'set' ? 'border-dashed border-lichen' : 'border-soft',
          )}
        />
        {dots}
      </>
    );
  return (
    <>
      <svg className="absolute inset-x-1 top-1/2 h-3 w-[calc(100%-8px)] -translate-y-1/2" aria-hidden="true">
        {kind === 'approximate' ? (
          <>
            <defs>
              <pattern id="wave" width="18" height="12" patternUnits="userSpaceOnUse">
                <path d="M0 6C3 2 6 2 9 6S15 10 18 6" fill="none" stroke="var(--rc-ink)" strokeWidth="1.4" />
              </pattern>
            </defs>
            <rect width="100%" height="12" fill="url(#wave)" />
          </>
        ) : (
          <path d="M0 6H62M62 6L78 1M62 6L80 5M62 6L79 10" fill="none" stroke="var(--rc-clay)" strokeWidth="1.4" />
        )}
      </svg>
      {dots}
    </>
  );
}
