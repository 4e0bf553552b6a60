import clsx from 'clsx';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { MemberItem } from '../../api/client';
import { count } from '../../parts/format';
import { Hint } from '../../parts/Hint';
import { PictureAt } from '../../parts/Picture';
import { useGrown } from '../../parts/useGrown';
import { Swatch } from '../../parts/Swatch';

interface WhoProps {
  sceneId: string;
  members: MemberItem[];
  current: string;
  focus: ReadonlySet<string>;
  inFocus: number;
  onMember: (key: string) => void;
  onToggle: (material: string | null) => void;
}

/** Everyone who is affected, on the field; a bead for each that is in focus. */
export function Who({ sceneId, members, current, focus, inFocus, onMember, onToggle }: WhoProps) {
  const side = useGrown(30);
  const cell = side + 4;
  const strip = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    horizontal: true,
    count: members.length,
    getScrollElement: () => strip.current,
    estimateSize: () => cell,
    overscan: 8,
  });
  const at = members.findIndex((m) => m.key === current);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [at, rows]);
  const kinds = new Set(members.map((m) => (m.kind === 'input' ? 'material' : m.kind)));
  const what = kinds.size === 1 ? [...kinds][0] : 'thing';
  const plural = what === 'mesh' ? 'meshes' : `${what}s`;
  return (
    <div className="mt-1.5 flex-none">
      <h2 className="mb-1 text-[12px] text-quiet">
        <b className="font-bold text-ink">{count(members.length)}</b>{' '}
        {members.length === 1 ? `${what} is` : `${plural} are`} affected
        {inFocus > 0 && <>, {count(inFocus)} in focus</>}
      </h2>
      <div
        ref={strip}
        className="field overflow-x-auto overflow-y-hidden"
        style={{ height: side + 16 }}
        role="listbox"
        aria-label="Affected"
        tabIndex={0}
      >
        <div className="relative h-full" style={{ width: rows.getTotalSize() + 12 }}>
          {rows.getVirtualItems().map((v) => {
            const m = members[v.index];
            if (!m) return null;
            const picked = m.material !== null && focus.has(m.material);
            return (
              <Hint
                key={m.key}
                text={`${m.name}${m.part ? `, ${m.part}` : ''}. Click to see it${m.material ? ', again to add it to the focus' : ''}.`}
              >
                <button
                  type="button"
                  role="option"
                  aria-selected={picked}
                  aria-label={`${m.name}${m.part ? `, ${m.part}` : ''}${m.pending ? ', pending' : ''}`}
                  className="absolute top-1"
                  style={{ left: 6 + v.start, width: cell - 2, height: side + 10 }}
                  onClick={() => (m.key === current ? onToggle(m.material) : onMember(m.key))}
                >
                  <span
                    className={clsx(
                      'block',
                      m.key === current && 'outline-2 outline-offset-1 outline-white',
                      m.pending && 'opacity-50',
                    )}
                    style={{ width: side, height: side }}
                  >
                    {m.material && (m.kind === 'input' || m.kind === 'material') ? (
                      <Swatch sceneId={sceneId} material={m.material} size={side} />
                    ) : (
                      <PictureAt url={m.picture} alt="" size={side} />
                    )}
                  </span>
                  {picked && (
                    <>
                      <span className="absolute inset-x-0 bottom-[2px] h-[1.5px] bg-white" />
                      <span className="absolute bottom-[-1px] left-3 size-[7px] rounded-full bg-white" />
                    </>
                  )}
                </button>
              </Hint>
            );
          })}
        </div>
      </div>
    </div>
  );
}
