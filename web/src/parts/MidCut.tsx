import clsx from 'clsx';

/** As long as the part of a name that tells what an image is for: “_basecolor.png”. */
const telling = 14;

/** What is too long loses its middle; its beginning and its telling end stay. */
export function MidCut({ text, title = text, className }: { text: string; title?: string; className?: string }) {
  if (text.length <= telling + 4)
    return (
      <span className={clsx('truncate', className)} title={title}>
        {text}
      </span>
    );
  return (
    <span className={clsx('flex min-w-0', className)} title={title}>
      <span className="min-w-4 truncate whitespace-pre">{text.slice(0, -telling)}</span>
      <span className="flex-none whitespace-pre">{text.slice(-telling)}</span>
    </span>
  );
}
