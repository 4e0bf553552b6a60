import clsx from 'clsx';
import type { HeldInput, HeldView } from '../../../api/client';
import { hexOf } from '../../../parts/srgb';
import { WireMenu } from './WireMenu';
import { rungPitch, type Wire } from './wires';

interface RungProps {
  sceneId: string;
  view: HeldView;
  input: HeldInput;
  tried: number[] | undefined;
  x: number;
  y: number;
  /** A drop would end here. */
  isMeant: boolean;
  onGrip: (e: React.PointerEvent) => void;
  onWire: (wire: Wire) => void;
  onValue: () => void;
}

/** An input on the rail: its name, and the map or the value that it has. */
export function Rung({ sceneId, view, input, tried, x, y, isMeant, onGrip, onWire, onValue }: RungProps) {
  const isFed = input.maps.length > 0;
  const numbers = tried ?? input.now;
  const isColour = input.isColour && numbers.length > 2;
  const chip = (
    <span
      className="size-3.5 border border-rule"
      style={{ background: hexOf(numbers) }}
      title={numbers.map(digits).join(' ')}
    />
  );
  return (
    <div className="absolute right-0" style={{ left: x - 16, top: y - rungPitch / 2, height: rungPitch }}>
      <span
        className={clsx('absolute left-2 top-1/2 h-0.5 w-[18px] -translate-y-1/2', isMeant ? 'bg-lichen' : 'bg-ink')}
        aria-hidden="true"
      />
      {isFed && (
        <WireMenu
          sceneId={sceneId}
          material={view.name}
          input={input}
          noImage={view.noImage}
          onGrip={onGrip}
          onWire={onWire}
        />
      )}
      <button
        type="button"
        className="absolute inset-y-0 left-8 right-0 flex items-center gap-2 text-left hover:bg-raise"
        title={`${input.name}: ${input.what}`}
        onClick={onValue}
      >
        <span
          className={clsx(
            'min-w-0 flex-1 truncate text-[13px]',
            isFed ? 'font-[620] text-ink' : input.differs || tried ? 'text-ink' : 'text-quiet',
          )}
        >
          {input.name.replaceAll('_', ' ')}
        </span>
        <span className={clsx('flex min-w-0 flex-none items-center gap-1.5', tried && 'text-lichen')}>
          {!isFed && isColour && chip}
          <code className={clsx('max-w-28 truncate text-[11.5px]', tried ? 'text-lichen' : 'text-quiet')}>
            {valueOf(input, tried)}
          </code>
          {isFed && isColour && numbers.some((n) => n !== 1) && chip}
        </span>
      </button>
    </div>
  );
}

const digits = (n: number) => String(Math.round(n * 1000) / 1000);

function valueOf(input: HeldInput, tried: number[] | undefined): string {
  const numbers = tried ?? input.now;
  if (input.maps.length > 0) {
    // What a map is multiplied by says nothing where it is 1.
    // A colour is shown beside.
    const by = input.isColour && numbers.length > 2 ? '' : numbers.map(digits).join(' ');
    const factor = numbers.length > 0 && numbers.some((n) => n !== 1) ? ` × ${by}` : '';
    return (input.maps.length > 1 ? `${input.maps.length} maps` : 'map') + factor;
  }
  if (input.text !== null) return input.text;
  return numbers.map(digits).join(' ');
}
