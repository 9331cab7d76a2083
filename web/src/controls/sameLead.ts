import type { NodeAnswer } from '../core/answers';

/** Whether a panel's part of the lead is as it was, so that it need not be drawn anew while something else is dragged. */
export function sameLead(a: NodeAnswer, b: NodeAnswer, part: (lead: NodeAnswer) => unknown): boolean {
  return a === b || (a.node.id === b.node.id && JSON.stringify(part(a)) === JSON.stringify(part(b)));
}
