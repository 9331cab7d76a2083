import { DropdownMenu } from 'radix-ui';
import { Plus } from 'lucide-react';
import { session } from '../../state/session';

const shapes: [type: string, name: string, height: number][] = [
  ['box', 'Box', 1],
  ['ball', 'Ball', 1],
  ['icoball', 'Icoball', 1],
  ['cylinder', 'Cylinder', 1],
  ['cone', 'Cone', 1],
  ['ring', 'Ring', 0.25],
  ['plane', 'Plane', 0],
  ['capsule', 'Capsule', 1],
  ['disc', 'Disc', 0],
];

/** Adds an object: inside the picked group, else beside what is picked. Shapes stand on their base. */
export function AddMenu() {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn">
        <Plus size={13} aria-hidden /> Add
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          {shapes.map(([type, name, height]) => (
            <DropdownMenu.Item
              key={type}
              className="menu-item"
              onSelect={() =>
                session.add({ kind: 'shape', name, shape: { type }, placement: { pivot: [0, -height / 2, 0] } })
              }
            >
              {name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="menu-line" />
          <DropdownMenu.Item className="menu-item" onSelect={() => session.add({ kind: 'group', name: 'Group' })}>
            Group
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item"
            onSelect={() =>
              session.add({ kind: 'light', name: 'Lamp', placement: { position: [0, 2, 0] }, light: { type: 'point' } })
            }
          >
            Lamp
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item"
            onSelect={() =>
              session.add({ kind: 'camera', name: 'Camera', placement: { position: [0, 1.6, 4] }, camera: {} })
            }
          >
            Camera
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
