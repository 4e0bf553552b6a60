import type { CauseView } from '../../api/client';
import { Histogram } from '../../parts/Histogram';
import { count } from '../../parts/format';
import { PictureAt } from '../../parts/Picture';
import { useGrown } from '../../parts/useGrown';
import { DotPlot } from './DotPlot';
import type { Sheet } from './sheets/sheet';
import { FixBar } from './FixBar';
import { Looks } from './Looks';
import { RoleSums } from './RoleSums';
import { Who } from './Who';
import { roomUnder, Wiring } from './Wiring';

interface EvidenceProps {
  sceneId: string;
  view: CauseView;
  /** Place of the finding in hand among its family, from 0. */
  position: number;
  inFocus: number;
  focus: ReadonlySet<string>;
  busy: boolean;
  onMember: (key: string) => void;
  onToggle: (material: string | null) => void;
  onFamily: () => void;
  onFocus: () => void;
  onThis: () => void;
  onWaive: () => void;
  onUnwaive: () => void;
  onOpen: (sheet: Sheet) => void;
}

/** What was seen of the finding in hand, who else is affected, and what would mend them. */
export function Evidence(props: EvidenceProps) {
  const { view, position, onOpen } = props;
  const { evidence, members, cause } = view;
  const inHand = members[position];
  const image = evidence.images[0];
  const wired = evidence.rail.length > 0;
  const sums = evidence.sums.length > 0 && <RoleSums sums={evidence.sums} />;
  const title =
    cause.count === 1
      ? 'The only one'
      : position === 0
        ? `The clearest of ${count(cause.count)}`
        : `${count(position + 1)} of ${count(cause.count)}`;
  return (
    <section aria-label="Evidence" className="@container flex min-h-0 min-w-0 flex-col">
      <div className="flex items-baseline gap-3.5">
        <h3 className="flex-none text-[15px] font-[680] leading-5">{title}</h3>
        <p className="min-w-0 truncate text-[12px] text-quiet">{view.rule.expects}</p>
        <button type="button" className="act soft ml-auto flex-none" onClick={() => onOpen('rule')}>
          Why, rule <code className="text-[11.5px]">{cause.rule}</code>
        </button>
      </div>
      <p className="mt-0.5 text-[13.5px]">{inHand?.message}</p>
      <div className="min-h-0 flex-1 overflow-y-auto pb-2" tabIndex={0} role="group" aria-label="What was seen">
        {wired ? (
          <Wiring rail={evidence.rail} wires={evidence.wires} image={image} values={evidence.values}>
            {roomUnder(evidence.rail) && sums}
          </Wiring>
        ) : (
          <Plain view={view} />
        )}
        {wired && <Values values={evidence.values.filter((v) => !evidence.rail.some((r) => r.input === v.where))} />}
        {evidence.pairs.map((p) => (
          <div key={`${p.a} ${p.b}`} className="mt-3 flex items-center gap-4">
            <Side name={p.a} url={p.pictureA} />
            <Side name={p.b} url={p.pictureB} />
            <p className="text-[12.5px] text-soft">
              They differ in <b className="font-[680] text-ink">{p.differ}</b>.
            </p>
          </div>
        ))}
        <div className="mt-3 flex flex-wrap gap-x-9 gap-y-3">
          {inHand?.material && (inHand.kind === 'input' || inHand.kind === 'material') && (
            <Looks
              key={inHand.key}
              sceneId={props.sceneId}
              material={inHand.material}
              finding={inHand.title !== null ? inHand.key : undefined}
            />
          )}
          {sums && <div className={roomUnder(evidence.rail) ? '@[740px]:hidden' : undefined}>{sums}</div>}
          {image?.histogram && image.channel.length === 1 && (
            <Histogram
              bins={image.histogram}
              letter={image.channel.toUpperCase()}
              min={image.min ?? 0}
              mean={image.mean ?? 0}
              max={image.max ?? 0}
            />
          )}
          {view.plot && view.plot.dots.length > 0 && (
            <DotPlot plot={view.plot} current={view.member} onPick={props.onMember} />
          )}
        </div>
        {evidence.texts.map((t) => (
          <p key={t} className="mt-2 text-[12.5px] text-soft">
            {t}
          </p>
        ))}
      </div>
      <Who
        sceneId={props.sceneId}
        members={members}
        current={view.member}
        focus={props.focus}
        inFocus={props.inFocus}
        onMember={props.onMember}
        onToggle={props.onToggle}
      />
      <FixBar {...props} />
    </section>
  );
}

/** A finding that is about no input: its picture and what would change. */
function Plain({ view }: { view: CauseView }) {
  const side = useGrown(148);
  const { evidence, members, member } = view;
  const inHand = members.find((m) => m.key === member);
  const image = evidence.images[0];
  if (evidence.pairs.length > 0 && evidence.values.length === 0) return null;
  return (
    <div className="mt-3 flex gap-6">
      {(image || inHand?.picture) && (
        <figure>
          <PictureAt url={image?.picture ?? inHand?.picture} alt={image?.name ?? inHand?.name ?? ''} size={side} />
          {image && (
            <figcaption className="mt-1 max-w-full truncate text-[11.5px]">
              <code>{image.name}</code>
              <span className="block text-quiet">
                {image.width} × {image.height}, {image.facts}
              </span>
            </figcaption>
          )}
        </figure>
      )}
      <Values values={evidence.values} />
      {evidence.values.length === 0 && inHand && (
        <p className="max-w-[60ch] pt-1 text-soft">
          {inHand.kind} <b className="font-[680] text-ink">{inHand.name}</b>
          {inHand.part && <>, {inHand.part}</>}
        </p>
      )}
    </div>
  );
}

/** What stands there, and what would. */
function Values({ values }: { values: CauseView['evidence']['values'] }) {
  if (values.length === 0) return null;
  return (
    <dl className="grid h-fit grid-cols-[max-content_max-content_max-content] items-baseline gap-x-6 gap-y-1.5 pt-2">
      {values.map((v) => (
        <div key={v.where} className="contents">
          <dt className="text-[13.5px]">{v.where}</dt>
          <dd className="text-clay">
            now: <code className="text-[12px]">{v.now}</code>
          </dd>
          <dd className="text-lichen">
            {v.after !== null && (
              <>
                after: <code className="text-[12px]">{v.after}</code>
              </>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Side({ name, url }: { name: string; url: string | null }) {
  const side = useGrown(120);
  return (
    <figure style={{ width: side }}>
      <PictureAt url={url} alt={name} size={side} />
      <figcaption className="mt-1 truncate text-[11.5px]" title={name}>
        <code>{name}</code>
      </figcaption>
    </figure>
  );
}
