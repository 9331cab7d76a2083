import { onRenewal } from '../state/renewal';

/** The collection that was made, filled or picked from last; the next membership begins with it. */
let last: string | null = null;

export const lastCollection = (): string | null => last;

export function usedCollection(id: string): void {
  last = id;
}

onRenewal(() => {
  last = null;
});
