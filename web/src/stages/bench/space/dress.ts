import * as THREE from 'three';
import type { BenchItem, SceneViewed, ViewPart } from '../../../api/client';
import { markOf, type Overlay } from './overlays';
import type { Model, Piece } from './useModels';
import type { Wardrobe } from './wardrobe';

/** What of the scene is shown. */
export const reaches = ['all', 'focus', 'held'] as const;
export type Reach = (typeof reaches)[number];

/** What each part of the scene wears, by node and part. */
export class Wearing {
  private readonly parts = new Map<string, { part: ViewPart; object: string }>();
  private readonly looks: Map<string, { look: SceneViewed['materials'][number]; at: number }>;
  private readonly rows: Map<string, BenchItem>;

  constructor(view: SceneViewed, rows: readonly BenchItem[]) {
    for (const object of view.objects)
      for (const part of object.parts) this.parts.set(`${object.node}/${part.part}`, { part, object: object.name });
    this.looks = new Map(view.materials.map((look, at) => [look.name, { look, at }]));
    this.rows = new Map(rows.map((r) => [r.name, r]));
  }

  of({ node, part }: Pick<Piece, 'node' | 'part'>) {
    return this.parts.get(`${node}/${part}`);
  }

  /** The material of a part, in a variant when one is chosen. */
  materialOf(piece: Pick<Piece, 'node' | 'part'>, variant: string | undefined): string {
    const part = this.of(piece)?.part;
    return (variant !== undefined ? part?.byVariant[variant] : undefined) ?? part?.material ?? '';
  }

  look(material: string) {
    return this.looks.get(material);
  }

  row(material: string) {
    return this.rows.get(material);
  }
}

export interface Dressing {
  wearing: Wearing;
  wardrobe: Wardrobe;
  overlay: Overlay;
  variant: string | undefined;
  reach: Reach;
  focus: ReadonlySet<string>;
  held: string | undefined;
}

const nobody: ViewPart = { part: 0, name: '', material: '', triangles: 0, uv: 0, texel: null, byVariant: {} };

/** Triangles that have lines around them at most: each is drawn eight times more. */
const mostOutlined = 400_000;

/** Gives every part its surface, hides what is not to be seen, and draws lines around what is in hand or in focus. */
export function dress(models: readonly Model[], lines: THREE.Group, dressing: Dressing) {
  const { wearing, wardrobe, overlay, variant, reach, focus, held } = dressing;
  lines.clear();
  let outlined = 0;
  for (const piece of models.flatMap((m) => m.pieces)) {
    const { mesh, isFlat } = piece;
    const material = wearing.materialOf(piece, variant);
    const known = wearing.look(material);
    const part = wearing.of(piece)?.part ?? nobody;
    const mark = markOf(overlay, { part, look: known?.look, row: wearing.row(material), at: known?.at ?? -1 });
    mesh.visible = reach === 'all' || (reach === 'focus' ? focus.has(material) : material === held);
    // What is not seen is not hit by a click either.
    mesh.layers.set(mesh.visible ? 0 : 1);
    mesh.material = mark
      ? wardrobe.marked(mark)
      : overlay === 'checker'
        ? wardrobe.checked(known?.look, part.uv)
        : wardrobe.look(known?.look, part.uv, isFlat);
    const line = material === '' ? undefined : material === held ? 'held' : focus.has(material) ? 'focus' : undefined;
    if (line && mesh.visible && reach !== 'held') {
      outlined += part.triangles;
      if (outlined < mostOutlined) for (const surface of wardrobe.outlines[line]) lines.add(lineAround(mesh, surface));
    }
  }
}

function lineAround(mesh: Piece['mesh'], surface: THREE.Material) {
  const around = new THREE.Mesh(mesh.geometry, surface);
  around.matrixAutoUpdate = false;
  around.matrix.copy(mesh.matrixWorld);
  around.matrixWorldNeedsUpdate = true;
  around.raycast = () => undefined;
  return around;
}

/** The box around all that wears one of these; around everything that is shown where none does. */
export function boxAround(models: readonly Model[], wears: (piece: Piece) => boolean): THREE.Box3 {
  const box = new THREE.Box3();
  for (const piece of models.flatMap((m) => m.pieces))
    if (piece.mesh.visible && wears(piece)) box.expandByObject(piece.mesh, true);
  return box;
}
