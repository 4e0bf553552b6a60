import { ToggleGroup } from 'radix-ui';
import type { SceneDetail } from '../../api/client';
import { useMakeLibrary } from '../../api/queries';
import { many } from '../../parts/format';
import { Hint } from '../../parts/Hint';
import { Swatch } from '../../parts/Swatch';
import { useSettings } from '../../state/settings';

type Material = SceneDetail['materialList'][number];

/** The materials of the scene as they look, on the field, and the light that all swatches are under. */
export function MaterialSheet({ scene }: { scene: SceneDetail }) {
  const make = useMakeLibrary(scene.id);
  if (scene.materialList.length === 0) return null;
  return (
    <section className="pt-5" aria-label="Its materials">
      <div className="mb-2 flex items-baseline gap-3">
        <h3 className="text-[15px] font-[680]">{many(scene.materials, 'material')}</h3>
        {scene.moreMaterials > 0 && (
          <span className="text-[12px] text-quiet">the first {scene.materialList.length} are shown</span>
        )}
        <span className="flex-1" />
        {scene.lacksLibrary && (
          <button type="button" className="act" onClick={() => make.mutate(undefined)}>
            Make a material library
          </button>
        )}
        <LightChoice />
      </div>
      <ul className="field grid grid-cols-[repeat(auto-fill,92px)] justify-between gap-y-2 p-1.5">
        {scene.materialList.map((m, i) => (
          <li key={`${m.name} ${i}`}>
            <Hint text={about(m)}>
              <span tabIndex={0} className="block">
                <Swatch sceneId={scene.id} material={m.name} size={92} />
                <span className="block truncate px-0.5 text-center text-[11px] leading-[14px] text-white">
                  {m.name}
                </span>
                {(m.isTemplate || m.template) && (
                  <span className="block truncate px-0.5 text-center text-[11px] leading-[14px] text-black">
                    {m.isTemplate ? `template of ${many(m.instances, 'material')}` : `as ${m.template}`}
                  </span>
                )}
              </span>
            </Hint>
          </li>
        ))}
      </ul>
    </section>
  );
}

function about(m: Material): string {
  const facts = [
    m.isTemplate ? `template of ${many(m.instances, 'material')}` : (m.model ?? 'not defined'),
    many(m.images, 'image'),
    m.template && `instance of ${m.template}`,
    m.locked && 'locked inside',
  ];
  return `${m.name}: ${facts.filter(Boolean).join(', ')}`;
}

/** One light for the swatches of every screen. */
function LightChoice() {
  const { light, set } = useSettings();
  return (
    <ToggleGroup.Root
      type="single"
      value={light}
      onValueChange={(value) => {
        if (value === 'studio' || value === 'dusk') set({ light: value });
      }}
      aria-label="Light of all swatches"
      className="flex gap-3 text-[12px]"
    >
      <span className="text-quiet">lit by</span>
      {(['studio', 'dusk'] as const).map((l) => (
        <ToggleGroup.Item key={l} value={l} className="text-quiet data-[state=on]:font-[680] data-[state=on]:text-ink">
          {l}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
