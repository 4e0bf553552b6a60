import type { ReactNode } from 'react';
import { many } from '../parts/format';
import { useFocus } from '../state/focus';

/** What is picked, as beads on the thread; × takes one off. */
export function FocusLine({ children }: { children?: ReactNode }) {
  const { files, materials, bundle, narrow, clearFiles } = useFocus();
  const nothing = files.size === 0 && materials.size === 0 && !bundle;
  const [only] = materials;
  return (
    <div className="absolute left-7 top-[82px] flex h-6 items-center gap-2.5">
      <span className="bg-ground pr-2 text-[12px] leading-6 text-quiet">Focus</span>
      {nothing && (
        <span className="rounded-xl border-[1.5px] border-ink bg-ground px-3 text-[12px] leading-[21px]">
          whole scene
        </span>
      )}
      {files.size > 0 && <Chip label={many(files.size, 'file')} off={clearFiles} />}
      {materials.size > 0 && (
        <Chip
          label={materials.size === 1 && only !== undefined ? only : many(materials.size, 'material')}
          off={() => narrow({ materials: new Set() })}
        />
      )}
      {bundle && <Chip label={bundle.name} off={() => narrow({ bundle: undefined })} />}
      {children}
    </div>
  );
}

function Chip({ label, off }: { label: string; off: () => void }) {
  return (
    <span className="flex h-6 items-center gap-1.5 rounded-xl border-[1.5px] border-ink bg-ground pl-3 pr-1 text-[12px]">
      <span className="max-w-52 truncate">{label}</span>
      <button
        type="button"
        aria-label={`Take ${label} off the focus`}
        className="mono size-[18px] rounded-full text-quiet hover:text-ink"
        onClick={off}
      >
        ×
      </button>
    </span>
  );
}
