import clsx from 'clsx';

interface FrameTripleProps {
  /** Address and words of each: before, after, and where both differ. */
  of: [picture: string, words: string][];
  className?: string;
}

/** Two frames of a whole scene beside each other, and where they differ. */
export function FrameTriple({ of, className }: FrameTripleProps) {
  return (
    <div className="grid grid-cols-3 items-start gap-x-3">
      {of.map(([picture, words]) => (
        <figure key={words} className="field min-w-0 p-2 pb-1">
          <img src={picture} alt={words} className={clsx('aspect-video w-full object-contain', className)} />
          <figcaption className="truncate pt-1 text-[12px] leading-4 text-white">{words}</figcaption>
        </figure>
      ))}
    </div>
  );
}
