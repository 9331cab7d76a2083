import { DropdownMenu, Toolbar } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import { get, useStore, type ViewName } from '../state/store';
import type { Stage } from './stage';

const names: Record<ViewName, string> = {
  perspective: 'Perspective',
  front: 'Front',
  back: 'Back',
  right: 'Right',
  left: 'Left',
  top: 'Top',
  bottom: 'Bottom',
  free: 'Free view',
};

/** The view's label, from which views are chosen, and framing. */
export function ViewMenu({ stage }: { stage: Stage }) {
  const view = useStore((s) => s.view);
  const picked = useStore((s) => s.selection.length > 0);
  return (
    <Toolbar.Root className="absolute top-3 left-3 flex gap-1.5" aria-label="View">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <Toolbar.Button className="btn">
            <b className="font-semibold">{names[view.name]}</b>
            <span className="text-ink-2">{view.parallel ? 'parallel' : 'shaded'}</span>
            <ChevronDown size={13} aria-hidden />
          </Toolbar.Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" align="start" sideOffset={4}>
            {(['perspective', 'front', 'back', 'right', 'left', 'top', 'bottom'] as const).map((name) => (
              <DropdownMenu.Item key={name} className="menu-item" onSelect={() => stage.show(name)}>
                {names[name]}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="menu-line" />
            <DropdownMenu.Item className="menu-item" onSelect={() => stage.toggleParallel()}>
              {view.parallel ? 'Draw in perspective' : 'Draw in parallel'}
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Toolbar.Button
        className="btn"
        title={picked ? 'Frame what is picked (V)' : 'Frame everything (Shift+V)'}
        onClick={() => stage.frame(picked ? get().selection : null, true)}
      >
        {picked ? 'Frame picked' : 'Frame all'}
      </Toolbar.Button>
      <span className="btn pointer-events-none" title="Between two dots of the ground">
        Dots {distance(stage.spacing)}
      </span>
    </Toolbar.Root>
  );
}

function distance(metres: number): string {
  return metres >= 1
    ? `${metres} m`
    : metres >= 0.01
      ? `${Math.round(metres * 100)} cm`
      : `${Math.round(metres * 1000)} mm`;
}
