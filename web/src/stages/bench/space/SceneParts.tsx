import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { dress, type Dressing } from './dress';
import type { Model, Piece } from './useModels';

interface ScenePartsProps extends Dressing {
  models: readonly Model[];
  /** Counts pictures that have come. */
  pictures: number;
  onPick: (piece: Piece, together: boolean) => void;
}

/** What has been loaded, dressed as it is looked at; a click picks the part under the pointer. */
export function SceneParts({ models, pictures, onPick, ...dressing }: ScenePartsProps) {
  const { wearing, wardrobe, overlay, variant, reach, focus, held } = dressing;
  const invalidate = useThree((s) => s.invalidate);
  const size = useThree((s) => s.size);
  const lines = useMemo(() => new THREE.Group(), []);
  useEffect(() => {
    dress(models, lines, { wearing, wardrobe, overlay, variant, reach, focus, held });
    invalidate();
  }, [models, lines, wearing, wardrobe, overlay, variant, reach, focus, held, pictures, invalidate]);
  useFrame(() => {
    wardrobe.fit(size.width, size.height);
  });
  const pick = (event: ThreeEvent<MouseEvent>) => {
    // Whoever turned the scene did not click.
    if (event.delta > 3) return;
    event.stopPropagation();
    const piece = models.flatMap((m) => m.pieces).find((p) => p.mesh === event.object);
    if (piece) onPick(piece, event.ctrlKey || event.metaKey || event.shiftKey);
  };
  return (
    <>
      <group onClick={pick}>
        {models.map((m) => (
          <primitive key={m.file.number} object={m.root} dispose={null} />
        ))}
      </group>
      <primitive object={lines} dispose={null} />
    </>
  );
}
