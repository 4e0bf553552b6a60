import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import {
  api,
  unwrap,
  type CrossingRoute,
  type TakeOver,
  type Decide,
  type IntoForm,
  type MusterView,
  type NamesView,
  type ReplaceInPaths,
} from './client';
import { merged } from './muster';

export const byId = (id: string) => ({ params: { path: { id } } });

export const useScenes = () => useQuery({ queryKey: ['scenes'], queryFn: () => unwrap(api.GET('/api/scenes')) });

export const useScene = (id: string | undefined) =>
  useQuery({
    queryKey: ['scene', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}', byId(id ?? ''))),
    enabled: id !== undefined,
  });

export const useMuster = (id: string | undefined) => {
  const client = useQueryClient();
  return useQuery({
    queryKey: ['muster', id],
    queryFn: async () => {
      const known = client.getQueryData<MusterView>(['muster', id]);
      const query = known ? { since: known.version } : {};
      const answer = api.GET('/api/scenes/{id}/muster', { params: { path: { id: id ?? '' }, query } });
      return merged(known, await unwrap(answer));
    },
    enabled: id !== undefined,
    // Rows that are the same stay the same objects already.
    structuralSharing: false,
  });
};

export const useEvidence = (id: string, number: number | undefined) =>
  useQuery({
    queryKey: ['evidence', id, number],
    queryFn: () =>
      unwrap(api.GET('/api/scenes/{id}/references/{number}', { params: { path: { id, number: number ?? 0 } } })),
    enabled: number !== undefined,
  });

export const useLedger = (id: string | undefined) =>
  useQuery({
    queryKey: ['ledger', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/ledger', byId(id ?? ''))),
    enabled: id !== undefined,
  });

/** Which scene, in which version, another is held beside. */
export interface Beside {
  with: string;
  version: number;
}

/** What did not survive, beside the chosen scene or else the version before. */
export const useTransfer = (id: string | undefined, beside: Beside | undefined) =>
  useQuery({
    queryKey: ['transfer', id, beside],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/transfer', {
          params: { path: { id: id ?? '' }, query: beside ?? {} },
        }),
      ),
    enabled: id !== undefined,
  });

/** A frame of the whole scene, as it was drawn last under that light by that camera; null for the first one. */
export const useFrame = (id: string, light: string, camera: string | null) =>
  useQuery({
    queryKey: ['frame', id, light, camera],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/frame', {
          params: { path: { id }, query: camera === null ? { light } : { light, camera } },
        }),
      ),
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });

/** The house's OpenColorIO config, by which pictures are shown; it changes only with the server. */
export const useColours = () =>
  useQuery({ queryKey: ['colours'], queryFn: () => unwrap(api.GET('/api/colours', {})), staleTime: Infinity });

export const useDraw = (id: string) =>
  useChange(
    (body: { light: string; camera: string | null }) =>
      unwrap(api.POST('/api/scenes/{id}/frame', { ...byId(id), body })),
    [],
  );

/** All materials of a scene; a list of it shows the first ones. */
export const useMaterials = (id: string, enabled: boolean) =>
  useQuery({
    queryKey: ['scene', id, 'materials'],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/materials', byId(id))),
    enabled,
  });

/** Materials that an entry of the ledger makes look another way. */
export const useChangedLooks = (id: string, entry: string) =>
  useQuery({
    queryKey: ['ledger', id, 'looks', entry],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/ledger/{entry}/looks', { params: { path: { id, entry } } })),
  });

