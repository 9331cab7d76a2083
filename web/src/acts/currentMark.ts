import { get, set } from '../state/store';

/** The mark where new objects appear; each person has their own, kept in this browser. */
export function makeCurrent(mark: string | null): void {
  set({ currentMark: mark });
  const key = `current-mark ${get().scene?.id}`;
  try {
    if (mark === null) localStorage.removeItem(key);
    else localStorage.setItem(key, mark);
  } catch {
    // A browser that stores nothing only forgets it.
  }
}

export function rememberedMark(scene: string): string | null {
  try {
    return localStorage.getItem(`current-mark ${scene}`);
  } catch {
    return null;
  }
}

/** Marks that are gone are no axes, no point and no place for new objects any more. */
export function forgetMarks(): void {
  const { spaces, abouts, currentMark, byId } = get();
  const gone = (kind: string) => kind.startsWith('mark:') && !byId.has(kind.slice(5));
  const mend = <T extends string>(kinds: Record<string, T>, usual: (of: string) => T) =>
    Object.fromEntries(Object.entries(kinds).map(([of, kind]) => [of, gone(kind) ? usual(of) : kind]));
  if ([...Object.values(spaces), ...Object.values(abouts)].some(gone)) {
    set({
      spaces: mend(spaces, (of) => (of === 'scale' ? 'own' : 'parent')) as typeof spaces,
      abouts: mend(abouts, () => 'own') as typeof abouts,
    });
  }
  if (currentMark !== null && !byId.has(currentMark)) makeCurrent(null);
}
