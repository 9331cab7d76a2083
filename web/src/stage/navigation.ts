import { Vector3 } from 'three';
import { session } from '../state/session';
import { get, set } from '../state/store';
import type { Stage } from './stage';

type Way = 'orbit' | 'pan';

/** The pointer on the stage: the right button orbits, the middle one pans, the wheel dollies, a left press picks. */
export function navigate(stage: Stage, element: HTMLElement): () => void {
  let way: Way | null = null;
  let about: Vector3 | null = null;
  let last = { x: 0, y: 0 };
  let pressed: { x: number; y: number } | null = null;

  const local = (e: PointerEvent | WheelEvent) => {
    const box = element.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };

  const down = (e: PointerEvent) => {
    if (stage.handles.dragging) return;
    element.focus({ preventScroll: true });
    last = local(e);
    if (e.button === 0 && e.altKey) way = 'orbit';
    else if (e.button === 0) pressed = last;
    else way = e.button === 1 || e.shiftKey ? 'pan' : 'orbit';
    if (!way) return;
    e.preventDefault();
    element.setPointerCapture(e.pointerId);
    const lead = get().lead;
    about = lead ? new Vector3(...lead.pivotInWorld) : stage.under(last.x, last.y);
  };

  const move = (e: PointerEvent) => {
    if (!way) return;
    const at = local(e);
    if (way === 'orbit') {
      stage.eye.orbit(at.x - last.x, at.y - last.y, about);
      if (get().view.name !== 'perspective') set({ view: { name: 'free', parallel: stage.eye.parallel } });
    } else {
      stage.eye.pan(at.x - last.x, at.y - last.y);
    }
    last = at;
    stage.pace.moving();
    stage.draw();
  };

  const up = (e: PointerEvent) => {
    way = null;
    if (!pressed || e.button !== 0) return;
    const at = local(e);
    const still = Math.hypot(at.x - pressed.x, at.y - pressed.y) < 4;
    pressed = null;
    if (still) press(stage, at.x, at.y, e.ctrlKey || e.metaKey);
  };

  const wheel = (e: WheelEvent) => {
    e.preventDefault();
    const at = local(e);
    const lines = e.deltaMode === 1 ? 24 : 1;
    stage.eye.dolly(Math.max(-1, Math.min(1, e.deltaY * lines * 0.0016)), stage.under(at.x, at.y));
    stage.draw();
  };

  const menu = (e: Event) => e.preventDefault();
  element.addEventListener('pointerdown', down);
  element.addEventListener('pointermove', move);
  element.addEventListener('pointerup', up);
  element.addEventListener('wheel', wheel, { passive: false });
  element.addEventListener('contextmenu', menu);
  return () => {
    element.removeEventListener('pointerdown', down);
    element.removeEventListener('pointermove', move);
    element.removeEventListener('pointerup', up);
    element.removeEventListener('wheel', wheel);
    element.removeEventListener('contextmenu', menu);
  };
}

function press(stage: Stage, x: number, y: number, add: boolean): void {
  const hit = stage.pick(x, y);
  const state = get();
  if (state.picking) {
    takePlace(hit);
    return;
  }
  const id = hit?.id;
  if (id === undefined) {
    if (!add) session.select([]);
  } else if (!add) {
    // Pressing another of the picked makes it the lead.
    const rest = state.selection.filter((n) => n !== id);
    session.select(state.selection.includes(id) && rest.length > 0 ? [...rest, id] : [id]);
  } else if (state.selection.includes(id)) {
    session.select(state.selection.filter((n) => n !== id));
  } else {
    session.select([...state.selection, id]);
  }
}

/** A surface or a point that the sentence asked for. */
function takePlace(hit: { point: Vector3; normal: Vector3 } | null): void {
  const { picking, verb, spaces, abouts } = get();
  if (!hit) {
    session.say({ kind: 'info', text: 'There is no object here. Press on one, or Esc to leave.' });
    return;
  }
  const picked = {
    point: hit.point.toArray() as [number, number, number],
    normal: hit.normal.toArray() as [number, number, number],
  };
  if (picking === 'surface') set({ picked, picking: null, spaces: { ...spaces, [verb]: 'surface' }, notice: null });
  else set({ picked, picking: null, abouts: { ...abouts, [verb]: 'point' }, notice: null });
  session.foretell();
  session.picture?.draw();
}