export const useSendOff = (id: string | undefined) =>
  useQuery({
    queryKey: ['send-off', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/send-off', byId(id ?? ''))),
    enabled: id !== undefined,
  });

/** The scene on its way to another shading model; null for the one that its destination evaluates. */
export const useCrossing = (id: string | undefined, to: string | null, route: CrossingRoute, fit: boolean) =>
  useQuery({
    queryKey: ['crossing', id, to, route, fit],
    queryFn: () =>
      unwrap(
        api.GET('/api/scenes/{id}/crossing', {
          params: { path: { id: id ?? '' }, query: to === null ? { route, fit } : { to, route, fit } },
        }),
      ),
    enabled: id !== undefined,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  });

/** One material's crossing in full. */
export const useCrossed = (
  id: string,
  material: string | undefined,
  to: string | undefined,
  route: CrossingRoute,
  fit: boolean,
) =>
  useQuery({
    queryKey: ['crossing', id, to, route, fit, material],
    queryFn: async () =>
      (await unwrap(
        api.GET('/api/scenes/{id}/crossing/{material}', {
          params: { path: { id, material: material ?? '' }, query: { to: to ?? '', route, fit } },
        }),
      )) ?? null,
    enabled: material !== undefined && to !== undefined,
    placeholderData: (before) => before,
  });

/** The whole scene before and after a crossing; null before it was drawn. */
export const useCrossedFrames = (id: string, to: string, route: CrossingRoute, fit: boolean, enabled: boolean) =>
  useQuery({
    queryKey: ['crossing', id, 'frames', to, route, fit],
    queryFn: async () =>
      (await unwrap(
        api.GET('/api/scenes/{id}/crossed-frames', { params: { path: { id }, query: { to, route, fit } } }),
      )) ?? null,
    enabled,
  });

export const useCrossingActs = (id: string) => {
  const stale = [...ofScene, 'scenes'];
  return {
    measure: useChange(
      (body: { to: string; route: CrossingRoute; materials: string[] | null; fit: boolean }) =>
        unwrap(api.POST('/api/scenes/{id}/crossing/measure', { ...byId(id), body })),
      [],
    ),
    draw: useChange(
      (body: { to: string; route: CrossingRoute; fit: boolean }) =>
        unwrap(api.POST('/api/scenes/{id}/crossed-frames', { ...byId(id), body })),
      [],
    ),
    takeOver: useChange(
      (body: TakeOver) => unwrap(api.POST('/api/scenes/{id}/crossing', { ...byId(id), body })),
      stale,
    ),
    wear: useChange(
      (look: 'arrived' | 'crossed') =>
        unwrap(api.POST('/api/scenes/{id}/crossing/wear', { ...byId(id), body: { look } })),
      stale,
    ),
    sweep: useChange(() => unwrap(api.POST('/api/scenes/{id}/crossing/sweep', byId(id))), stale),
  };
};

export const useWork = () => useQuery({ queryKey: ['work'], queryFn: () => unwrap(api.GET('/api/work')) });

/** Queries of one scene: everything that a muster or a change of its ledger can change. */
export const ofScene = [
  'muster',
  'evidence',
  'ledger',
  'send-off',
  'copies',
  'frame',
  'scene',
  'transfer',
  'audit',
  'map-variants',
  'house',
  'crossing',
  'bench',
  'compare',
  'view',
];

/** A change on the server; a refusal is shown where the artist looks. */
export function useChange<T, R>(change: (input: T) => Promise<R>, stale: string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all([...stale, 'work'].map((key) => client.invalidateQueries({ queryKey: [key] }))),
    onError: (error) => toast.error(error.message),
  });
}

export const useDecide = (id: string) =>
  useChange(
    (decide: Partial<Decide>) =>
      unwrap(
        api.POST('/api/scenes/{id}/ledger/entries', {
          ...byId(id),
          body: { from: null, to: null, numbers: null, folder: null, number: null, path: null, ...decide },
        }),
      ),
    [...ofScene, 'scenes'],
  );

export const useRestore = (id: string) =>
  useChange(
    (body: { with: string; version: number; rows: number[] }) =>
      unwrap(api.POST('/api/scenes/{id}/transfer/restore', { ...byId(id), body })),
    [...ofScene, 'scenes'],
  );

export const useExtract = (id: string) =>
  useChange(
    (numbers: number[]) => unwrap(api.POST('/api/scenes/{id}/carried/extract', { ...byId(id), body: { numbers } })),
    [...ofScene, 'scenes'],
  );

export const useCarry = (id: string) =>
  useChange(
    (numbers: number[]) => unwrap(api.POST('/api/scenes/{id}/carried/carry', { ...byId(id), body: { numbers } })),
    [...ofScene, 'scenes'],
  );

export const useMakeLibrary = (id: string) =>
  useChange(() => unwrap(api.POST('/api/scenes/{id}/library', byId(id))), [...ofScene, 'scenes']);

