import { get, set, useStore } from '../state/store';
import { takeFrom } from './materials';
import { takeCentre, takeParent, takeTarget } from './planning';

// What was said before something is asked for makes room for the question; what is said of the answers stands.
useStore.subscribe((now, before) => {
  if (now.picking && now.picking !== before.picking && now.notice && now.notice === before.notice)
    set({ notice: null });
});

/** Gives an object to what the sentence asks for. @returns False: it asks for none. */
export function answered(id: string): boolean {
  const { picking } = get();
  if (picking === 'parent') takeParent(id);
  else if (picking === 'centre') takeCentre(id);
  else if (picking === 'target' || picking === 'upward') takeTarget(id);
  else if (picking === 'material') takeFrom(id);
  else return false;
  return true;
}
