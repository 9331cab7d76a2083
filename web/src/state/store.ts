import { create } from 'zustand';
import {
  sightBits,
  type CollectionColors,
  type Caught,
  type EulerOrder,
  type NodeAnswer,
  type NodeKind,
  type Reading,
  type Shadow,
  type SnapKind,
  type Vec3,
} from '../core/answers';
import type { OutlineRow } from '../core/outline';
import type { Section } from './sections';
import type { Shading } from '../stage/shading';
import type { Plan } from '../acts/plans';
import type { SceneSummary, StepEntry } from '../wire/apiTypes';
import type { Settings } from './settings';

export type Verb = 'move' | 'rotate' | 'scale' | 'pivot';
/** Marks are named by their ids. */
export type SpaceKind = 'world' | 'parent' | 'own' | 'lead' | 'view' | 'surface' | 'channels' | `mark:${string}`;
export type AboutKind = 'own' | 'lead' | 'bounds' | 'mean' | 'zero' | 'point' | `mark:${string}`;
export type ViewName = 'free' | 'front' | 'back' | 'right' | 'left' | 'top' | 'bottom' | 'camera';

/** What a view shows and how. */
export interface ViewState {
  name: ViewName;
  /** The scene's camera that is looked through. */
  camera: string | null;
  /** Navigating moves that camera. */
  steering: boolean;
  parallel: boolean;
  shading: Shading;
}

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
export type Picking = 'parent' | 'centre' | 'surface' | 'point' | 'mark' | 'snapFrom' | 'pivot' | 'alignTo';

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

/** What is asked about whole scenes. */
export type Asking = 'new' | 'rename' | 'copy' | 'remove';

/** How a new object stands to each of the picked. */
export type AddWhere = 'inside' | 'beside' | 'around';

/** What the tree shows: all that is given must hold. */
export interface TreeFilter {
  text: string;
  kind: NodeKind | 'all';
  only: 'all' | 'hidden' | 'locked' | 'sharing';
  collection: string | null;
}

export const noFilter: TreeFilter = { text: '', kind: 'all', only: 'all', collection: null };

export interface PageState {
  ready: boolean;
  failed: string | null;
  scene: { id: string; name: string; unit: string } | null;
  scenes: SceneSummary[];
  steps: StepEntry[];
  settings: Settings;

  rows: OutlineRow[];
  byId: Map<string, OutlineRow>;
  children: Map<string | null, string[]>;
  closed: Set<string>;
  /** The marks of the scene; byId holds them, too. */
  marks: OutlineRow[];
  /** The collections of the scene, outer ones first; byId holds them, too. */
  collections: OutlineRow[];
  /** What is seen, a byte a slot. */
  sight: Uint16Array;
  /** The colours of their collections, where members are to be shown in them. */
  tints: CollectionColors | null;
  /** Only these are shown for now; each person has their own. */
  isolation: { ids: string[]; withBranch: boolean; dim: boolean } | null;
  /** What is being prepared in the sentence. */
  plan: Plan | null;
  /** What other pages on this scene have picked, by page. */
  others: Record<string, string[]>;
  /** Where new objects stand to each of the picked; null: into groups, beside anything else. */
  addWhere: AddWhere | null;
  /** What the tree leaves out. */
  treeFilter: TreeFilter;
  /** The mark where new objects appear; null: world zero. */
  currentMark: string | null;

  /** In picking order; the last is the lead. */
  selection: string[];
  lead: NodeAnswer | null;
  renaming: string | null;

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
  /** How the panels read placements. */
  readIn: 'parent' | 'world';
  asSize: boolean;
  picked: PickedPlace | null;
  picking: Picking | null;
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
  reading: Reading | null;
  notice: Notice | null;
  foretold: string | null;
  /** Words hovered in a menu, shown by the handles before they are chosen. */
  hoveredSpace: SpaceKind | null;
  hoveredAbout: AboutKind | null;

  online: boolean;
  waiting: number;
  stepNumber: number | null;
  views: ViewState[];
  active: number;
  layout: 'one' | 'four';
  /** How much of the stage's foot the sentence covers, in pixels. */
  foot: number;

  /** Clicks change nothing of the selection. */
  keepSelection: boolean;
  /** Every press adds. */
  adding: boolean;
  /** Kinds that cannot be picked on the stage for now. */
  kindsLeftOut: NodeKind[];
  /** Shown while a step of the history is looked at. */
  shadows: Shadow[];
  /** The corners of what a plan would add. */
  newcomers: number[][];
  /** What is open over the page. */
  open: 'find' | 'settings' | 'steps' | 'keys' | 'pivots' | 'links' | null;
  settingsAt: Section;
  asking: Asking | null;
  /** The list of scenes is open. */
  listing: boolean;
  /** The step of the first walk, or null. */
  walk: number | null;
  /** Named selections of this scene. */
  named: { name: string; nodes: string[] }[];
}

export const useStore = create<PageState>(() => ({
  ready: false,
  failed: null,
  scene: null,
  scenes: [],
  steps: [],
  settings: {},
  rows: [],
  byId: new Map(),
  children: new Map(),
  closed: new Set(),
  marks: [],
  collections: [],
  sight: new Uint16Array(),
  tints: null,
  isolation: null,
  plan: null,
  others: {},
  addWhere: null,
  treeFilter: noFilter,
  currentMark: null,
  selection: [],
  lead: null,
  renaming: null,
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
  caught: null,
  readIn: 'parent',
  asSize: false,
  picked: null,
  picking: null,
  alignTo: null,
  pivotHeld: false,
  pivotNumbers: false,
  drawing: null,
  uprights: false,
  trying: false,
  reading: null,
  notice: null,
  foretold: null,
  hoveredSpace: null,
  hoveredAbout: null,
  online: true,
  waiting: 0,
  stepNumber: null,
  views: (['free', 'top', 'front', 'right'] as const).map((name) => ({
    name,
    camera: null,
    steering: false,
    parallel: name !== 'free',
    shading: 'clay' as const,
  })),
  active: 0,
  layout: 'one',
  foot: 92,
  keepSelection: false,
  adding: false,
  kindsLeftOut: [],
  shadows: [],
  newcomers: [],
  open: null,
  settingsAt: 'Looks',
  asking: null,
  listing: false,
  walk: null,
  named: [],
}));

export const get = useStore.getState;
export const set = useStore.setState;

export const orders: EulerOrder[] = ['XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX'];

/** The colour of its collection, where members are to be shown in it; null: its own. */
export function tintOf({ tints }: PageState, row: OutlineRow): string | null {
  return tints?.palette[tints.of[row.slot] ?? -1] ?? null;
}

/** Whether a node is seen in the working view, isolation included. */
export function isSeen({ sight, isolation }: PageState, row: OutlineRow): boolean {
  const bits = sight[row.slot] ?? sightBits.working;
  return (bits & sightBits.working) !== 0 && ((bits & sightBits.leftOut) === 0 || (isolation?.dim ?? false));
}

/** What isolation makes of a node. */
export function sightOf({ sight }: PageState, row: OutlineRow | undefined): { leftOut: boolean } {
  return { leftOut: row !== undefined && ((sight[row.slot] ?? 0) & sightBits.leftOut) !== 0 };
}

/** Whether a node is locked, itself or by a collection. */
export function isLocked({ sight }: PageState, row: OutlineRow): boolean {
  return ((sight[row.slot] ?? 0) & sightBits.locked) !== 0 || row.locked;
}
