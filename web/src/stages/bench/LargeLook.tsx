import type { BenchItem } from '../../api/client';
import { useSize } from '../../parts/useSize';
import { GrowingSwatch } from './GrowingSwatch';
import { Name, Said } from './Tile';

interface LargeLookProps {
  sceneId: string;
  row: BenchItem;
  drafts: Readonly<Record<string, number[]>>;
  inFocus: boolean;
  onClose: () => void;
}

/** One material alone on the field, as large as there is room. */
export function LargeLook({ sceneId, row, drafts, inFocus, onClose }: LargeLookProps) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  return (
    <div ref={box} className="field relative flex h-full flex-col items-center justify-center overflow-hidden">
      <button type="button" className="absolute right-4 top-3 text-[12.5px] font-semibold text-white" onClick={onClose}>
        Back to the sheet <kbd className="!border-white !text-white">Esc</kbd>
      </button>
      <GrowingSwatch
        sceneId={sceneId}
        material={row.name}
        size={Math.max(120, Math.min(width - 60, height - 70, 640))}
        drafts={drafts}
        alt={row.title}
      />
      <Name row={row} inFocus={inFocus} large />
      <Said row={row} isStranger={false} moved={undefined} />
    </div>
  );
}
