import { cameraFromView } from '../../acts/cameras';
import { DropdownMenu } from 'radix-ui';
import { floating } from '../../controls/floating';
import { Plus } from 'lucide-react';
import { additions } from '../../commands/additions';
import { add } from '../../acts/planning';
import { set } from '../../state/store';

/** What can be added; where it goes is chosen in the sentence. */
export function AddMenu() {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">
        <Plus size={13} aria-hidden /> Add
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content
          className="menu"
          align="end"
          sideOffset={4}
          onCloseAutoFocus={(e) => {
            // The next Enter makes what the sentence says.
            const make = document.querySelector<HTMLElement>('[data-make]');
            if (!make) return;
            e.preventDefault();
            make.focus();
          }}
        >
          {additions.map(({ id, says, node }) => (
            <div key={id} role="presentation">
              {id === 'group' && <DropdownMenu.Separator className="menu-line" />}
              <div role="presentation" className="flex items-center">
                <DropdownMenu.Item className="menu-item flex-1" onSelect={() => add(node)}>
                  {says}
                </DropdownMenu.Item>
                {node.kind === 'shape' && (
                  <DropdownMenu.Item
                    className="menu-item text-ink-2"
                    aria-label={`Draw a ${says.toLowerCase()} by eye`}
                    title="Draw it on the stage: its footprint, then its height"
                    onSelect={() => set({ drawing: id })}
                  >
                    draw…
                  </DropdownMenu.Item>
                )}
              </div>
            </div>
          ))}
          <DropdownMenu.Item className="menu-item" onSelect={() => cameraFromView()}>
            Camera from this view
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
