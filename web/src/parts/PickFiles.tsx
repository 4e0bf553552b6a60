import { useRef } from 'react';
import type { Dropped } from '../api/upload';

/** "files or a folder": from the computer that the browser runs on. */
export function PickFiles({ onFiles }: { onFiles: (files: Dropped[]) => void }) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const chosen = (input: HTMLInputElement) => {
    onFiles(Array.from(input.files ?? [], (file) => ({ path: file.webkitRelativePath || file.name, file })));
    input.value = '';
  };
  return (
    <>
      <button type="button" className="act" onClick={() => files.current?.click()}>
        files
      </button>
      {' or '}
      <button type="button" className="act" onClick={() => folder.current?.click()}>
        a folder
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
    </>
  );
}
