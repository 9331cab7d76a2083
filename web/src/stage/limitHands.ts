import type { Edit } from '../core/answers';
import { session } from '../acts/session';
import { Grips } from './grips';
import type { HandleSet } from './handleSet';

interface Limit {
  node: string;
  link: string;
  high: boolean;
  /** Degrees. */
  value: number;
}

/** The ends of a hinge's arc: dragged, or moved by arrow keys, they set its limits. */
export class LimitHands extends Grips<Limit> {
  constructor(root: SVGSVGElement, handles: HandleSet) {
    super(root, handles, 'limit');
  }

  protected gripOf({ dataset }: SVGGElement): Limit {
    const { node, link, limit, value } = dataset;
    return { node: node!, link: link!, high: limit === 'to', value: Number(value) };
  }

  protected turns(): boolean {
    return true;
  }

  protected edited({ node, link, high }: Limit, ray: number[], step: number): Edit | null {
    return session.core.limitAt(node, link, high, ray, step);
  }

  protected nudged({ node, link, high, value }: Limit, way: number, more: boolean): Edit {
    const to = value + way * (more ? 10 : 1);
    return { do: 'setConstraint', of: [{ node, id: link }], ...(high ? { to } : { from: to }) };
  }
}
