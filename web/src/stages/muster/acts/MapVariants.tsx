import type { VariantOption } from '../../../api/client';
import { useMapVariants, useMusterActs } from '../../../api/queries';
import { bytes, capital, count, many } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';
import { focusWords } from './inFocus';

interface MapVariantsProps {
  sceneId: string;
  numbers: number[] | null;
  all: number;
  onClose: () => void;
}

const kinds = ['resolution', 'colour', 'skin'];

/** Siblings of the files in use that differ by one token: switch one, the focus or all. */
export function MapVariants({ sceneId, numbers, all, onClose }: MapVariantsProps) {
  const variants = useMapVariants(sceneId, numbers);
  const { switchVariant } = useMusterActs(sceneId);
  const options = variants.data ?? [];
  return (
    <RisingSheet
      open
      onOpenChange={onClose}
      title="Variants"
      about={`Files beside those in use that differ only by a resolution, a colour or a skin. For ${focusWords(numbers, all)}.`}
    >
      <div className="min-h-0 overflow-y-auto">
        {variants.data && options.length === 0 && (
          <p className="pt-4 text-[17px] text-soft">
            No file in use has a sibling of another resolution, colour or skin.
          </p>
        )}
        {kinds
          .filter((kind) => options.some((o) => o.kind === kind))
          .map((kind) => (
            <Kind
              key={kind}
              kind={kind}
              options={options.filter((o) => o.kind === kind)}
              busy={switchVariant.isPending}
              onSwitch={(value) => switchVariant.mutate({ kind, value, numbers }, { onSuccess: onClose })}
            />
          ))}
        <p className="pt-3 text-[12px] text-quiet">
          Memory is what the decoded images take uncompressed with all smaller levels of a mip chain, four thirds of the
          largest.
        </p>
      </div>
    </RisingSheet>
  );
}

interface KindProps {
  kind: string;
  options: VariantOption[];
  busy: boolean;
  onSwitch: (value: string) => void;
}

const grid = 'grid grid-cols-[180px_90px_minmax(0,1fr)_minmax(0,1fr)_150px] items-center gap-x-4';

function Kind({ kind, options, busy, onSwitch }: KindProps) {
  const most = Math.max(...options.flatMap((o) => [o.bytesBefore, o.bytesAfter]));
  return (
    <section aria-label={capital(kind)} className="pb-4">
      <div className={`${grid} h-6 border-b border-hair text-[11.5px] text-quiet`}>
        <h3 className="text-[13px] font-[680] text-ink">{capital(kind)}</h3>
        <span className="text-right">In use</span>
        <span>On disk, now and after</span>
        <span>In memory, now and after</span>
        <span />
      </div>
      {options.map((o) => (
        <div key={o.value} className={`${grid} min-h-9 border-b border-hair text-[12.5px]`}>
          <span className="mono">{o.value || `no ${kind} named`}</span>
          <span className="mono text-right text-soft">{count(o.using)}</span>
          <Bars before={o.bytesBefore} after={o.bytesAfter} most={most} />
          <Bars
            before={o.memoryBefore}
            after={o.memoryAfter}
            most={Math.max(...options.flatMap((x) => [x.memoryBefore, x.memoryAfter]))}
          />
          <button
            type="button"
            className="key outlined justify-self-end"
            disabled={busy}
            onClick={() => onSwitch(o.value)}
          >
            Switch {many(o.references, 'file')}
          </button>
        </div>
      ))}
    </section>
  );
}

/** Two bars on one scale: soft for now, ink for after. */
function Bars({ before, after, most }: { before: number; after: number; most: number }) {
  return (
    <span className="grid grid-cols-[minmax(0,1fr)_150px] items-center gap-x-3">
      <span className="grid gap-[3px]" aria-hidden="true">
        <span className="h-1 bg-rule" style={{ width: `${(before / Math.max(1, most)) * 100}%` }} />
        <span className="h-1 bg-ink" style={{ width: `${(after / Math.max(1, most)) * 100}%` }} />
      </span>
      <span className="mono text-[11.5px] text-soft">
        {bytes(before)}, then <b className="font-semibold text-ink">{bytes(after)}</b>
      </span>
    </span>
  );
}
