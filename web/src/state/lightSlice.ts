import type { Still } from '../wire/apiTypes';

/** What the page holds of lamps and stills. */
export interface LightSlice {
  /** How many lamps the active view leaves out. */
  lampsLeftOut: number;
  /** The lamps that light the working view alone; none: all do. */
  soloLamps: string[];
  /** Counts what may have changed of lamps and surroundings while their drawer is open. */
  lightTold: number;
  /** The stills of the scene, the oldest first. */
  stills: Still[];
  /** The still that is being made; null: none. */
  making: Making | null;
  /** The still that is looked at, beside the one before it or another; null: none. */
  stillShown: { still: string; beside: string | null } | null;
  /** How the next still is to be made, as far as it was said. */
  stillAs: StillAs;
  /** The rectangle of the stage that the next still is of, in shares of the picture; null: all. */
  stillPart: { x: number; y: number; width: number; height: number } | null;
}

export interface Making {
  name: string;
  done: number;
  all: number;
  /** Seconds that are left, as far as it can be told. */
  left: number | null;
  stopping: boolean;
}

export interface StillAs {
  /** Null: the current shot, and the view where none is. */
  of: 'shot' | 'camera' | 'view' | null;
  /** How many pictures are added up; 1: quick. */
  passes: number;
  /** Pixels across; null: as the camera says. */
  width: number | null;
  transparent: boolean;
  tone: 'neutral' | 'filmic' | 'none';
  depth: boolean;
  mask: boolean;
}

/** Lit by all its lamps, no still looked at, as it is when a scene is entered. */
export const lightAtRest = {
  lampsLeftOut: 0,
  soloLamps: [],
  stills: [],
  stillShown: null,
  stillPart: null,
} satisfies Partial<LightSlice>;

export const lightSlice: LightSlice = {
  ...lightAtRest,
  lightTold: 0,
  making: null,
  stillAs: { of: null, passes: 1, width: null, transparent: false, tone: 'neutral', depth: false, mask: false },
};