export const useChooseVariant = (id: string) =>
  useChange(
    (body: { place: string; set: string; option: string }) =>
      unwrap(api.POST('/api/scenes/{id}/variants', { ...byId(id), body })),
    [...ofScene, 'scenes'],
  );

export const useLedgerActs = (id: string) => {
  const stale = [...ofScene, 'scenes'];
  const entry = (e: string) => ({ params: { path: { id, entry: e } } });
  return {
    redo: useChange(() => unwrap(api.POST('/api/scenes/{id}/ledger/redo', byId(id))), stale),
    apply: useChange(() => unwrap(api.POST('/api/scenes/{id}/ledger/apply', byId(id))), stale),
    undo: useChange(() => unwrap(api.POST('/api/scenes/{id}/ledger/undo', byId(id))), stale),
    undoTo: useChange((e: string) => unwrap(api.POST('/api/scenes/{id}/ledger/undo-to/{entry}', entry(e))), stale),
    takeBack: useChange((e: string) => unwrap(api.POST('/api/scenes/{id}/ledger/take-back/{entry}', entry(e))), stale),
  };
};

export type LedgerActs = ReturnType<typeof useLedgerActs>;

/** The references an act may touch; null for all of the scene. */
type Numbers = number[] | null;

export const useReplacePreview = (id: string, replace: ReplaceInPaths) =>
  useQuery({
    queryKey: ['replace-preview', id, replace],
    queryFn: () => unwrap(api.POST('/api/scenes/{id}/paths/preview', { ...byId(id), body: replace })),
    enabled: replace.find !== '',
    placeholderData: (before) => before,
    retry: false,
  });

export const useMapVariants = (id: string, numbers: Numbers) =>
  useQuery({
    queryKey: ['map-variants', id, numbers],
    queryFn: () => unwrap(api.POST('/api/scenes/{id}/map-variants', { ...byId(id), body: { numbers } })),
  });

export const useHouse = (id: string, by: string) =>
  useQuery({
    queryKey: ['house', id, by],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/house', { params: { path: { id }, query: { by } } })),
  });

/** Decisions over many references; each is one entry in the ledger. */
export const useMusterActs = (id: string) => {
  const stale = [...ofScene, 'scenes'];
  return {
    replace: useChange(
      (body: ReplaceInPaths) => unwrap(api.POST('/api/scenes/{id}/paths/replace', { ...byId(id), body })),
      stale,
    ),
    style: useChange(
      (body: { style: string; numbers: Numbers }) =>
        unwrap(api.POST('/api/scenes/{id}/paths/style', { ...byId(id), body })),
      stale,
    ),
    rule: useChange(
      (body: { from: string; to: string; numbers: Numbers }) =>
        unwrap(api.POST('/api/scenes/{id}/paths/rule', { ...byId(id), body })),
      stale,
    ),
    switchVariant: useChange(
      (body: { kind: string; value: string; numbers: Numbers }) =>
        unwrap(api.POST('/api/scenes/{id}/map-variants/switch', { ...byId(id), body })),
      stale,
    ),
    house: useChange(
      (body: { act: string; by: string; numbers: Numbers }) =>
        unwrap(api.POST('/api/scenes/{id}/house', { ...byId(id), body })),
      stale,
    ),
    standIn: useChange(
      (numbers: number[]) => unwrap(api.POST('/api/scenes/{id}/stand-ins', { ...byId(id), body: { numbers } })),
      stale,
    ),
    seen: useChange(
      (numbers: Numbers) => unwrap(api.POST('/api/scenes/{id}/references/seen', { ...byId(id), body: { numbers } })),
      stale,
    ),
  };
};

export const useRoots = () => useQuery({ queryKey: ['roots'], queryFn: () => unwrap(api.GET('/api/roots')) });

export const useNames = () => useQuery({ queryKey: ['names'], queryFn: () => unwrap(api.GET('/api/names')) });

export const useWriteNames = () => useChange((body: NamesView) => unwrap(api.PUT('/api/names', { body })), ['names']);

