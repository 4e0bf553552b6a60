import clsx from 'clsx';
import { useState } from 'react';
import type { HeldImage, HeldView } from '../../../api/client';
import { Histogram } from '../../../parts/Histogram';
import { pixels } from '../../../parts/format';
import { PictureAt } from '../../../parts/Picture';
import { ChannelPicture } from './ChannelPicture';

/** The images that reach it, and the one in hand by channel. */
export function Images({ view, first }: { view: HeldView; first: string | undefined }) {
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
      <Head image={image} />
      {image.isMissing ? (
        <p className="text-[12.5px] text-clay">It did not come. Muster tells where it was looked for.</p>
      ) : (
        <>
          <div className="flex flex-none flex-wrap gap-2">
            <Channel image={image} letter={undefined} on={letter === undefined} onPick={() => setLetter(undefined)} />
            {image.channels.length > 1 &&
              image.channels.map((c) => (
                <Channel
                  key={c.letter}
                  image={image}
                  letter={c.letter}
                  on={c.letter === letter}
                  onPick={() => setLetter(c.letter)}
                />
              ))}
          </div>
          {channel && (
            <Histogram
              bins={channel.histogram}
              letter={channel.letter.toUpperCase()}
              min={channel.min}
              mean={channel.mean}
              max={channel.max}
            />
          )}
        </>
      )}
    </div>
  );
}

function Head({ image }: { image: HeldImage }) {
  return (
    <div className="flex flex-none items-baseline gap-3">
      <code className="min-w-0 flex-1 truncate text-[12.5px] font-semibold" title={image.name}>
        {image.name}
      </code>
      <span className="flex-none text-[12px] text-quiet">
        {pixels(image.width, image.height)}, {image.facts}
        {image.space && `, ${image.space}`}
        {image.uvSet && `, ${image.uvSet}`}
      </span>
    </div>
  );
}

interface ChannelProps {
  image: HeldImage;
  /** Undefined for all together. */
  letter: string | undefined;
  on: boolean;
  onPick: () => void;
}

function Channel({ image, letter, on, onPick }: ChannelProps) {
  const stats = image.channels.find((c) => c.letter === letter);
  const name = letter?.toUpperCase() ?? (image.channels.length > 2 ? 'RGB' : 'grey');
  const number = (n: number) => n.toFixed(2).replace(/^0/, '');
  return (
    <button type="button" aria-pressed={on} className="w-[94px] text-left" onClick={onPick}>
      <ChannelPicture url={image.picture} letter={letter} alt={`${name} of ${image.name}`} size={94} on={on} />
      <span className="flex items-baseline justify-between pt-0.5 text-[11px] leading-[14px]">
        <b className="font-bold">{name}</b>
        {stats && (
          <code className="text-quiet" title="least, mean, most">
            {number(stats.min)} {number(stats.mean)} {number(stats.max)}
          </code>
        )}
      </span>
    </button>
  );
}
