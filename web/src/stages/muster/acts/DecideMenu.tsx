import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { count, many } from '../../../parts/format';

export type Sheet = 'replace' | 'variants' | 'house';

interface DecideMenuProps {
  numbers: number[] | null;
  all: number;
  /** Images in focus that do not answer. */
  unanswered: number;
  changed: number;
  onSheet: (sheet: Sheet) => void;
  onStyle: (style: string) => void;
  onStandIn: () => void;
  onSeen: () => void;
}

/** Everything that can be decided for the focus, or for all when nothing is in focus. */
export function DecideMenu({
  numbers,
  all,
  unanswered,
  changed,
  onSheet,
  onStyle,
  onStandIn,
  onSeen,
}: DecideMenuProps) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="act">
        Decide for{' '}
        {numbers === null ? (all === 1 ? 'the one' : `all ${count(all)}`) : `${count(numbers.length)} in focus`}{' '}
        <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu w-72" align="end" sideOffset={4}>
          <Item act={() => onSheet('replace')} keys="E">
            Find and replace in paths
          </Item>
          <Item act={() => onSheet('variants')} keys="Q">
            Switch variants
          </Item>
          <Item act={() => onSheet('house')} keys="I">
            Tidy files
          </Item>
          <DropdownMenu.Separator className="my-1 h-px bg-hair" />
          <DropdownMenu.Sub>
            <DropdownMenu.SubTrigger>Write paths</DropdownMenu.SubTrigger>
            <DropdownMenu.Portal>
              <DropdownMenu.SubContent className="menu w-64">
                <Item act={() => onStyle('relative')}>relative to the scene</Item>
                <Item act={() => onStyle('rootRelative')}>relative to their root</Item>
                <Item act={() => onStyle('absolute')}>absolute</Item>
                <p className="px-3 py-1 text-[12px] leading-4 text-quiet">
                  For relinked copies; packages stay relative, or they would not stand alone.
                </p>
              </DropdownMenu.SubContent>
            </DropdownMenu.Portal>
          </DropdownMenu.Sub>
          <Item act={onStandIn} disabled={unanswered === 0}>
            {unanswered === 0
              ? 'Use placeholders: every image answers'
              : `Use a placeholder for ${count(unanswered)} unanswered`}
          </Item>
          <Item act={onSeen} disabled={changed === 0} keys="D">
            {changed === 0 ? 'Accept the change: no file changed' : `Accept the change of ${many(changed, 'file')}`}
          </Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item({
  act,
  keys,
  disabled,
  children,
}: {
  act: () => void;
  keys?: string;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <DropdownMenu.Item onSelect={act} disabled={disabled} className="data-[disabled]:text-quiet">
      <span className="flex-1">{children}</span>
      {keys && <kbd>{keys}</kbd>}
    </DropdownMenu.Item>
  );
}
