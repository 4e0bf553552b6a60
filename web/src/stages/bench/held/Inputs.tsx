import { Fragment, useEffect, useRef } from 'react';
import type { HeldInput, HeldView } from '../../../api/client';
import { count } from '../../../parts/format';
import { useDrafts } from '../drafts';
import { InputRow } from './InputRow';
import { NodeRows } from './NodeRows';
import type { Wire } from './wires';

interface InputsProps {
  sceneId: string;
  view: HeldView;
  tried: Readonly<Record<string, number[]>>;
  /** The one to begin at. */
  first: string | undefined;
  onCopy: () => void;
  onWire: (wire: Wire) => void;
}

/** All inputs as the model orders them; what is not as the model leaves it comes first. */
export function Inputs({ sceneId, view, tried, first, onCopy, onWire }: InputsProps) {
  const tryOut = useDrafts((s) => s.tryOut);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (first === undefined) return;
    const row = list.current?.querySelector<HTMLElement>(`[data-input="${CSS.escape(first)}"]`);
    row?.scrollIntoView({ block: 'nearest' });
    row?.querySelector<HTMLElement>('input')?.focus();
  }, [first]);
  const differs = (i: HeldInput) => i.differs || i.name in tried;
  const own = view.inputs.filter(differs);
  const left = view.inputs.filter((i) => !differs(i));
  const attempt = (name: string, numbers: number[] | undefined) => tryOut(sceneId, view.name, name, numbers);
  const row = (i: HeldInput) => (
    <Fragment key={i.name}>
      <InputRow
        input={i}
        images={view.images}
        tried={tried[i.name]}
        locked={view.noValue !== null}
        onTry={(numbers) => attempt(i.name, numbers)}
      />
      <NodeRows view={view} input={i} tried={tried} onTry={attempt} onWire={onWire} />
    </Fragment>
  );
  return (
    <div ref={list} className="min-h-0 flex-1 overflow-y-auto pr-1">
      {view.noValue !== null && <p className="pb-1 text-[12px] text-quiet">{view.noValue}</p>}
      <div className="flex items-baseline gap-3 pb-1">
        <h3 className="text-[12px] text-quiet">
          <b className="font-bold text-ink">{count(own.length)}</b> said by this material
        </h3>
        <span className="flex-1" />
        {own.length > 0 && (
          <button type="button" className="act soft" onClick={onCopy}>
            Copy to others <kbd>⇧C</kbd>
          </button>
        )}
      </div>
      {own.map(row)}
      {left.length > 0 && (
        <h3 className="pb-1 pt-3 text-[12px] text-quiet">
          <b className="font-bold text-ink">{count(left.length)}</b> as the model leaves them
        </h3>
      )}
      {left.map(row)}
    </div>
  );
}
