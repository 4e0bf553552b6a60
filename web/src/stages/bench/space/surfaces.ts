import * as THREE from 'three';
import type { ViewedLook } from '../../../api/client';
import { hatches, type Marked } from './overlays';

/** Of the base colour's picture that a cell of the checker covers. */
const cell = 64;

/** Cells along a side of the checker's picture. */
const cells = 8;

const wraps: Record<string, THREE.Wrapping> = {
  repeat: THREE.RepeatWrapping,
  mirror: THREE.MirroredRepeatWrapping,
  clamp: THREE.ClampToEdgeWrapping,
  black: THREE.ClampToEdgeWrapping,
  fromFile: THREE.RepeatWrapping,
};

/** Lays a picture as a material says: from glTF's coordinates to its own, `times` of them in one. */
function laid(texture: THREE.Texture, look: ViewedLook, uv: number, times: readonly [number, number] = [1, 1]) {
  const [a = 1, b = 0, c = 0, d = 0, e = 1, f = 0] = look.map?.matrix ?? [];
  const [u, v] = times;
  texture.matrixAutoUpdate = false;
  texture.matrix.set(a * u, b * u, c * u, d * v, e * v, f * v, 0, 0, 1);
  texture.channel = Math.min(uv, 3);
  texture.flipY = false;
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 4;
  return texture;
}

/** A picture of a look, once its bytes are there. */
export function pictureOf(image: HTMLImageElement, look: ViewedLook, uv: number): THREE.Texture {
  const texture = laid(new THREE.Texture(image), look, uv);
  texture.wrapS = wraps[look.map?.wrapU ?? 'repeat'] ?? THREE.RepeatWrapping;
  texture.wrapT = wraps[look.map?.wrapV ?? 'repeat'] ?? THREE.RepeatWrapping;
  texture.needsUpdate = true;
  return texture;
}

/** As much of a look as is shown while the scene is turned. */
export function surfaceOf(look: ViewedLook | undefined, picture: THREE.Texture | undefined, isFlat: boolean) {
  const [r = 0.5, g = 0.5, b = 0.5] = look?.colour ?? [];
  const [er = 0, eg = 0, eb = 0] = look?.emission ?? [];
  const opacity = look?.opacity ?? 1;
  return new THREE.MeshStandardMaterial({
    color: new THREE.Color(r, g, b),
    metalness: look?.metalness ?? 0,
    roughness: look?.roughness ?? 0.7,
    emissive: new THREE.Color(er, eg, eb),
    map: picture ?? null,
    alphaTest: look?.isCutOut && picture ? 0.5 : 0,
    // What lets all light through still shows where it is.
    opacity: Math.max(0.12, opacity),
    transparent: opacity < 1,
    depthWrite: opacity >= 1,
    flatShading: isFlat,
    side: THREE.DoubleSide,
  });
}

/** Numbered cells in greys: stretched, mirrored and turned coordinates show at once. */
export function checkerOf(look: ViewedLook | undefined, picture: HTMLCanvasElement, uv: number) {
  const size = (pixels: number | undefined) => (pixels ? pixels / cell / cells : 1);
  const texture = laid(new THREE.CanvasTexture(picture), look ?? nothing, uv, [
    size(look?.map?.width),
    size(look?.map?.height),
  ]);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  return new THREE.MeshStandardMaterial({ map: texture, roughness: 0.9, side: THREE.DoubleSide });
}

const nothing = { map: null } as unknown as ViewedLook;

export function checkerPicture(): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  const side = 64;
  canvas.width = canvas.height = side * cells;
  const context = canvas.getContext('2d');
  if (!context) return canvas;
  context.font = '600 24px sans-serif';
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (let y = 0; y < cells; y++)
    for (let x = 0; x < cells; x++) {
      const isDark = (x + y) % 2 === 1;
      context.fillStyle = isDark ? '#5a5a5a' : '#c8c8c8';
      context.fillRect(x * side, y * side, side, side);
      context.fillStyle = isDark ? '#f0f0f0' : '#1b1b1b';
      context.fillText(`${'ABCDEFGH'[x] ?? ''}${y + 1}`, (x + 0.5) * side, (y + 0.5) * side);
    }
  return canvas;
}

/** Grey with a hatch that lies on the screen: it needs no coordinates, and is never taken for a look. */
export function markedSurface({ hatch, grey }: Marked): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    uniforms: { hatch: { value: hatches.indexOf(hatch) }, grey: { value: grey } },
    side: THREE.DoubleSide,
    vertexShader: `
      varying vec3 facing;
      void main() {
        facing = normalMatrix * normal;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: `
      uniform int hatch;
      uniform float grey;
      varying vec3 facing;
      float line(float at) { return step(5.6, mod(at, 8.0)); }
      void main() {
        vec2 p = gl_FragCoord.xy;
        float ink = 0.0;
        if (hatch == 1) ink = line(p.x + p.y);
        else if (hatch == 2) ink = step(length(mod(p, 7.0) - 3.5), 1.6);
        else if (hatch == 3) ink = line(p.y);
        else if (hatch == 4) ink = line(p.x);
        else if (hatch == 5) ink = max(line(p.x + p.y), line(p.x - p.y));
        else if (hatch == 6) ink = line(p.y + 3.0 * sin(p.x * 0.4));
        float light = 0.55 + 0.45 * abs(normalize(facing).z);
        float ground = grey * light;
        gl_FragColor = vec4(vec3(mix(ground, grey > 0.5 ? ground * 0.3 : ground + 0.4, ink)), 1.0);
      }`,
  });
}

/** How often what is outlined is drawn once more, each time a little to another side and behind itself. */
const times = 8;

/**
 * Surfaces that together are a white line around what they are put on, as wide as that many pixels wherever it stands. They ask neither
 * for normals nor for winding: of many meshes both are wrong.
 */
export function outlineSurfaces(width: number): THREE.ShaderMaterial[] {
  return Array.from({ length: times }, (_, i) => {
    const turn = (i / times) * 2 * Math.PI;
    const aside = new THREE.Vector2(Math.cos(turn), Math.sin(turn)).multiplyScalar(width);
    return new THREE.ShaderMaterial({
      uniforms: { aside: { value: aside }, size: { value: new THREE.Vector2(1, 1) } },
      side: THREE.DoubleSide,
      vertexShader: `
        uniform vec2 aside;
        uniform vec2 size;
        void main() {
          // Farther from the eye it lies behind itself, at the same place of the screen.
          vec4 seen = modelViewMatrix * vec4(position, 1.0);
          vec4 place = projectionMatrix * vec4(seen.xyz * 1.02, 1.0);
          place.xy += aside * 2.0 / size * place.w;
          gl_Position = place;
        }`,
      fragmentShader: 'void main() { gl_FragColor = vec4(1.0); }',
    });
  });
}
