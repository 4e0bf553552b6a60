import { ToggleGroup } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useHouse, useMusterActs } from '../../../api/queries';
import { bytes, count, many } from '../../../parts/format';
import { RisingSheet } from '../../../parts/RisingSheet';
import { focusWords } from './inFocus';

interface HouseOrderProps {
  sceneId: string;
  numbers: number[] | null;
  all: number;
  onClose: () => void;
}

const most = 200;

/** Clashing names, files that are there twice, files in bad places, files that nothing calls for. */
export function HouseOrder({ sceneId, numbers, all, onClose }: HouseOrderProps) {
  const [by, setBy] = useState('role');
  const house = useHouse(sceneId, by).data;
  const { house: put } = useMusterActs(sceneId);
  const picks = (n: number) => numbers === null || numbers.includes(n);
  const act = (name: string) => put.mutate({ act: name, by, numbers });
  const clashes = house?.clashes.filter((c) => c.files.some((f) => picks(f.number))) ?? [];
  const duplicates = house?.duplicates.filter((d) => d.numbers.some(picks)) ?? [];
  const gather = house?.gather.filter((g) => picks(g.number)) ?? [];
  const unused = house?.unused ?? [];
  return (
    <RisingSheet
      open
      onOpenChange={onClose}
      title="Tidy files"
      about={`For ${focusWords(numbers, all)}. Nothing is moved where it lies: new names and places count where the scene is written.`}
    >
      <div className="grid min-h-0 flex-1 grid-cols-4 gap-x-6">
        <Column
          title="Names that clash"
          n={clashes.length}
          none="No two files want one name."
          verb={`Give ${many(clashes.length, 'name its', 'names their')} own`}
          busy={put.isPending}
          onAct={() => act('rename')}
        >
          {clashes.slice(0, most).map((c) => (
            <li key={c.name} className="border-t border-hair py-1">
              <code className="text-[12px]">{c.name}</code>
              {c.files.map((f) => (
                <Path key={f.number} from={f.path} to={f.place} />
              ))}
            </li>
          ))}
        </Column>
        <Column
          title="There twice"
          n={duplicates.length}
          none="No file is there under two names."
          verb={`Keep one of each, ${bytes(duplicates.reduce((sum, d) => sum + d.bytesSaved, 0))} less`}
          busy={put.isPending}
          onAct={() => act('keepOne')}
        >
          {duplicates.slice(0, most).map((d) => (
            <li key={d.keep} className="border-t border-hair py-1">
              {d.others.map((o) => (
                <Path key={o} from={o} to={d.keep} />
              ))}
            </li>
          ))}
        </Column>
        <Column
          title="In a bad place"
          n={gather.length}
          none="Every file lies with the scene or in a library."
          verb={`Gather ${many(gather.length, 'file')} beside the scene`}
          busy={put.isPending}
          onAct={() => act('gather')}
          more={
            <ToggleGroup.Root
              type="single"
              value={by}
              onValueChange={(v) => v && setBy(v)}
              aria-label="A folder for each"
              className="flex text-[12px]"
            >
              {['role', 'material'].map((v) => (
                <ToggleGroup.Item
                  key={v}
                  value={v}
                  className="px-1.5 leading-6 text-quiet data-[state=on]:bg-held data-[state=on]:text-ink"
                >
                  by {v}
                </ToggleGroup.Item>
              ))}
            </ToggleGroup.Root>
          }
        >
          {gather.slice(0, most).map((g) => (
            <li key={g.number} className="border-t border-hair py-1">
              <Path from={g.path} to={g.place} />
              <span className="text-[11.5px] text-quiet">
                {g.why}, {bytes(g.bytes)}
              </span>
            </li>
          ))}
        </Column>
        <Column title="Called by nothing" n={unused.length} none="Every image in the scene’s folder is called for.">
          {unused.slice(0, most).map((u) => (
            <li key={u.path} className="flex gap-2 border-t border-hair py-1">
              <FilePath path={u.path} />
              <span className="mono text-[11.5px] text-soft">{bytes(u.bytes)}</span>
            </li>
          ))}
          {unused.length > 0 && (
            <li className="border-t border-hair py-1 text-[12px] text-quiet">
              {bytes(unused.reduce((sum, u) => sum + u.bytes, 0))} together. They stay where they are and go into no
              package.
            </li>
          )}
        </Column>
      </div>
    </RisingSheet>
  );
}

interface ColumnProps {
  title: string;
  n: number;
  none: string;
  verb?: string;
  busy?: boolean;
  onAct?: () => void;
  more?: ReactNode;
  children: ReactNode;
}

function Column({ title, n, none, verb, busy, onAct, more, children }: ColumnProps) {
  return (
    <section aria-label={title} className="flex min-h-0 flex-col">
      <h3 className="flex items-baseline gap-2 pb-1 text-[13px] font-[680]">
        <b className={`text-[24px] leading-7 ${n === 0 ? 'font-[430] text-quiet' : 'font-[720]'}`}>{count(n)}</b>
        <span className="flex-1">{title}</span>
        {n > 0 && more}
      </h3>
      {n === 0 ? (
        <p className="border-t border-hair pt-1 text-[12.5px] text-quiet">{none}</p>
      ) : (
        <ul className="min-h-0 overflow-y-auto border-b border-hair" tabIndex={0} aria-label={`${title}, files`}>
          {children}
        </ul>
      )}
      {n > 0 && verb && (
        <button type="button" className="key outlined mt-2 self-start" disabled={busy} onClick={onAct}>
          {verb}
        </button>
      )}
    </section>
  );
}

/** Where a file lies, and under it where it would go. */
const Path = ({ from, to }: { from: string; to: string }) => (
  <span className="block">
    <FilePath path={from} className="text-quiet" />
    <FilePath path={to} className="pl-3" />
  </span>
);

/** A long path loses its folders, never the file name. */
function FilePath({ path, className = '' }: { path: string; className?: string }) {
  const cut = path.lastIndexOf('/') + 1;
  return (
    <code className={`flex min-w-0 flex-1 text-[11.5px] ${className}`} title={path}>
      <span className="min-w-0 truncate text-quiet">{path.slice(0, cut)}</span>
      <span className="max-w-full flex-none truncate">{path.slice(cut)}</span>
    </code>
  );
}
