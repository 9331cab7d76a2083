import type { Vector3 } from 'three';
import type { OutlineRow } from '../core/outline';
import type { Hit } from './picking';
import type { Pictures } from './pictures';
import type { View } from './view';

/** What handles, signs, presses and snapping ask of the stage that they are on. */
export interface OnStage {
  /** The view that commands act on. */
  readonly view: View;
  readonly pictures: Pictures;
  /** Metres between the dots of the ground. */
  readonly spacing: number;
  readonly pace: { moving(): void };
  draw(): void;
  activate(view: View): void;
  viewAt(x: number, y: number): { view: View; x: number; y: number };
  /** Everything under a pixel of a view, near to far. */
  under(view: View, x: number, y: number): Hit[];
  pick(view: View, x: number, y: number): Hit | null;
  pickWithout(view: View, x: number, y: number, without: Set<string>): Hit | null;
  lockedUnder(view: View, x: number, y: number): OutlineRow | null;
  pointUnder(view: View, x: number, y: number): Vector3;
  uprights(): { at: Vector3; way: Vector3 }[];
}
