import clsx from 'clsx';
import { useRef, useState } from 'react';
import type { Channels, HeldView } from '../../../api/client';
import { useWires } from '../../../api/bench';
import { many } from '../../../parts/format';
import { PictureAt } from '../../../parts/Picture';
import { useSize } from '../../../parts/useSize';
import { Rung } from './Rung';
import { Strands } from './Strands';
import { letterAt, pictureSide, rungAt, wiresOf, type Point, type Wire } from './wires';

interface WiringProps {
  sceneId: string;
  view: HeldView;
  tried: Readonly<Record<string, number[]>>;
  onWire: (wire: Wire) => void;
  /** An input's value is wanted. */
  onValue: (input: string) => void;
  onImage: (node: string) => void;
}

/** What is dragged: the end of the strand that arrives at an input, or a new one from a letter of an image. */
export type Grip = { kind: 'end'; input: string } | { kind: 'letter'; node: string; letter: string; input: string };

export interface Drag {
  grip: Grip;
  at: Point;
}

/** Images on the left, the shader's inputs as rungs of one rail, and a strand for all that flows. */
export function Wiring({ sceneId, view, tried, onWire, onValue, onImage }: WiringProps) {
  const [all, setAll] = useState(false);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [drag, setDrag] = useState<Drag>();
  const wires = wiresOf(view, all, width, height);
  const area = useRef<HTMLDivElement>(null);
  const pointOf = (e: React.PointerEvent): Point => {
    const rect = area.current?.getBoundingClientRect();
    return { x: e.clientX - (rect?.left ?? 0), y: e.clientY - (rect?.top ?? 0) };
  };
  const meant = drag && meaning(drag, view, wires);
  const asked = meant ?? (drag && { input: drag.grip.input, act: 'move', channel: null });
  const channel = asked?.act === 'fork' ? (asked.channel ?? undefined) : undefined;
  const choices = useWires(sceneId, view.name, asked?.input, channel).data;
  const why = meant && choices?.find((c) => c.act === meant.act && c.to === meant.to && fits(c.channel, meant))?.whyNot;
  const drop = () => {
    if (meant && why == null && view.noImage === null) onWire(meant);
    setDrag(undefined);
  };
  const grips = {
    onPointerMove: (e: React.PointerEvent) => drag && setDrag({ ...drag, at: pointOf(e) }),
    onPointerUp: () => drag && drop(),
    onKeyDown: (e: React.KeyboardEvent) => {
      if (e.key !== 'Escape' || !drag) return;
      e.stopPropagation();
      setDrag(undefined);
    },
  };
  const take = (grip: Grip) => (e: React.PointerEvent) => {
    if (view.noImage !== null || e.button !== 0) return;
    // A touch holds what it began on; a drag goes on over everything.
    (e.target as Element).releasePointerCapture(e.pointerId);
    setDrag({ grip, at: pointOf(e) });
  };
  const hidden = view.inputs.length - wires.rungs.length;
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden">
      {view.inputs.length === 0 && (
        <p className="text-[12.5px] text-quiet">It has no surface whose inputs are known here.</p>
      )}
      <div
        ref={area}
        className={clsx('relative', drag && 'cursor-grabbing touch-none select-none')}
        style={{ height: wires.height + 8 }}
        {...grips}
      >
        <Strands wires={wires} drag={drag} meant={meant} refused={why != null} findings={view.findings} />
        {wires.sources.map((s) => {
          const image = view.images.find((i) => i.node === s.node);
          const feeds = wires.strands.find((x) => x.node === s.node)?.input;
          return (
            <div key={s.node} className="absolute left-0" style={{ top: s.y }}>
              <button
                type="button"
                aria-label={`Look at ${image?.name ?? s.node}`}
                title={image?.name}
                onClick={() => onImage(s.node)}
              >
                <PictureAt url={image?.picture} alt="" size={pictureSide} />
              </button>
              {s.letters.map((l) => (
                <span
                  key={l.letter}
                  data-letter={`${s.node}.${l.letter}`}
                  className={clsx(
                    'mono absolute w-6 cursor-grab text-center text-[11.5px] leading-[15px]',
                    l.isUsed ? 'font-bold text-ink' : 'text-quiet',
                  )}
                  style={{ left: wires.lettersX - 12, top: l.y - s.y - 8 }}
                  onPointerDown={
                    feeds === undefined
                      ? undefined
                      : take({ kind: 'letter', node: s.node, letter: l.letter, input: feeds })
                  }
                >
                  {l.letter.toUpperCase()}
                </span>
              ))}
            </div>
          );
        })}
        {wires.rungs.map(({ input, y }) => (
          <Rung
            key={input.name}
            sceneId={sceneId}
            view={view}
            input={input}
            tried={tried[input.name]}
            x={wires.railX}
            y={y}
            isMeant={meant?.to === input.name}
            onGrip={take({ kind: 'end', input: input.name })}
            onWire={onWire}
            onValue={() => onValue(input.name)}
          />
        ))}
        {drag && meant && (
          <span
            className={clsx(
              'pointer-events-none absolute z-10 max-w-56 bg-well px-2 py-0.5 text-[12px]',
              why != null ? 'text-ink' : 'text-lichen',
            )}
            style={{ left: Math.min(drag.at.x + 12, Math.max(0, width - 230)), top: drag.at.y + 14 }}
          >
            {why ?? wordsOf(meant)}
          </span>
        )}
      </div>
      {view.noImage !== null && <p className="pt-1 text-[12px] text-quiet">{view.noImage}</p>}
      {(hidden > 0 || all) && (
        <button type="button" className="act soft pt-1" onClick={() => setAll(!all)}>
          {all ? 'Fewer inputs' : `Show ${many(hidden, 'more input')}`}
        </button>
      )}
    </div>
  );
}

/** What a drop here would do; undefined where nothing. */
function meaning({ grip, at }: Drag, view: HeldView, wires: ReturnType<typeof wiresOf>): Wire | undefined {
  const rung = rungAt(wires, at);
  if (grip.kind === 'letter')
    return rung === undefined
      ? undefined
      : { input: grip.input, act: 'fork', to: rung, channel: channelOf(grip.letter, rung, view) };
  if (rung !== undefined)
    return rung === grip.input ? undefined : { input: grip.input, act: 'move', to: rung, channel: null };
  const letter = letterAt(wires, at);
  if (!letter) return undefined;
  const own = view.inputs.find((i) => i.name === grip.input)?.maps[0]?.image;
  const channel = channelOf(letter.letter, grip.input, view);
  if (letter.node === own) return { input: grip.input, act: 'channel', to: null, channel };
  // Another image begins where it feeds something already.
  const other = view.inputs.find((i) => i.maps.some((m) => m.image === letter.node))?.name;
  return other === undefined ? undefined : { input: other, act: 'fork', to: grip.input, channel };
}

/** A colour takes all three; a letter of a grey image is its only one. */
function channelOf(letter: string, to: string, view: HeldView): Channels | null {
  const input = view.inputs.find((i) => i.name === to);
  if (input && input.numbers > 1) return 'rgb';
  return letter === 'l' ? 'r' : (letter as Channels);
}

const fits = (tried: Channels | null, wire: Wire) => wire.act !== 'channel' || tried === wire.channel;

function wordsOf({ act, to, channel }: Wire): string {
  const from = channel === null ? '' : ` from ${channel.toUpperCase()}`;
  if (act === 'channel') return `feed it${from}`;
  return `${act === 'move' ? 'take it to' : 'feed'} ${to?.replaceAll('_', ' ') ?? ''}${from}`;
}
