import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { HeldInput, WireChoice } from '../../../api/client';
import { useWires } from '../../../api/bench';
import type { Wire } from './wires';

interface WireMenuProps {
  sceneId: string;
  material: string;
  input: HeldInput;
  /** Why no wire can be laid otherwise; null when it can. */
  noImage: string | null;
  onGrip: (e: React.PointerEvent) => void;
  onWire: (wire: Wire) => void;
}

/** The end of a strand: it is dragged, or asked what can be done with it. What cannot be says why. */
export function WireMenu({ sceneId, material, input, noImage, onGrip, onWire }: WireMenuProps) {
  const [open, setOpen] = useState(false);
  const query = useWires(sceneId, material, open ? input.name : undefined);
  const choices = query.data ?? [];
  const lay = (c: WireChoice) => onWire({ input: input.name, act: c.act, to: c.to, channel: c.channel });
  const of = (act: WireChoice['act']) => choices.filter((c) => c.act === act);
  return (
    // Opened when all that it offers is there, so that the keyboard finds its first item.
    <DropdownMenu.Root open={open && query.isSuccess} onOpenChange={setOpen} modal={false}>
      <DropdownMenu.Trigger
        aria-label={`Wire of ${input.name}`}
        data-wire={input.name}
        className="absolute left-0 top-1/2 size-6 -translate-y-1/2 cursor-grab touch-none"
        onPointerDown={(e) => {
          // A press is the beginning of a drag, or of a click.
          e.preventDefault();
          onGrip(e);
        }}
        onClick={() => setOpen(true)}
      />
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu max-h-[60vh] w-72 overflow-y-auto" align="start" sideOffset={2}>
          {noImage !== null && <p className="px-3 py-1 text-[12px] text-quiet">{noImage}</p>}
          <Sub words="Take it to another input" choices={of('move')} onChoose={lay} />
          <Sub words="Feed another input too" choices={of('fork')} onChoose={lay} />
          <DropdownMenu.Separator className="my-1 border-t border-hair" />
          {of('channel').map((c) => (
            <Choice
              key={c.channel}
              words={`Read ${c.channel?.toUpperCase() ?? ''} of the image`}
              choice={c}
              onChoose={lay}
            />
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-hair" />
          {laid.flatMap(([act, words]) =>
            of(act).map((c) => <Choice key={act} words={words} choice={c} onChoose={lay} />),
          )}
          {of('take-out').map((c) => (
            <Choice key={c.to} words={`Take ${wordOf(input, c.to)} out`} choice={c} onChoose={lay} />
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-hair" />
          {of('disconnect').map((c) => (
            <Choice key="disconnect" words="Disconnect it" choice={c} onChoose={lay} />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Nodes that can be laid before the input, as what they do. */
const laid: [WireChoice['act'], string][] = [
  ['invert', 'Invert it'],
  ['multiply', 'Multiply it'],
  ['correct-colour', 'Correct its colour'],
  ['normal-map', 'Read it as a normal map'],
];

const wordOf = (input: HeldInput, node: string | null) => input.nodes.find((n) => n.name === node)?.word ?? node ?? '';

interface ChooseWire {
  onChoose: (choice: WireChoice) => void;
}

function Sub({ words, choices, onChoose }: ChooseWire & { words: string; choices: WireChoice[] }) {
  const possible = choices.filter((c) => c.whyNot === null);
  const refused = choices.filter((c) => c.whyNot !== null);
  if (choices.length === 0) return null;
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className="flex justify-between">
        {words} <span aria-hidden="true">▸</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className="menu max-h-[60vh] w-72 overflow-y-auto">
          {[...possible, ...refused].map((c) => (
            <Choice key={c.to} words={(c.to ?? '').replaceAll('_', ' ')} choice={c} onChoose={onChoose} />
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}

function Choice({ words, choice, onChoose }: ChooseWire & { words: string; choice: WireChoice }) {
  return (
    <DropdownMenu.Item
      disabled={choice.whyNot !== null}
      className="!block data-[disabled]:text-quiet"
      onSelect={() => onChoose(choice)}
    >
      {words}
      {choice.whyNot !== null && <span className="block text-[11.5px] leading-[14px]">{choice.whyNot}</span>}
    </DropdownMenu.Item>
  );
}
