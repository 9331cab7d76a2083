import type { NewNode, ShapePatch } from '../wire/apiTypes';
import { session } from './session';
import { get } from '../state/store';

type Parameters = Record<string, unknown>;

/** A new object with the sizes and counts that the last one of its kind had. */
export function sized(node: NewNode): NewNode {
  const type = node.shape?.type;
  if (!type) return node;
  const known = get().settings.usualShapes?.[type] as ShapePatch | undefined;
  return { ...node, shape: { ...session.core.usualShape(type), ...known, type } };
}

/** The next one of the kind begins with the sizes and counts of this one. */
export function usedShape(node: NewNode): void {
  const { type, ...parameters } = node.shape ?? {};
  if (!type) return;
  const usual: Parameters = session.core.usualShape(type);
  const own = Object.entries(parameters).filter(
    ([name, value]) => JSON.stringify(value) !== JSON.stringify(usual[name]),
  );
  const known = get().settings.usualShapes ?? {};
  if (JSON.stringify(known[type] ?? {}) === JSON.stringify(Object.fromEntries(own))) return;
  session.saveSettings({ usualShapes: { ...known, [type]: Object.fromEntries(own) } });
}
