/** The words that the sentence is made of. */

export type Verb = 'move' | 'rotate' | 'scale' | 'pivot';

/** Marks are named by their ids. */
export type SpaceKind = 'world' | 'parent' | 'own' | 'lead' | 'view' | 'surface' | 'channels' | `mark:${string}`;

export type AboutKind = 'own' | 'lead' | 'bounds' | 'mean' | 'zero' | 'point' | `mark:${string}`;

/** How a new object stands to each of the picked. */
export type AddWhere = 'inside' | 'beside' | 'around';
