import { Matrix4, Vector3 } from 'three';
import { settingsOf } from '../state/settings';
import { get } from '../state/store';
import { branchOf } from '../state/branches';
import type { Marked, Marking } from './silhouettes';
import type { Rectangle } from './outlines';
import type { Pictures } from './pictures';
import { matesOf } from '../acts/mates';
import { usePointer } from '../state/pointer';
import type { View } from './view';

/** Used again at every picture. */
const matrices: Matrix4[] = [];

/** What gets an outline: the picked and what rides along, what is pointed at, what others have picked, and what would be. */
export function markedIn(pictures: Pictures, origin: Vector3, hurries: boolean): Marked[] {
  const state = get();
  const marked: Marked[] = [];
  const done = new Set<string>();
  const { ghosts } = settingsOf(state.settings).marks;
  const add = (id: string, marking: Marking) => {
    done.add(id);
    const drawn = pictures.get(id);
    if (!drawn || (!drawn.seen && (!ghosts || marking === 'riding'))) return;
    for (const { part } of drawn.entries) {
      const matrix = (matrices[marked.length] ??= new Matrix4());
      marked.push({ id, part, matrix: pictures.matrix(drawn, matrix), marking: drawn.seen ? marking : 'ghost' });
    }
  };
  state.selection.forEach((id, i) => add(id, i === state.selection.length - 1 ? 'lead' : 'picked'));
  if (!hurries) for (const id of branchOf(state, state.selection)) if (!done.has(id)) add(id, 'riding');
  if (state.plan?.kind === 'under' && state.plan.parent !== null && !done.has(state.plan.parent))
    add(state.plan.parent, 'hovered');
  for (const ids of Object.values(state.others))
    for (const id of ids.slice(0, 50)) if (!done.has(id)) add(id, 'hovered');
  if (!hurries) for (const id of matesOf(state)?.ids ?? []) if (!done.has(id)) add(id, 'mate');
  const { hovered } = usePointer.getState();
  if (hovered && !done.has(hovered.id)) add(hovered.id, 'hovered');
  for (const shadow of state.shadows) {
    for (const { part } of pictures.get(shadow.id)?.entries ?? []) {
      const matrix = (matrices[marked.length] ??= new Matrix4()).fromArray(shadow.world);
      matrix.elements[12]! -= origin.x;
      matrix.elements[13]! -= origin.y;
      matrix.elements[14]! -= origin.z;
      marked.push({ id: shadow.id, part, matrix, marking: 'ghost' });
    }
  }
  return marked;
}

/** The part of a view that holds what is marked, with a margin for the outlines; from the lower left of the stage. */
export function around({ eye }: View, marked: Marked[], place: Rectangle): Rectangle {
  if (marked.length > 400) return place;
  const { width, height } = eye;
  let [left, bottom, right, top] = [width, height, 0, 0];
  const centre = new Vector3();
  for (const { part, matrix } of marked) {
    if (!part.geometry.boundingSphere) part.geometry.computeBoundingSphere();
    const sphere = part.geometry.boundingSphere!;
    centre.copy(sphere.center).applyMatrix4(matrix).add(eye.origin);
    const radius = sphere.radius * matrix.getMaxScaleOnAxis();
    const at = eye.project(centre);
    const near = !eye.parallel && centre.distanceTo(eye.position()) < radius * 1.5;
    if (!at || near) return place;
    const reach = (radius / eye.pixel(centre)) * 1.3 + 8;
    left = Math.min(left, at.x - reach);
    right = Math.max(right, at.x + reach);
    bottom = Math.min(bottom, height - at.y - reach);
    top = Math.max(top, height - at.y + reach);
  }
  [left, bottom] = [Math.max(0, Math.floor(left)), Math.max(0, Math.floor(bottom))];
  const wide = Math.min(width, right) - left;
  const high = Math.min(height, top) - bottom;
  return { x: place.x + left, y: place.y + bottom, width: wide, height: high };
}
