import { useEffect, useRef, useState } from 'react';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import type { ViewFile } from '../../../api/client';
import { spaceFile } from '../../../api/space';

/** A placed part of a mesh, as the files say it. */
export interface Piece {
  mesh: THREE.Mesh<THREE.BufferGeometry, THREE.Material>;
  node: number;
  part: number;
  /** The file has no normals for it: its faces are flat. */
  isFlat: boolean;
}

export interface Model {
  file: ViewFile;
  root: THREE.Group;
  pieces: Piece[];
}

/** Loads files one after the other in the order given, and lets go of those that are not wanted any more. */
export function useModels(sceneId: string, print: string, files: readonly ViewFile[]): readonly Model[] {
  const [models, setModels] = useState<readonly Model[]>([]);
  const known = useRef(new Map<string, Model>());
  useEffect(() => {
    const all = known.current;
    const stop = new AbortController();
    const keyOf = (file: ViewFile) => `${print} ${file.number}`;
    const show = () => setModels(files.map((f) => all.get(keyOf(f))).filter((m) => m !== undefined));
    const load = async () => {
      const wanted = new Set(files.map(keyOf));
      for (const [key, model] of all)
        if (!wanted.has(key)) {
          all.delete(key);
          letGo(model);
        }
      show();
      for (const file of files) {
        if (all.has(keyOf(file))) continue;
        const answer = await fetch(spaceFile(sceneId, print, file.number), { signal: stop.signal });
        if (!answer.ok) continue;
        const model = await modelOf(file, await answer.arrayBuffer());
        if (stop.signal.aborted) return letGo(model);
        all.set(keyOf(file), model);
        show();
      }
    };
    load().catch((e: unknown) => {
      if (!stop.signal.aborted) throw e;
    });
    return () => stop.abort();
  }, [sceneId, print, files]);
  useEffect(() => {
    const all = known.current;
    return () => all.forEach(letGo);
  }, []);
  return models;
}

async function modelOf(file: ViewFile, bytes: ArrayBuffer): Promise<Model> {
  const { scene: root } = await new GLTFLoader().parseAsync(bytes, '');
  const pieces: Piece[] = [];
  root.updateMatrixWorld(true);
  root.traverse((o) => {
    o.matrixAutoUpdate = false;
    if (!(o instanceof THREE.Mesh)) return;
    const mesh = o as Piece['mesh'];
    mesh.material.dispose();
    const { geometry } = mesh;
    // Places that share a mesh share its geometry.
    const isFlat = geometry.userData.isFlat === true || !geometry.hasAttribute('normal');
    if (!geometry.hasAttribute('normal')) geometry.computeVertexNormals();
    geometry.userData.isFlat = isFlat;
    pieces.push({ mesh, node: Number(mesh.userData.node), part: Number(mesh.userData.part), isFlat });
  });
  return { file, root, pieces };
}

function letGo(model: Model) {
  for (const { mesh } of model.pieces) mesh.geometry.dispose();
}
