import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type ManyDecision } from './client';
import { ofScene, useChange } from './queries';

/** What several scenes could be decided by. */
export const useManyChoices = (scenes: string[]) =>
  useQuery({
    queryKey: ['many', 'choices', scenes],
    queryFn: () => unwrap(api.POST('/api/many/choices', { body: { scenes } })),
  });

/** What a decision would do, a row for each scene. */
export const useManyPreview = (decision: ManyDecision | undefined) =>
  useQuery({
    queryKey: ['many', 'preview', decision],
    queryFn: () =>
      unwrap(api.POST('/api/many/preview', { body: decision ?? { scenes: [], recipe: null, rule: null } })),
    enabled: decision !== undefined,
    retry: false,
  });

export const useManyApply = () =>
  useChange(
    (decision: ManyDecision) => unwrap(api.POST('/api/many/apply', { body: decision })),
    [...ofScene, 'scenes', 'many'],
  );
