import { LookDistance, LookPair } from '../../parts/LookPair';
import { useGrown } from '../../parts/useGrown';
import { useSwatch } from '../../parts/Swatch';

interface LooksProps {
  sceneId: string;
  material: string;
  /** The finding whose fix is held beside it; undefined when it has none. */
  finding: string | undefined;
}

/** How the material looks now and with the fix, and how far apart both are. */
export function Looks({ sceneId, material, finding }: LooksProps) {
  const size = useGrown(104);
  const now = useSwatch(sceneId, `/api/scenes/${sceneId}/swatch`, { material }, size);
  const after = useSwatch(sceneId, finding && `/api/scenes/${sceneId}/audit/swatch`, { finding: finding ?? '' }, size);
  return (
    <figure aria-label={`How ${material} looks`}>
      <figcaption className="mb-1.5 text-[12px] text-quiet">
        {after?.source ? 'Now, and after the fix' : 'As it looks now'} <LookDistance before={now} after={after} />
      </figcaption>
      <LookPair material={material} before={now} after={after} size={size} second="with the fix" />
    </figure>
  );
}
