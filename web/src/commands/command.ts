import { get } from '../state/store';
import type { Stage } from '../stage/stage';
import type { Chord } from './chords';

export type Group = 'Edit' | 'Sentence' | 'Pick' | 'View' | 'Scene' | 'Page';

/** Something that can be done: by its keys, from menus and from Find anything, always the same. */
export interface Command {
  id: string;
  group: Group;
  /** What it does, as a verb. */
  says: string;
  /** Other words of the trade by which it is looked for. */
  also?: string;
  /** The keys it comes with; each person can have others. */
  keys: Chord[];
  /** Why it cannot be done now, or null. */
  not?: () => string | null;
  act: (stage: Stage) => void;
}

/** Why what needs a selection cannot be done. */
export const nothingPicked = () => (get().selection.length === 0 ? 'Nothing is picked.' : null);
