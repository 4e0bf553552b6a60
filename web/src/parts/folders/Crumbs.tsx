import type { Crumb } from '../../api/client';

/** The way down to the folder in hand; each step leads back. */
export function Crumbs({ crumbs, onGo }: { crumbs: Crumb[]; onGo: (path: string) => void }) {
  return (
    <nav aria-label="Folders above" className="flex min-w-0 flex-1 items-baseline gap-1 overflow-hidden text-[12.5px]">
      <button type="button" className="act soft flex-none" onClick={() => onGo('')}>
        Server folders
      </button>
      {crumbs.map((c, i) => (
        <span key={c.path} className={i === crumbs.length - 1 ? 'flex-none' : 'min-w-0 truncate'}>
          <span className="text-quiet"> / </span>
          {i === crumbs.length - 1 ? (
            <b className="font-[680]">{c.name}</b>
          ) : (
            <button type="button" className="act soft" onClick={() => onGo(c.path)}>
              {c.name}
            </button>
          )}
        </span>
      ))}
    </nav>
  );
}
