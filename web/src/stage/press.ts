import { session } from '../state/session';
import { get, set } from '../state/store';
import type { Hit } from './picking';
import { pointer, setPointer } from './pointer';
import type { Stage } from './stage';
import type { View } from './view';

type Place = { x: number; y: number };

let last: (Place & { view: View; picked: string | undefined }) | null = null;

/** A press on the stage: picks what is under it; again at the same place, lists all that is under it, near to far. */
export function press(stage: Stage, view: View, at: Place, ctrl: boolean): void {
  const hits = stage.under(view, at.x - view.rect.x, at.y - view.rect.y);
  const state = get();
  if (state.picking) {
    takePlace(stage, hits[0] ?? null);
    return;
  }
  const same = last && last.view === view && Math.hypot(last.x - at.x, last.y - at.y) < 4;
  // What the first click picked is still what is picked: the second asks for what lies behind it.
  const again = same && state.selection.at(-1) === last!.picked;
  last = { ...at, view, picked: hits[0]?.id };
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
  pick(hits[0]?.id, ctrl || state.adding);
}

/** Picks a node as a press does. */
export function pick(id: string | undefined, add: boolean): void {
  const { selection } = get();
  if (id === undefined) {
    if (!add) session.select([]);
  } else if (!add) {
    // Pressing another of the picked makes it the lead.
    const rest = selection.filter((n) => n !== id);
    session.select(selection.includes(id) && rest.length > 0 ? [...rest, id] : [id]);
  } else if (selection.includes(id)) {
    session.select(selection.filter((n) => n !== id));
  } else {
    session.select([...selection, id]);
  }
}

/** What is under the pointer gets a thin outline and its name. */
export function hover(stage: Stage, at: Place, target: Element): void {
  const before = pointer().hovered;
  const over = target.closest('button, [role="toolbar"], [data-over-stage], g[data-handle]');
  const { view, x, y } = stage.viewAt(at.x, at.y);
  const hit = over ? null : stage.pick(view, x, y);
  if (hit) setPointer({ hovered: { id: hit.id, ...at } });
  else if (before) setPointer({ hovered: null });
  if (before?.id !== hit?.id) stage.draw();
}

export function leaveHover(stage: Stage): void {
  if (!pointer().hovered) return;
  setPointer({ hovered: null });
  stage.draw();
}

/** A surface or a point that the sentence asked for. */
function takePlace(stage: Stage, hit: Hit | null): void {
  const { picking, verb, spaces, abouts } = get();
  const normal = hit && stage.normalOf(hit);
  if (!hit || (picking === 'surface' && !normal)) {
    session.say({ kind: 'info', text: 'There is no surface here. Press on an object, or Esc to leave.' });
    return;
  }
  const picked = { point: hit.point.toArray(), normal };
  if (picking === 'surface') set({ picked, picking: null, spaces: { ...spaces, [verb]: 'surface' }, notice: null });
  else set({ picked, picking: null, abouts: { ...abouts, [verb]: 'point' }, notice: null });
  session.foretell();
  stage.draw();
}
