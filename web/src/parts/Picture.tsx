import { useEffect, useRef, useState } from 'react';
import { useTouched } from '../state/touched';

const retryAfter = 350;
const longestWait = 2000;
const mostTries = 80;

/** A picture that was loaded: false when there is none, and what it does not show. */
export interface Loaded {
  url: string;
  source: string | false;
  told: string[];
  /** How far it lies from a picture that it is held beside, in CIEDE2000. */
  difference?: { mean: number; high: number; most: number; isSeen: boolean };
}

/** Loads a picture that a worker may still be making. Null while it waits. */
export function useLoaded(url: string | undefined, tries = mostTries): Loaded | null {
  const [made, setMade] = useState<Loaded | null>(null);
  const shown = useRef<string>(undefined);
  useEffect(() => () => forget(shown.current), []);
  useEffect(() => {
    if (url === undefined) return;
    const stop = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async (asked: number) => {
      const answer = await fetch(url, { signal: stop.signal });
      if (answer.status === 202 && asked < tries) {
        const wait = Math.min(longestWait, retryAfter * 1.1 ** asked);
        timer = setTimeout(() => void ask(asked + 1).catch(() => undefined), wait);
        return;
      }
      const loaded = await loadedFrom(url, answer);
      if (stop.signal.aborted) return loaded.source ? URL.revokeObjectURL(loaded.source) : undefined;
      if (loaded.source) {
        forget(shown.current);
        shown.current = loaded.source;
      }
      setMade(loaded);
    };
    ask(0).catch(() => {
      if (!stop.signal.aborted) setMade({ url, source: false, told: [] });
    });
    return () => {
      stop.abort();
      clearTimeout(timer);
    };
  }, [url, tries]);
  return made;
}

async function loadedFrom(url: string, answer: Response): Promise<Loaded> {
  if (answer.status !== 200) return { url, source: false, told: [] };
  const told = answer.headers.get('Swatch-Told');
  const difference = answer.headers.get('Swatch-Difference');
  return {
    url,
    source: URL.createObjectURL(await answer.blob()),
    told: told ? decodeURIComponent(told).split('\n') : [],
    ...(difference && {
      difference: JSON.parse(decodeURIComponent(difference)) as NonNullable<Loaded['difference']>,
    }),
  };
}

/** Waits for a picture that somebody looks for while it is made: it is asked for often, and not for long. */
export async function askPicture(url: string, stop?: AbortSignal): Promise<Loaded> {
  for (let asked = 0; ; asked++) {
    const answer = await fetch(url, stop ? { signal: stop } : {});
    if (answer.status !== 202 || asked === mostTries * 5) return loadedFrom(url, answer);
    await new Promise((done) => setTimeout(done, asked < 20 ? 60 : 300));
    stop?.throwIfAborted();
  }
}

/** What a picture was loaded into. It may still be on the screen for a frame or two. */
function forget(object: string | undefined) {
  if (object !== undefined) setTimeout(() => URL.revokeObjectURL(object), 2000);
}

/** Null while it waits, false when there is none. */
function usePicture(url: string | undefined): string | false | null {
  const made = useLoaded(url);
  return made && made.url === url ? made.source : null;
}

interface PictureProps {
  sceneId: string;
  number: number;
  candidate?: number;
  large?: boolean;
  /** As it was when it was last looked at. */
  before?: boolean;
  alt: string;
  size: number;
  /** Nothing to load: the hatch of a missing image. */
  missing?: boolean;
}

/** A picture by its address, on the 18 % field; the hatch where there is none. */
export function PictureAt({ url, alt, size }: { url: string | null | undefined; alt: string; size: number }) {
  const touched = useTouched((s) => s.times);
  const source = usePicture(
    url ? (touched > 0 ? `${url}${url.includes('?') ? '&' : '?'}touched=${touched}` : url) : undefined,
  );
  const none = !url || source === false;
  return (
    <div
      className={`${none ? 'hatch' : 'field'} flex flex-none items-center justify-center`}
      style={{ width: size, height: size, padding: size > 100 ? 8 : size > 40 ? 3 : 0 }}
    >
      {source && <img src={source} alt={alt} className="max-h-full max-w-full" />}
    </div>
  );
}

/** An image of a reference or of one of its candidates, on the 18 % field. */
export function Picture({ sceneId, number, candidate, large, before, alt, size, missing }: PictureProps) {
  const touched = useTouched((s) => s.times);
  const query = new URLSearchParams();
  if (candidate !== undefined) query.set('candidate', String(candidate));
  if (large) query.set('large', 'true');
  if (before) query.set('before', 'true');
  if (touched > 0) query.set('touched', String(touched));
  const url = missing ? undefined : `/api/scenes/${sceneId}/references/${number}/picture?${query}`;
  const source = usePicture(url);
  const none = missing === true || source === false;
  return (
    <div
      className={`${none ? 'hatch' : 'field'} flex flex-none items-center justify-center`}
      style={{ width: size, height: size, padding: size > 100 ? 10 : 4 }}
    >
      {source ? (
        <img src={source} alt={alt} className="max-h-full max-w-full" />
      ) : (
        none && (
          <span
            className="plate"
            aria-hidden={alt === ''}
            aria-label={alt && `${number}, ${alt}: no picture`}
            role={alt ? 'img' : undefined}
          >
            {number}
          </span>
        )
      )}
    </div>
  );
}
