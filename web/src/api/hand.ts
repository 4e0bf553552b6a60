import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type HandOf, type HandSaid } from './client';
import { byId, ofScene, useChange, useLedger } from './queries';

/** Where a person can decide, and what there is to choose from. */
export const useHand = (id: string, of: HandOf | undefined) =>
  useQuery({
    queryKey: ['audit', id, 'hand', of],
    queryFn: () =>
      unwrap(
        api.POST('/api/scenes/{id}/audit/hand/choices', {
          ...byId(id),
          body: of ?? { cause: null, keys: null, materials: null },
        }),
      ),
    enabled: of !== undefined,
  });

/** What a decision would do. */
export const useHandPreview = (id: string, said: Omit<HandSaid, 'seen'>, enabled: boolean) =>
  useQuery({
    queryKey: ['audit', id, 'hand', 'preview', said],
    queryFn: () =>
      unwrap(api.POST('/api/scenes/{id}/audit/hand/preview', { ...byId(id), body: { ...said, seen: null } })),
    enabled,
    retry: false,
    placeholderData: (before) => before,
  });

export const useHandActs = (id: string) => {
  const ledger = useLedger(id).data;
  return {
    decide: useChange(
      (said: Omit<HandSaid, 'seen'>) =>
        unwrap(
          api.POST('/api/scenes/{id}/audit/hand', {
            ...byId(id),
            body: { ...said, seen: ledger?.entries.at(-1)?.id ?? null },
          }),
        ),
      [...ofScene, 'scenes'],
    ),
  };
};
