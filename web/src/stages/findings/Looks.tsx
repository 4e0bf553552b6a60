import { Hint } from '../../parts/Hint';
import { Sphere, useSwatch } from '../../parts/Swatch';

interface LooksProps {
  sceneId: string;
  material: string;
  /** The finding whose fix is held beside it; undefined when it has none. */
  finding: string | undefined;
}

const size = 104;

/** How the material looks now and with the fix, and how far apart both are. */
export function Looks({ sceneId, material, finding }: LooksProps) {
  const now = useSwatch(sceneId, `/api/scenes/${sceneId}/swatch`, { material }, size);
  const after = useSwatch(sceneId, finding && `/api/scenes/${sceneId}/audit/swatch`, { finding: finding ?? '' }, size);
  const difference = after?.source && after.difference;
  const about = [...new Set([...(now?.told ?? []), ...(after?.told ?? [])])];
  return (
    <figure aria-label={`How ${material} looks`}>
      <figcaption className="mb-1.5 text-[12px] text-quiet">
        {after?.source ? 'Now, and after the fix' : 'As it looks now'}
        {difference && (
          <Hint
            text={
              <>
                CIEDE2000 over the sphere: mean {difference.mean.toFixed(1)}, 95 of 100 pixels up to{' '}
                {difference.high.toFixed(1)}, largest {difference.most.toFixed(1)}. {about.join(' ')}
              </>
            }
          >
            <b tabIndex={0} className="ml-2 font-[680] text-ink underline decoration-dotted underline-offset-2">
              {difference.isSeen ? `ΔE ${difference.mean.toFixed(1)}` : 'looks the same'}
            </b>
          </Hint>
        )}
      </figcaption>
      <div className="field flex w-fit">
        <Sphere loaded={now} size={size} alt={`${material} now`} />
        {after?.source && <Sphere loaded={after} size={size} alt={`${material} with the fix`} />}
      </div>
    </figure>
  );
}
