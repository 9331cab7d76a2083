import type { NewNode } from './plans';
import { session } from './session';
import { get } from './store';

type Parameters = Record<string, unknown>;

/** A new object with the sizes and counts that the last one of its kind had. */
export function sized(node: NewNode): NewNode {
  if (!node.shape) return node;
  const known = get().settings.usualShapes?.[node.shape.type];
  return { ...node, shape: { ...session.core.usualShape(node.shape.type), ...known, type: node.shape.type } };
}

/** The next one of the kind begins with the sizes and counts of this one. */
export function usedShape(node: NewNode): void {
  if (!node.shape) return;
  const { type, ...parameters } = node.shape;
  const usual: Parameters = session.core.usualShape(type);
  const own = Object.entries(parameters).filter(
    ([name, value]) => JSON.stringify(value) !== JSON.stringify(usual[name]),
  );
  const known = get().settings.usualShapes ?? {};
  if (JSON.stringify(known[type] ?? {}) === JSON.stringify(Object.fromEntries(own))) return;
  session.saveSettings({ usualShapes: { ...known, [type]: Object.fromEntries(own) } });
}
