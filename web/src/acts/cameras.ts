import { open } from './open';
import { keepAndPick } from './keeping';

/** Adds a camera that stands where the active view is and sees what it sees, as one step. */
export function cameraFromView(): void {
  const { picture } = open;
  if (!picture) return;
  const id = crypto.randomUUID();
  keepAndPick(
    [
      { do: 'create', node: { id, name: 'Camera', kind: 'camera', camera: picture.lens() } },
      { do: 'steer', node: id, view: picture.viewWorld() },
    ],
    [id],
  );
}
