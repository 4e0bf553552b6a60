import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useImperativeHandle, useMemo, type Ref } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';

/** What keys and buttons do with the camera. */
export interface Walking {
  /** Looks at a box so that all of it is in view. */
  frame: (box: THREE.Box3) => void;
  /** Nearer for below 1, farther for above. */
  dolly: (by: number) => void;
  /** Around what is looked at, in degrees. */
  turn: (degrees: number) => void;
}

interface WalkProps {
  ref: Ref<Walking>;
  /** The camera has come to rest there. */
  onRest: (at: THREE.Vector3) => void;
}

const rest = 300;

/** How much of the window's width and height a framed box takes at most. */
const filled = 0.9;

/** From the middle of a box to where all of it is in view, on the side that it is looked at from. */
function fitting(box: THREE.Box3, camera: THREE.PerspectiveCamera, from: THREE.Vector3): THREE.Vector3 {
  const back = from.lengthSq() > 0 ? from.normalize() : new THREE.Vector3(0.6, 0.35, 1).normalize();
  const right = new THREE.Vector3(0, 1, 0).cross(back).normalize();
  const up = back.clone().cross(right);
  const tall = Math.tan((camera.fov * Math.PI) / 360) * filled;
  const half = box.getSize(new THREE.Vector3()).divideScalar(2);
  let far = 1e-6;
  for (let corner = 0; corner < 8; corner++) {
    const at = new THREE.Vector3(corner & 1 ? 1 : -1, corner & 2 ? 1 : -1, corner & 4 ? 1 : -1).multiply(half);
    const wide = Math.max(Math.abs(at.dot(right)) / camera.aspect, Math.abs(at.dot(up)));
    far = Math.max(far, wide / tall + at.dot(back));
  }
  return back.multiplyScalar(far);
}

/** Orbits by pointer, keys and buttons; the scene is drawn only when something moved. */
export function Walk({ ref, onRest }: WalkProps) {
  const camera = useThree((s) => s.camera) as THREE.PerspectiveCamera;
  const canvas = useThree((s) => s.gl.domElement);
  const invalidate = useThree((s) => s.invalidate);
  const orbit = useMemo(() => {
    const made = new OrbitControls(camera, canvas);
    made.enableDamping = false;
    made.zoomToCursor = true;
    return made;
  }, [camera, canvas]);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const moved = () => {
      invalidate();
      clearTimeout(timer);
      timer = setTimeout(() => onRest(camera.position.clone()), rest);
    };
    orbit.addEventListener('change', moved);
    return () => {
      clearTimeout(timer);
      orbit.removeEventListener('change', moved);
    };
  }, [orbit, camera, invalidate, onRest]);
  useEffect(() => () => orbit.dispose(), [orbit]);
  useImperativeHandle(ref, () => {
    const away = () => camera.position.clone().sub(orbit.target);
    return {
      frame: (box) => {
        if (box.isEmpty()) return;
        box.getCenter(orbit.target);
        camera.position.copy(orbit.target).add(fitting(box, camera, away()));
        orbit.update();
      },
      dolly: (by) => {
        camera.position.copy(orbit.target).add(away().multiplyScalar(by));
        orbit.update();
      },
      turn: (degrees) => {
        const turned = away().applyAxisAngle(new THREE.Vector3(0, 1, 0), (degrees * Math.PI) / 180);
        camera.position.copy(orbit.target).add(turned);
        orbit.update();
      },
    };
  }, [camera, orbit]);
  // Near and far follow the distance: a nut and a valley are both seen without steps in their depth.
  useFrame(({ camera }) => {
    if (!(camera instanceof THREE.PerspectiveCamera)) return;
    const far = camera.position.distanceTo(orbit.target);
    camera.near = Math.max(far / 1000, 1e-6);
    camera.far = far * 1000;
    camera.updateProjectionMatrix();
  });
  return null;
}
