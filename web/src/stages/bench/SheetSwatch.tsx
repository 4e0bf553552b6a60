import { useState } from 'react';
import { Sphere, useSwatch } from '../../parts/Swatch';
import { useSettings } from '../../state/settings';

interface SheetSwatchProps {
  sceneId: string;
  material: string;
  size: number;
  /** The sheet is not being scrolled: what comes into view stays there. */
  still: boolean;
}

/** A material on the shape that was chosen. It is asked for once the sheet stands still: what is scrolled past costs nothing. */
export function SheetSwatch({ sceneId, material, size, still }: SheetSwatchProps) {
  const [asked, setAsked] = useState(still);
  if (still && !asked) setAsked(true);
  const shape = useSettings((s) => s.shape);
  const of = { material, ...(shape !== 'sphere' && { shape }) };
  const loaded = useSwatch(sceneId, asked ? `/api/scenes/${sceneId}/swatch` : undefined, of, size);
  return <Sphere loaded={loaded} size={size} alt="" />;
}
