import { useReadyView, useSceneView } from '../../api/space';
import { useSettings, type Shape } from '../../state/settings';
import { useShapeOn } from '../../state/shapeOn';

/** What shapes are called; the object by its own name. */
export const shapeWords: Record<Shape, string> = {
  sphere: 'sphere',
  slab: 'slab',
  drape: 'drape',
  own: 'what wears it',
  object: 'one object',
};

interface ShownOn {
  /** Said in addresses of pictures; empty on a sphere. */
  query: Readonly<Record<string, string>>;
  shape: Shape;
  /** Those that there are. */
  choices: Shape[];
  /** Of the object that was chosen. */
  object: string | undefined;
}

/** What the scene's swatches are shown on. */
export function useShape(sceneId: string): ShownOn {
  const shape = useSettings((s) => s.shape);
  const chosen = useShapeOn((s) => s.on);
  const on = chosen?.sceneId === sceneId ? chosen : undefined;
  const isObject = shape === 'own' || (shape === 'object' && on !== undefined);
  const print = useSceneView(sceneId, isObject).data?.made?.print;
  const word = shape === 'object' ? (on ? `object-${on.node}` : 'sphere') : shape;
  return {
    query: word === 'sphere' ? {} : { shape: word, ...(isObject && print !== undefined && { view: print }) },
    shape: shape === 'object' && !on ? 'sphere' : shape,
    choices: ['sphere', 'slab', 'drape', 'own', ...(on ? (['object'] as const) : [])],
    object: on?.name,
  };
}

/** Objects of the scene can be shown on only once its geometry was made ready. */
export function useReadyShape(sceneId: string) {
  const { shape } = useShape(sceneId);
  const wanted = shape === 'own' || shape === 'object';
  useReadyView(sceneId, useSceneView(sceneId, wanted).data?.made === null);
}
