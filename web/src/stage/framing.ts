import { Quaternion, Vector3 } from 'three';
import { session } from '../acts/session';
import type { Bounds } from '../core/answers';
import { get } from '../state/store';
import { turnOf, type Eye, type Look } from './eye';

/** How views come to look at things: whole, or from within where the scene is a room. */

/** Rooms larger than this, in metres, are looked at from outside. */
const largestRoom = 40;

/** What stands at the top of the tree, without cameras and lamps, which often stand far outside. */
export function everything(): string[] {
  const { children, byId } = get();
  const tops = children.get(null) ?? [];
  const things = tops.filter((id) => !['camera', 'light'].includes(byId.get(id)!.kind));
  return things.length > 0 ? things : tops;
}

/** A look that shows bounds whole, above what the sentence covers; of nothing, a piece of ground. */
export function framing(eye: Eye, bounds: Bounds | null, turn?: Quaternion): Look {
  return eye.framing(
    new Vector3(...(bounds?.low ?? [-2, 0, -2])),
    new Vector3(...(bounds?.high ?? [2, 2, 2])),
    get().layout === 'one' ? get().foot : 0,
    turn,
  );
}

/** How a scene is entered: rooms in which the eye stands, or nearly so, from within; all else from outside. */
export function entering(eye: Eye, all: Bounds | null): Look {
  const look: Look = { target: new Vector3(0, 0.9, 0), turn: turnOf(0.42, 0.3), distance: 8.6 };
  // A scene without anything to see begins with a piece of ground.
  if (!all || !get().rows.some((row) => row.kind === 'shape' || row.kind === 'mesh')) return look;
  const stands = new Vector3(0, 0, look.distance).applyQuaternion(look.turn).add(look.target).toArray();
  const entered = stands.every((at, i) => {
    const [low, high] = [all.low[i]!, all.high[i]!];
    const near = (high - low) / 10;
    return at > low - near && at < high + near && high - low < largestRoom;
  });
  if (entered) return look;
  return eye.framing(new Vector3(...all.low), new Vector3(...all.high), get().foot, turnOf(0.6, 0.35), false);
}

/** The bounds of what a view frames: some objects, or everything. */
export const framedBounds = (ids: string[] | null): Bounds | null => session.core.framingOf(ids ?? everything());
