import type * as THREE from 'three';
import type { ViewedLook } from '../../../api/client';
import { askPicture } from '../../../parts/Picture';
import type { Marked } from './overlays';
import { checkerOf, checkerPicture, markedSurface, outlineSurfaces, pictureOf, surfaceOf } from './surfaces';

/** More pictures than these are taken small: each in full takes 4 MB of the graphics card. */
const mostLarge = 48;

/** Pictures that are asked for at a time. */
const atATime = 4;

/**
 * The surfaces that the parts of one scene are dressed in, each made once. A picture is asked for when a surface first needs it, and
 * put on when it is there.
 */
export class Wardrobe {
  private readonly made = new Map<string, THREE.Material>();
  private readonly images = new Map<number, HTMLImageElement | null>();
  private readonly waiting: number[] = [];
  private stop = new AbortController();
  private asked = 0;
  private checker: HTMLCanvasElement | undefined;
  readonly outlines = { held: outlineSurfaces(2.5), focus: outlineSurfaces(1.2) };

  constructor(
    private readonly sceneId: string,
    /** Counts the changes of its pictures that this window has heard of. */
    private readonly touched: number,
    private readonly isMany: boolean,
    /** Told when a picture has come. */
    private readonly onPicture: () => void,
  ) {}

  static for(sceneId: string, touched: number, looks: readonly ViewedLook[], onPicture: () => void) {
    return new Wardrobe(sceneId, touched, looks.filter((l) => l.map).length > mostLarge, onPicture);
  }

  look(look: ViewedLook | undefined, uv: number, isFlat: boolean): THREE.Material {
    const image = look?.map ? this.image(look.map.number) : undefined;
    return this.once(`look ${JSON.stringify(look)} ${uv} ${isFlat} ${image ? 'pictured' : ''}`, () =>
      surfaceOf(look, image && look ? pictureOf(image, look, uv) : undefined, isFlat),
    );
  }

  checked(look: ViewedLook | undefined, uv: number): THREE.Material {
    this.checker ??= checkerPicture();
    const picture = this.checker;
    return this.once(`checker ${JSON.stringify(look?.map)} ${uv}`, () => checkerOf(look, picture, uv));
  }

  marked(mark: Marked): THREE.Material {
    return this.once(`marked ${mark.hatch} ${mark.grey}`, () => markedSurface(mark));
  }

  /** Lines are as wide on every screen. */
  fit(width: number, height: number) {
    for (const { uniforms } of Object.values(this.outlines).flat())
      (uniforms.size?.value as THREE.Vector2).set(width, height);
  }

  /** It may be opened again after it was closed. */
  open() {
    if (this.stop.signal.aborted) this.stop = new AbortController();
  }

  close() {
    this.stop.abort();
    this.waiting.length = 0;
    for (const [number, image] of this.images) if (image === null) this.images.delete(number);
    for (const surface of this.made.values()) {
      if ('map' in surface) (surface.map as THREE.Texture | null)?.dispose();
      surface.dispose();
    }
    Object.values(this.outlines)
      .flat()
      .forEach((o) => o.dispose());
    this.made.clear();
  }

  private once(key: string, make: () => THREE.Material): THREE.Material {
    const known = this.made.get(key);
    if (known) return known;
    const surface = make();
    this.made.set(key, surface);
    return surface;
  }

  /** Undefined while it is on its way, and when there is none. */
  private image(number: number): HTMLImageElement | undefined {
    const known = this.images.get(number);
    if (known === undefined) {
      this.images.set(number, null);
      this.waiting.push(number);
      void this.next();
    }
    return known ?? undefined;
  }

  private async next(): Promise<void> {
    if (this.asked >= atATime) return;
    const number = this.waiting.shift();
    if (number === undefined) return;
    this.asked++;
    try {
      const query = new URLSearchParams({
        ...(!this.isMany && { large: 'true' }),
        ...(this.touched > 0 && { touched: String(this.touched) }),
      });
      const address = `/api/scenes/${this.sceneId}/references/${number}/picture?${query}`;
      const { source } = await askPicture(address, this.stop.signal);
      if (source) {
        const image = new Image();
        image.src = source;
        await image.decode();
        URL.revokeObjectURL(source);
        this.images.set(number, image);
        this.onPicture();
      }
    } catch {
      // It is shown without.
    } finally {
      this.asked--;
      void this.next();
    }
  }
}
