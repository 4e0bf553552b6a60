import { useState } from 'react';
import { Link } from 'react-router';
import type { IntoForm, WorkItem, WriteChoices } from '../../api/client';
import { useWork, useWriteCopy, useWriteToFetch } from '../../api/queries';
import { many, when } from '../format';
import { isOpen, WorkLine } from '../WorkLine';
import { IntoMenu } from './IntoMenu';

interface WriteSceneProps {
  sceneId: string;
  choices: WriteChoices;
  into: IntoForm | null;
  onInto: (into: IntoForm | null) => void;
}

/** Writes the scene, relinked and mended, into a root for output: its own files, or one of another format. No image is copied. */
export function WriteScene({ sceneId, choices, into, onInto }: WriteSceneProps) {
  const [folder, setFolder] = useState('relinked');
  const copy = useWriteCopy(sceneId);
  const fetch = useWriteToFetch(sceneId);
  const works = useWork().data?.filter((w) => w.sceneId === sceneId && w.kind === 'writecopy');
  const open = works?.find(isOpen);
  const last = works?.find((w) => w.state === 'done');
  const [first] = choices.outputs;
  return (
    <div className="mb-1.5">
      <div className="flex flex-wrap items-baseline gap-x-2 pb-1 text-[12.5px]">
        <span className="text-quiet">as</span>
        <IntoMenu choices={choices} into={into} onInto={onInto} />
      </div>
      {into && <Carried choices={choices} into={into} />}
      {open ? (
        <WorkLine item={open} verb="Writing the scene" />
      ) : first ? (
        <form
          aria-label="Write the scene"
          className="flex items-center gap-2 text-[12.5px]"
          onSubmit={(e) => {
            e.preventDefault();
            copy.mutate({ root: first.id, folder, into });
          }}
        >
          <code className="text-[12px] text-quiet" title={first.folder}>
            {first.name}/
          </code>
          <input
            aria-label="Folder"
            className="mono h-7 min-w-0 flex-1 border border-rule bg-ground px-2 text-[12px]"
            value={folder}
            onChange={(e) => setFolder(e.target.value)}
          />
          <button type="submit" className="key outlined" disabled={folder.trim() === '' || copy.isPending}>
            Write it
          </button>
        </form>
      ) : (
        <p className="text-[12.5px] text-quiet">
          No root takes what is written. <Link to={`/muster/${sceneId}`}>Under Roots in Muster</Link> one is made a root
          for output.
        </p>
      )}
      {last && !open && <Written sceneId={sceneId} item={last} />}
      {!into && !open && (
        <p className="pt-1 text-[12px] text-quiet">
          or{' '}
          <button type="button" className="act" disabled={fetch.isPending} onClick={() => fetch.mutate(undefined)}>
            write it to download
          </button>
          : its paths hold where the arrived scene lies
        </p>
      )}
    </div>
  );
}

/** What becomes of the looks, and what stays behind: named before anything is written. */
function Carried({ choices, into }: { choices: WriteChoices; into: IntoForm }) {
  const form = choices.forms.find((f) => f.form === into.form);
  const looks = form?.models.find((m) => m.id === into.model)?.looks ?? 0;
  const by = into.fit ? 'the best fit where that was measured' : 'formula';
  const sentences = [
    looks === 0
      ? 'All looks are of that model already.'
      : `${many(looks, 'look is', 'looks are')} carried to it, by ${by}; the Crossing tells how far each moves.`,
    ...(form?.leaves ?? []),
  ];
  return <p className="pb-1.5 text-[12px] leading-4 text-soft">{sentences.join(' ')}</p>;
}

/** Where the last one lies, and what it left behind. */
function Written({ sceneId, item }: { sceneId: string; item: WorkItem }) {
  const [path = '', ...behind] = item.detail.split('\n');
  if (item.phase === 'to fetch')
    return (
      <p className="mt-1.5 text-[12px] leading-4">
        <a className="act" href={`/api/scenes/${sceneId}/copies/${item.id}/file`} download>
          Download {path}
        </a>{' '}
        <span className="text-quiet">
          Put it into <code className="break-all text-[11.5px]">{behind[0]}</code>.
        </span>
      </p>
    );
  return (
    <div className="mt-1.5 text-[12px] leading-4" data-written={path}>
      <p className="flex items-baseline gap-2">
        <span className="shrink-0 text-quiet">Written{item.endedAt && ` ${when(item.endedAt)}`}:</span>
        <code className="min-w-0 flex-1 break-all text-[11.5px]">{path}</code>
        <button type="button" className="act" onClick={() => void navigator.clipboard.writeText(path)}>
          Copy the path
        </button>
      </p>
      {behind.map((sentence) => (
        <p key={sentence} className="text-soft">
          {sentence}
        </p>
      ))}
    </div>
  );
}
