import type { SceneDetail } from '../../api/client';
import { many } from '../../parts/format';
import { Hint } from '../../parts/Hint';
import { useGrown } from '../../parts/useGrown';
import { Swatch } from '../../parts/Swatch';

export type MaterialItem = SceneDetail['materialList'][number];

/** Side of a tile. */
export const useTile = () => useGrown(92);

/** A material as it looks, over its name. */
export function MaterialTile({ sceneId, material: m }: { sceneId: string; material: MaterialItem }) {
  const tile = useTile();
  return (
    <Hint text={about(m)}>
      <span tabIndex={0} className="block">
        <Swatch sceneId={sceneId} material={m.name} size={tile} />
        <span className="block truncate px-0.5 text-center text-[11px] leading-[14px] text-white">{m.name}</span>
        {(m.isTemplate || m.template) && (
          <span className="block truncate px-0.5 text-center text-[11px] leading-[14px] text-black">
            {m.isTemplate ? `template of ${many(m.instances, 'material')}` : `as ${m.template}`}
          </span>
        )}
      </span>
    </Hint>
  );
}

function about(m: MaterialItem): string {
  const facts = [
    m.isTemplate ? `template of ${many(m.instances, 'material')}` : (m.model ?? 'not defined'),
    many(m.images, 'image'),
    m.template && `instance of ${m.template}`,
    m.locked && 'locked inside',
  ];
  return `${m.name}: ${facts.filter(Boolean).join(', ')}`;
}
