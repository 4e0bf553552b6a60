import { hierarchy, treemap, treemapSquarify } from 'd3-hierarchy';
import type { SendOffView } from '../../api/client';

type PlanFile = SendOffView['files'][number];

interface Node {
  name: string;
  file?: PlanFile;
  children?: Node[];
}

export interface Cell {
  file: PlanFile;
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Group {
  role: string;
  bytes: number;
  x: number;
  y: number;
  width: number;
  height: number;
  cells: Cell[];
}

/** The files of a plan as areas by bytes, grouped by what they are for. Squarified (Bruls, Huizing, van Wijk 2000). */
export function areas(files: PlanFile[], width: number, height: number): Group[] {
  const roles = [...new Set(files.map((f) => f.role))];
  const root = hierarchy<Node>({
    name: '',
    children: roles.map((role) => ({
      name: role,
      children: files.filter((f) => f.role === role).map((file) => ({ name: file.name, file })),
    })),
  })
    // A file of a few bytes still gets an area that can be pointed at.
    .sum((n) => (n.file ? Math.max(n.file.bytes, 1) : 0))
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
  const laid = treemap<Node>().tile(treemapSquarify).size([width, height]).paddingInner(1)(root);
  return (laid.children ?? []).map((group) => ({
    role: group.data.name,
    bytes: group.value ?? 0,
    x: group.x0,
    y: group.y0,
    width: group.x1 - group.x0,
    height: group.y1 - group.y0,
    cells: group.leaves().flatMap((leaf) =>
      leaf.data.file
        ? [
            {
              file: leaf.data.file,
              x: leaf.x0,
              y: leaf.y0,
              width: leaf.x1 - leaf.x0,
              height: leaf.y1 - leaf.y0,
            },
          ]
        : [],
    ),
  }));
}
