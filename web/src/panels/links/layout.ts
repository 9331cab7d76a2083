import { graphlib, layout } from '@dagrejs/dagre';
import type { PageState } from '../../state/store';

export const size = { width: 158, height: 34 };

/** More boxes would be read by nobody. */
export const most = 600;

export interface Laid {
  nodes: { id: string; x: number; y: number }[];
  links: { parent: string; child: string }[];
  left: number;
}

/**
 * Branches from left to right, laid out by dagre; only what is open in the tree below the first levels of large scenes.
 * What they go by stands beside them, alone, where it is in none of them.
 */
export function lay(
  { children, byId }: PageState,
  tops: string[],
  ties: readonly { by: string; node: string }[],
): Laid {
  const graph = new graphlib.Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 10, ranksep: 46, marginx: 12, marginy: 12 });
  graph.setDefaultEdgeLabel(() => ({}));
  const links: Laid['links'] = [];
  const ids: string[] = [];
  let left = 0;
  const walk = [...tops];
  for (let at = 0; at < walk.length; at++) {
    const id = walk[at]!;
    if (ids.length >= most) {
      left = walk.length - at;
      break;
    }
    ids.push(id);
    walk.push(...(children.get(id) ?? []));
  }
  const drawn = new Set(ids);
  // Dagre stacks what it is given last on top: the last goes in first, so that the order is the tree's.
  for (const id of ids.toReversed()) graph.setNode(id, { ...size });
  for (const id of ids.toReversed()) {
    const parent = byId.get(id)?.parent;
    if (!parent || !drawn.has(parent)) continue;
    graph.setEdge(parent, id);
    links.push({ parent, child: id });
  }
  const beside = ties.filter(({ by, node }) => drawn.has(node) && !drawn.has(by) && byId.has(by)).slice(0, most);
  for (const { by, node } of beside) {
    if (!graph.hasNode(by)) ids.push(by);
    graph.setNode(by, { ...size });
    graph.setEdge(by, node);
  }
  layout(graph);
  const nodes = ids.map((id) => {
    const { x, y } = graph.node(id) as { x: number; y: number };
    return { id, x: x - size.width / 2, y: y - size.height / 2 };
  });
  return { nodes, links, left };
}
