import { useStore } from '../state/store';
import { DirectionsSign } from './DirectionsSign';
import { useFrames } from './frames';
import type { View } from './view';

const world = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** The three directions of the current space, small, as a view sees them now. */
export function SpaceCorner({ view, small }: { view: View; small: boolean }) {
  const verb = useStore((s) => s.verb);
  const spaces = useStore((s) => s.spaces);
  const byId = useStore((s) => s.byId);
  const picked = useStore((s) => s.selection.length > 0);
  // Drawn anew only when the view or the axes have turned.
  const key = useFrames(() => [...view.eye.world().slice(0, 12), ...((picked && view.handles.axes) || world)].join());
  const numbers = key.split(',').map(Number);
  const space = picked ? spaces[verb] : 'world';
  const said = space.startsWith('mark:') ? `mark ${byId.get(space.slice(5))?.name ?? ''}` : space;
  return (
    <div
      className="pointer-events-none absolute top-3 right-3 rounded-full border border-line bg-paper/90"
      role="img"
      aria-label={`Directions of the ${said} axes`}
    >
      <DirectionsSign axes={numbers.slice(12)} view={numbers.slice(0, 12)} size={small ? 56 : 76} />
    </div>
  );
}
