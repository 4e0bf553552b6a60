import clsx from 'clsx';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface RisingSheetProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: ReactNode;
  /** One sentence under the title: what it is about, what it leaves alone. */
  about: ReactNode;
  /** What stands at the right of the title. */
  aside?: ReactNode;
  onKeyDown?: (event: React.KeyboardEvent) => void;
  /** Called as it opens; may put the focus elsewhere than on its first control. */
  onOpened?: (event: Event) => void;
  /** Keeps its full height while what it shows comes and goes. */
  tall?: boolean;
  children: ReactNode;
}

/** Rises from the ledger's bar over the lower part of the screen, which stays live above it. */
export function RisingSheet(props: RisingSheetProps) {
  const { open, onOpenChange, title, about, aside, onKeyDown, onOpened, tall, children } = props;
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          className={clsx(
            'fixed inset-x-0 bottom-[38px] z-20 flex flex-col border-t-2 border-rule bg-well px-7 pb-3 pt-2.5',
            tall ? 'h-[56vh]' : 'max-h-[56vh] min-h-56',
          )}
          onInteractOutside={(e) => e.preventDefault()}
          {...(onKeyDown && { onKeyDown })}
          {...(onOpened && { onOpenAutoFocus: onOpened })}
        >
          <div className="flex items-baseline gap-4 pb-2">
            <Dialog.Title className="text-[15px] font-[680]">{title}</Dialog.Title>
            <Dialog.Description className="min-w-0 flex-1 truncate text-[12px] text-quiet">{about}</Dialog.Description>
            {aside}
            <Dialog.Close className="act soft">
              Close <kbd>Esc</kbd>
            </Dialog.Close>
          </div>
          <div className="flex min-h-0 flex-1 flex-col">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
