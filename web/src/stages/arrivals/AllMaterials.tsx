import { useVirtualizer } from '@tanstack/react-virtual';
import { useState } from 'react';
import type { SceneDetail } from '../../api/client';
import { useMaterials } from '../../api/queries';
import { count, many } from '../../parts/format';
import { RisingSheet } from '../../parts/RisingSheet';
import { useSize } from '../../parts/useSize';
import { MaterialTile, useTile } from './MaterialTile';

/** Every material of a scene that has many; only those in view are drawn. */
export function AllMaterials({ scene, onClose }: { scene: SceneDetail; onClose: () => void }) {
  const tile = useTile();
  const rowHeight = tile + 42;
  const [find, setFind] = useState('');
  const [box, { width }] = useSize<HTMLDivElement>();
  const all = useMaterials(scene.id, true).data ?? [];
  const shown = all.filter((m) => `${m.name} ${m.model ?? ''}`.toLowerCase().includes(find.toLowerCase()));
  const across = Math.max(1, Math.floor((width - 12) / (tile + 8)));
  const rows = useVirtualizer({
    count: Math.ceil(shown.length / across),
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 2,
  });
  return (
    <RisingSheet
      open
      tall
      onOpenChange={onClose}
      title={many(all.length, 'material')}
      about={
        find ? `${count(shown.length)} of them` : 'In the order of the file. Each is drawn when it comes into view.'
      }
      aside={
        <input
          className="h-7 w-64 border border-rule bg-ground px-2 text-[13px]"
          placeholder="Find by name or shading model"
          aria-label="Find a material"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      }
    >
      <div
        ref={box}
        className="field min-h-0 flex-1 overflow-y-auto p-1.5"
        role="list"
        aria-label="All materials"
        tabIndex={0}
      >
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((v) => (
            <div
              key={v.index}
              className="absolute inset-x-0 flex justify-between"
              style={{ top: v.start, height: rowHeight }}
            >
              {Array.from({ length: across }, (_, i) => {
                const m = shown[v.index * across + i];
                return (
                  <div key={i} role={m ? 'listitem' : undefined} style={{ width: tile }}>
                    {m && <MaterialTile key={m.name} sceneId={scene.id} material={m} />}
                  </div>
                );
              })}
            </div>
          ))}
        </div>
      </div>
    </RisingSheet>
  );
}
