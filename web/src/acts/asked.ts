import { get } from '../state/store';
import { takeCentre, takeParent, takeTarget } from './planning';

/** Gives an object to what the sentence asks for. @returns False: it asks for none. */
export function answered(id: string): boolean {
  const { picking } = get();
  if (picking === 'parent') takeParent(id);
  else if (picking === 'centre') takeCentre(id);
  else if (picking === 'target' || picking === 'upward') takeTarget(id);
  else return false;
  return true;
}
