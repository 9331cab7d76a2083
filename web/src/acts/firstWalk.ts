import { api } from '../api/client';
import { session } from './session';
import { get, set } from '../state/store';

/** Begins the first walk, on the demo scene. */
export async function startWalk(): Promise<void> {
  await session.guarded(async () => {
    if (get().scene?.id !== 'orrery-room') {
      const demo = get().scenes.find((s) => s.id === 'orrery-room') ?? (await api.restoreDemo());
      await session.listScenes();
      await session.open(demo.id);
    }
    session.select([]);
    set({ walk: 0, open: null });
  });
}
