import type { DragEvent } from 'react';
import { drawnPicked, materialNamed } from '../acts/materials';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import type { Stage } from './stage';
import type { View } from './view';

/** A material that is dragged over the stage: the part under the pointer shows it before it is let go. */

/** The view and the point in it that something is dragged over. */
export function under(stage: Stage, e: DragEvent<HTMLElement>): { view: View; x: number; y: number } {
  const bounds = e.currentTarget.getBoundingClientRect();
  return stage.viewAt(e.clientX - bounds.left, e.clientY - bounds.top);
}

/** What something that is dropped on an object is for: all that is picked, where it is among them. Null: there is nothing. */
export function receivers(id: string | null): string[] | null {
  if (id === null) return null;
  const picked = drawnPicked();
  return picked.includes(id) ? picked : [id];
}

/** Shows a dragged material on what lies under the pointer. */
export function overParts(stage: Stage, e: DragEvent<HTMLElement>): void {
  const { giving, byId } = get();
  if (!giving) return;
  const { view, x, y } = under(stage, e);
  const hit = stage.pick(view, x, y);
  const kind = hit ? byId.get(hit.id)?.kind : undefined;
  const node = hit && (kind === 'shape' || kind === 'mesh') ? hit.id : '';
  const slot = node === '' ? 0 : (hit?.slot ?? 0);
  if (node === giving.node && slot === giving.slot) return;
  set({ giving: { ...giving, node, slot } });
  const made = edit();
  if (!session.preview(made ? [made] : []) || !made) return;
  const name = materialNamed(giving.material)?.name ?? '';
  const what = made.nodes.length > 1 ? `${made.nodes.length} objects` : (byId.get(node)?.name ?? '');
  const where = 'slot' in made ? `, in slot ${slot + 1}` : '';
  session.say({
    kind: 'info',
    text: `Let go: ${what} is made of ${name}${where}.`.replace('objects is', 'objects are'),
  });
}

/** A material is taken hold of. */
export function startGiving(material: string): void {
  set({ giving: { material, node: '', slot: 0 } });
}

/** It is let go somewhere else. */
export function stopGiving(): void {
  leaveParts();
  set({ giving: null });
}

export function leaveParts(): void {
  const { giving } = get();
  if (!giving || giving.node === '') return;
  set({ giving: { ...giving, node: '', slot: 0 } });
  session.preview([]);
}

/** Gives what was shown. */
export function giveDropped(): void {
  const made = edit();
  set({ giving: null });
  if (made) session.keep(made);
  else session.preview([]);
}

function edit() {
  const { giving } = get();
  if (!giving || giving.node === '') return null;
  const nodes = receivers(giving.node)!;
  // One part of one object; of several picked all of each.
  const slots = session.core.madeOf([giving.node], 0).slots.length;
  return {
    do: 'assign' as const,
    nodes,
    material: giving.material,
    ...(nodes.length === 1 && slots > 1 ? { slot: giving.slot } : {}),
  };
}
