import { api } from '../api/client';
import { get } from '../state/store';
import { open } from './open';
import { onRenewal } from '../state/renewal';

/** Of a card, twice as fine as it is drawn. */
const size = { width: 440, height: 275 };

/** The revision of the open scene that was pictured last. */
let pictured: { scene: string; revision: number } | null = null;

/**
 * Makes a picture of the open scene, for choosing among scenes, where it has changed since the last one. It is made at once,
 * and sent in the background: nothing waits for it, and nothing is said where it fails.
 */
export async function pictureScene(): Promise<void> {
  const { scene, scenes, rows } = get();
  if (!scene || !open.picture || rows.length === 0) return;
  // What was removed needs none any more.
  if (!scenes.some((s) => s.id === scene.id)) return;
  const revision = open.core.revision();
  if (pictured?.scene === scene.id && pictured.revision === revision) return;
  pictured = { scene: scene.id, revision };
  try {
    const picture = await open.picture.snapshot(size.width, size.height);
    if (picture) await api.keepPicture(scene.id, revision, picture);
  } catch {
    pictured = null;
  }
}

// A page that is closed is hidden first.
if (typeof document !== 'undefined')
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') void pictureScene();
  });

onRenewal(() => {
  pictured = null;
});
