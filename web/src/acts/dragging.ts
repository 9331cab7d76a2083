import type { Tried } from '../core/answers';
import { useStore } from '../state/store';

/**
 * What a drag says at every picture goes past React: who shows it listens here and writes into its own element. Components
 * hear of it a few times a second, and when it ends. Null: it has ended, and what was written is to be as React has it.
 */
type Listener = (tried: Tried | null) => void;

const listeners = new Set<Listener>();

/** @returns Ends the listening. */
export function whileDragged(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export function tellDragged(tried: Tried | null): void {
  for (const listener of listeners) listener(tried);
}

// However it ends: kept, put back, or taken away by what somebody else did.
useStore.subscribe((now, before) => {
  if (before.trying && !now.trying) tellDragged(null);
});
