import { Vector3 } from 'three';
import { lampsPicked } from '../acts/lamps';
import type { MarkPlace } from '../wire/apiTypes';
import type { Edit } from '../core/answers';
import { answered } from '../acts/asked';
import { takeFace, takeParent } from '../acts/planning';
import { session } from '../acts/session';
import { get, set } from '../state/store';
import { above } from '../state/branches';
import type { Hit } from './picking';
import { pointer, setPointer } from '../state/pointer';
import { keepPointAsPivot } from '../acts/pickedPoint';
import { trianglesNear } from './snapping';
import type { OnStage } from './onStage';
import type { View } from './view';
import { onRenewal } from '../state/renewal';

type Place = { x: number; y: number };

let last: (Place & { view: View; picked: string | undefined }) | null = null;

/** A press on the stage: picks what is under it; again at the same place, lists all that is under it, near to far. */
export function press(stage: OnStage, view: View, at: Place, ctrl: boolean): void {
  const hits = stage.under(view, at.x - view.rect.x, at.y - view.rect.y);
  const state = get();
  if (!state.picking && state.pivotHeld && state.selection.length > 0) {
    // While the pivot's key is held, a press puts the pivot there.
    set({ pivotHeld: 'used' });
    if (hits[0]) takePoint(stage, view, hits[0], false, 'pivot');
    else session.say({ kind: 'info', text: 'There is nothing here to put the pivot on.' });
    stage.draw();
    return;
  }
  if (state.picking) {
    const [x, y] = [at.x - view.rect.x, at.y - view.rect.y];
    takePlace(stage, view, hits[0] ?? null, { x, y }, ctrl);
    return;
  }
  const same = last && last.view === view && Math.hypot(last.x - at.x, last.y - at.y) < 4;
  // What the first click picked is still what is picked: the second asks for what lies behind it.
  const again = same && state.selection.at(-1) === last!.picked;
  last = { ...at, view, picked: hits[0] && throughClosed(hits[0].id) };
  if (again && !ctrl && hits.length > 1) {
    setPointer({ list: { ids: hits.map((h) => h.id), ...at } });
    return;
  }
  if (state.keepSelection) {
    session.say({
      kind: 'info',
      text: 'The selection is kept, so this press changed nothing. K lets it change again.',
    });
    return;
  }
  const locked = stage.lockedUnder(view, at.x - view.rect.x, at.y - view.rect.y);
  pick(hits[0] && throughClosed(hits[0].id), ctrl || state.adding);
  if (locked)
    session.say({
      kind: 'info',
      text: `${locked.name} is locked, so ${hits[0] ? 'what lies behind it is picked' : 'it is not picked'}. Unlock it, or its collection, in the tree.`,
    });
}

/** A closed group answers for its members, until it is picked itself: the next press then goes inside. */
function throughClosed(id: string): string {
  const { byId, selection } = get();
  let closed: string | null = null;
  for (const at of above({ byId }, id)) {
    // Inside a group that is picked, or beside something picked in it, presses stay inside.
    if (selection.includes(at) || selection.some((s) => s !== id && byId.get(s)?.parent === at)) break;
    if (byId.get(at)?.closed) closed = at;
  }
  return closed ?? id;
}

/** Picks a node as a press does. */
export function pick(id: string | undefined, add: boolean): void {
  const { selection } = get();
  if (id === undefined) {
    if (!add) session.select([]);
  } else if (!add) {
    session.select([id]);
  } else if (selection.includes(id)) {
    session.select(selection.filter((n) => n !== id));
  } else {
    session.select([...selection, id]);
  }
}

/** What is under the pointer gets a thin outline and its name. */
export function hover(stage: OnStage, at: Place, target: Element): void {
  const before = pointer().hovered;
  const over = target.closest(
    'button, [role="toolbar"], [data-over-stage], g[data-handle]:not([data-handle="ball"]), g[data-lens]',
  );
  const { view, x, y } = stage.viewAt(at.x, at.y);
  const hit = over ? null : stage.pick(view, x, y);
  if (hit) setPointer({ hovered: { id: hit.id, ...at } });
  else if (before) setPointer({ hovered: null });
  if (before?.id !== hit?.id) stage.draw();
}

export function leaveHover(stage: OnStage): void {
  if (!pointer().hovered) return;
  setPointer({ hovered: null });
  stage.draw();
}

/** A place that the sentence or a panel asked for. */
function takePlace(stage: OnStage, view: View, hit: Hit | null, at: Place, add: boolean): void {
  const { picking } = get();
  if (picking === 'parent') takeParent(hit?.id ?? null);
  else if (hit && answered(hit.id)) leaveHover(stage);
  else if (picking === 'mark') placeMark(stage, view, hit, at);
  else if (!hit) session.say({ kind: 'info', text: 'There is nothing here. Press on an object, or Esc to leave.' });
  else if (picking === 'alignTo') {
    if (get().selection.includes(hit.id) && get().selection.length === 1)
      session.say({ kind: 'info', text: 'This is what is aligned. Press on another object.' });
    else set({ alignTo: hit.id, picking: null, notice: null });
  } else takePoint(stage, view, hit, add);
  if (!get().plan) session.foretell();
  stage.draw();
}

