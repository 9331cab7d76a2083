import { ChevronRight } from 'lucide-react';
import { floating } from '../../controls/floating';
import { DropdownMenu } from 'radix-ui';
import { additions } from '../../commands/additions';
import { commandOf, run } from '../../commands';
import { ContextItems } from '../ContextItems';
import { verbs } from '../../acts/words';
import { VerbIcon } from '../../controls/VerbIcon';
import { add } from '../../acts/planning';
import { returnFocus } from '../../acts/focus';
import { useStore } from '../../state/store';
import { setPointer, usePointer } from '../../state/pointer';
import type { Stage } from '../../stage/stage';

/** What a short right press on the stage offers, at the pointer: the verbs, adding where it was pressed, and what fits the picked. */
export function StageMenu({ stage }: { stage: Stage }) {
  const menu = usePointer((s) => s.menu);
  const picked = useStore((s) => s.selection.length > 0);
  return (
    <DropdownMenu.Root modal={false} open={menu !== null} onOpenChange={(open) => !open && setPointer({ menu: null })}>
      <DropdownMenu.Trigger asChild>
        <span
          className="pointer-events-none absolute h-0 w-0"
          style={{ left: menu?.x ?? 0, top: menu?.y ?? 0 }}
          aria-hidden
          tabIndex={-1}
        />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content
          className="menu"
          align="start"
          side="bottom"
          sideOffset={2}
          collisionPadding={8}
          aria-label="What can be done here"
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            returnFocus();
          }}
        >
          {picked && (
            <div role="presentation" className="flex gap-0.5 border-b border-line pb-1">
              {verbs.map(({ verb, word }) => (
                <DropdownMenu.Item
                  key={verb}
                  className="menu-item flex-1 justify-center gap-1.5"
                  onSelect={() => setTimeout(() => run(commandOf(`verb.${verb}`), stage))}
                >
                  <VerbIcon verb={verb} /> {word}
                </DropdownMenu.Item>
              ))}
            </div>
          )}
          <DropdownMenu.Sub>
            <DropdownMenu.SubTrigger className="menu-item">
              {menu?.point ? 'Add here' : 'Add'} <ChevronRight size={13} aria-hidden className="ml-auto text-ink-2" />
            </DropdownMenu.SubTrigger>
            <DropdownMenu.Portal container={floating()}>
              <DropdownMenu.SubContent className="menu" sideOffset={4} collisionPadding={8}>
                {additions.map(({ id, says, node }) => (
                  <DropdownMenu.Item
                    key={id}
                    className="menu-item"
                    onSelect={() => {
                      const point = menu?.point ?? null;
                      setTimeout(() => add(node, point));
                    }}
                  >
                    {says}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.SubContent>
            </DropdownMenu.Portal>
          </DropdownMenu.Sub>
          <DropdownMenu.Separator className="menu-line" />
          <ContextItems stage={stage} Item={DropdownMenu.Item} Separator={DropdownMenu.Separator} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
