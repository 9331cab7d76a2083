import { get, set } from '../state/store';
import { session } from './session';

/** The picked point lasts for the selection only; kept, it is the pivot of what is picked. */
export function keepPointAsPivot(): void {
  const { picked, selection, abouts } = get();
  if (!picked) return;
  if (session.keep({ do: 'movePivot', nodes: selection, to: { point: picked.point } }))
    set({
      picked: null,
      abouts: {
        rotate: abouts.rotate === 'point' ? 'own' : abouts.rotate,
        scale: abouts.scale === 'point' ? 'own' : abouts.scale,
      },
    });
}
