import { ContextMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { session } from '../../state/session';
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
      <ContextMenu.Portal>
        <ContextMenu.Content className="menu">
          {now && <ContextItems stage={now} Item={ContextMenu.Item} Separator={ContextMenu.Separator} />}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
