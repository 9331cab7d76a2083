import { Vector3 } from 'three';
import { begin } from '../acts/doing';
import { session } from '../acts/session';
import { get, set, type Verb } from '../state/store';
import type { HandleSet } from './handleSet';
import { arcFrame } from './layer';
import { arc, type Pixel } from './layer';
import { press } from './press';
import { movedBy, snapRequest } from './snapping';

interface Held {
  part: string;
  axis: number;
  pointer: number;
  /** Where on its arc it was taken, in degrees; for drawing. */
  startAngle: number;
  at: Pixel;
  startPivot: Vector3 | null;
  /** Degrees so far. */
  sweep: number;
  /** What the drag moves; it snaps to everything else. */
  moved: Set<string>;
  /** Which of the candidates is taken. */
  next: number;
  modifiers: { shift: boolean; ctrl: boolean };
  /** Where it was taken, and whether it has moved since. */
  from: Pixel;
  hasMoved: boolean;
  /** When it was pressed, and whether keys had led to it before. */
  since: number;
  reached: boolean;
  /** Pressed and let go without moving, it follows the pointer until the next press. */
  sticks: boolean;
  ended: () => void;
}

/** Handles in the middle of what is picked, where a press may well mean that. */
const inMiddle = new Set(['ring', 'roundPad']);

/** They follow the pointer after a press of so many milliseconds. */
const longPress = 300;

/** How handles are taken hold of, dragged and let go, by pointer and by keys. Amounts are the core's. */
export class HandleDrag {
  held: Held | null = null;
  /** The handle that keys have led to. */
  private reached: Element | null = null;
  private box = new DOMRect();

  constructor(
    private readonly root: SVGSVGElement,
    private readonly handles: HandleSet,
  ) {
    root.addEventListener('pointerdown', (e) => this.press(e));
    root.addEventListener('pointermove', (e) => this.move(e));
    root.addEventListener('pointerup', (e) => this.release(e));
    root.addEventListener('pointercancel', () => this.putBack());
    // Let go where the page does not hear of it, what was held is put back.
    root.addEventListener('lostpointercapture', () => this.held && !this.held.sticks && this.putBack());
    root.addEventListener('keydown', (e) => this.keyed(e));
  }

  putBack(): void {
    if (!this.held) return;
    this.leave();
    session.putBack();
    this.handles.stage.draw();
  }

  private leave(): void {
    this.held?.ended();
    this.held = null;
    window.removeEventListener('pointermove', this.followStuck);
    window.removeEventListener('pointerdown', this.pressStuck, true);
    this.root.querySelector('[data-held]')?.removeAttribute('data-held');
    this.root.removeAttribute('data-dragging');
    window.removeEventListener('keydown', this.duringDrag, true);
    window.removeEventListener('keyup', this.duringDrag, true);
    if (get().snapHeld || get().follows) set({ snapHeld: false, follows: false });
    this.handles.invalidate();
  }

