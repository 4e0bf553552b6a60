import { useEffect, useRef, useState } from 'react';
import { filesOf, type Dropped } from '../../api/upload';

/** The top of the thread: anything dropped anywhere in the window lands here. */
export function DropPlace({ onOpen, onFiles }: { onOpen: () => void; onFiles: (files: Dropped[]) => void }) {
  const [over, setOver] = useState(false);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const onOver = (e: DragEvent) => {
      if (!e.dataTransfer?.types.includes('Files')) return;
      e.preventDefault();
      setOver(true);
    };
    const onLeave = (e: DragEvent) => e.relatedTarget === null && setOver(false);
    const onDrop = (e: DragEvent) => {
      if (!e.dataTransfer) return;
      e.preventDefault();
      setOver(false);
      void filesOf(e.dataTransfer).then(onFiles);
    };
    window.addEventListener('dragover', onOver);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('drop', onDrop);
    };
  }, [onFiles]);
  const chosen = (input: HTMLInputElement) => {
    onFiles(Array.from(input.files ?? [], (file) => ({ path: file.webkitRelativePath || file.name, file })));
    input.value = '';
  };

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
        {over ? <b className="text-lichen">a new scene</b> : 'Drop a scene, folder or zip here, or'}
        {!over && (
          <>
            {' '}
            <button type="button" className="act" onClick={() => files.current?.click()}>
              files
            </button>
            {' or '}
            <button type="button" className="act" onClick={() => folder.current?.click()}>
              a folder
            </button>
          </>
        )}
      </span>
      <button type="button" className="key flex-none" onClick={onOpen}>
        Open from a server folder <kbd>O</kbd>
      </button>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        aria-label="Files to bring in"
        onChange={(e) => chosen(e.target)}
        data-upload="files"
      />
      <input
        ref={(input) => {
          folder.current = input;
          input?.setAttribute('webkitdirectory', '');
        }}
        type="file"
        hidden
        aria-label="A folder to bring in"
        onChange={(e) => chosen(e.target)}
      />
    </div>
  );
}
