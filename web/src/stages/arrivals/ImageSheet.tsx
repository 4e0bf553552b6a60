import { Link } from 'react-router';
import type { SceneDetail } from '../../api/client';
import { useCarry, useExtract, useMuster } from '../../api/queries';
import { useKey } from '../../frame/keys';
import { bytes, many, pixels } from '../../parts/format';
import { Glyph } from '../../parts/Glyph';
import { useGrown } from '../../parts/useGrown';
import { Picture } from '../../parts/Picture';

const most = 48;

/** The images of the scene on the field: those that answer as pictures, the others as the hatch with their number. */
export function ImageSheet({ scene }: { scene: SceneDetail }) {
  const muster = useMuster(scene.id).data;
  const extract = useExtract(scene.id);
  const carry = useCarry(scene.id);
  const side = useGrown(70);
  const inside = scene.carried.map((c) => c.number);
  useKey('shift+x', () => extract.mutate(inside), inside.length > 0);
  const images = muster?.references.filter((r) => r.kind === 'image') ?? [];
  if (images.length === 0) return null;
  const here = images.filter((r) => r.state === 'present' || r.state === 'embedded').length;
  const carried = scene.carried.reduce((sum, c) => sum + c.bytes, 0);
  return (
    <section className="pb-3 pt-5" aria-label="Its images">
      <div className="mb-2 flex items-baseline gap-3">
        <h3 className="text-[15px] font-[680]">
          {here} of {many(images.length, 'image')} came
        </h3>
        {scene.carriedImages > 0 && (
          <span className="flex items-center gap-1.5 text-[12px] text-quiet">
            <Glyph name="embedded" />
            {many(scene.carriedImages, 'image')} carried inside, {bytes(carried)}
          </span>
        )}
        <span className="flex-1" />
        {scene.carry && (
          <button
            type="button"
            className="act"
            title={`${bytes(scene.carry.bytesBefore)} now, ${bytes(scene.carry.bytesAfter)} after`}
            onClick={() => carry.mutate(scene.carry?.numbers ?? [])}
          >
            Carry {scene.carry.numbers.length} inside, {bytes(scene.carry.bytesBefore)} to{' '}
            {bytes(scene.carry.bytesAfter)}
          </button>
        )}
        {inside.length > 0 && (
          <button type="button" className="act" onClick={() => extract.mutate(inside)}>
            Extract {inside.length}, {bytes(carried)} <kbd>⇧X</kbd>
          </button>
        )}
        {here < images.length && inside.length === 0 && (
          <span className="text-[12px] text-quiet">a hatch stands for one that did not come</span>
        )}
      </div>
      <div className="field grid gap-x-2 gap-y-1 p-1.5" style={{ gridTemplateColumns: `repeat(auto-fill, ${side}px)` }}>
        {images.slice(0, most).map((r) => {
          const answers = (r.state === 'present' || r.state === 'embedded') && !r.flags.includes('stand-in');
          return (
            <Link
              key={r.number}
              to={`/muster/${scene.id}`}
              className="block"
              title={`${r.name}: ${r.state}${answers ? `, ${pixels(r.width, r.height)}, ${bytes(r.bytes)}` : ''}`}
              aria-label={`${r.number}, ${r.name}, ${r.state}`}
            >
              <Picture sceneId={scene.id} number={r.number} alt="" size={side} missing={!answers} />
            </Link>
          );
        })}
      </div>
      {images.length > most && (
        <p className="pt-1 text-[12px] text-quiet">and {many(images.length - most, 'more image', 'more images')}</p>
      )}
    </section>
  );
}
