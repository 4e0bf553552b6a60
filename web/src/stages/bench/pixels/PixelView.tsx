import clsx from 'clsx';
import { useState } from 'react';
import type { HeldImage } from '../../../api/client';
import { useOthers, usePlane } from '../../../api/bench';
import { useKey } from '../../../frame/keys';
import { Choose } from '../../../parts/Choose';
import { pixels } from '../../../parts/format';
import { PixelCanvas } from './PixelCanvas';
import { PixelTable } from './PixelTable';
import { useUvPath } from './useUvPath';
import type { Point, Size, View } from './view';

interface PixelViewProps {
  sceneId: string;
  material: string;
  image: HeldImage & { number: number };
  onClose: () => void;
}

const alone = 'alone';

/** An image down to the pixel: all of it or a channel, once or as it tiles, alone or beside another, with the values under the pointer. */
export function PixelView({ sceneId, material, image, onClose }: PixelViewProps) {
  const plane = usePlane(sceneId, image.number);
  const [letter, setLetter] = useState<string>();
  const [tiles, setTiles] = useState(false);
  const [isLaid, setLaid] = useState(false);
  const [moved, move] = useState<View>();
  const [at, point] = useState<Point>();
  const [beside, setBeside] = useState(alone);
  const layout = useUvPath(sceneId, material, image.number, plane.data, isLaid);
  const others = useOthers(sceneId, image.number).data ?? [];
  const other = others.find((o) => o.of === beside);
  const second = usePlane(sceneId, image.number, other?.of, other !== undefined);
  const toggle = (l: string) => () => setLetter((now) => (now === l ? undefined : l));
  useKey('r', toggle('r'));
  useKey('g', toggle('g'));
  useKey('b', toggle('b'));
  useKey('a', toggle('a'));
  const letters = (plane.data?.channels ?? 0) > 2 ? ['r', 'g', 'b', 'a'].slice(0, plane.data?.channels) : [];
  const windows = `/api/scenes/${sceneId}/references/${image.number}/plane/window?channel=${letter ?? 'rgb'}`;
  const laid = {
    copies: tiles ? 3 : 1,
    uvs: layout.path,
    moved,
    onMove: move,
    at,
    onPoint: point,
  };
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="field flex flex-none items-center gap-4 px-5 py-1 text-[12.5px] font-semibold text-white">
        {letters.map((l) => (
          <Turn key={l} words={l.toUpperCase()} on={letter === l} onTurn={toggle(l)} />
        ))}
        <Turn
          words="3 × 3"
          on={tiles}
          onTurn={() => {
            setTiles(!tiles);
            move(undefined);
          }}
        />
        <Turn words="UVs" on={isLaid} onTurn={() => setLaid(!isLaid)} />
        {others.length > 0 && (
          <Choose
            label="Held beside"
            value={beside}
            onField
            options={[
              { value: alone, words: 'Alone' },
              ...others.map((o) => ({ value: o.of, words: `Beside ${o.title}`, note: o.about })),
            ]}
            onChoose={(of) => {
              setBeside(of);
              move(undefined);
            }}
          />
        )}
        <span className="flex-1" />
        <button type="button" className="flex-none whitespace-nowrap" onClick={onClose}>
          Back to the sheet <kbd className="!border-white !text-white">Esc</kbd>
        </button>
      </div>
      <div className="field flex min-h-0 flex-1 gap-0.5">
        <Side
          name={image.name}
          note={layout.said}
          plane={plane}
          canvas={(size) => (
            <PixelCanvas key={beside} address={windows} about={image.name} size={size} frame={size} {...laid} />
          )}
        />
        {other && (
          <Side
            name={other.title}
            note={other.about}
            plane={second}
            canvas={(size) => (
              <PixelCanvas
                key={beside}
                address={`${windows}&of=${other.of}`}
                about={`${other.title}, ${other.about}`}
                size={size}
                frame={plane.data ?? size}
                {...laid}
                uvs={undefined}
              />
            )}
          />
        )}
      </div>
      <PixelTable
        sceneId={sceneId}
        material={material}
        number={image.number}
        at={at}
        other={other && plane.data && second.data ? { ...other, frame: plane.data, size: second.data } : undefined}
      />
    </div>
  );
}

function Turn({ words, on, onTurn }: { words: string; on: boolean; onTurn: () => void }) {
  return (
    <button type="button" aria-pressed={on} className="whitespace-nowrap aria-pressed:underline" onClick={onTurn}>
      {words}
    </button>
  );
}

interface SideProps {
  name: string;
  note: string | undefined;
  plane: ReturnType<typeof usePlane>;
  canvas: (size: Size) => React.ReactNode;
}

/** One of the images, with its name in its corner. */
function Side({ name, note, plane, canvas }: SideProps) {
  return (
    <div className="relative min-w-0 flex-1">
      {plane.data ? (
        canvas(plane.data)
      ) : (
        <p className="p-7 text-white">
          {plane.isPending ? `Opening ${name} pixel by pixel.` : `${name} cannot be opened pixel by pixel.`}
        </p>
      )}
      <span
        className={clsx(
          'field pointer-events-none absolute left-3 top-1 max-w-[calc(100%-24px)] truncate px-2 py-0.5',
          'text-[12.5px] text-white',
        )}
      >
        <b className="font-[680]">{name}</b>{' '}
        {plane.data && `${pixels(plane.data.width, plane.data.height)}, ${plane.data.bits} bit`}
        {note && `, ${note}`}
      </span>
    </div>
  );
}
