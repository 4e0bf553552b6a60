import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from './client';
import { byId, ofScene, useChange } from './queries';

/** Fewer letters would find everything. */
const leastLetters = 2;

/** What of each scene has these letters: a material, or an image it calls for. */
export const useFound = (text: string) =>
  useQuery({
    queryKey: ['scenes', 'found', text],
    queryFn: () => unwrap(api.GET('/api/scenes/found', { params: { query: { text } } })),
    enabled: text.trim().length >= leastLetters,
    placeholderData: (before) => before,
  });

/** What goes when a scene is removed, and what stays. */
export const useRemoval = (id: string, enabled: boolean) =>
  useQuery({
    queryKey: ['removal', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/removal', byId(id))),
    enabled,
    staleTime: 0,
  });

export const useShelfActs = (id: string) => ({
  rename: useChange(
    (title: string) => unwrap(api.PATCH('/api/scenes/{id}', { ...byId(id), body: { title } })),
    ['scenes', 'scene'],
  ),
  remove: useChange(() => unwrap(api.DELETE('/api/scenes/{id}', byId(id))), ['scenes']),
  removeVersion: useChange(
    (version: number) =>
      unwrap(api.DELETE('/api/scenes/{id}/versions/{version}', { params: { path: { id, version } } })),
    [...ofScene, 'scenes'],
  ),
});

export const useForgetWork = () => useChange((id: string) => unwrap(api.DELETE('/api/work/{id}', byId(id))), []);

export const useRemovePackage = () =>
  useChange((id: string) => unwrap(api.DELETE('/api/packages/{id}', byId(id))), ['send-off']);

export const useSweep = () => useChange(() => unwrap(api.POST('/api/store/sweep')), []);

/** What can be taken into the focus: materials, and objects with what they wear. */
export const useFocusChoices = (id: string) =>
  useQuery({
    queryKey: ['scene', id, 'focus'],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/focus', byId(id))),
  });

/** Textures that were added to a scene from somebody's own computer. */
export const useAdded = (id: string) =>
  useQuery({
    queryKey: ['added', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/added', byId(id))),
  });

export const useTakeOut = (id: string) =>
  useChange(
    (delivery: string) =>
      unwrap(api.DELETE('/api/scenes/{id}/added/{delivery}', { params: { path: { id, delivery } } })),
    ['added'],
  );
