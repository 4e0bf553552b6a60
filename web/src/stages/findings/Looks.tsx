import { Hint } from '../../parts/Hint';
import { Sphere, useSwatch } from '../../parts/Swatch';

interface LooksProps {
  sceneId: string;
  material: string;
  /** The finding whose fix is held beside it; undefined when it has none. */
  finding: string | undefined;
}

const size = 120;

/** Less than this nobody sees, side by side. */
const seen = 0.5;

/** How the material looks now and with the fix, and how far apart both are. */
export function Looks({ sceneId, material, finding }: LooksProps) {
  const now = useSwatch(sceneId, `/api/scenes/${sceneId}/swatch`, { material }, size);
  const after = useSwatch(sceneId, finding && `/api/scenes/${sceneId}/audit/swatch`, { finding: finding ?? '' }, size);
  const difference = after?.difference;
  return (
    <figure aria-label={`How ${material} looks`}>
      <div className="field flex w-fit">
        <Sphere loaded={now} size={size} alt={`${material} now`} />
        {after?.source && <Sphere loaded={after} size={size} alt={`${material} with the fix`} />}
      </div>
      <figcaption className="mt-1 flex text-[11.5px] text-quiet">
        <span style={{ width: size }}>now</span>
        {after?.source && (
          <span className="flex-1">
            after
            {difference && (
              <Hint
                text={`CIEDE2000 over the sphere: mean ${difference.mean.toFixed(1)}, 95 of 100 pixels up to ${difference.high.toFixed(1)}, largest ${difference.most.toFixed(1)}.`}
              >
                <span tabIndex={0} className="ml-2 text-ink">
                  {difference.most < seen ? 'looks the same' : `ΔE ${difference.mean.toFixed(1)}`}
                </span>
              </Hint>
            )}
          </span>
        )}
      </figcaption>
    </figure>
  );
}
