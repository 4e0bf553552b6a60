import { DropdownMenu, Popover, ToggleGroup } from 'radix-ui';
import type { CrossingRoute, CrossingView } from '../../api/client';
import { count, many } from '../../parts/format';
import { Hint } from '../../parts/Hint';

interface ToolsProps {
  view: CrossingView;
  onTo: (model: string) => void;
  onRoute: (route: CrossingRoute) => void;
  onFit: (on: boolean) => void;
  onWear: () => void;
  onSweep: () => void;
  onWrite: () => void;
}

/** Where the looks go, what colours are held to, which looks are worn, and the originals' way out. */
export function Tools({ view, onTo, onRoute, onFit, onWear, onSweep, onWrite }: ToolsProps) {
  return (
    <span className="flex items-center gap-4 bg-ground px-3">
      <ModelMenu view={view} onTo={onTo} />
      {view.hasRoutes && <Routes view={view} onRoute={onRoute} />}
      <Numbers view={view} onFit={onFit} />
      <Colours view={view} />
      <button type="button" className="act soft" onClick={onWrite}>
        Write as…
      </button>
      {view.pairs > 0 && (view.worn.arrived || view.worn.crossed) && (
        <button type="button" className="act" onClick={onWear}>
          Wear {view.worn.crossed ? 'the arrived looks' : 'the crossed looks'} <kbd>Y</kbd>
        </button>
      )}
      {view.idle > 0 &&
        (view.whyNoSweep === null ? (
          <button type="button" className="act soft" onClick={onSweep}>
            Sweep {many(view.idle, 'original')} out
          </button>
        ) : (
          <Hint text={view.whyNoSweep}>
            <span className="text-[12.5px] text-quiet" tabIndex={0}>
              {many(view.idle, 'original')} stay
            </span>
          </Hint>
        ))}
    </span>
  );
}

function ModelMenu({ view, onTo }: { view: CrossingView; onTo: (model: string) => void }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="act">
        To: {view.name} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu w-96" align="start" sideOffset={4}>
          <DropdownMenu.RadioGroup value={view.to} onValueChange={onTo}>
            {view.models.map((m) => (
              <DropdownMenu.RadioItem key={m.id} value={m.id} className="data-[state=checked]:font-[680]">
                <span className="block">
                  {m.name}
                  {m.isWanted && <span className="text-quiet">, what the destination evaluates</span>}
                </span>
                {m.whyNot && (
                  <span className="block text-[12px] leading-4 text-quiet">to look at only: {m.whyNot}</span>
                )}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const routes: Record<CrossingRoute, [word: string, what: string]> = {
  kept: ['kept', 'Mirrored colours stay, as an index and a tint: nothing is lost, where the other model has both.'],
  metalness: [
    'as metalness',
    'The published solve makes base colour and metalness of them: what is no metal and no common dielectric moves.',
  ],
};

/** Which way mirrored colours go; how far looks move tells what each costs. */
function Routes({ view, onRoute }: { view: CrossingView; onRoute: (route: CrossingRoute) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      value={view.route}
      onValueChange={(value) => value in routes && onRoute(value as CrossingRoute)}
      aria-label="What becomes of mirrored colours"
      className="flex items-baseline gap-3 text-[12.5px]"
    >
      <span className="text-quiet">mirrored colours</span>
      {Object.entries(routes).map(([route, [word, what]]) => (
        <Hint key={route} text={what}>
          <ToggleGroup.Item
            value={route}
            className="text-lichen aria-checked:font-[680] aria-checked:text-ink aria-checked:underline"
          >
            {word}
          </ToggleGroup.Item>
        </Hint>
      ))}
    </ToggleGroup.Root>
  );
}

const numbers = {
  formula: ['formula', 'Numbers as the formulas give them.'],
  fit: [
    'best fit',
    'Numbers that bring the crossed look nearest the arrived one, wherever they win by 0.5 ΔE or more.',
  ],
} as const;

/** Where the numbers come from; how many the other way would help stands beside it. */
function Numbers({ view, onFit }: { view: CrossingView; onFit: (on: boolean) => void }) {
  const better = view.rows.filter((r) => r.moved?.fit != null).length;
  return (
    <ToggleGroup.Root
      type="single"
      value={view.fit ? 'fit' : 'formula'}
      onValueChange={(value) => value !== '' && onFit(value === 'fit')}
      aria-label="Where the numbers come from"
      className="flex items-baseline gap-3 text-[12.5px]"
    >
      <span className="text-quiet">numbers by</span>
      {Object.entries(numbers).map(([value, [word, what]]) => (
        <Hint key={value} text={what}>
          <ToggleGroup.Item
            value={value}
            className="text-lichen aria-checked:font-[680] aria-checked:text-ink aria-checked:underline"
          >
            {word}
            {value === 'fit' && better > 0 && <span className="mono text-[11.5px]"> {count(better)} nearer</span>}
          </ToggleGroup.Item>
        </Hint>
      ))}
      <kbd>B</kbd>
    </ToggleGroup.Root>
  );
}

/** Colour management of the scene beside that of where it goes. */
function Colours({ view }: { view: CrossingView }) {
  const { declared, expected, config } = view.colours;
  const strange = declared.filter((d) => !d.isKnown);
  return (
    <Popover.Root>
      <Popover.Trigger className="act soft">
        Colours{strange.length > 0 && <span className="text-clay">: {count(strange.length)} not known there</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-96 !p-3 text-[12.5px]" align="start" sideOffset={4}>
          <div className="grid grid-cols-2 gap-x-5">
            <div>
              <h3 className="font-[680]">In the scene</h3>
              {declared.length === 0 && <p className="text-quiet">no images</p>}
              {declared.map((d) => (
                <p key={d.space} className={d.isKnown ? '' : 'text-clay'}>
                  {d.space === '' ? 'by the format’s rules' : <code>{d.space}</code>}{' '}
                  <span className="text-quiet">{many(d.images, 'image')}</span>
                </p>
              ))}
            </div>
            <div>
              <h3 className="font-[680]">Where it goes</h3>
              <p>{expected ?? 'nothing is asked for'}</p>
              <p className="text-quiet">{config ? `shown through ${config}` : 'no OpenColorIO config'}</p>
            </div>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
