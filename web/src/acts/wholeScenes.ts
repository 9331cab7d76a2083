import { api } from '../api/client';
import { get, set } from '../state/store';
import { listScenes, loading, openScene } from './loader';
import { pictureScene } from './scenePictures';
import { guarded, say } from './open';

/** What is done with whole scenes. */

/** Makes a scene that begins like the person's start scene, and opens it. */
export async function newScene(name: string): Promise<void> {
  const { settings, scenes } = get();
  const start = scenes.some((s) => s.id === settings.startScene) ? settings.startScene! : 'start';
  const made = await api.create(name, start);
  await listScenes();
  await openScene(made.id);
}

/** Makes a scene like another; tells its id. */
export async function copyScene(id: string, name: string): Promise<string> {
  const made = await api.create(name, id);
  await listScenes();
  return made.id;
}

export async function renameScene(id: string, name: string): Promise<void> {
  await api.describe(id, { name });
  await listScenes();
}

/** Puts a scene into the bin; where it was the open one, the newest of the others is opened, or a new one. */
export async function removeScene(id: string): Promise<void> {
  const isOpen = get().scene?.id === id;
  const name = get().scenes.find((s) => s.id === id)?.name ?? get().scene?.name ?? 'The scene';
  if (isOpen) loading.removing = id;
  await api.remove(id);
  await listScenes();
  if (isOpen) {
    const next = get().scenes[0] ?? (await api.create('New scene', 'start'));
    await listScenes();
    await openScene(next.id);
    loading.removing = null;
  }
  say({
    kind: 'info',
    text: `“${name}” lies in the bin for thirty days.`,
    act: { word: 'Bring it back', do: () => void guarded(() => bringBack(id)) },
  });
}

/** Brings a scene back from the bin. */
export async function bringBack(id: string): Promise<void> {
  const { name } = await api.bringBack(id);
  await listScenes();
  say({
    kind: 'info',
    text: `“${name}” is back among the scenes.`,
    act: { word: 'Open it', do: () => void guarded(() => openScene(id)) },
  });
}

/** For how many days the steps of the open scene are kept; 0: for good. */
export async function keepSteps(days: number): Promise<void> {
  const id = get().scene?.id;
  if (!id) return;
  await api.describe(id, { keepSteps: days });
  await listScenes();
}

/** Shows all scenes over the stage. */
export function showScenes(): void {
  set({ open: 'scenes' });
  void guarded(async () => {
    await listScenes();
    await pictureScene();
    await listScenes();
  });
}
