import { api } from '../api/client';
import { get, set } from '../state/store';
import { guarded } from './open';

/** Asks which pictures the scene keeps for materials. */
export async function listPictures(): Promise<void> {
  const id = get().scene?.id;
  if (!id) return;
  await guarded(async () => {
    const kept = await api.pictures(id);
    if (get().scene?.id === id) set({ kept });
  });
}
