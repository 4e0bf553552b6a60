import type { SendOffView } from '../../api/client';
import { bytes } from '../../parts/format';

/** The weight of the package on a scale of bytes: what is packed, and what equal contents save. */
export function Gauge({ before, after, files }: { before: number; after: number; files: SendOffView['files'] }) {
  const top = niceAbove(Math.max(before, after, 1));
  const part = (n: number) => `${(n / top) * 100}%`;
  const saved = before - after;
  return (
    <div role="img" aria-label={`${bytes(after)} packed of ${bytes(before)} that the scene calls for`}>
      <div className="relative h-[22px]">
        <span className="absolute inset-y-0 left-0 bg-soft" style={{ width: part(after) }} />
        {saved > 0 && (
          <span
            className="absolute inset-y-0 bg-[repeating-linear-gradient(-45deg,#7d7d7d_0_2px,transparent_2px_7px)]"
            style={{ left: part(after), width: part(saved) }}
          />
        )}
        <span className="mono absolute left-2 top-0.5 text-[12px] font-semibold leading-[18px] text-[#111]">
          {bytes(after)} in {files.length} files
        </span>
      </div>
      <div className="relative border-t border-rule text-[11px] leading-4 text-quiet">
        {[0, 0.2, 0.4, 0.6, 0.8, 1].map((t) => (
          <span
            key={t}
            className="mono absolute top-0.5 whitespace-nowrap"
            style={{ left: `${t * 100}%`, transform: `translateX(${-t * 100}%)` }}
          >
            {t === 0 ? '0' : bytes(top * t)}
          </span>
        ))}
      </div>
    </div>
  );
}

/** The next of 1, 2, 4, 5, 8 times a power of ten. */
function niceAbove(n: number): number {
  const power = 10 ** Math.floor(Math.log10(n));
  return ([1, 2, 4, 5, 8, 10].find((s) => s * power >= n) ?? 10) * power;
}
