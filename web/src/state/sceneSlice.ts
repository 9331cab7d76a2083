import type { Wellness } from '../api/client';
import type { CollectionColors, NodeKind } from '../core/answers';
import type { OutlineRow } from '../core/outline';
import type { SceneSummary, StepEntry } from '../wire/apiTypes';
import type { Settings } from './settings';

/** What the tree shows: all that is given must hold. */
export interface TreeFilter {
  text: string;
  kind: NodeKind | 'all';
  only: 'all' | 'hidden' | 'locked' | 'sharing';
  collection: string | null;
}

export const noFilter: TreeFilter = { text: '', kind: 'all', only: 'all', collection: null };

/** What the page holds of the open scene, and of the others on the server. */
export interface SceneSlice {
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
  /** Counts what may change who belongs to which collection. */
  memberships: number;
  /** What is seen, a byte a slot. */
  sight: Uint16Array;
  /** The colours of their collections, where members are to be shown in them. */
  tints: CollectionColors | null;
  /** Only these are shown for now; each person has their own. */
  isolation: { ids: string[]; withBranch: boolean; dim: boolean } | null;
  /** What other pages on this scene have picked, by page. */
  others: Record<string, string[]>;
  /** What the tree leaves out. */
  treeFilter: TreeFilter;
  /** The mark where new objects appear; null: world zero. */
  currentMark: string | null;
  /** Named selections of this scene. */
  named: { name: string; nodes: string[] }[];
  online: boolean;
  /** How the server is, where it is not well; nothing where it does not answer. */
  wellness: Wellness;
  waiting: number;
  stepNumber: number | null;
}

/** Nobody else, nothing left out, as it is when a scene is entered. */
export const sceneAtRest = {
  others: {},
  isolation: null,
  treeFilter: noFilter,
  named: [],
} satisfies Partial<SceneSlice>;

export const sceneSlice: SceneSlice = {
  ...sceneAtRest,
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
  memberships: 0,
  sight: new Uint16Array(),
  tints: null,
  currentMark: null,
  online: true,
  wellness: null,
  waiting: 0,
  stepNumber: null,
};
