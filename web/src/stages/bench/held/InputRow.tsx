import clsx from 'clsx';
import type { HeldImage, HeldInput } from '../../../api/client';
import { hexOf } from '../../../parts/srgb';
import { ColourField } from './ColourField';
import { NumberField } from './NumberField';

interface InputRowProps {
  input: HeldInput;
  /** In place of its name. */
  label?: string;
  images: HeldImage[];
  tried: number[] | undefined;
  /** No value can be written. */
  locked: boolean;
  onTry: (numbers: number[] | undefined) => void;
}

const same = (a: readonly number[], b: readonly number[]) => a.length === b.length && a.every((v, i) => v === b[i]);

/** An input with its value, by number, slider or colour; what feeds it stands in place of the value. */
export function InputRow({ input, label, images, tried, locked, onTry }: InputRowProps) {
  const now = tried ?? input.now;
  const map = input.maps[0];
  const image = images.find((i) => i.node === map?.image);
  const say = (numbers: number[]) => onTry(same(numbers, input.now) ? undefined : numbers);
  const canReset = !same(now, input.default) && input.default.length > 0 && input.maps.length === 0;
  return (
    <div
      data-input={input.name}
      className={clsx(
        'grid min-h-7 grid-cols-[132px_minmax(0,1fr)_auto] items-center gap-x-3 border-t border-hair py-0.5',
      )}
    >
      <span
        className={clsx(
          'truncate text-[12.5px]',
          input.unseen !== null ? 'text-quiet' : 'text-soft',
          tried && '!text-lichen',
        )}
        title={input.unseen === null ? input.what : `${input.what}: hidden while ${input.unseen} is 0`}
      >
        {label ?? input.name.replaceAll('_', ' ')}
      </span>
      {map ? (
        <span className="flex min-w-0 items-center gap-2 text-[12px] text-quiet">
          {input.isColour && image?.mean && (
            <span
              className="size-4 flex-none border border-rule"
              style={{ background: hexOf(image.mean) }}
              title="the mean of the map"
            />
          )}
          <code className="truncate text-[11.5px]" title={image?.name}>
            {map.channel.toUpperCase()} of {image?.name ?? map.image}
          </code>
          {map.mean !== null && <span className="flex-none mono text-[11.5px]">mean {map.mean.toFixed(2)}</span>}
          {now.length > 0 && (
            <>
              <span aria-label="multiplied by">×</span>
              <NumberField input={input} now={now} locked={locked} onSay={say} plain />
            </>
          )}
        </span>
      ) : input.text !== null ? (
        <code className="truncate text-[11.5px] text-quiet">{input.text}</code>
      ) : now.length === 0 ? (
        <span className="text-[12px] text-quiet">nothing is said of it</span>
      ) : input.isColour ? (
        <ColourField input={input} now={now} locked={locked} onSay={say} />
      ) : (
        <NumberField input={input} now={now} locked={locked} onSay={say} />
      )}
      <span className="w-12 text-right">
        {canReset && !locked && (
          <button
            type="button"
            className="act soft !text-[11.5px]"
            aria-label={`Reset ${input.name}`}
            title={`to ${input.default.map((n) => String(Math.round(n * 1e4) / 1e4)).join(' ')}, as the model leaves it`}
            onClick={() => say(input.default)}
          >
            reset
          </button>
        )}
      </span>
    </div>
  );
}
