import { useState } from 'react';
import { Sphere, useSwatch } from '../../parts/Swatch';
import { useRest } from './rest';
import { useShape } from './useShape';

interface SheetSwatchProps {
  sceneId: string;
  material: string;
  size: number;
}

/** A material on the shape that was chosen. It is asked for once the sheet stands still: what is scrolled past costs nothing. */
export function SheetSwatch(props: SheetSwatchProps) {
  const [asked, setAsked] = useState(() => useRest.getState().still);
  const still = useRest((s) => asked || s.still);
  if (still && !asked) setAsked(true);
  return asked ? <Asked {...props} /> : <Sphere loaded={null} size={props.size} alt="" />;
}

function Asked({ sceneId, material, size }: SheetSwatchProps) {
  const of = { material, ...useShape(sceneId).query };
  const loaded = useSwatch(sceneId, `/api/scenes/${sceneId}/swatch`, of, size);
  return <Sphere loaded={loaded} size={size} alt="" />;
}
