import type { Tried } from '../core/answers';

/**
 * What a drag says at every picture goes past React: who shows it listens here and writes into its own element. Components
 * hear of it a few times a second, and when it ends.
 */
type Listener = (tried: Tried) => void;

const listeners = new Set<Listener>();

/** @returns Ends the listening. */
export function whileDragged(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export function tellDragged(tried: Tried): void {
  for (const listener of listeners) listener(tried);
}
