import type { Constraint, Edit } from '../core/answers';
import type { PlanOf } from '../state/plan';
import type { EditConstrain } from '../wire/apiTypes';
import { session } from './session';

type Tie = PlanOf<'tie'>;

/** What is prepared of the picked without the target, when that is picked, too. */
export const tied = (plan: { target: string | null }, nodes: readonly string[]): string[] =>
  nodes.filter((id) => id !== plan.target);

/** A constraint that is being prepared begins so: up by the world's Y, all else proposed. */
export function newTie(link: Tie['link'], target: string | null = null): Tie {
  return { kind: 'tie', link, target, axis: null, up: { world: '+y' }, face: null, hinge: 'y', of: 'position' };
}

/** The edits of a constraint that is being prepared; null: the target is still missing. */
export function tieEdits(plan: Tie, nodes: readonly string[]): Edit[] | null {
  const picked = tied(plan, nodes);
  if (picked.length === 0 || (plan.link !== 'limit' && plan.target === null)) return null;
  const axis = plan.face ? (plan.axis ?? '+z') : plan.axis;
  const face: Edit[] =
    plan.face && picked.length === 1 ? [{ do: 'faceWith', node: picked[0]!, axis: axis!, along: plan.face }] : [];
  const said = axis === null ? {} : { axis };
  if (plan.link === 'turnTo')
    return [...face, { do: 'turnTo', nodes: picked, target: plan.target!, up: plan.up, ...said }];
  return [...face, { do: 'constrain', nodes: picked, constraint: fields(plan, axis) }];
}

const hinges = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;

function fields(plan: Tie, axis: string | null): EditConstrain['constraint'] {
  const kind = plan.link as Constraint['kind'];
  if (kind === 'limit') return { kind, of: plan.of };
  const target = plan.target!;
  if (kind === 'aim') return { kind, target, up: plan.up, ...(axis === null ? {} : { axis }) };
  if (kind === 'swivel')
    return { kind, target, hinge: [...hinges[plan.hinge]], ...(axis === null ? {} : { facing: axis }) };
  return { kind, target };
}

/** The own axis that aims as things are said: the chosen one, else the one that is proposed; null: not known yet. */
export function axisOf(plan: Tie, nodes: readonly string[]): string | null {
  if (plan.axis !== null) return plan.axis;
  if (plan.face) return '+z';
  const as = plan.link === 'turnTo' ? ({ ...plan, link: 'aim' } as Tie) : plan;
  const edits = tieEdits(as, nodes);
  const lead = tied(plan, nodes).at(-1);
  return edits && lead !== undefined ? (session.core.threadsOf([lead], edits).at(-1)?.axis ?? null) : null;
}
