import { useRef } from 'react';
import { ContextItems } from '../panels/ContextItems';
import { DropdownMenu } from 'radix-ui';
import { setPointer, usePointer } from './pointer';
import type { Stage } from './stage';

/** What a short right press on the stage offers, at the pointer. */
export function StageMenu({ stage }: { stage: Stage }) {
  const menu = usePointer((s) => s.menu);
  const anchor = useRef<HTMLSpanElement>(null);
  return (
    <DropdownMenu.Root modal={false} open={menu !== null} onOpenChange={(open) => !open && setPointer({ menu: null })}>
      <DropdownMenu.Trigger asChild>
        <span
          ref={anchor}
          className="pointer-events-none absolute h-0 w-0"
          style={{ left: menu?.x ?? 0, top: menu?.y ?? 0 }}
          aria-hidden
          tabIndex={-1}
        />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="menu"
          align="start"
          side="bottom"
          sideOffset={2}
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          <ContextItems stage={stage} Item={DropdownMenu.Item} Separator={DropdownMenu.Separator} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
