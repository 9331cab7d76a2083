import { Vector3 } from 'three';
import { begin as beginDoing } from '../acts/doing';
import { rememberFocus } from '../acts/focus';
import { session } from '../acts/session';
import { type NavigationSet } from '../state/settings';
import { ownSettings } from '../state/ownSettings';
import { get } from '../state/store';
import { BoxPick } from './boxPick';
import { hover, leaveHover, press } from './press';
import { setPointer } from '../state/pointer';
import type { Stage } from './stage';
import type { View } from './view';

export type Way = 'orbit' | 'pan' | 'dolly' | 'pick';

/** What a press of the pointer begins, by the set that the person navigates with. Only handles move things. */
export function wayOf(
  set: NavigationSet,
  e: Pick<PointerEvent, 'button' | 'altKey' | 'shiftKey' | 'ctrlKey' | 'pointerType'>,
): Way {
  const held = e.altKey && e.button === 0;
  switch (set) {
    case 'mouse':
      if (e.button === 1) return 'pan';
      if (e.button === 2) return e.shiftKey ? 'pan' : 'orbit';
      return held ? (e.shiftKey ? 'pan' : 'orbit') : 'pick';
    case 'twoButtons':
      if (e.button === 2) return e.shiftKey ? 'pan' : e.ctrlKey ? 'dolly' : 'orbit';
      return held ? (e.shiftKey ? 'pan' : 'orbit') : 'pick';
    case 'trackpad':
      return held || e.button === 2 ? (e.shiftKey ? 'pan' : 'orbit') : 'pick';
    case 'pen':
      // The barrel button orbits; a finger beside the pen does, too.
      if (e.pointerType === 'touch') return 'orbit';
      if (e.button === 2 || e.button === 5) return e.shiftKey ? 'pan' : 'orbit';
      return held ? (e.shiftKey ? 'pan' : 'orbit') : 'pick';
  }
}

/** What is said of each set where it is chosen. */
export const navigationWords: Record<NavigationSet, { word: string; means: string }> = {
  mouse: { word: 'Mouse', means: 'Right button orbits, middle button pans, wheel comes nearer' },
  twoButtons: { word: 'Two buttons', means: 'Right button orbits, with Shift pans, with Ctrl comes nearer' },
  trackpad: { word: 'Trackpad', means: 'Two fingers orbit, with Shift pan, pinching comes nearer' },
  pen: { word: 'Pen', means: 'Pen picks, its side button or one finger orbits, two fingers pan and pinch' },
};

interface Gesture {
  way: Way;
  view: View;
  about: Vector3 | null;
  last: { x: number; y: number };
  start: { x: number; y: number; at: number };
  moved: boolean;
}

