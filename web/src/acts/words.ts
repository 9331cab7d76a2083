import { session } from './session';
import { get, type AboutKind, type PageState, type Picking, type SpaceKind, type Verb } from '../state/store';
import type { SnapKind } from '../core/answers';

export const verbs: { verb: Verb; word: string; key: string }[] = [
  { verb: 'move', word: 'Move', key: 'M' },
  { verb: 'rotate', word: 'Rotate', key: 'R' },
  { verb: 'scale', word: 'Scale', key: 'S' },
  { verb: 'pivot', word: 'Pivot', key: 'P' },
];

interface Said<T> {
  kind: T;
  one: string;
  many: string;
  means: string;
}

/** Every space as the sentence says it, and in the menu what it means. */
export const spaceWords: Said<SpaceKind>[] = [
  { kind: 'world', one: "the world's", many: "the world's", means: 'The same for every object' },
  { kind: 'parent', one: "its parent's", many: "their parents'", means: 'The directions its numbers count in' },
  { kind: 'own', one: 'its own', many: 'their own', means: 'They turn with the object' },
  { kind: 'lead', one: "the lead's", many: "the lead's", means: 'Those of the last picked, for all' },
  { kind: 'view', one: "the view's", many: "the view's", means: 'Right, up and toward you' },
  { kind: 'surface', one: "a surface's", many: "a surface's", means: 'Y stands on a face, edge or vertex you press' },
  {
    kind: 'channels',
    one: "its rotation channels'",
    many: "their rotation channels'",
    means: 'A turn changes just one stored angle',
  },
];

export const aboutWords: Said<AboutKind>[] = [
  { kind: 'own', one: 'its pivot', many: 'their pivots', means: 'Each about its own' },
  { kind: 'lead', one: "the lead's pivot", many: "the lead's pivot", means: 'That of the last picked, for all' },
  {
    kind: 'bounds',
    one: 'the middle of its bounds',
    many: 'the middle of their bounds',
    means: 'With all that rides along',
  },
  { kind: 'mean', one: 'the mean of the pivots', many: 'the mean of the pivots', means: 'Halfway between the picked' },
  { kind: 'zero', one: 'world zero', many: 'world zero', means: 'The ring on the ground' },
  {
    kind: 'point',
    one: 'a picked point',
    many: 'a picked point',
    means: 'Press anywhere on an object; lasts for this selection',
  },
];

/** The spaces that a verb can run along, marks included. */
export function spacesFor(verb: Verb, state: Pick<PageState, 'marks'> = get()): Said<SpaceKind>[] {
  const marks = state.marks.map(({ id, name }) => {
    const said = `the mark ${name}'s`;
    return { kind: `mark:${id}` as const, one: said, many: said, means: 'A mark of this scene' };
  });
  return [...spaceWords.filter((w) => w.kind !== 'channels' || verb === 'rotate'), ...marks];
}

/** The points that an edit can work about, marks included. */
export function aboutsFor(state: Pick<PageState, 'marks'> = get()): Said<AboutKind>[] {
  const marks = state.marks.map(({ id, name }) => {
    const said = `the mark ${name}`;
    return { kind: `mark:${id}` as const, one: said, many: said, means: 'A mark of this scene' };
  });
  return [...aboutWords, ...marks];
}

export const presets: Record<Verb, number[]> = {
  move: [0.01, 0.05, 0.1, 0.25, 0.5, 1],
  rotate: [1, 5, 10, 15, 30, 45, 90],
  scale: [0.05, 0.1, 0.25, 0.5],
  pivot: [0.01, 0.05, 0.1, 0.25],
};

export const snapWords: { kind: SnapKind; word: string; means: string }[] = [
  { kind: 'vertex', word: 'vertices', means: 'Points of meshes' },
  { kind: 'pivot', word: 'pivots and marks', means: 'Of any object that is seen' },
  { kind: 'corner', word: 'corners of bounds', means: 'Of the object under the pointer' },
  { kind: 'edgeMiddle', word: 'middles of edges', means: 'Halfway along' },
  { kind: 'edge', word: 'edges', means: 'The nearest point of one' },
  { kind: 'grid', word: 'grid points', means: 'The dots of the ground' },
  { kind: 'face', word: 'faces', means: 'The point under the pointer' },
];

/** What the second line asks for while a press on the stage is awaited. */
export const pickingWords: Record<Picking, string> = {
  centre: 'Press the object whose pivot is turned about, on the stage or in the tree. Esc leaves.',
  parent: 'Press the parent, on the stage or in the tree; beside everything: take out to the top. Esc leaves.',
  surface: 'Press on a face, an edge or a vertex; its upright becomes Y. Ctrl adds faces to the mean. Esc leaves.',
  point: 'Press on the point to work about. Esc leaves.',
  mark: 'Press on a surface or the ground: the mark stands there. Esc leaves.',
  snapFrom: 'Press on the point of the object that is to snap. Esc leaves.',
  pivot: 'Press on a vertex, an edge, a face or another object: the pivot goes there. Esc leaves.',
  alignTo: 'Press on the object to align to. Esc leaves.',
  target: 'Press the target, on the stage, in the tree or in Find anything. Esc leaves.',
  upward: 'Press the object that is up, on the stage or in the tree. Esc leaves.',
  aimFace: 'Press the face that is to aim. Esc leaves.',
  aimPlace: 'Press the place to look at, on the target or on another object. Esc leaves.',
  highlight: 'Press where the highlight is to lie, as this view sees it. Esc leaves.',
  turnTo: 'Press the point that it is to turn to. Esc leaves.',
  focus: 'Press the thing that is to be sharp. Esc leaves.',
  material: 'Press the object whose material is taken, on the stage or in the tree. Esc leaves.',
};

/** A length step in the scene's unit. */
export function sayStep(verb: Verb, size: number): string {
  if (verb === 'rotate') return `${size}°`;
  if (verb === 'scale') return `${Math.round(size * 1000) / 10} %`;
  return session.core.sayLength(size);
}
