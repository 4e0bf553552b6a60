import type { HeldImage } from '../../../api/client';
import { pixels } from '../../../parts/format';
import { useGrown } from '../../../parts/useGrown';
import { ChannelPicture } from './ChannelPicture';

interface ImageStripProps {
  image: HeldImage;
  /** The channel in hand; undefined for all together. */
  letter: string | undefined;
  onLetter: (letter: string | undefined) => void;
  onOpen: () => void;
}

/** An image, all together and by channel, with the least, the mean and the most of each. */
export function ImageStrip({ image, letter, onLetter, onOpen }: ImageStripProps) {
  return (
    <div className="flex flex-none flex-col gap-2 pb-1.5">
      <Head image={image} onOpen={onOpen} />
      {image.isElsewhere && (
        <p className="text-[12.5px] text-soft">
          It lies elsewhere: this is its one clear candidate. Muster relinks it.
        </p>
      )}
      {image.isMissing && !image.isElsewhere ? (
        <p className="text-[12.5px] text-clay">It did not come. Muster tells where it was looked for.</p>
      ) : (
        <div className="flex gap-2">
          <Channel image={image} letter={undefined} on={letter === undefined} onPick={() => onLetter(undefined)} />
          {image.channels.length > 1 &&
            image.channels.map((c) => (
              <Channel
                key={c.letter}
                image={image}
                letter={c.letter}
                on={c.letter === letter}
                onPick={() => onLetter(c.letter)}
              />
            ))}
        </div>
      )}
    </div>
  );
}

function Head({ image, onOpen }: { image: HeldImage; onOpen: () => void }) {
  return (
    <div className="flex-none leading-4">
      <div className="flex items-baseline gap-3">
        <code className="min-w-0 flex-1 truncate text-[12.5px] font-semibold" title={image.name}>
          {image.name}
        </code>
        {(!image.isMissing || image.isElsewhere) && image.number !== null && (
          <button type="button" className="act flex-none" onClick={onOpen}>
            To the pixel
          </button>
        )}
      </div>
      <p className="truncate text-[12px] text-quiet">
        {[image.width !== null && pixels(image.width, image.height), image.facts, image.space, image.uvSet]
          .filter(Boolean)
          .join(', ')}
      </p>
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
  const side = useGrown(76);
  const stats = image.channels.find((c) => c.letter === letter);
  const name = letter?.toUpperCase() ?? (image.channels.length === 1 ? 'grey' : 'RGB');
  const number = (n: number) => n.toFixed(2).replace(/^0/, '');
  return (
    <button type="button" aria-pressed={on} className="min-w-0 flex-1 text-left" onClick={onPick}>
      <ChannelPicture url={image.picture} letter={letter} alt={`${name} of ${image.name}`} size={side} on={on} />
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
