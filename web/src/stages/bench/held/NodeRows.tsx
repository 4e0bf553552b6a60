import type { HeldInput, HeldView } from '../../../api/client';
import { InputRow } from './InputRow';
import type { Wire } from './wires';

interface NodeRowsProps {
  view: HeldView;
  input: HeldInput;
  tried: Readonly<Record<string, number[]>>;
  onTry: (name: string, numbers: number[] | undefined) => void;
  onWire: (wire: Wire) => void;
}

/** What lies on the way to an input, nearest first: its values, and the way out. */
export function NodeRows({ view, input, tried, onTry, onWire }: NodeRowsProps) {
  return input.nodes.map((node) => (
    <section
      key={node.name}
      aria-label={`${node.word} before ${input.name}`}
      className="ml-1 border-l border-rule pl-3"
    >
      <div className="flex min-h-6 items-center gap-3">
        <h4 className="min-w-0 flex-1 truncate text-[12px] text-quiet" title={node.name}>
          through <b className="font-[620] text-soft">{node.word}</b>
        </h4>
        {node.comesOut && view.noImage === null && (
          <button
            type="button"
            className="act soft !text-[11.5px]"
            aria-label={`Take out ${node.word} before ${input.name}`}
            onClick={() => onWire({ input: input.name, act: 'take-out', to: node.name, channel: null })}
          >
            take out
          </button>
        )}
      </div>
      {node.values.map((value) => (
        <InputRow
          key={value.name}
          input={{ ...value, name: `${value.what} of ${node.word}` }}
          label={value.what}
          images={[]}
          tried={tried[value.name]}
          locked={view.noValue !== null}
          onTry={(numbers) => onTry(value.name, numbers)}
        />
      ))}
    </section>
  ));
}
