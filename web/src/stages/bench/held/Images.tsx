import clsx from 'clsx';
import { useState } from 'react';
import type { HeldView } from '../../../api/client';
import { Histogram } from '../../../parts/Histogram';
import { PictureAt } from '../../../parts/Picture';
import { ImageStrip } from './ImageStrip';

interface ImagesProps {
  view: HeldView;
  first: string | undefined;
  /** Pixel by pixel. */
  onOpen: (node: string) => void;
}

/** The images that reach it, and the one in hand by channel. */
export function Images({ view, first, onOpen }: ImagesProps) {
  const [node, setNode] = useState(first);
  const [letter, setLetter] = useState<string>();
  const image = view.images.find((i) => i.node === node) ?? view.images[0];
  if (!image) return <p className="text-[12.5px] text-quiet">No image reaches it.</p>;
  const channel = image.channels.find((c) => c.letter === letter) ?? image.channels[0];
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto">
      <div className="flex flex-none flex-wrap gap-1.5" role="group" aria-label="Images">
        {view.images.map((i) => (
          <button
            key={i.node}
            type="button"
            aria-pressed={i === image}
            aria-label={i.name}
            title={i.name}
            className={clsx(i === image && 'outline outline-[1.5px] outline-white')}
            onClick={() => setNode(i.node)}
          >
            <PictureAt url={i.picture} alt="" size={52} />
          </button>
        ))}
      </div>
      <ImageStrip image={image} letter={letter} onLetter={setLetter} onOpen={() => onOpen(image.node)} />
      {channel && !image.isMissing && (
        <Histogram
          bins={channel.histogram}
          letter={channel.letter.toUpperCase()}
          min={channel.min}
          mean={channel.mean}
          max={channel.max}
        />
      )}
    </div>
  );
}
