import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr';
import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { useTouched } from '../state/touched';
import type { WorkItem } from './client';
import { ofScene } from './queries';

const ended = (state: string) => state === 'done' || state === 'failed' || state === 'cancelled';

/** What of a scene became another: it was mustered, decided about, written over on disk, counts otherwise in the list, or is gone. */
export type SceneChange = 'muster' | 'ledger' | 'files' | 'counted' | 'removed' | 'findings' | 'marks';

/** Queries of one scene that a change makes old. */
const ofChange: Record<SceneChange, string[]> = {
  muster: ofScene,
  ledger: ofScene,
  files: ['muster', 'evidence', 'send-off', 'frame'],
  counted: ['scene'],
  removed: [],
  findings: ['audit', 'bench'],
  marks: ['bench'],
};

/** Queries that a task makes old beyond what its scene tells by itself. */
const ofWork: Record<string, string[]> = {
  pack: ['send-off'],
  drawcrossing: ['crossing'],
  remember: ['audit', 'evidence', 'bench'],
  measurelooks: ['bench'],
  drawmoments: ['compare'],
  makeview: ['view'],
};

/** Stands for all scenes. */
const everyScene = '00000000-0000-0000-0000-000000000000';

let hub: HubConnection | undefined;
let shown: { scene: string | null; list: boolean } = { scene: null, list: true };

const look = () => {
  if (hub?.state === HubConnectionState.Connected) void hub.invoke('Look', shown.scene, shown.list);
};

/** Tells the server what this window shows, so that it hears of that scene, and of all where it shows the list of them. */
export function useShown(sceneId: string | undefined, list: boolean) {
  useEffect(() => {
    shown = { scene: sceneId ?? null, list };
    look();
  }, [sceneId, list]);
}

/** Keeps the list of tasks up to date, and asks again for what has changed: of the scene that changed, and only that. */
export function listen(client: QueryClient): () => void {
  const connection = new HubConnectionBuilder()
    .withUrl('/hub/work')
    .withAutomaticReconnect()
    .configureLogging(LogLevel.Error)
    .build();
  hub = connection;
  const old = (...queryKey: string[]) => void client.invalidateQueries({ queryKey });
  connection.on('work', (item: WorkItem) => {
    client.setQueryData<WorkItem[]>(['work'], (known = []) =>
      known.some((w) => w.id === item.id) ? known.map((w) => (w.id === item.id ? item : w)) : [item, ...known],
    );
    // A frame is shown while it gets better.
    if (item.kind === 'draw' && item.sceneId) old('frame', item.sceneId);
    // What is measured shows as it comes; an answer on its way is waited for.
    if (item.kind === 'measurecrossing' && item.sceneId)
      void client.invalidateQueries({ queryKey: ['crossing', item.sceneId] }, { cancelRefetch: false });
    if (!ended(item.state)) return;
    if (item.kind === 'arrive') {
      old('scenes');
      old('added');
    }
    if (item.kind === 'sweepstore' && item.state === 'done') toast.success(item.detail);
    if (item.kind === 'listroot') old('roots');
    for (const key of ofWork[item.kind] ?? []) if (item.sceneId) old(key, item.sceneId);
    if (item.state === 'failed') toast.error(item.error ?? `${item.title} failed.`, { duration: 12_000 });
  });
  connection.on('scene', (scene: string, change: SceneChange) => {
    // A file that the scene uses was written over: pictures show it as it is now.
    if (scene === everyScene) {
      // The house's own choices: rules, destinations, recipes.
      for (const key of ['audit', 'bench', 'rules', 'destination', 'recipes']) old(key);
      return;
    }
    if (change === 'muster' || change === 'ledger' || change === 'files') useTouched.getState().look(scene);
    if (change === 'files') useTouched.getState().touch();
    else old('scenes');
    if (change === 'muster') {
      old('roots');
      old('added', scene);
    }
    for (const key of ofChange[change]) old(key, scene);
  });
  connection.onreconnected(() => {
    look();
    void client.invalidateQueries();
  });
  void connection
    .start()
    .then(look)
    .catch(() => toast.error('Live progress cannot be reached; the page shows what was last loaded.'));
  return () => {
    hub = undefined;
    void connection.stop();
  };
}
