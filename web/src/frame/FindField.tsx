import clsx from 'clsx';
import { useRef } from 'react';
import { useFocus } from '../state/focus';
import { useKey } from './keys';

/** Find in this stage; `/` comes here, Escape empties it and steps out. */
export function FindField({ among }: { among: string }) {
  const field = useRef<HTMLInputElement>(null);
  const { find, narrow } = useFocus();
  useKey('/', () => field.current?.focus());
  return (
    <label className="absolute right-7 top-[82px] flex h-6 max-w-64 items-center justify-end gap-2 bg-ground pl-2 text-[12px] text-quiet">
      {!find && <kbd aria-hidden="true">/</kbd>}
      <input
        ref={field}
        type="search"
        aria-label={`Find among ${among}`}
        placeholder={`find among ${among}`}
        value={find}
        onChange={(e) => narrow({ find: e.target.value })}
        onKeyDown={(e) => {
          if (e.key !== 'Escape') return;
          narrow({ find: '' });
          e.currentTarget.blur();
        }}
        className={clsx(
          'field-sizing-content min-w-28 max-w-56 border-b border-transparent bg-transparent text-ink outline-none',
          'placeholder:text-quiet focus:border-lichen',
        )}
      />
    </label>
  );
}