/** The pointer on the stage: looks around, picks, boxes, and asks for menus. */
export function navigate(stage: Stage, element: HTMLElement): () => void {
  let gesture: Gesture | null = null;
  const touches = new Map<number, { x: number; y: number }>();
  const box = new BoxPick(stage);
  let rest: ReturnType<typeof setTimeout> | undefined;
  let wheelAbout: Vector3 | null = null;
  let endHold: () => void = () => undefined;

  const local = (e: PointerEvent | WheelEvent) => {
    const bounds = element.getBoundingClientRect();
    return { x: e.clientX - bounds.left, y: e.clientY - bounds.top };
  };

  const begin = (view: View, way: Way, x: number, y: number) => {
    stage.activate(view);
    const state = view.state();
    if (state.name === 'camera' && !state.steering) {
      // Looking through a camera never moves it by accident: navigating leaves it where it stands.
      leaveCamera(stage, view);
    }
    view.remember();
    if (state.name === 'camera' && state.steering) stage.steered = view;
    const lead = get().lead;
    return way === 'orbit' && lead && state.name !== 'camera'
      ? new Vector3(...lead.pivotInWorld)
      : stage.pointUnder(view, x, y);
  };

  const turned = (view: View, way: Way) => {
    if (way === 'orbit') view.loosen();
    stage.pace.moving();
    stage.draw();
    if (stage.steered === view) session.trySteering(view.state().camera!, view.eye.world());
  };

  const ended = () => {
    const view = stage.steered;
    stage.steered = null;
    if (view) session.keep({ do: 'steer', node: view.state().camera!, view: view.eye.world() });
  };

  const navigateBy = (view: View, way: Way, dx: number, dy: number, about: Vector3 | null) => {
    const { speed, invertX, invertY, ball } = ownSettings().navigation;
    const [x, y] = [dx * speed * (invertX ? -1 : 1), dy * speed * (invertY ? -1 : 1)];
    if (way === 'orbit') view.eye.orbit(x, y, view.state().name === 'camera' ? view.eye.position() : about, ball);
    else if (way === 'pan') view.eye.pan(dx, dy);
    else view.eye.dolly(-dy * speed * 0.008, about ?? view.eye.look.target);
    turned(view, way);
  };

  stage.navigate = (way, dx, dy) => {
    const { view } = stage;
    const about = begin(view, way, view.rect.width / 2, view.rect.height / 2);
    navigateBy(view, way, dx, dy, way === 'dolly' ? view.eye.look.target.clone() : about);
    ended();
  };

  const down = (e: PointerEvent) => {
    if (stage.dragging || (e.target as Element).closest('button, [role="toolbar"], [data-over-stage]')) return;
    element.focus({ preventScroll: true });
    setPointer({ list: null, menu: null });
    const at = local(e);
    if (e.pointerType === 'touch') touches.set(e.pointerId, at);
    const { view, x, y } = stage.viewAt(at.x, at.y);
    stage.activate(view);
    const way = wayOf(ownSettings().navigation.set, e);
    e.preventDefault();
    element.setPointerCapture(e.pointerId);
    gesture = { way, view, about: null, last: at, start: { ...at, at: e.timeStamp }, moved: false };
    if (way !== 'pick') gesture.about = begin(view, way, x, y);
    leaveHover(stage);
    endHold();
    endHold = way === 'pick' ? beginDoing(cancel) : () => undefined;
  };

  const move = (e: PointerEvent) => {
    // Where the stage lies is not asked during a drag: the page would lay itself out for it.
    if (stage.dragging) return;
    const at = local(e);
    stage.pointerAt = at;
    if (touches.has(e.pointerId) && touches.size === 2) {
      pinch(e.pointerId, at);
      return;
    }
    if (!gesture) {
      if (e.pointerType !== 'touch') hover(stage, at, e.target as Element);
      return;
    }
    const far = Math.hypot(at.x - gesture.start.x, at.y - gesture.start.y) >= 4;
    if (!gesture.moved && !far) return;
    gesture.moved = true;
    if (gesture.way === 'pick') box.draw(gesture.view, gesture.start, at, e);
    else navigateBy(gesture.view, gesture.way, at.x - gesture.last.x, at.y - gesture.last.y, gesture.about);
    gesture.last = at;
  };

  /** Two fingers pan and pinch. */
  const pinch = (id: number, at: { x: number; y: number }) => {
    const [a, b] = [...touches.values()];
    const before = { x: (a!.x + b!.x) / 2, y: (a!.y + b!.y) / 2, d: Math.hypot(a!.x - b!.x, a!.y - b!.y) };
    touches.set(id, at);
    const [c, d] = [...touches.values()];
    const now = { x: (c!.x + d!.x) / 2, y: (c!.y + d!.y) / 2, d: Math.hypot(c!.x - d!.x, c!.y - d!.y) };
    const { view, x, y } = stage.viewAt(now.x, now.y);
    if (!gesture || gesture.way === 'pick') {
      gesture = { way: 'pan', view, about: begin(view, 'pan', x, y), last: at, start: { ...at, at: 0 }, moved: true };
    }
    view.eye.pan(now.x - before.x, now.y - before.y);
    if (now.d > 1) view.eye.dolly(Math.log(before.d / now.d), stage.pointUnder(view, x, y));
    turned(view, 'pan');
  };

  const up = (e: PointerEvent) => {
    touches.delete(e.pointerId);
    endHold();
    if (!gesture) return;
    const { way, view, moved, start } = gesture;
    gesture = null;
    const at = local(e);
    if (way === 'pick') {
      if (moved) box.done(e);
      else if (e.button === 0) press(stage, view, at, e.ctrlKey || e.metaKey);
    } else if (!moved && e.button === 2 && e.timeStamp - start.at < 250) {
      rememberFocus();
      const point = stage.pointUnder(view, at.x - view.rect.x, at.y - view.rect.y);
      setPointer({ menu: { ...at, point: point.toArray() } });
    }
    ended();
  };

  const cancel = () => {
    endHold();
    touches.clear();
    gesture = null;
    box.leave();
    ended();
  };

  const wheel = (e: WheelEvent) => {
    if ((e.target as Element).closest('[data-over-stage]')) return;
    e.preventDefault();
    const at = local(e);
    const { view, x, y } = stage.viewAt(at.x, at.y);
    const { set, invertDolly, speed } = ownSettings().navigation;
    const turns = set === 'trackpad' && !e.ctrlKey;
    if (rest === undefined) wheelAbout = begin(view, turns && !e.shiftKey ? 'orbit' : 'dolly', x, y);
    const lines = e.deltaMode === 1 ? 24 : 1;
    // A pinch on a trackpad comes as a wheel with Ctrl.
    if (turns) {
      navigateBy(view, e.shiftKey ? 'pan' : 'orbit', -e.deltaX * lines, -e.deltaY * lines, wheelAbout);
    } else {
      const amount =
        e.deltaY * lines * (e.ctrlKey && set === 'trackpad' ? 0.01 : 0.0016) * speed * (invertDolly ? -1 : 1);
      view.eye.dolly(Math.max(-1, Math.min(1, amount)), stage.pointUnder(view, x, y));
      turned(view, 'dolly');
    }
    clearTimeout(rest);
    rest = setTimeout(() => {
      rest = undefined;
      ended();
    }, 250);
  };

  const leave = () => {
    stage.pointerAt = null;
    leaveHover(stage);
  };
  const menu = (e: Event) => e.preventDefault();
  // Let go where the page does not hear of it.
  const lost = () => gesture && touches.size === 0 && cancel();
  const listeners: [string, (e: never) => void][] = [
    ['pointerdown', down],
    ['pointermove', move],
    ['pointerup', up],
    ['pointercancel', cancel],
    ['lostpointercapture', lost],
    ['pointerleave', leave],
    ['contextmenu', menu],
  ];
  for (const [name, act] of listeners) element.addEventListener(name, act as EventListener);
  element.addEventListener('wheel', wheel, { passive: false });
  return () => {
    clearTimeout(rest);
    for (const [name, act] of listeners) element.removeEventListener(name, act as EventListener);
    element.removeEventListener('wheel', wheel);
  };
}

/** The free view begins where the camera looks from; the camera stays. */
function leaveCamera(stage: Stage, view: View): void {
  const name = get().byId.get(view.state().camera ?? '')?.name ?? 'the camera';
  view.freeHere();
  session.say({ kind: 'info', text: `You left ${name}; it stays where it is. Shift+9 goes back to your free view.` });
  stage.draw();
}
