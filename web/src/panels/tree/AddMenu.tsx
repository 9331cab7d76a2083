import { DropdownMenu } from 'radix-ui';
import { Plus } from 'lucide-react';
import { additions } from '../../commands/edit';
import { session } from '../../state/session';

/** Adds an object: inside the picked group, else beside what is picked. */
export function AddMenu() {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">
        <Plus size={13} aria-hidden /> Add
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          {additions.map(({ id, says, node }) => (
            <div key={id} role="presentation">
              {id === 'group' && <DropdownMenu.Separator className="menu-line" />}
              <DropdownMenu.Item className="menu-item" onSelect={() => session.add(node)}>
                {says}
              </DropdownMenu.Item>
            </div>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
