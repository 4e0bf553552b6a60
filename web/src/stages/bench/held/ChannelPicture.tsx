import clsx from 'clsx';
import { PictureAt } from '../../../parts/Picture';

interface ChannelPictureProps {
  url: string | null;
  /** Undefined for all together. */
  letter: string | undefined;
  alt: string;
  size: number;
  on: boolean;
}

/** Rows of feColorMatrix that make a grey of one channel (Filter Effects Module Level 1). */
const rows: Record<string, string> = {
  r: '1 0 0 0 0',
  g: '0 1 0 0 0',
  b: '0 0 1 0 0',
  a: '0 0 0 1 0',
};

/** One channel of a picture as grey, in the values that are stored. */
export function ChannelPicture({ url, letter, alt, size, on }: ChannelPictureProps) {
  const row = letter === undefined ? undefined : rows[letter];
  return (
    <span className={clsx('block w-fit', on && 'outline outline-[1.5px] outline-white')}>
      {row !== undefined && (
        <svg width="0" height="0" className="absolute" aria-hidden="true">
          <filter id={`rc-channel-${letter}`} x="0" y="0" width="1" height="1" colorInterpolationFilters="sRGB">
            <feColorMatrix type="matrix" values={`${row} ${row} ${row} 0 0 0 0 1`} />
          </filter>
        </svg>
      )}
      <span className="block" style={row === undefined ? undefined : { filter: `url(#rc-channel-${letter})` }}>
        <PictureAt url={url} alt={alt} size={size} />
      </span>
    </span>
  );
}
