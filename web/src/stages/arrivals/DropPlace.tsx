import type { Dropped } from '../../api/upload';
import { PickFiles } from '../../parts/PickFiles';
import { useDrop } from '../../parts/useDrop';

interface DropPlaceProps {
  /** The scene that dropped textures are for; undefined where none is picked. */
  picked: string | undefined;
  onOpen: () => void;
  onFiles: (files: Dropped[]) => void;
}

/** The top of the thread: anything dropped anywhere in the window lands here. */
export function DropPlace({ picked, onOpen, onFiles }: DropPlaceProps) {
  const over = useDrop(onFiles);
  return (
    <div className="relative flex h-9 flex-none items-center gap-1 pl-[26px]">
      <span
        className={`absolute bottom-0 left-[6px] top-0 border-l-[1.5px] border-dotted ${over ? 'border-lichen' : 'border-rule'}`}
      />
      <svg
        className="absolute left-0"
        width="14"
        height="14"
        viewBox="0 0 14 14"
        fill="none"
        stroke="var(--rc-lichen)"
        strokeWidth="1.5"
        aria-hidden="true"
      >
        <circle cx="7" cy="7" r="5.6" fill="var(--rc-ground)" />
        <path d="M7 4.6V9.4M4.6 7H9.4" />
      </svg>
      <span className="min-w-0 flex-1 text-[12.5px] leading-4 text-soft">
        {over ? (
          <b className="text-lichen">a new scene{picked && `, or textures for ${picked}`}</b>
        ) : (
          'Drop a scene, textures, a folder or a zip here, or'
        )}
        {!over && (
          <>
            {' '}
            <PickFiles onFiles={onFiles} />
          </>
        )}
      </span>
      <button type="button" className="key flex-none" onClick={onOpen}>
        Open from a server folder <kbd>O</kbd>
      </button>
    </div>
  );
}
