import { get, useStore } from './store';

/** Which branches of the tree are closed, kept in this browser for each scene. */
const keyOf = (scene: string) => `closed-branches ${scene}`;

/** More is not worth keeping: such trees begin with their branches closed. */
const most = 20_000;

export function rememberedOpening(scene: string): Set<string> | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(scene)) ?? 'null');
    return Array.isArray(kept) ? new Set(kept.filter((id) => typeof id === 'string')) : null;
  } catch {
    return null;
  }
}

let waiting: ReturnType<typeof setTimeout> | undefined;

useStore.subscribe((now, before) => {
  if (now.closed === before.closed || now.scene?.id !== before.scene?.id) return;
  clearTimeout(waiting);
  waiting = setTimeout(() => {
    const { scene, closed, byId } = get();
    if (!scene) return;
    try {
      localStorage.setItem(keyOf(scene.id), JSON.stringify([...closed].filter((id) => byId.has(id)).slice(0, most)));
    } catch {
      // A browser that stores nothing only forgets it.
    }
  }, 400);
});
