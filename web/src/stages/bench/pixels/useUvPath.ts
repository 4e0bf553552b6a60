import { useMemo } from 'react';
import { useReadyView, useUvs } from '../../../api/space';
import { count, many } from '../../../parts/format';

interface Layout {
  /** In pixels of the image; undefined until it is there. */
  path: Path2D | undefined;
  /** What there is to say of it. */
  said: string | undefined;
}

/** The edges of all that reads an image, to be drawn over it. What it is read from is made ready first. */
export function useUvPath(
  sceneId: string,
  material: string,
  number: number,
  size: { width: number; height: number } | null | undefined,
  wanted: boolean,
): Layout {
  const uvs = useUvs(sceneId, material, number, wanted);
  useReadyView(sceneId, wanted && uvs.data === null);
  const path = useMemo(() => {
    if (!wanted || !uvs.data || !size) return undefined;
    const { edges } = uvs.data;
    const made = new Path2D();
    const at = (i: number, along: number) => (edges[i] ?? 0) * along;
    for (let i = 0; i + 3 < edges.length; i += 4) {
      made.moveTo(at(i, size.width), at(i + 1, size.height));
      made.lineTo(at(i + 2, size.width), at(i + 3, size.height));
    }
    return made;
  }, [wanted, uvs.data, size]);
  const edges = uvs.data ? uvs.data.edges.length / 4 : 0;
  const said = !wanted
    ? undefined
    : uvs.isError
      ? 'its UVs cannot be read'
      : !uvs.data
        ? 'UVs are on their way'
        : edges === 0
          ? 'nothing that wears it has UVs'
          : `${many(edges, 'edge')}${uvs.data.left > 0 ? `, ${count(uvs.data.left)} more are left out` : ''}`;
  return { path, said };
}
