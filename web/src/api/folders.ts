import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from './client';

/** Fewer letters would find everything. */
const leastLetters = 2;

export const useFolder = (path: string, enabled: boolean) =>
  useQuery({
    queryKey: ['folder', path],
    queryFn: () => unwrap(api.GET('/api/folders', { params: { query: { path } } })),
    enabled,
    staleTime: 5_000,
  });

/** Where somebody has been. */
export const useRecent = (enabled: boolean) =>
  useQuery({
    queryKey: ['folder', 'recent'],
    queryFn: () => unwrap(api.GET('/api/folders/recent')),
    enabled,
  });

/** What lies below a folder and has these letters in its name; undefined for fewer than can be looked for. */
export const useFoundBelow = (path: string, text: string) =>
  useQuery({
    queryKey: ['folder', 'find', path, text],
    queryFn: () => unwrap(api.GET('/api/folders/find', { params: { query: { path, text } } })),
    enabled: text.trim().length >= leastLetters,
    placeholderData: (before) => before,
  });

/** What a scene holds, before it is opened. */
export const useScenePreview = (path: string | undefined) =>
  useQuery({
    queryKey: ['folder', 'preview', path],
    queryFn: () => unwrap(api.GET('/api/folders/preview', { params: { query: { path: path ?? '' } } })),
    enabled: path !== undefined,
    staleTime: 60_000,
  });
