import type { Edit, Vec3 } from '../core/answers';
import type { NewNode, Repeat } from '../wire/apiTypes';
import type { Constraint } from '../core/answers';
import type { AboutKind, AddWhere, SpaceKind } from './choices';

/** One step from a copy to the next. */
export interface CopyStep {
  do: 'move' | 'rotate' | 'scale';
  amount: number;
  axis: 'x' | 'y' | 'z';
  space: SpaceKind;
  about: AboutKind;
}

/** The plane of a counterpart: square to an axis, through a point. */
export interface MirrorPlane {
  axis: 'x' | 'y' | 'z';
  space: SpaceKind;
  about: AboutKind;
}

export type TieKind = Constraint['kind'] | 'turnTo';

export type ConstraintUp = NonNullable<Constraint['up']>;

/** Something that is being prepared in the sentence and made with Enter. */
export type Plan =
  | { kind: 'under'; keep: 'world' | 'numbers'; parent: string | null; waiting: boolean }
  | { kind: 'group'; at: 'middle' | 'base' | 'zero' | 'lead'; name: string }
  | {
      kind: 'copies';
      count: number;
      steps: CopyStep[];
      across: { count: number; step: CopyStep } | null;
      mirror: MirrorPlane | null;
      sharing: boolean;
    }
  /** More copies, each made from the one before by the same edits. */
  | { kind: 'more'; count: number; by: Repeat[] }
  /** Where it goes, against what is picked; null: nothing is picked, and it stands by itself. At a pressed point; null: where there is room. */
  | { kind: 'add'; node: NewNode; where: AddWhere | null; at: Vec3 | null }
  /** No collection: a new one. */
  | { kind: 'collect'; collection: string | null; member: boolean }
  | { kind: 'remove'; children: 'with' | 'lift' }
  | { kind: 'join'; others: 'follow' | 'keep' }
  /** Something that is wanted already, and does more than it says. */
  | { kind: 'sure'; says: [before: string, after: string]; of: string[]; edits: Edit[] }
  /** A constraint, or a turn that does not last. What is null is not said yet, or proposed. */
  | {
      kind: 'tie';
      link: TieKind;
      target: string | null;
      axis: string | null;
      up: ConstraintUp;
      /** The direction out of the pressed face that is to aim. */
      face: Vec3 | null;
      hinge: 'x' | 'y' | 'z';
      of: 'position' | 'rotation' | 'scale';
    }
  /** The lead is the base, the others tip. */
  | { kind: 'mount'; target: string | null; facing: string | null; mend: boolean }
  /** The lead gives its constraints to the others. */
  | { kind: 'give' }
  | { kind: 'drive' }
  | {
      kind: 'rename';
      name: string;
      find: string;
      replace: string;
      prefix: string;
      suffix: string;
      from: string;
      digits: number;
    };

export type PlanOf<K extends Plan['kind']> = Extract<Plan, { kind: K }>;

/** Something is prepared that is about nothing picked. */
export const standsAlone = (plan: Plan | null): boolean => plan?.kind === 'add' && plan.where === null;
