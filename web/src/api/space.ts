import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, unwrap } from './client';
import { byId, useChange } from './queries';

/** Edges of triangles on a picture: u v u v of each, 1 for its whole width and height. */
export interface UvEdges {
  edges: Float32Array;
  /** More that are not shown. */
  left: number;
}

/** The scene in space as it stands: where its geometry lies, and what each part of it wears. */
export const useSceneView = (id: string, enabled = true) =>
  useQuery({
    queryKey: ['view', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/view', byId(id))),
    enabled,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });

/** Has a worker make its geometry ready, by itself as soon as it is known to be missing. */
export function useReadyView(id: string, isMissing: boolean) {
  const make = useChange(() => unwrap(api.POST('/api/scenes/{id}/view', byId(id))), ['work']);
  const { mutate, status } = make;
  useEffect(() => {
    if (isMissing && status === 'idle') mutate(undefined);
  }, [isMissing, status, mutate]);
  return make;
}

/** Where a part of its geometry lies. */
export const spaceFile = (id: string, print: string, file: number) => `/api/scenes/${id}/view/${print}/${file}`;

/** Where triangles that wear a material lie on one of its images; null before the geometry was made ready. */
export const useUvs = (id: string, material: string, number: number, enabled: boolean) =>
  useQuery({
    queryKey: ['view', id, 'uvs', material, number],
    queryFn: async ({ signal }): Promise<UvEdges | null> => {
      const query = new URLSearchParams({ material, number: String(number) });
      const answer = await fetch(`/api/scenes/${id}/view/uvs?${query}`, { signal });
      if (answer.status === 204) return null;
      if (!answer.ok) throw new Error('The layout cannot be read.');
      return {
        edges: new Float32Array(await answer.arrayBuffer()),
        left: Number(answer.headers.get('Uvs-Left') ?? 0),
      };
    },
    enabled,
  });