  private press(event: PointerEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-handle]');
    if (event.button !== 0 || !g || this.held) return;
    event.preventDefault();
    event.stopPropagation();
    if (this.reached !== g) this.reached = null;
    g.focus({ preventScroll: true });
    const part = g.dataset['handle']!;
    const axis = Number(g.dataset['axis']);
    if (part === 'tag') {
      this.choose(axis);
      return;
    }
    this.take(g, part, axis, event);
  }

  private take(g: SVGGElement, part: string, axis: number, event: PointerEvent): void {
    const { handles } = this;
    if (!handles.frame) return;
    const verb = g.dataset['verb'] as Verb;
    if (get().verb !== verb) set({ verb });
    this.chooseFor(part, axis);
    handles.read();
    const at = this.local(event);
    const pivot = get().lead?.pivotInWorld;
    handles.stage.activate(handles.view);
    if (!this.grab(part, axis, at)) return;
    this.root.setPointerCapture(event.pointerId);
    this.root.setAttribute('data-dragging', '');
    g.setAttribute('data-held', '');
    this.held = {
      part,
      axis,
      pointer: event.pointerId,
      at,
      startAngle: part === 'arc' ? this.angleAt(axis, at) : 0,
      startPivot: pivot ? new Vector3(...pivot) : null,
      sweep: 0,
      moved: movedBy(get()),
      next: 0,
      modifiers: { shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey },
      from: at,
      hasMoved: false,
      since: event.timeStamp,
      reached: this.reached === g,
      sticks: false,
      ended: begin(() => this.putBack()),
    };
    window.addEventListener('keydown', this.duringDrag, true);
    window.addEventListener('keyup', this.duringDrag, true);
    handles.stage.draw();
  }

  /** Takes hold in the core. A stand-in is dragged as its true place would be: eye and pointer are moved along. */
  private grab(part: string, axis: number, at: Pixel): boolean {
    const { handles } = this;
    const { eye } = handles.view;
    const size = handles.size(handles.standIn ?? new Vector3(...handles.frame!.centre));
    return session.grab(
      part,
      axis,
      this.shifted(eye.world(), 12),
      eye.parallel,
      size,
      this.shifted(eye.ray(at.x, at.y), 0),
    );
  }

  private shifted(numbers: number[], from: number): number[] {
    const { x, y, z } = this.handles.offset();
    const moved = [...numbers];
    [x, y, z].forEach((way, i) => (moved[from + i]! += way));
    return moved;
  }

  private move(event: PointerEvent): void {
    if (!this.held || (event.pointerId !== this.held.pointer && !this.held.sticks)) return;
    // What is dragged was removed or locked by somebody else.
    if (!get().trying) return this.leave();
    const { held } = this;
    held.modifiers = { shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey };
    // A ball rolls along the whole way of the pointer, however seldom the page is told of it.
    const ways = held.part === 'ball' ? event.getCoalescedEvents() : [];
    for (const at of [...ways.slice(0, -1), event].map((e) => this.local(e))) {
      held.at = at;
      held.hasMoved ||= Math.hypot(at.x - held.from.x, at.y - held.from.y) >= 3;
      this.follow();
    }
  }

  /** Held without a button, for pens, trackpads and long ways. */
  private stick(): void {
    const { held } = this;
    if (!held) return;
    held.sticks = true;
    window.addEventListener('pointermove', this.followStuck);
    window.addEventListener('pointerdown', this.pressStuck, true);
    set({ follows: true });
  }

  private readonly followStuck = (event: PointerEvent): void => {
    if (this.held) this.move(event);
  };

  /** The next press on the stage keeps it and does nothing else; one anywhere else puts it back and does its own. */
  private readonly pressStuck = (event: PointerEvent): void => {
    if (!isOnStage(event.target)) {
      this.putBack();
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    if (event.button === 0) this.keep(event.altKey);
    else this.putBack();
  };

  private keep(asCopy: boolean): void {
    this.leave();
    session.keepTrial(asCopy);
  }

  /** Brings the core to where the pointer is. */
  private follow(): void {
    const { held, handles } = this;
    if (!held) return;
    const state = get();
    const steps = state.stepSizes[state.verb];
    // Ctrl turns the steps round for this drag.
    const step = steps.on !== held.modifiers.ctrl ? steps.size : 0;
    const { eye } = handles.view;
    const ray = eye.ray(held.at.x, held.at.y);
    const { snap, snapHeld } = state;
    const snaps = snap.on && !snapHeld && !handles.standIn && (state.verb === 'move' || state.verb === 'pivot');
    const request = snaps ? snapRequest(handles.stage, handles.view, held.at, held.moved, held.next) : null;
    const tried = session.dragTo(this.shifted(ray, 0), held.modifiers.shift, step, request);
    held.sweep = tried.amount[0];
    handles.stage.pace.moving();
    handles.stage.draw();
  }

  private release(event: PointerEvent): void {
    if (!this.held || this.held.sticks || event.pointerId !== this.held.pointer) return;
    const { hasMoved, part, since, reached } = this.held;
    if (!hasMoved && (part === 'ball' || (inMiddle.has(part) && !reached && event.timeStamp - since < longPress))) {
      // A press inside the arcs, and a quick one on the middle, means what stands there.
      const local = this.local(event);
      this.putBack();
      const { view, stage } = this.handles;
      const at = { x: local.x + view.rect.x, y: local.y + view.rect.y };
      if (part === 'ball' || stage.under(view, local.x, local.y).length > 0)
        press(stage, view, at, event.ctrlKey || event.metaKey);
      else session.say({ kind: 'info', text: 'Drag it, or hold it a moment and let go: then it follows the pointer.' });
    } else if (!this.held.hasMoved) this.stick();
    // With Alt the original stays, and a copy goes where it was dragged.
    else this.keep(event.altKey);
  }

  /** Keys while a handle is held: Tab takes the next candidate, the snapping key holds snapping off, letters change the axis. */
  private readonly duringDrag = (event: KeyboardEvent): void => {
    const { held } = this;
    if (!held) return;
    const down = event.type === 'keydown';
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    const letter = plain ? ['KeyX', 'KeyY', 'KeyZ'].indexOf(event.code) : -1;
    if (held.sticks && event.key === 'Enter' && down) {
      event.preventDefault();
      event.stopPropagation();
      this.keep(event.altKey);
      return;
    }
    if (held.sticks && down && plain && /^[0-9.=\-−]$/.test(event.key)) {
      // A number is typed instead.
      this.putBack();
      return;
    }
    if (event.key === 'Tab' && down) held.next += event.shiftKey ? -1 : 1;
    else if (event.code === 'KeyN') set({ snapHeld: down });
    else if (letter >= 0 && down && !event.repeat) this.changeAxis(letter);
    else return;
    held.next = Math.max(0, held.next);
    event.preventDefault();
    event.stopPropagation();
    this.follow();
  };

  /** The axis words can be changed during a drag: it goes on along the other axis, from where it began. */
  private changeAxis(axis: number): void {
    const { held } = this;
    if (!held) return;
    const moving = ['needle', 'quarter', 'ring'].includes(held.part);
    const part = moving ? 'needle' : ['pad', 'roundPad', 'quarterPad'].includes(held.part) ? 'pad' : 'arc';
    const again = held.part === part && held.axis === axis;
    const next = again ? (moving ? 'ring' : part === 'pad' ? 'roundPad' : part) : part;
    const start = held.startPivot;
    session.putBack();
    this.handles.invalidate();
    this.chooseFor(next, axis);
    this.handles.read();
    if (!this.grab(next, axis, held.from)) return;
    this.root.querySelector('[data-held]')?.removeAttribute('data-held');
    this.root
      .querySelector(`g[data-handle="${next}"]${next === 'ring' ? '' : `[data-axis="${axis}"]`}`)
      ?.setAttribute('data-held', '');
    Object.assign(held, {
      part: next,
      axis,
      startPivot: start,
      startAngle: next === 'arc' ? this.angleAt(axis, held.from) : 0,
    });
  }

  private keyed(event: KeyboardEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-handle]');
    if (!g) return;
    const all = [...this.root.querySelectorAll<SVGGElement>('g[data-handle]')];
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      event.stopPropagation();
      this.reached = all[(all.indexOf(g) + step + all.length) % all.length] ?? null;
      (this.reached as SVGGElement | null)?.focus();
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      event.stopPropagation();
      const [part, axis] = [g.dataset['handle']!, Number(g.dataset['axis'])];
      this.reached = g;
      if (get().verb !== g.dataset['verb']) set({ verb: g.dataset['verb'] as Verb });
      if (part === 'tag') this.choose(axis);
      else this.chooseFor(part, axis);
      document.querySelector<HTMLInputElement>('[data-amount]')?.focus();
    }
  }

  /** The axis words of the sentence follow the handle that is taken. */
  private chooseFor(part: string, axis: number): void {
    if (part === 'needle' || part === 'arc' || part === 'pad') this.choose(axis);
    else if (part === 'quarter' || part === 'quarterPad') this.handles.setAxes([axis !== 0, axis !== 1, axis !== 2]);
    else if (part === 'roundPad' || part === 'ring') this.handles.setAxes([true, true, true]);
  }

  private choose(axis: number): void {
    this.handles.setAxes([axis === 0, axis === 1, axis === 2]);
  }

  /** Where on an arc a pixel lies, by the nearest of its points; only for drawing the wedge. */
  private angleAt(axis: number, at: Pixel): number {
    const { handles } = this;
    const frame = handles.frame!;
    const centre = handles.standIn ?? new Vector3(...frame.centre);
    const size = handles.size(centre);
    const { a, b } = arcFrame(
      [0, 1, 2].map((i) => handles.axis(frame, i)),
      axis,
    );
    let best = 0;
    let least = Infinity;
    arc(a, b, 0, 360, 180).forEach((p, k) => {
      const c = handles.view.eye.project(centre.clone().addScaledVector(p, size));
      const d = c ? Math.hypot(c.x - at.x, c.y - at.y) : Infinity;
      if (d < least) [best, least] = [k * 2, d];
    });
    return best;
  }

  private local(event: PointerEvent): Pixel {
    // Asked once a drag: asking makes the page lay itself out anew.
    const box = this.held ? this.box : (this.box = this.root.getBoundingClientRect());
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
}

/** Whether a press falls on the stage itself, and not on what lies over it. */
function isOnStage(target: EventTarget | null): boolean {
  return (
    target instanceof Element &&
    target.closest('[data-stage]') !== null &&
    target.closest('button, [role="toolbar"], [data-over-stage]') === null
  );
}
