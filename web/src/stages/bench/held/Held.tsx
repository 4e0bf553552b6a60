import clsx from 'clsx';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BenchItem, HeldView } from '../../../api/client';
import type { Assigning } from '../../../api/bench';
import { Glyph } from '../../../parts/Glyph';
import { many } from '../../../parts/format';
import { Swatch } from '../../../parts/Swatch';
import { Images } from './Images';
import { ImageStrip } from './ImageStrip';
import { Inputs } from './Inputs';
import { Wearers } from './Wearers';
import type { Wire } from './wires';
import { Wiring } from './Wiring';

interface HeldProps {
  sceneId: string;
  view: HeldView;
  row: BenchItem;
  tried: Readonly<Record<string, number[]>>;
  busy: boolean;
  onTake: () => void;
  onWire: (wire: Wire) => void;
  onPick: (name: string) => void;
  onCopy: () => void;
  onAssign: (wearers: Assigning['wearers']) => void;
  /** Pixel by pixel. */
  onOpenImage: (node: string) => void;
}

const parts = ['wiring', 'inputs', 'images', 'worn'] as const;
type Part = (typeof parts)[number];

/** The material in hand: how it is wired, its inputs, its images, who wears it. */
export function Held({
  sceneId,
  view,
  row,
  tried,
  busy,
  onTake,
  onWire,
  onPick,
  onCopy,
  onAssign,
  onOpenImage,
}: HeldProps) {
  const [part, setPart] = useState<Part>(remembered);
  const [input, setInput] = useState<string>();
  const [image, setImage] = useState<string>();
  const show = (next: Part) => {
    remembered = next;
    setPart(next);
  };
  const [letter, setLetter] = useState<string>();
  const inHand = view.images.find((i) => i.node === image) ?? view.images[0];
  const count = Object.keys(tried).length;
  return (
    <section className="row-span-2 flex min-h-0 flex-col pl-6 pr-7" aria-label={`${view.title} in hand`}>
      <Tabs.Root
        value={part}
        onValueChange={(v) => show(parts.find((p) => p === v) ?? 'wiring')}
        className="flex min-h-0 flex-1 flex-col"
      >
        <div className="flex flex-none items-baseline gap-4 pb-2">
          <Tabs.List aria-label="About the material in hand" className="flex gap-4">
            {parts.map((p) => (
              <Tabs.Trigger
                key={p}
                value={p}
                className={clsx(
                  'text-[13px] text-quiet',
                  'data-[state=active]:text-[15px] data-[state=active]:font-[680] data-[state=active]:text-ink',
                )}
              >
                {words[p]}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <span className="min-w-0 flex-1 truncate text-right text-[12px] text-quiet">
            {view.model || 'no surface'}
          </span>
        </div>
        <Findings sceneId={sceneId} view={view} />
        <Tabs.Content value="wiring" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Wiring
            sceneId={sceneId}
            view={view}
            tried={tried}
            onWire={onWire}
            onValue={(name) => {
              setInput(name);
              show('inputs');
            }}
            onImage={setImage}
          />
          {inHand && (
            <div className="flex-none border-t border-hair pt-2">
              <ImageStrip image={inHand} letter={letter} onLetter={setLetter} onOpen={() => onOpenImage(inHand.node)} />
            </div>
          )}
          <Twins sceneId={sceneId} row={row} onPick={onPick} />
        </Tabs.Content>
        <Tabs.Content value="inputs" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Inputs sceneId={sceneId} view={view} tried={tried} first={input} onCopy={onCopy} onWire={onWire} />
        </Tabs.Content>
        <Tabs.Content value="images" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Images view={view} first={image} onOpen={onOpenImage} />
        </Tabs.Content>
        <Tabs.Content value="worn" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Wearers sceneId={sceneId} view={view} onAssign={onAssign} />
        </Tabs.Content>
      </Tabs.Root>
      {count > 0 && <Tried view={view} count={count} busy={busy} onTake={onTake} />}
    </section>
  );
}

/** Whoever steps from material to material goes on looking at the same part. */
let remembered: Part = 'wiring';

const words: Record<Part, string> = {
  wiring: 'How it is wired',
  inputs: 'Inputs',
  images: 'Images',
  worn: 'Worn by',
};

function Findings({ sceneId, view }: { sceneId: string; view: HeldView }) {
  return (
    <ul className="flex-none" aria-label="What was found">
      {view.findings.slice(0, 3).map((f) => (
        <li key={f.key} className="flex items-start gap-2 pb-1 text-[12.5px] leading-4">
          <Glyph name={f.severity} className={f.severity === 'blocker' ? 'text-clay' : ''} />
          <Link
            to={`/findings/${sceneId}?cause=${encodeURIComponent(f.cause)}`}
            className="line-clamp-2 text-soft hover:underline"
            title={f.message}
          >
            {f.message}
          </Link>
        </li>
      ))}
      {view.findings.length > 3 && (
        <li className="pb-1 text-[12px] text-quiet">and {many(view.findings.length - 3, 'more finding')}</li>
      )}
    </ul>
  );
}

function Twins({ sceneId, row, onPick }: { sceneId: string; row: BenchItem; onPick: (name: string) => void }) {
  return row.twins.length === 0 ? null : (
    <div className="flex-none border-t border-hair pt-2">
      {row.twins.map((t) => (
        <button
          key={t.of}
          type="button"
          className="flex w-full items-center gap-2.5 py-0.5 text-left hover:bg-raise"
          onClick={() => onPick(t.of)}
        >
          <Swatch sceneId={sceneId} material={t.of} size={32} />
          <span className="min-w-0 flex-1 truncate text-[12.5px]">
            <b className="font-[680]">{t.of}</b> <span className="text-quiet">differs in {t.differ}</span>
          </span>
          <Glyph name={t.differ === 'nothing but the name' ? 'same' : 'changed'} className="text-quiet" />
        </button>
      ))}
    </div>
  );
}

interface TriedProps {
  view: HeldView;
  count: number;
  busy: boolean;
  onTake: () => void;
}

function Tried({ view, count, busy, onTake }: TriedProps) {
  return (
    <div className="flex flex-none items-center gap-4 border-t border-hair py-2">
      <span className="min-w-0 flex-1 truncate text-[12.5px] text-soft">
        {view.noValue ?? `${many(count, 'value is', 'values are')} tried; nothing is written. Esc lets go.`}
      </span>
      <button type="button" className="key" disabled={busy || view.noValue !== null} onClick={onTake}>
        Take {many(count, 'value')} <kbd>T</kbd>
      </button>
    </div>
  );
}
