import { DropdownMenu } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import { drawnPicked, give, makeMaterial } from '../../acts/materials';
import { startPicking } from '../../commands/placing';
import { floating } from '../../controls/floating';
import { useStore } from '../../state/store';
import { BallOf } from './BallOf';

/** So many are listed; the drawer has all. */
const most = 200;

/** Which material the picked have, and all that they could have. */
export function Chooser({ current, slots }: { current: string; slots: number }) {
  const materials = useStore((s) => s.materials);
  const slot = useStore((s) => s.slot);
  const named = materials.find((m) => m.id === current);
  const where = slots > 1 ? slot : null;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        className="flex h-9 min-w-0 flex-1 items-center gap-2 rounded-lg border border-edge bg-paper px-2 text-left hover:border-plum"
        aria-label={`Material: ${named?.name ?? 'none'}`}
      >
        <BallOf id={current} size={24} />
        <span className="min-w-0 flex-1 truncate">{named?.name ?? 'No material'}</span>
        <ChevronDown size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content
          className="menu max-h-[420px] overflow-auto"
          align="start"
          sideOffset={4}
          collisionPadding={8}
        >
          <DropdownMenu.Item
            className="menu-item"
            onSelect={() => setTimeout(() => makeMaterial(null, drawnPicked(), where))}
          >
            New material
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item"
            disabled={!named}
            onSelect={() => setTimeout(() => makeMaterial(current, drawnPicked(), where))}
          >
            Own copy of this one
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={() => setTimeout(() => startPicking('material'))}>
            Take the material of …
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item"
            disabled={!named}
            onSelect={() => setTimeout(() => give('', drawnPicked(), where))}
          >
            No material
          </DropdownMenu.Item>
          {materials.length > 0 && <DropdownMenu.Separator className="menu-line" />}
          {materials.slice(0, most).map((m) => (
            <DropdownMenu.Item
              key={m.id}
              className={`menu-item flex items-center gap-2 ${m.id === current ? 'font-semibold' : ''}`}
              onSelect={() => setTimeout(() => give(m.id, drawnPicked(), where))}
            >
              <BallOf id={m.id} size={18} />
              <span className="max-w-[190px] truncate">{m.name}</span>
            </DropdownMenu.Item>
          ))}
          {materials.length > most && (
            <span className="block px-2 py-1 text-ink-2">{materials.length - most} more are in the drawer</span>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
