import type { SceneSummary } from '../wire/apiTypes';

/** The scenes that were used last in this browser, newest first. */
const key = 'calm-pivot-scenes';

const kept = 12;

function known(): string[] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
    return Array.isArray(read) ? read.filter((id) => typeof id === 'string') : [];
  } catch {
    return [];
  }
}

export function usedScene(id: string): void {
  try {
    localStorage.setItem(key, JSON.stringify([id, ...known().filter((k) => k !== id)].slice(0, kept)));
  } catch {
    // A browser that stores nothing only forgets it.
  }
}

/** A few scenes to go on with: those used last, then those that changed last. */
export function lastScenes(scenes: SceneSummary[], most: number): SceneSummary[] {
  const used = known()
    .map((id) => scenes.find((s) => s.id === id))
    .filter((s) => s !== undefined);
  return [...used, ...scenes.filter((s) => !used.includes(s))].slice(0, most);
}
