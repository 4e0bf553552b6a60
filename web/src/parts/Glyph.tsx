import type { ReactNode } from 'react';
import { stateWords } from './words';

const answers = (
  <>
    <path d="M1 8H9" />
    <circle cx="11.6" cy="8" r="3.4" fill="currentColor" stroke="none" />
  </>
);

const shapes: Record<string, ReactNode> = {
  present: answers,
  relinked: answers,
  embedded: (
    <>
      <circle cx="8" cy="8" r="6" />
      <circle cx="8" cy="8" r="2.6" fill="currentColor" stroke="none" />
    </>
  ),
  elsewhere: (
    <>
      <path d="M1 12H3.2C7 12 5.2 5 9 5H9.6" />
      <circle cx="12" cy="5" r="3" fill="currentColor" stroke="none" />
    </>
  ),
  contested: (
    <>
      <path d="M1 8H3C6.4 8 5.6 3.6 9 3.6M3 8C6.4 8 5.6 12.4 9 12.4" />
      <circle cx="11.8" cy="3.6" r="2.3" />
      <circle cx="11.8" cy="12.4" r="2.3" />
    </>
  ),
  missing: <path d="M1 8H6.5M6.5 8C8.6 8 8.6 4.6 11 3.6M6.5 8C9 8 10 7.4 13.4 7.8M6.5 8C8.4 8.4 8.8 11 10.6 12.6" />,
  damaged: (
    <>
      <path d="M1 8H6" />
      <path d="M10.6 3.4A3.6 3.6 0 0 0 10.6 10.6Z" fill="currentColor" stroke="none" />
      <path d="M12.4 5.4A3.6 3.6 0 0 1 12.4 12.6Z" />
    </>
  ),
  outside: (
    <>
      <path d="M1 8H5.4M8 1.8V14.2" />
      <circle cx="12.3" cy="8" r="2.4" strokeDasharray="1.6 2.2" />
    </>
  ),
  blocker: (
    <>
      <path d="M1 8H8" />
      <rect x="9" y="1.5" width="4.5" height="13" fill="currentColor" stroke="none" />
    </>
  ),
  warning: <path d="M1 8H4.6L6.6 3.4L9.4 12.6L11.4 8H15" />,
  'stand-in': (
    <>
      <rect x="2" y="2.5" width="12" height="11" strokeDasharray="1.6 2.2" />
      <path d="M4.5 11L9.5 5M8.5 11L12 6.8" />
    </>
  ),
  same: <path d="M1 6H15M1 10H15" />,
  changed: <path d="M1 8C3 4.5 5 4.5 8 8S13 11.5 15 8" />,
  lost: (
    <>
      <path strokeDasharray="1.5 3" d="M1 8H9" />
      <path d="M9 8L12 5.4M9 8L12.4 10.4" />
    </>
  ),
  new: (
    <>
      <path d="M7 8H15" />
      <circle cx="4.6" cy="8" r="2.6" fill="currentColor" stroke="none" />
    </>
  ),
  note: (
    <>
      <path d="M1 10.5H15" />
      <circle cx="8" cy="5.2" r="2" fill="currentColor" stroke="none" />
    </>
  ),
};

/** A drawn state. The word always stands beside it, so it is hidden from screen readers. */
export function Glyph({ name, className = '' }: { name: string; className?: string }) {
  return (
    <svg
      width="16"
      height="16"
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.5"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
      className={`flex-none ${className}`}
    >
      {shapes[name]}
    </svg>
  );
}

const broken = new Set(['missing', 'damaged']);

/** Colour that helps to read a state: clay is broken, lichen can be acted on, all else is ink. */
export const stateColour = (state: string) =>
  broken.has(state) ? 'text-clay' : state === 'elsewhere' ? 'text-lichen' : 'text-ink';

/** @param candidates How many files could answer, where that is known. */
export function State({ name, candidates }: { name: string; candidates?: number }) {
  return (
    <span className={`flex items-center gap-1.5 whitespace-nowrap ${stateColour(name)}`}>
      <Glyph name={name} />
      {stateWords(name, candidates)}
    </span>
  );
}
