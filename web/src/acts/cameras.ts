import { get, set } from '../state/store';
import { open } from './open';
import { keep, keepAndPick } from './keeping';

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

/** Levels the horizon of a camera. */
export const levelCamera = (camera: string): boolean => keep({ do: 'level', nodes: [camera] });

/** What a camera turns to: the last picked that is not itself. */
export function turnTarget(camera: string | null): string | undefined {
  const { selection, byId } = get();
  return selection.findLast((id) => id !== camera && byId.get(id)?.kind !== 'collection');
}

/** Turns a camera to the picked, once. */
export function turnCamera(camera: string): void {
  const target = turnTarget(camera);
  if (target !== undefined) keep({ do: 'turnTo', nodes: [camera], target });
}

/** Shows the picture of a view and nothing else, or goes back to arranging. */
export function showExactly(index: number): void {
  set({ views: get().views.map((v, i) => (i === index ? { ...v, exact: !v.exact } : v)) });
}
