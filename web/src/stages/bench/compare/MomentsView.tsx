import type { BenchItem } from '../../../api/client';
import { useMoments } from '../../../api/compare';
import { Choose } from '../../../parts/Choose';
import { OneOf } from '../../../parts/OneOf';
import { PairOnField } from '../../../parts/compare/PairOnField';
import { useInAddress } from '../../../state/address';
import { useSettings } from '../../../state/settings';
import { useTouched } from '../../../state/touched';
import { BenchTop, type BenchShown } from '../BenchTop';
import { FocusStrip } from './FocusStrip';
import { MomentFrames } from './MomentFrames';
import { addressesOf, momentsOf } from './moments';

interface MomentsViewProps {
  sceneId: string;
  row: BenchItem;
  /** Materials in focus, in the order of the sheet. */
  focused: BenchItem[];
  onPick: (name: string) => void;
  onShow: (shown: BenchShown) => void;
}

/** ΔE from which on the heavier line is drawn; from common practice, somebody sees it from there on. */
const limit = 2;

const subjects = [
  ['material', 'material'],
  ['frame', 'test frame'],
] as const;

/** A material at two moments of its scene, or of two scenes; or the whole of both. */
export function MomentsView({ sceneId, row, focused, onPick, onShow }: MomentsViewProps) {
  const [kept, keep] = useInAddress('moments');
  const [subject, setSubject] = useInAddress('of');
  const moments = useMoments(sceneId, row.title).data ?? [];
  const light = useSettings((s) => s.light);
  const touched = useTouched((s) => s.looks[sceneId] ?? 0);
  const pair = momentsOf(kept, moments);
  const options = moments.map((m) => ({ value: m.word, words: m.title, note: m.note }));
  const titleOf = (word: string) => moments.find((m) => m.word === word)?.title ?? word;
  const names: [string, string] = [titleOf(pair.before), titleOf(pair.after)];
  return (
    <div className="flex h-full min-h-0 flex-col" role="region" aria-label="Compare">
      <BenchTop shown="compare" onShow={onShow}>
        <Choose
          label="The first moment"
          value={pair.before}
          options={options}
          onChoose={(before) => keep(`${before}~${pair.after}`)}
        />
        <span className="text-quiet">beside</span>
        <Choose
          label="The second moment"
          value={pair.after}
          options={options}
          onChoose={(after) => keep(`${pair.before}~${after}`)}
        />
        <OneOf
          label="What is compared"
          value={subject === 'frame' ? 'frame' : 'material'}
          options={subjects}
          onChoose={(v) => setSubject(v === 'frame' ? 'frame' : undefined)}
        />
      </BenchTop>
      {subject === 'frame' ? (
        <MomentFrames sceneId={sceneId} moments={pair} names={names} light={light} />
      ) : (
        <>
          <PairOnField
            of={row.title}
            addresses={(side) => addressesOf(sceneId, row.name, pair, { light, side, touched })}
            names={names}
            limit={limit}
            aside={<b className="mono min-w-0 truncate text-[13px] text-white">{row.title}</b>}
          />
          {focused.length > 1 && (
            <FocusStrip sceneId={sceneId} rows={focused} at={row.name} moments={pair} onPick={onPick} />
          )}
        </>
      )}
    </div>
  );
}
