import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { upload, type Dropped } from './upload';

/** An upload on its way to the server, before a task takes it over. */
export interface Sending {
  name: string;
  part: number;
  stop: () => void;
}

/**
 * @param known The picked scene: a delivery that holds a file of its name is its next version, and textures alone are added to it.
 */
export function useUpload(known: { id: string; name: string } | undefined) {
  const client = useQueryClient();
  const [sending, setSending] = useState<Sending>();
  const send = async (files: Dropped[]) => {
    const first = files[0];
    if (!first || sending) return;
    const name = files.length === 1 ? first.path : (first.path.split('/')[0] ?? first.path);
    const control = new AbortController();
    const stop = () => control.abort();
    setSending({ name, part: 0, stop });
    try {
      const of = known && files.some((f) => f.path.split('/').pop() === known.name) ? known : undefined;
      await upload(files, known?.id, of?.name, (part) => setSending({ name, part, stop }), control.signal);
      await client.invalidateQueries({ queryKey: ['work'] });
    } catch (error) {
      toast.error(error instanceof Error ? error.message : 'The upload failed; nothing was kept.');
    } finally {
      setSending(undefined);
    }
  };
  return { sending, send: (files: Dropped[]) => void send(files) };
}
