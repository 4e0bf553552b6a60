import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from './client';
import { byId, useChange } from './queries';

/** The scene in space as it stands: where its geometry lies, and what each part of it wears. */
export const useSpace = (id: string) =>
  useQuery({
    queryKey: ['view', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/view', byId(id))),
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });

/** Has a worker make its geometry ready. */
export const useMakeSpace = (id: string) =>
  useChange(() => unwrap(api.POST('/api/scenes/{id}/view', byId(id))), ['work']);

/** Where a part of its geometry lies. */
export const spaceFile = (id: string, print: string, file: number) => `/api/scenes/${id}/view/${print}/${file}`;