export const useRootActs = (sceneId: string) => {
  const search = async () => unwrap(api.POST('/api/scenes/{id}/search', byId(sceneId)));
  return {
    change: useChange(
      async ({ id, ...change }: { id: string; name?: string; purpose?: string; position?: number }) => {
        await unwrap(
          api.PATCH('/api/roots/{id}', { ...byId(id), body: { name: null, purpose: null, position: null, ...change } }),
        );
        if (change.purpose !== undefined || change.position !== undefined) await search();
      },
      ['roots', 'muster', 'send-off', 'copies'],
    ),
    list: useChange((id: string) => unwrap(api.POST('/api/roots/{id}/list', byId(id))), []),
    forget: useChange(
      (rule: { from: string; to: string }) => unwrap(api.POST('/api/roots/rules/forget', { body: rule })),
      ['roots', 'muster'],
    ),
  };
};

export const useOpenScenes = () =>
  useChange(async (paths: string[]) => {
    for (const path of paths) await unwrap(api.POST('/api/arrivals/open', { body: { path } }));
  }, []);

export const useAddRoot = (sceneId: string | undefined) =>
  useChange(
    async (folder: string) => {
      await unwrap(api.POST('/api/roots', { body: { folder } }));
      if (sceneId) await unwrap(api.POST('/api/scenes/{id}/search', byId(sceneId)));
    },
    ['roots', 'muster'],
  );

export const useRemoveRoot = (sceneId: string) =>
  useChange(
    async (root: string) => {
      await unwrap(api.DELETE('/api/roots/{id}', byId(root)));
      await unwrap(api.POST('/api/scenes/{id}/search', byId(sceneId)));
    },
    ['roots', 'muster'],
  );

export const useSearch = (id: string) => useChange(() => unwrap(api.POST('/api/scenes/{id}/search', byId(id))), []);

