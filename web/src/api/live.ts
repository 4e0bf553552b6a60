import { HubConnectionBuilder, LogLevel } from '@microsoft/signalr';
import type { QueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { useTouched } from '../state/touched';
import type { WorkItem } from './client';

const ended = (state: string) => state === 'done' || state === 'failed' || state === 'cancelled';

/** Keeps the list of tasks up to date and asks again for what an ended task has changed. */
export function listen(client: QueryClient): () => void {
  const hub = new HubConnectionBuilder()
    .withUrl('/hub/work')
    .withAutomaticReconnect()
    .configureLogging(LogLevel.Error)
    .build();
  const refresh = (item?: WorkItem) =>
    Promise.all(
      [
        'scenes',
        'scene',
        'muster',
        'audit',
        'evidence',
        'send-off',
        'ledger',
        'transfer',
        'roots',
        'map-variants',
        'house',
      ]
        .filter((key) => key === 'scenes' || item?.kind !== 'pack' || key === 'send-off')
        .map((key) => client.invalidateQueries({ queryKey: [key] })),
    );
  hub.on('work', (item: WorkItem) => {
    client.setQueryData<WorkItem[]>(['work'], (known = []) =>
      known.some((w) => w.id === item.id) ? known.map((w) => (w.id === item.id ? item : w)) : [item, ...known],
    );
    if (!ended(item.state)) return;
    void refresh(item);
    if (item.state === 'failed') toast.error(item.error ?? `${item.title} failed.`, { duration: 12_000 });
  });
  // A file that a scene uses was written over: lists, evidence and pictures show it as it is now.
  hub.on('changed', (scenes: string[]) => {
    useTouched.getState().touch();
    for (const key of ['muster', 'evidence', 'send-off'])
      for (const id of scenes) void client.invalidateQueries({ queryKey: [key, id] });
  });
  hub.onreconnected(() => void client.invalidateQueries());
  void hub.start().catch(() => toast.error('Live progress cannot be reached; the page shows what was last loaded.'));
  return () => void hub.stop();
}
