import { useScenePreview } from '../../api/folders';
import { count, many } from '../format';
import { PictureAt } from '../Picture';

/** What the scene in hand holds, read from its own file alone. */
export function ScenePreview({ path }: { path: string | undefined }) {
  const preview = useScenePreview(path);
  const view = preview.data;
  return (
    <section
      aria-label="In this scene"
      className="min-h-0 overflow-y-auto border-l border-hair px-4 py-2 text-[12.5px]"
    >
      {path === undefined ? (
        <p className="text-quiet">Pick a scene to see what is in it.</p>
      ) : preview.isError ? (
        <p className="text-clay">{preview.error.message}</p>
      ) : !view ? (
        <p className="text-quiet">Looking into it.</p>
      ) : (
        <>
          <h3 className="break-all font-[680]">{path.split('/').pop()}</h3>
          <p className="text-quiet">{view.format}</p>
          {view.whyNot !== null ? (
            <p className="pt-2 text-soft">{view.whyNot}</p>
          ) : (
            <>
              <dl className="grid grid-cols-[auto_1fr] gap-x-4 pt-2">
                {(
                  [
                    ['nodes', view.nodes],
                    ['meshes', view.meshes],
                    ['triangles', view.triangles],
                    ['materials', view.materialCount],
                    ['images called', view.called],
                  ] as const
                ).map(([what, n]) => (
                  <div key={what} className="contents">
                    <dt className="text-quiet">{what}</dt>
                    <dd className="mono text-[12px]">{count(n)}</dd>
                  </div>
                ))}
              </dl>
              {view.images.length > 0 && (
                <div className="field mt-2 flex flex-wrap gap-1.5 p-1.5">
                  {view.images.map((image) => (
                    <PictureAt
                      key={image}
                      url={`/api/folders/picture?${new URLSearchParams({ path: image })}`}
                      alt={image.split('/').pop() ?? ''}
                      size={84}
                    />
                  ))}
                </div>
              )}
              <p className="pt-2 leading-4 text-soft">
                {view.materials.join(', ')}
                {view.materialCount > view.materials.length &&
                  ` and ${many(view.materialCount - view.materials.length, 'more', 'more')}`}
              </p>
            </>
          )}
        </>
      )}
    </section>
  );
}
