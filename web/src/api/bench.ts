import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type Channels, type MarkKind, type PlaneView, type WireAct } from './client';
import { byId, ofScene, useChange, useLedger } from './queries';

/** All materials of a scene as they stand, with what somebody said of them. */
export const useBench = (id: string | undefined) =>
  useQuery({
    queryKey: ['bench', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/bench', byId(id ?? ''))),
    enabled: id !== undefined,
  });

/** Looks in numbers, for orders that need them. */
export const useLooks = (id: string, enabled: boolean) =>
  useQuery({
    queryKey: ['bench', id, 'looks'],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/bench/looks', byId(id))),
    enabled,
  });

export const useHeld = (id: string, name: string | undefined) =>
  useQuery({
    queryKey: ['bench', id, 'material', name],
    queryFn: () =>
      unwrap(api.GET('/api/scenes/{id}/bench/material', { params: { path: { id }, query: { name: name ?? '' } } })),
    enabled: name !== undefined,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
    retry: false,
  });

/** What can be done with what feeds an input; each with the reason where it cannot. */
export const useWires = (id: string, name: string, input: string | undefined, channel?: string) =>
  useQuery({
    queryKey: ['bench', id, 'wires', name, input, channel],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/bench/wires', {
          params: { path: { id }, query: { name, input: input ?? '', ...(channel !== undefined && { channel }) } },
        }),
      ),
    enabled: input !== undefined,
  });

/** Images that an image can be held beside: candidates, and what answered at other moments. */
export const useOthers = (id: string, number: number) =>
  useQuery({
    queryKey: ['plane', id, number, 'others'],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/references/{number}/others', { params: { path: { id, number } } })),
  });

/** Opens an image, or another that is held beside it, pixel by pixel; null when it cannot be. */
export const usePlane = (id: string, number: number, of?: string, enabled = true) =>
  useQuery({
    queryKey: ['plane', id, number, 'of', of],
    queryFn: async ({ signal }) => {
      const address = `/api/scenes/${id}/references/${number}/plane${of === undefined ? '' : `?of=${of}`}`;
      for (let asked = 0; ; asked++) {
        const answer = await fetch(address, { signal });
        if (answer.status === 200) return (await answer.json()) as PlaneView;
        if (answer.status !== 202 || asked === 600) return null;
        await new Promise((done) => setTimeout(done, 100));
      }
    },
    enabled,
  });

/** What lies at a pixel, and what it comes to at the inputs that read it. */
export const usePixel = (
  id: string,
  material: string,
  number: number,
  at: { x: number; y: number } | undefined,
  of?: string,
) =>
  useQuery({
    queryKey: ['plane', id, number, material, at, of],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/references/{number}/plane/pixel', {
          params: { path: { id, number }, query: { x: at?.x ?? 0, y: at?.y ?? 0, material, ...(of && { of }) } },
        }),
      ),
    enabled: at !== undefined,
    placeholderData: (before) => before,
    retry: false,
  });

export interface Assigning {
  material: string;
  wearers: { mesh: string; part: string }[];
  to: string;
  isSplit: boolean;
}

export const useAssignPreview = (id: string, assign: Assigning) =>
  useQuery({
    queryKey: ['bench', id, 'assign', assign],
    queryFn: () =>
      unwrap(api.POST('/api/scenes/{id}/bench/assign/preview', { ...byId(id), body: { ...assign, seen: null } })),
    enabled: assign.to.trim() !== '',
    placeholderData: (before) => before,
    retry: false,
  });

export interface Copying {
  from: string;
  inputs: string[];
  to: string[];
}

export const useCopyPreview = (id: string, copy: Copying) =>
  useQuery({
    queryKey: ['bench', id, 'copy', copy],
    queryFn: () =>
      unwrap(api.POST('/api/scenes/{id}/bench/copy/preview', { ...byId(id), body: { ...copy, seen: null } })),
    enabled: copy.inputs.length > 0 && copy.to.length > 0,
    placeholderData: (before) => before,
    retry: false,
  });

export const useBenchActs = (id: string) => {
  const ledger = useLedger(id).data;
  const seen = ledger?.entries.at(-1)?.id ?? null;
  const stale = [...ofScene, 'scenes'];
  return {
    mark: useChange(
      (body: { materials: string[]; kind: MarkKind | null; word: string | null }) =>
        unwrap(api.POST('/api/scenes/{id}/bench/marks', { ...byId(id), body })),
      ['bench'],
    ),
    measure: useChange(() => unwrap(api.POST('/api/scenes/{id}/bench/looks', byId(id))), []),
    take: useChange(
      (body: { material: string; values: Record<string, number[]> }) =>
        unwrap(api.POST('/api/scenes/{id}/bench/values', { ...byId(id), body: { ...body, seen } })),
      stale,
    ),
    wire: useChange(
      (body: { material: string; input: string; act: WireAct; to: string | null; channel: Channels | null }) =>
        unwrap(api.POST('/api/scenes/{id}/bench/wires', { ...byId(id), body: { ...body, seen } })),
      stale,
    ),
    assign: useChange(
      (assign: Assigning) =>
        unwrap(api.POST('/api/scenes/{id}/bench/assign', { ...byId(id), body: { ...assign, seen } })),
      stale,
    ),
    own: useChange(
      (body: { material: string; mesh: string; instance: string }) =>
        unwrap(api.POST('/api/scenes/{id}/bench/own', { ...byId(id), body: { ...body, seen } })),
      stale,
    ),
    copy: useChange(
      (copy: Copying) => unwrap(api.POST('/api/scenes/{id}/bench/copy', { ...byId(id), body: { ...copy, seen } })),
      stale,
    ),
  };
};
