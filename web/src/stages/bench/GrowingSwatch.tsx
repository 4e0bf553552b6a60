import { useEffect, useState } from 'react';
import type { Loaded } from '../../parts/Picture';
import { askPicture } from '../../parts/Picture';
import { Sphere } from '../../parts/Swatch';
import { useSettings } from '../../state/settings';
import { useTouched } from '../../state/touched';
import { useShape } from './useShape';

interface GrowingSwatchProps {
  sceneId: string;
  material: string;
  /** Of the square, in CSS pixels. */
  size: number;
  /** Values that are tried, by input; nothing of it is written. */
  drafts: Readonly<Record<string, number[]>>;
  alt: string;
}

/** A first picture is there at once; finer ones take its place. */
const steps = [96, 384, 640];

/** A large swatch that gets better while one looks, also of values that are only tried. */
export function GrowingSwatch({ sceneId, material, size, drafts, alt }: GrowingSwatchProps) {
  const light = useSettings((s) => s.light);
  const { query: shape } = useShape(sceneId);
  const look = useTouched((s) => s.looks[sceneId] ?? 0);
  const tried = Object.keys(drafts).length > 0 ? JSON.stringify(drafts) : undefined;
  const most = size * Math.min(2, devicePixelRatio) > 420 ? 640 : 384;
  const loaded = useGrowing(
    (side) => {
      const query = new URLSearchParams({ light, ...shape, side: String(side), look: String(look) });
      if (tried === undefined) return `/api/scenes/${sceneId}/swatch?${query}&material=${encodeURIComponent(material)}`;
      return `/api/scenes/${sceneId}/bench/draft?${query}&name=${encodeURIComponent(material)}&values=${encodeURIComponent(tried)}`;
    },
    `${sceneId} ${material} ${light} ${JSON.stringify(shape)} ${look} ${tried ?? ''}`,
    most,
  );
  return (
    <span className="relative" data-growing={tried === undefined ? 'now' : 'tried'}>
      <Sphere loaded={loaded} size={size} alt={tried === undefined ? alt : `${alt} with what is tried`} />
      {tried !== undefined && loaded?.difference && (
        <span className="absolute bottom-1 left-1 bg-field px-1 text-[11px] leading-[14px] text-white">
          {loaded.difference.isSeen ? `ΔE ${loaded.difference.mean.toFixed(1)} from now` : 'looks as now'}
        </span>
      )}
    </span>
  );
}

/**
 * Asks for the coarse picture of what was wanted last, then for the finer ones. What is wanted meanwhile waits for the coarse one on
 * its way, so that whoever drags a value sees a picture for each moment that one can be made in, and no queue grows behind it.
 */
function useGrowing(address: (side: number) => string, key: string, most: number): Loaded | null {
  const [shown, setShown] = useState<Loaded | null>(null);
  const [pump] = useState(() => new Pump(setShown));
  useEffect(() => {
    pump.want(steps.filter((s) => s <= most).map(address));
    // The address says what the key says.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [pump, key, most]);
  useEffect(() => () => pump.end(), [pump]);
  return shown;
}

/** One picture on its way at a time. */
class Pump {
  private wanted: string[] | undefined;
  private running = false;
  private finer: AbortController | undefined;
  private source: string | undefined;

  constructor(private readonly show: (loaded: Loaded) => void) {}

  want(urls: string[]) {
    this.wanted = urls;
    // Only the coarse one is waited for.
    this.finer?.abort();
    if (!this.running) void this.run();
  }

  end() {
    this.wanted = undefined;
    this.finer?.abort();
    const last = this.source;
    if (last !== undefined) setTimeout(() => URL.revokeObjectURL(last), 2000);
  }

  private async run() {
    this.running = true;
    while (this.wanted) {
      const [coarse, ...finer] = this.wanted;
      this.wanted = undefined;
      const stop = (this.finer = new AbortController());
      if (coarse !== undefined) await this.ask(coarse, undefined);
      for (const url of finer) if (!stop.signal.aborted) await this.ask(url, stop.signal);
    }
    this.running = false;
  }

  private async ask(url: string, stop: AbortSignal | undefined) {
    const loaded = await askPicture(url, stop).catch(() => undefined);
    if (!loaded || (loaded.source === false && stop !== undefined)) return;
    const last = this.source;
    this.source = loaded.source === false ? undefined : loaded.source;
    this.show(loaded);
    if (last !== undefined) setTimeout(() => URL.revokeObjectURL(last), 2000);
  }
}
