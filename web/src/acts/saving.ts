import { api } from '../api/client';
import type { Settings } from '../state/settings';
import { get, set } from '../state/store';
import { readSight } from './following';
import { guarded, open } from './open';

let waiting: ReturnType<typeof setTimeout> | undefined;

export function saveSettings(change: Settings): void {
  replaceSettings({ ...get().settings, ...change });
}

/** Sets everything anew; a slider that is dragged is sent once it rests. */
export function replaceSettings(settings: Settings): void {
  const recolors = settings.collectionColors !== get().settings.collectionColors;
  set({ settings });
  if (recolors && get().scene) {
    readSight();
    open.picture?.sightChanged();
  }
  clearTimeout(waiting);
  waiting = setTimeout(() => void flushSettings(), 250);
}

/** Sends the settings where they wait to be sent. */
export async function flushSettings(): Promise<void> {
  if (waiting === undefined) return;
  clearTimeout(waiting);
  waiting = undefined;
  await guarded(async () => void (await api.saveSettings({ ...get().settings })));
}
