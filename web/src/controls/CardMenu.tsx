import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { floating } from './floating';

/** What can be done with a card; nothing: a line between. */
export type CardAct = { word: string; act: () => void; off?: boolean } | null;

/** A card with its menu, on a press of the right button. */
export function CardMenu({ acts, children }: { acts: CardAct[]; children: ReactNode }) {
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal container={floating()}>
        <ContextMenu.Content className="menu">
          {acts.map((act, i) =>
            act === null ? (
              <ContextMenu.Separator key={i} className="menu-line" />
            ) : (
              <ContextMenu.Item
                key={act.word}
                className="menu-item"
                disabled={act.off === true}
                onSelect={() => setTimeout(act.act)}
              >
                {act.word}
              </ContextMenu.Item>
            ),
          )}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
