import type { Constraint } from '../core/answers';

/** A kind of constraint as it is offered, and what it does. */
export interface Kind {
  kind: Constraint['kind'];
  word: string;
  means: string;
  /** Whether it looks at something. */
  looks: boolean;
}

export const kinds: readonly Kind[] = [
  { kind: 'aim', word: 'Aim at', means: 'Keeps one of its axes pointing at a target', looks: true },
  { kind: 'swivel', word: 'Swivel to', means: 'Turns about one hinge to face a target, within limits', looks: true },
  { kind: 'follow', word: 'Follow', means: 'Keeps its distance from a target along some axes', looks: true },
  { kind: 'matchRotation', word: 'Match rotation of', means: 'Turns as a target does, or geared', looks: true },
  { kind: 'matchScale', word: 'Match scale of', means: 'Is as large as a target', looks: true },
  { kind: 'rideOn', word: 'Ride on', means: 'Goes with a target as a child would', looks: true },
  { kind: 'limit', word: 'Limit', means: 'Keeps its position, rotation or scale within bounds', looks: false },
  { kind: 'stayOnSurface', word: 'Stay on', means: 'Stays on the surface of a shape or mesh', looks: true },
];

export const axes = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;

/** An axis as it is read: "−Z". */
export function axisWord(axis: string): string {
  return `${axis.startsWith('-') ? '−' : '+'}${axis.slice(1).toUpperCase()}`;
}

type Up = NonNullable<Constraint['up']>;

/** By what up is said: nothing, the world, its parent, an object. */
export function upOf(up: Up): 'least' | 'world' | 'parent' | 'toward' {
  if (typeof up === 'string') return 'least';
  return 'world' in up ? 'world' : 'parent' in up ? 'parent' : 'toward';
}

/** Up as the sentence says it: "by the world's Y". */
export function upWord(up: Up, toward: string | undefined): string {
  if (typeof up === 'string') return 'by nothing';
  if ('world' in up) return `by the world's ${plainAxis(up.world)}`;
  if ('parent' in up) return `by its parent's ${plainAxis(up.parent)}`;
  return `toward ${toward ?? 'what is gone'}`;
}

const plainAxis = (axis: string) => (axis.startsWith('-') ? axisWord(axis) : axis.slice(1).toUpperCase());
