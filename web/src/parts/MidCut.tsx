import clsx from 'clsx';

/** As long as the part of a name that tells what an image is for: “_basecolor.png”. */
const telling = 14;

/** A beginning shorter than this is not worth a cut. */
const leastBeginning = 3;

/** What is too long loses its middle; its beginning and its telling end stay. */
export function MidCut({ text, title = text, className }: { text: string; title?: string; className?: string }) {
  // Names are written in any direction; which one tells their first letter.
  if (text.length < telling + leastBeginning)
    return (
      <span dir="auto" className={clsx('truncate text-left', className)} title={title}>
        {text}
      </span>
    );
  const cut = cutOf(text);
  return (
    <span dir="auto" className={clsx('flex min-w-0 justify-start overflow-hidden', className)} title={title}>
      <span className="min-w-[1ch] truncate whitespace-pre">{text.slice(0, cut)}</span>
      <span className="flex-none whitespace-pre">{text.slice(cut)}</span>
    </span>
  );
}

const plain = /^[ -~]*$/;
const letters = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Where the telling end begins; never within a letter and its marks. */
function cutOf(text: string): number {
  const cut = text.length - telling;
  return plain.test(text) ? cut : (letters.segment(text).containing(cut)?.index ?? cut);
}
