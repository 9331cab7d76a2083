/**
 * What is going on under the hand, or is shown and not kept. Esc ends it, whatever has the focus; while something is held,
 * keys that would change the scene or the view wait.
 */
interface Doing {
  leave: () => void;
  /** Held by the pointer, as a drag is; else it is only shown. */
  held: boolean;
}

const all: Doing[] = [];

/** Something begins; what is given back says that it has ended. */
export function begin(leave: () => void, held = true): () => void {
  const doing = { leave, held };
  all.push(doing);
  return () => {
    const at = all.indexOf(doing);
    if (at >= 0) all.splice(at, 1);
  };
}

export const isHeld = (): boolean => all.some((d) => d.held);

/** Ends what began last of what is held, or of what is only shown; false: there is nothing. */
export function leave(held: boolean): boolean {
  const last = all.findLast((d) => d.held === held);
  last?.leave();
  return last !== undefined;
}

/** Ends all that goes on or is shown, the last first. */
export function endAll(): void {
  for (const doing of all.toReversed()) doing.leave();
}

// A pointer that was let go elsewhere is not heard of: what it held is put back.
if (typeof window !== 'undefined')
  window.addEventListener('blur', () => {
    for (const doing of all.filter((d) => d.held).toReversed()) doing.leave();
  });
