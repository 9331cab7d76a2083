import { create } from 'zustand';
import { sightBits, type EulerOrder } from '../core/answers';
import type { OutlineRow } from '../core/outline';
import { lightAtRest, lightSlice, type LightSlice } from './lightSlice';
import { materialsAtRest, materialsSlice, type MaterialsSlice } from './materialsSlice';
import { pageSlice, type PageSlice } from './pageSlice';
import { sceneAtRest, sceneSlice, type SceneSlice } from './sceneSlice';
import { selectionAtRest, selectionSlice, type SelectionSlice } from './selectionSlice';
import { sentenceAtRest, sentenceSlice, type SentenceSlice } from './sentenceSlice';
import { shotsAtRest, shotsSlice, type ShotsSlice } from './shotsSlice';
import { viewsAtRest, viewsSlice, type ViewsSlice } from './viewsSlice';

export type { AboutKind, AddWhere, SpaceKind, Verb } from './choices';
export type { Asking } from './pageSlice';
export { noFilter, type TreeFilter } from './sceneSlice';
export type { Notice, PickedPlace, Picking, Snap, Steps } from './sentenceSlice';
export type { ViewName, ViewState } from './viewsSlice';

/** All that the page holds beside the open scene in the core; who reads a part of it hears of that part alone. */
export interface PageState
  extends SceneSlice, SelectionSlice, SentenceSlice, ViewsSlice, ShotsSlice, MaterialsSlice, LightSlice, PageSlice {}

/** All as it is when the page begins. */
export const beginning: PageState = {
  ...sceneSlice,
  ...selectionSlice,
  ...sentenceSlice,
  ...viewsSlice,
  ...shotsSlice,
  ...materialsSlice,
  ...lightSlice,
  ...pageSlice,
};

/** What is about the open scene, as it is when one is entered; each slice says its part. */
export const atRest: Partial<PageState> = {
  ...sceneAtRest,
  ...selectionAtRest,
  ...sentenceAtRest,
  ...viewsAtRest,
  ...shotsAtRest,
  ...materialsAtRest,
  ...lightAtRest,
};

export const useStore = create<PageState>(() => ({ ...beginning }));

export const get = useStore.getState;
export const set = useStore.setState;

/**
 * Changes what is held without telling anybody: for what a drag changes at every picture. Who draws by hand reads it;
 * components hear of it with the next change that is told.
 */
export function setQuietly(change: Partial<PageState>): void {
  Object.assign(get(), change);
}

export const orders: EulerOrder[] = ['XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX'];

/** The colour of its collection, where members are to be shown in it; null: its own. */
export function tintOf({ tints }: PageState, row: OutlineRow): string | null {
  return tints?.palette[tints.of[row.slot] ?? -1] ?? null;
}

/** Whether a node is seen in the working view, isolation included. */
export function isSeen({ sight, isolation }: PageState, row: OutlineRow): boolean {
  const bits = sight[row.slot] ?? sightBits.working;
  return (
    (bits & sightBits.working) !== 0 &&
    (bits & sightBits.notInShot) === 0 &&
    ((bits & sightBits.leftOut) === 0 || (isolation?.dim ?? false))
  );
}

/** What isolation makes of a node. */
export function sightOf({ sight }: PageState, row: OutlineRow | undefined): { leftOut: boolean } {
  return { leftOut: row !== undefined && ((sight[row.slot] ?? 0) & sightBits.leftOut) !== 0 };
}

/** Whether a node is locked, itself or by a collection. */
export function isLocked({ sight }: PageState, row: OutlineRow): boolean {
  return ((sight[row.slot] ?? 0) & sightBits.locked) !== 0 || row.locked;
}
