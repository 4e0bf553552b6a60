import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import * as THREE from 'three';

/** Boxes that give light in a grey room: what is mirrored has something to mirror. Place, size and brightness of each. */
const panels: [place: [number, number, number], size: [number, number, number], light: number][] = [
  [[0, 4.9, 0], [4, 0.1, 4], 14],
  [[-4.9, 1, 1], [0.1, 3, 5], 6],
  [[4.9, 0, -1], [0.1, 4, 3], 3],
  [[0, 1, 4.9], [5, 1, 0.1], 4],
];

/** The light of the view: one room for every scene, that says nothing of the scene's own. */
export function Room() {
  const get = useThree((s) => s.get);
  useEffect(() => {
    const { gl, scene, invalidate } = get();
    const room = new THREE.Scene();
    const box = new THREE.BoxGeometry();
    const walls = new THREE.Mesh(box, new THREE.MeshBasicMaterial({ color: 0x9a9a9a, side: THREE.BackSide }));
    walls.scale.setScalar(10);
    room.add(walls);
    for (const [place, size, light] of panels) {
      const panel = new THREE.Mesh(box, new THREE.MeshBasicMaterial({ color: new THREE.Color().setScalar(light) }));
      panel.position.set(...place);
      panel.scale.set(...size);
      room.add(panel);
    }
    const made = new THREE.PMREMGenerator(gl);
    const light = made.fromScene(room, 0.02);
    scene.environment = light.texture;
    scene.environmentIntensity = 0.42;
    invalidate();
    return () => {
      scene.environment = null;
      light.dispose();
      made.dispose();
      box.dispose();
    };
  }, [get]);
  return <directionalLight position={[2, 4, 3]} intensity={0.9} />;
}
