import type { NewNode, ShapePatch } from '../wire/apiTypes';
import { onRenewal } from '../state/renewal';
import { session } from './session';
import { get } from '../state/store';

/** The sizes and counts that the last one of each kind had in this scene; another begins anew. */
let known: { scene: string | undefined; shapes: Record<string, ShapePatch> } = { scene: undefined, shapes: {} };

function shapes(): Record<string, ShapePatch> {
  const scene = get().scene?.id;
  if (known.scene !== scene) known = { scene, shapes: {} };
  return known.shapes;
}

/** A new object with the sizes and counts that the last one of its kind had. */
export function sized(node: NewNode): NewNode {
  const type = node.shape?.type;
  if (!type) return node;
  return { ...node, shape: { ...session.core.usualShape(type), ...shapes()[type], type } };
}

/** The next one of the kind begins with the sizes and counts of this one. */
export function usedShape(node: NewNode): void {
  if (node.shape?.type) shapes()[node.shape.type] = node.shape;
}

onRenewal(() => {
  known = { scene: undefined, shapes: {} };
});
