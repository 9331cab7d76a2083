import type { Caught, LinkThread, Reading, SnapKind, Vec3 } from '../core/answers';
import type { Plan } from './plan';
import type { AboutKind, AddWhere, SpaceKind, Verb } from './choices';

export interface Steps {
  on: boolean;
  /** Metres, degrees, or a share of the size. */
  size: number;
}

/** How drags snap. */
export interface Snap {
  on: boolean;
  kinds: SnapKind[];
  source: 'pivot' | 'corner' | 'picked';
  /** Pixels. */
  radius: number;
  /** The own y turns to the upright of a face that is caught. */
  turn: boolean;
  /** The picked point, in the world. */
  from: Vec3 | null;
}

/** What a press on the stage is asked for. */
export type Picking =
  | 'parent'
  | 'centre'
  | 'surface'
  | 'point'
  | 'mark'
  | 'snapFrom'
  | 'pivot'
  | 'alignTo'
  | 'target'
  | 'upward'
  | 'aimFace'
  | 'aimPlace'
  | 'material'
  | 'highlight'
  | 'turnTo'
  | 'focus';

export interface Notice {
  kind: 'refusal' | 'warning' | 'info';
  text: string;
  /** Something that can be done about it, on a button beside it. */
  act?: { word: string; do: () => void };
}

/** A direction picked off a surface, and a point picked in the scene: they last as long as the selection. */
export interface PickedPlace {
  /** None where an edge or a point was met. */
  normal: Vec3 | null;
  point: Vec3;
  /** The faces that the direction is the mean of. */
  faces?: { node: string; corners: number[] }[];
  /** What was met, in words. */
  part?: string;
}

/** The sentence: the edit that the next drag or typed number makes, and what is being prepared or tried. */
export interface SentenceSlice {
  /** What is being prepared in the sentence. */
  plan: Plan | null;
  /** Where new objects stand to each of the picked; null: into groups, beside anything else. */
  addWhere: AddWhere | null;
  verb: Verb;
  handlesOn: boolean;
  spaces: Record<Verb, SpaceKind>;
  abouts: Record<'rotate' | 'scale', AboutKind>;
  axes: Record<Verb, [boolean, boolean, boolean]>;
  stepSizes: Record<Verb, Steps>;
  childrenStay: boolean;
  keepVolume: boolean;
  /** Only the places change, not what stands there. */
  placesOnly: boolean;
  /** Steps lie on the grid of the space. */
  onGrid: boolean;
  /** A typed number is the value to reach, not the amount. */
  typeTo: boolean;
  /** Needles, arcs and pads at once. */
  allHandles: boolean;
  snap: Snap;
  /** Snapping is held off while its key is. */
  snapHeld: boolean;
  /** Edits are only tried: on release everything goes back. */
  rehearse: boolean;
  caught: Caught | null;
  picked: PickedPlace | null;
  picking: Picking | null;
  /** The constraint that is to look at the place that is pressed next. */
  looking: { node: string; id: string; target: string | undefined } | null;
  /** What is aligned to, once it has been pressed. */
  alignTo: string | null;
  /** The pivot's key is held, or was used while it is. */
  pivotHeld: boolean | 'used';
  /** Moving a pivot keeps the stored numbers instead of the place. */
  pivotNumbers: boolean;
  /** The type of shape that is drawn by eye. */
  drawing: string | null;
  /** Uprights of the picked surfaces as short lines. */
  uprights: boolean;
  trying: boolean;
  /** What is held follows the pointer without a button. */
  follows: boolean;
  reading: Reading | null;
  notice: Notice | null;
  foretold: string | null;
  /** The word of the refusal, where the edit of the sentence could not be made. */
  refused: string | null;
  /** Words hovered in a menu, shown by the handles before they are chosen. */
  hoveredSpace: SpaceKind | null;
  hoveredAbout: AboutKind | null;
  /** What constraints that are being prepared would look like on the stage; while an axis is still to be chosen, whose. */
  prepared: { threads: LinkThread[]; axesOf: string | null; axis: string | null } | null;
  /** Threads of the whole scene, not only of what is picked. */
  allThreads: boolean;
  /** The constraint that keeps the edit of the sentence from being seen. */
  heldBy: { node: string; link: string } | null;
}

/** Nothing prepared, tried, picked off or asked for, as it is when a scene is entered. */
export const sentenceAtRest = {
  plan: null,
  prepared: null,
  trying: false,
  follows: false,
  reading: null,
  caught: null,
  picked: null,
  picking: null,
  looking: null,
  alignTo: null,
  pivotHeld: false,
  drawing: null,
  foretold: null,
  refused: null,
  heldBy: null,
} satisfies Partial<SentenceSlice>;

/**
 * What was chosen for the sentence, less what goes by places that were picked in the scene that is left.
 *
 * @returns The parts that are otherwise then.
 */
export function withoutPlaces({
  snap,
  spaces,
  abouts,
}: Pick<SentenceSlice, 'snap' | 'spaces' | 'abouts'>): Pick<SentenceSlice, 'snap' | 'spaces' | 'abouts'> {
  const off = <T extends string>(kinds: Record<string, T>, place: T, usual: T) =>
    Object.fromEntries(Object.entries(kinds).map(([of, kind]) => [of, kind === place ? usual : kind]));
  return {
    snap: snap.from === null ? snap : { ...snap, from: null, source: 'pivot' },
    spaces: off<SpaceKind>(spaces, 'surface', 'parent') as typeof spaces,
    abouts: off<AboutKind>(abouts, 'point', 'own') as typeof abouts,
  };
}

export const sentenceSlice: SentenceSlice = {
  ...sentenceAtRest,
  addWhere: null,
  verb: 'move',
  handlesOn: true,
  spaces: { move: 'parent', rotate: 'parent', scale: 'own', pivot: 'own' },
  abouts: { rotate: 'own', scale: 'own' },
  axes: {
    move: [true, false, false],
    rotate: [false, true, false],
    scale: [true, true, true],
    pivot: [true, false, false],
  },
  stepSizes: {
    move: { on: false, size: 0.25 },
    rotate: { on: true, size: 5 },
    scale: { on: false, size: 0.1 },
    pivot: { on: false, size: 0.05 },
  },
  childrenStay: false,
  keepVolume: false,
  placesOnly: false,
  onGrid: false,
  typeTo: false,
  allHandles: false,
  snap: {
    on: false,
    kinds: ['vertex', 'pivot', 'corner', 'edgeMiddle', 'edge', 'face'],
    source: 'pivot',
    radius: 14,
    turn: false,
    from: null,
  },
  snapHeld: false,
  rehearse: false,
  pivotNumbers: false,
  uprights: false,
  notice: null,
  hoveredSpace: null,
  hoveredAbout: null,
  allThreads: false,
};
