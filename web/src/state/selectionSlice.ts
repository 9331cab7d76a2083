import type { NodeAnswer, NodeKind } from '../core/answers';

/** What is picked, and how presses change that. */
export interface SelectionSlice {
  /** In picking order; the last is the lead. */
  selection: string[];
  lead: NodeAnswer | null;
  renaming: string | null;
  /** Clicks change nothing of the selection. */
  keepSelection: boolean;
  /** Every press adds. */
  adding: boolean;
  /** Kinds that cannot be picked on the stage for now. */
  kindsLeftOut: NodeKind[];
}

/** Nothing picked, as it is when a scene is entered. */
export const selectionAtRest = { selection: [], lead: null, renaming: null } satisfies Partial<SelectionSlice>;

export const selectionSlice: SelectionSlice = {
  ...selectionAtRest,
  keepSelection: false,
  adding: false,
  kindsLeftOut: [],
};
