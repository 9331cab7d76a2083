import type { Vector3 } from 'three';
import type { Frame } from '../core/answers';
import type { Layer } from './layer';
import type { OnStage } from './onStage';
import type { View } from './view';

/** The axes of one of several picked objects, where each has its own. */
export interface OwnAxes {
  id: string;
  centre: Vector3;
  axes: number[];
}

/** What hands and signs ask of the handles of a view. */
export interface HandleSet {
  readonly stage: OnStage;
  readonly view: View;
  readonly layer: Layer;
  /** Where the core says that they stand; null while nothing is picked. */
  readonly frame: Frame | null;
  /** Of the other picked objects, where each has axes of its own. */
  readonly others: OwnAxes[];
  /** Where stand-ins for handles out of sight are; null: the handles stand at their true place. */
  standIn: Vector3 | null;
  /** How far a stand-in stands from the true place. */
  offset(): Vector3;
  axis(frame: Frame, i: number): Vector3;
  /** How long needles are at a point, in metres. */
  size(centre: Vector3): number;
  setAxes(axes: [boolean, boolean, boolean]): void;
  /** Asks the core where they stand, when anything that decides it has changed. */
  read(): void;
  invalidate(): void;
}
