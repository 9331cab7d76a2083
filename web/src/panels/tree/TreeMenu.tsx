import { ChevronRight } from 'lucide-react';
import { floating } from '../../controls/floating';
import { ContextMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { additions } from '../../commands/additions';
import { add } from '../../acts/planning';
import { session } from '../../acts/session';
import { get } from '../../state/store';
import type { Stage } from '../../stage/stage';
import { ContextItems } from '../ContextItems';

/** The menu of a right press in the tree; a row that is not picked yet is picked first. */
export function TreeMenu({ stage, children }: { stage: () => Stage | null; children: ReactElement }) {
  const now = stage();
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger
        asChild
        onContextMenu={(e) => {
          const id = (e.target as Element).closest('[role="treeitem"]')?.id.replace(/^row-/, '');
          if (id === undefined) session.select([]);
          else if (!get().selection.includes(id)) session.select([id]);
        }}
      >
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal container={floating()}>
        <ContextMenu.Content className="menu">
          <ContextMenu.Sub>
            <ContextMenu.SubTrigger className="menu-item">
              Add <ChevronRight size={13} aria-hidden className="ml-auto text-ink-2" />
            </ContextMenu.SubTrigger>
            <ContextMenu.Portal container={floating()}>
              <ContextMenu.SubContent className="menu" sideOffset={4} collisionPadding={8}>
                {additions.map(({ id, says, node }) => (
                  <ContextMenu.Item key={id} className="menu-item" onSelect={() => setTimeout(() => add(node))}>
                    {says}
                  </ContextMenu.Item>
                ))}
              </ContextMenu.SubContent>
            </ContextMenu.Portal>
          </ContextMenu.Sub>
          <ContextMenu.Separator className="menu-line" />
          {now && <ContextItems stage={now} Item={ContextMenu.Item} Separator={ContextMenu.Separator} />}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