/** How and where the scene can be written. */
export const useWriteChoices = (id: string, enabled = true) =>
  useQuery({
    enabled,
    queryKey: ['copies', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/copies', byId(id))),
  });

export const useWriteCopy = (id: string) =>
  useChange(
    (body: { root: string; folder: string; into: IntoForm | null }) =>
      unwrap(api.POST('/api/scenes/{id}/copies', { ...byId(id), body })),
    [],
  );

/** Writes a copy that waits in the store to be fetched. */
export const useWriteToFetch = (id: string) =>
  useChange(() => unwrap(api.POST('/api/scenes/{id}/copies/fetch', byId(id))), []);

export const useBuild = (id: string) =>
  useChange(
    (body: { zip: boolean; allowMissing: boolean; allowStandIns: boolean; into: IntoForm | null }) =>
      unwrap(api.POST('/api/scenes/{id}/packages', { ...byId(id), body })),
    ['send-off'],
  );

export const useCancel = () => useChange((id: string) => unwrap(api.POST('/api/work/{id}/cancel', byId(id))), []);

export const useAudit = (id: string | undefined) =>
  useQuery({
    queryKey: ['audit', id],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/audit', byId(id ?? ''))),
    enabled: id !== undefined,
  });

/** A cause with the evidence of one of its findings; the clearest when none is named. Null for one that is gone. */
export const useCause = (id: string, key: string | undefined, member: string | undefined) =>
  useQuery({
    queryKey: ['audit', id, 'cause', key, member],
    queryFn: async () =>
      (await unwrap(
        api.GET('/api/scenes/{id}/audit/cause', {
          params: { path: { id }, query: member === undefined ? { key: key ?? '' } : { key: key ?? '', member } },
        }),
      )) ?? null,
    enabled: key !== undefined,
    placeholderData: (before) => (before?.cause.key === key ? before : undefined),
  });

export const useDestinationChanges = (id: string) =>
  useQuery({
    queryKey: ['audit', id, 'destinations'],
    queryFn: () => unwrap(api.GET('/api/scenes/{id}/audit/destinations', byId(id))),
  });

/** What to fix: single findings, a family, or everything that is safe. */
export interface Fixing {
  cause?: string;
  keys?: string[];
  safe?: boolean;
  /** Only what is about these. */
  materials?: string[];
}

export const useFindingActs = (id: string) => {
  const stale = [...ofScene, 'scenes'];
  const ledger = useLedger(id).data;
  return {
    fix: useChange(
      (fix: Fixing) =>
        unwrap(
          api.POST('/api/scenes/{id}/audit/fix', {
            ...byId(id),
            body: {
              cause: fix.cause ?? null,
              keys: fix.keys ?? null,
              safe: fix.safe ?? false,
              materials: fix.materials ?? null,
              seen: ledger?.entries.at(-1)?.id ?? null,
            },
          }),
        ),
      stale,
    ),
    waive: useChange(
      (body: { cause: string; reason: string }) =>
        unwrap(api.POST('/api/scenes/{id}/audit/waive', { ...byId(id), body })),
      ['audit'],
    ),
    unwaive: useChange(
      (cause: string) => unwrap(api.POST('/api/scenes/{id}/audit/unwaive', { ...byId(id), body: { cause } })),
      ['audit'],
    ),
    destination: useChange(
      (destination: string) =>
        unwrap(api.PUT('/api/scenes/{id}/audit/destination', { ...byId(id), body: { id: destination } })),
      ['audit'],
    ),
  };
};

export const useRules = () => useQuery({ queryKey: ['rules'], queryFn: () => unwrap(api.GET('/api/rules')) });

export const useHouseText = () =>
  useQuery({ queryKey: ['rules', 'text'], queryFn: () => unwrap(api.GET('/api/house-rules')) });

export const useDestinationText = (id: string) =>
  useQuery({
    queryKey: ['destination', id],
    queryFn: () => unwrap(api.GET('/api/destinations/{id}', { params: { path: { id } } })),
  });

export const useHouseActs = () => ({
  choose: useChange(
    ({ rule, ...body }: { rule: string; severity: string | null; thresholds: Record<string, number> | null }) =>
      unwrap(api.PATCH('/api/rules/{rule}', { params: { path: { rule } }, body })),
    ['rules', 'audit'],
  ),
  write: useChange((text: string) => unwrap(api.PUT('/api/house-rules', { body: { text } })), ['rules', 'audit']),
  writeDestination: useChange(
    (text: string) => unwrap(api.PUT('/api/destinations', { body: { text } })),
    ['audit', 'destination'],
  ),
  removeDestination: useChange(
    (id: string) => unwrap(api.DELETE('/api/destinations/{id}', { params: { path: { id } } })),
    ['audit', 'destination'],
  ),
});

export const useRecipes = () => useQuery({ queryKey: ['recipes'], queryFn: () => unwrap(api.GET('/api/recipes')) });

export const useRecipeText = (recipe: string | undefined) =>
  useQuery({
    queryKey: ['recipes', recipe],
    queryFn: () => unwrap(api.GET('/api/recipes/{recipe}', { params: { path: { recipe: recipe ?? '' } } })),
    enabled: recipe !== undefined,
  });

/** What a recipe would do in a scene. */
export const useDryRun = (id: string, recipe: string | undefined) =>
  useQuery({
    queryKey: ['audit', id, 'dry-run', recipe],
    queryFn: async () =>
      (await unwrap(
        api.POST('/api/scenes/{id}/recipes/{recipe}/dry-run', { params: { path: { id, recipe: recipe ?? '' } } }),
      )) ?? null,
    enabled: recipe !== undefined,
  });

export const useRecipeActs = (id: string) => ({
  record: useChange(
    (body: { name: string; entries: string[] }) =>
      unwrap(api.POST('/api/scenes/{id}/recipes/record', { ...byId(id), body })),
    ['recipes'],
  ),
  write: useChange(
    (body: { id: string; text: string }) => unwrap(api.PUT('/api/recipes', { body })),
    ['recipes', 'audit'],
  ),
  remove: useChange(
    (recipe: string) => unwrap(api.DELETE('/api/recipes/{recipe}', { params: { path: { recipe } } })),
    ['recipes'],
  ),
  apply: useChange(
    (recipe: string) =>
      unwrap(
        api.POST('/api/scenes/{id}/recipes/{recipe}/apply', {
          params: { path: { id, recipe } },
          body: { keys: null, seen: null },
        }),
      ),
    [...ofScene, 'scenes'],
  ),
});
