import type { WorkItem } from '../../api/client';
import { Choose } from '../../parts/Choose';
import type { BenchShown } from './BenchTop';
import { count } from '../../parts/format';
import { OneOf } from '../../parts/OneOf';
import { WorkLine } from '../../parts/WorkLine';
import { lights, shapes, useSettings } from '../../state/settings';
import { shapeWords, useReadyShape, useShape } from './useShape';

interface SheetBarProps {
  sceneId: string;
  /** On which shape and in which light is chosen where it shows. */
  shown: BenchShown;
  seen: number;
  all: number;
  focus: number;
  onlyFocus: boolean;
  onFocus: (only: boolean) => void;
  /** Looks are being measured for an order. */
  work: WorkItem | undefined;
}

/** How much was seen, of what, on what and in which light. */
export function SheetBar({ sceneId, shown, seen, all, focus, onlyFocus, onFocus, work }: SheetBarProps) {
  const { light, set } = useSettings();
  const { shape, choices, object } = useShape(sceneId);
  useReadyShape(sceneId);
  return (
    <div className="flex h-9 items-center gap-5 bg-ground pl-7 text-[12.5px] text-quiet">
      <span className="flex items-center gap-2 whitespace-nowrap" role="status">
        <span className="h-0.5 w-14 bg-hair" aria-hidden="true">
          <span className="block h-0.5 bg-ink" style={{ width: `${all > 0 ? (100 * seen) / all : 0}%` }} />
        </span>
        seen {count(seen)} of {count(all)}
      </span>
      {focus > 0 && (
        <OneOf
          label="Which materials"
          value={onlyFocus ? 'focus' : 'all'}
          options={[
            ['all', 'all'],
            ['focus', `in focus ${focus}`],
          ]}
          onChoose={(v) => onFocus(v === 'focus')}
        />
      )}
      {work && <WorkLine item={work} verb="Measuring looks" />}
      <span className="flex-1" />
      {shown === 'sheet' && (
        <>
          <Choose
            label="Shape"
            value={shape}
            options={choices.map((s) => ({ value: s, words: s === 'object' && object ? object : shapeWords[s] }))}
            onChoose={(s) => set({ shape: shapes.find((x) => x === s) ?? 'sphere' })}
          />
          <kbd aria-hidden="true">S</kbd>
        </>
      )}
      {shown !== 'space' && (
        <>
          <Choose
            label="Light"
            value={light}
            options={lights.map((l) => ({ value: l, words: l }))}
            onChoose={(l) => set({ light: lights.find((x) => x === l) ?? 'studio' })}
          />
          <kbd aria-hidden="true">H</kbd>
        </>
      )}
    </div>
  );
}
