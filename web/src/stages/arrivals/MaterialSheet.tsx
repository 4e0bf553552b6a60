import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import type { SceneDetail } from '../../api/client';
import { useColours, useMakeLibrary } from '../../api/queries';
import { count, many } from '../../parts/format';
import { lights, useSettings } from '../../state/settings';
import { AllMaterials } from './AllMaterials';
import { MaterialTile, useTile } from './MaterialTile';

/** The materials of the scene as they look, on the field, and the light that all swatches are under. */
export function MaterialSheet({ scene }: { scene: SceneDetail }) {
  const make = useMakeLibrary(scene.id);
  const tile = useTile();
  const [all, setAll] = useState(false);
  if (scene.materialList.length === 0) return null;
  return (
    <section className="pt-5" aria-label="Its materials">
      <div className="mb-2 flex items-baseline gap-3">
        <h3 className="text-[15px] font-[680]">{many(scene.materials, 'material')}</h3>
        {scene.moreMaterials > 0 && (
          <button type="button" className="act" onClick={() => setAll(true)}>
            See all {count(scene.materials)}
          </button>
        )}
        <span className="flex-1" />
        {scene.lacksLibrary && (
          <button type="button" className="act" onClick={() => make.mutate(undefined)}>
            Make a material library
          </button>
        )}
        <LightChoice />
      </div>
      <ul className="field grid gap-x-2 gap-y-2 p-1.5" style={{ gridTemplateColumns: `repeat(auto-fill, ${tile}px)` }}>
        {scene.materialList.map((m, i) => (
          <li key={`${m.name} ${i}`}>
            <MaterialTile sceneId={scene.id} material={m} />
          </li>
        ))}
      </ul>
      {all && <AllMaterials scene={scene} onClose={() => setAll(false)} />}
    </section>
  );
}

/** One light for the swatches of every screen. */
function LightChoice() {
  const { light, set } = useSettings();
  const colours = useColours().data;
  return (
    <ToggleGroup.Root
      type="single"
      value={light}
      onValueChange={(value) => {
        const chosen = lights.find((l) => l === value);
        if (chosen) set({ light: chosen });
      }}
      aria-label="Light of all swatches"
      className="flex gap-3 text-[12px]"
    >
      <span className="text-quiet">lit by</span>
      {lights.map((l) => (
        <ToggleGroup.Item key={l} value={l} className="text-quiet data-[state=on]:font-[680] data-[state=on]:text-ink">
          {l}
        </ToggleGroup.Item>
      ))}
      {colours?.config && (
        <span className="max-w-56 truncate text-quiet" title={`${colours.config} ${colours.view ?? ''}`}>
          through {colours.view ?? colours.config}
        </span>
      )}
    </ToggleGroup.Root>
  );
}
