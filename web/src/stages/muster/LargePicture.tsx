import { Dialog } from 'radix-ui';
import type { ReferenceItem } from '../../api/client';
import { bytes, pixels } from '../../parts/format';
import { Picture } from '../../parts/Picture';

/** An image opened large, on the field. */
export function LargePicture({
  sceneId,
  reference,
  candidate,
  onClose,
}: {
  sceneId: string;
  reference: ReferenceItem;
  candidate: number | undefined;
  onClose: () => void;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet" aria-describedby={undefined}>
          <Dialog.Title className="mono mb-2 text-[13px]">{reference.name}</Dialog.Title>
          <Picture
            sceneId={sceneId}
            number={reference.number}
            {...(candidate === undefined ? {} : { candidate })}
            large
            alt={reference.name}
            size={560}
            missing={
              candidate === undefined &&
              (reference.kind !== 'image' || reference.state === 'missing' || reference.state === 'outside')
            }
          />
          <div className="mt-2 flex justify-between text-[12px] text-quiet">
            <span>
              {candidate === undefined
                ? `${pixels(reference.width, reference.height)}, ${bytes(reference.bytes)}`
                : 'a candidate'}
              , shown at most 1024 pixels wide
            </span>
            <Dialog.Close className="act soft">
              Close <kbd>Esc</kbd>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