const partWords = { face: 'this point', edge: 'this edge', middle: "this edge's middle", vertex: 'this vertex' };

function takePoint(stage: OnStage, view: View, hit: Hit, add: boolean, picking = get().picking): void {
  const { verb, spaces, abouts, picked, selection, snap } = get();
  const reach = view.eye.pixel(hit.point) * 9;
  const met = session.core.surfaceAt(hit.id, trianglesNear(stage, view, hit, reach * 1.5), hit.point.toArray(), reach);
  if (picking === 'aimFace') takeFace(hit.id, met.upright);
  else if (picking === 'highlight') {
    if (!hit.face) {
      session.say({ kind: 'info', text: 'There is no surface here. Press on a face, or Esc to leave.' });
      return;
    }
    const { eye } = view;
    const way = new Vector3(0, 0, 1).applyQuaternion(eye.look.turn).toArray();
    set({ picking: null, notice: null });
    session.keep({
      do: 'highlight',
      nodes: lampsPicked(),
      at: hit.point.toArray(),
      normal: hit.upright?.toArray() ?? met.upright,
      ...(eye.parallel ? { view: way } : { eye: eye.position().toArray() }),
    });
  } else if (picking === 'turnTo') {
    set({ picking: null, notice: null });
    session.keep({ do: 'turnTo', nodes: selection.filter((id) => id !== hit.id), at: hit.point.toArray() });
  } else if (picking === 'aimPlace') {
    const { looking } = get();
    set({ picking: null, looking: null, notice: null });
    if (!looking) return;
    const { target, ...entry } = looking;
    // Within what it looks at it keeps looking at that: of a group, at a place in it.
    const inside = target !== undefined && above(get(), hit.id).includes(target);
    const on = inside ? {} : { target: throughClosed(hit.id) };
    session.keep({ do: 'setConstraint', of: [entry], ...on, at: hit.point.toArray() });
  } else if (picking === 'focus') {
    const { byId } = get();
    set({ picking: null, notice: null });
    session.keep({
      do: 'setCamera',
      nodes: selection.filter((id) => byId.get(id)?.kind === 'camera'),
      focusOn: hit.id,
    });
  } else if (picking === 'surface') {
    if (!hit.face) {
      session.say({ kind: 'info', text: 'There is no surface here. Press on a face, or Esc to leave.' });
      return;
    }
    const face = { node: hit.id, corners: hit.face.flatMap((v) => v.toArray()) };
    const faces = add && picked?.faces ? [...picked.faces, face] : [face];
    const several = faces.length > 1;
    const normal = several
      ? session.core.meanUpright(
          faces.map((f) => f.node),
          faces.flatMap((f) => f.corners),
        )
      : met.upright;
    if (normal.every((v) => v === 0)) {
      session.say({
        kind: 'refusal',
        text: 'The faces point against each other, so there is no common direction. Press faces that look the same way.',
      });
      return;
    }
    set({
      picked: { point: met.point, normal, faces, part: several ? `${faces.length} faces` : met.part },
      // With Ctrl more faces can follow.
      picking: add ? 'surface' : null,
      spaces: { ...spaces, [verb]: 'surface' },
      notice: null,
    });
  } else if (picking === 'point') {
    set({
      picked: { point: met.point, normal: null },
      picking: null,
      abouts: { ...abouts, [verb]: 'point' },
      notice: {
        kind: 'info',
        text: `Works about ${partWords[met.part]} until the selection changes.`,
        act: { word: 'Keep it as pivot', do: () => keepPointAsPivot() },
      },
    });
  } else if (picking === 'snapFrom') {
    set({ snap: { ...snap, source: 'picked', from: met.point, on: true }, picking: null, notice: null });
  } else if (picking === 'pivot') {
    set({ picking: null });
    session.keep({
      do: 'movePivot',
      nodes: selection,
      to: { point: met.point },
    });
  }
}

/** A new mark: on a surface with its Y upright, or on the ground. */
function placeMark(stage: OnStage, view: View, hit: Hit | null, at: Place): void {
  const id = crypto.randomUUID();
  let place: MarkPlace = { point: stage.pointUnder(view, at.x, at.y).toArray() };
  if (hit?.face) {
    const reach = view.eye.pixel(hit.point) * 9;
    const met = session.core.surfaceAt(
      hit.id,
      trianglesNear(stage, view, hit, reach * 1.5),
      hit.point.toArray(),
      reach,
    );
    place = { point: met.point, y: met.upright, node: hit.id };
  }
  const mark: Edit = { do: 'mark', id, name: session.core.nextMarkName(''), at: place };
  if (session.keepAndPick([mark], [id])) set({ picking: null });
}

onRenewal(() => {
  last = null;
});
