import { useAdded, useTakeOut } from '../api/shelf';
import { bytes, count, many, when } from './format';
import { MidCut } from './MidCut';

/** Textures that somebody added from their own computer: a root of this scene alone. Nothing where there are none. */
export function AddedTextures({ sceneId }: { sceneId: string }) {
  const added = useAdded(sceneId).data ?? [];
  const takeOut = useTakeOut(sceneId);
  if (added.length === 0) return null;
  return (
    <section aria-label="Added textures" className="mt-4">
      <h3 className="text-[13px] font-[680]">Added from a computer</h3>
      {added.map((a) => (
        <p key={a.id} className="flex items-baseline gap-3 border-t border-hair py-1 text-[12.5px]">
          <MidCut text={a.name} className="mono min-w-0 flex-1 text-[12px]" />
          <span className="flex-none text-quiet">
            {many(a.files, 'file')}, {bytes(a.bytes)}, {when(a.addedAt)},{' '}
            {a.answering === 0 ? 'answers nothing' : `answers ${count(a.answering)}`}
          </span>
          <button
            type="button"
            className="act soft flex-none"
            aria-label={`Take out ${a.name}`}
            onClick={() => takeOut.mutate(a.id)}
          >
            Take out
          </button>
        </p>
      ))}
    </section>
  );
}
