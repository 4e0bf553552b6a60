import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from './client';
import { byId, useChange } from './queries';

/** Two moments by their words: `arrived`, `now`, `entry-ID`, `version-N`, `scene-ID`. */
export interface TwoMoments {
  before: string;
  after: string;
}

/** Moments that can be held beside each other; other scenes that have a material of that name among them. */
export const useMoments = (id: string, material: string | undefined) =>
  useQuery({
    queryKey: ['compare', id, 'moments', material],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/compare/moments', {
          params: { path: { id }, query: { ...(material !== undefined && { material }) } },
        }),
      ),
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });

/** The frames of two moments; null before somebody had them drawn. */
export const useMomentFrames = (id: string, moments: TwoMoments, light: string) =>
  useQuery({
    queryKey: ['compare', id, 'frames', moments, light],
    queryFn: async () =>
      (await unwrap(
        api.GET('/api/scenes/{id}/compare/frames', { params: { path: { id }, query: { ...moments, light } } }),
      )) ?? null,
  });

export const useDrawMoments = (id: string) =>
  useChange(
    (body: TwoMoments & { light: string }) =>
      unwrap(api.POST('/api/scenes/{id}/compare/frames', { ...byId(id), body })),
    ['work'],
  );
