import type { AboutKind, SpaceKind, Verb } from '../state/store';

export const verbs: { verb: Verb; word: string; key: string }[] = [
  { verb: 'move', word: 'Move', key: 'M' },
  { verb: 'rotate', word: 'Rotate', key: 'R' },
  { verb: 'scale', word: 'Scale', key: 'S' },
  { verb: 'pivot', word: 'Pivot', key: 'P' },
];

/** Every space as the sentence says it, and in the menu what it means. */
export const spaceWords: { kind: SpaceKind; one: string; many: string; means: string }[] = [
  { kind: 'world', one: "the world's", many: "the world's", means: 'The same for every object' },
  { kind: 'parent', one: "its parent's", many: "their parents'", means: 'The directions its numbers count in' },
  { kind: 'own', one: 'its own', many: 'their own', means: 'They turn with the object' },
  { kind: 'lead', one: "the lead's", many: "the lead's", means: 'Those of the last picked, for all' },
  { kind: 'view', one: "the view's", many: "the view's", means: 'Right, up and toward you' },
  { kind: 'surface', one: "a surface's", many: "a surface's", means: 'Y stands on a face that you press' },
];

export const aboutWords: { kind: AboutKind; one: string; many: string; means: string }[] = [
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

export const presets: Record<Verb, number[]> = {
  move: [0.01, 0.05, 0.1, 0.25, 0.5, 1],
  rotate: [1, 5, 10, 15, 30, 45, 90],
  scale: [0.05, 0.1, 0.25, 0.5],
  pivot: [0.01, 0.05, 0.1, 0.25],
};
