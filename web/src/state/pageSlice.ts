import type { Section } from './sections';

/** What is asked about whole scenes. */
export type Asking = 'new' | 'rename' | 'copy' | 'remove';

/** What is open on the page around the stage. */
export interface PageSlice {
  /** How the panels read placements. */
  readIn: 'parent' | 'world';
  asSize: boolean;
  /** What is open over the page. */
  open:
    | 'find'
    | 'settings'
    | 'steps'
    | 'keys'
    | 'pivots'
    | 'links'
    | 'scenes'
    | 'seen'
    | 'compare'
    | 'sheet'
    | 'shotList'
    | 'still'
    | 'stillMake'
    | 'surroundings'
    | null;
  settingsAt: Section;
  asking: Asking | null;
  /** The list of scenes is open. */
  listing: boolean;
  /** The step of the first walk, or null. */
  walk: number | null;
  /** Counts how often the page has begun anew: what panels keep to themselves begins anew with it. The stage goes on. */
  life: number;
}

/** What lies over the stage and is about the open scene. */
export const overScene: ReadonlySet<PageSlice['open']> = new Set([
  'compare',
  'seen',
  'sheet',
  'shotList',
  'still',
  'stillMake',
  'surroundings',
] as const);

export const pageSlice: PageSlice = {
  readIn: 'parent',
  asSize: false,
  open: null,
  settingsAt: 'Looks',
  asking: null,
  listing: false,
  walk: null,
  life: 0,
};
