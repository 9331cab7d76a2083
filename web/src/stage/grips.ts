import type { Edit } from '../core/answers';
import { begin } from '../acts/doing';
import { session } from '../acts/session';
import { get } from '../state/store';
import type { HandleSet } from './handleSet';
import type { Pixel } from './layer';
import { leaveHover } from './press';

interface Held<Grip> {
  grip: Grip;
  pointer: number;
  at: Pixel;
  edit: Edit | null;
  ended: () => void;
}

/**
 * Small things over a view that are taken hold of: dragged they try an edit, let go they keep it, Esc puts it back, arrow keys change them by
 * steps. What an edit is for a grip, each kind says; where a drag leads, the core does.
 */
export abstract class Grips<Grip> {
  protected held: Held<Grip> | null = null;
  private box = new DOMRect();

  constructor(
    private readonly root: SVGSVGElement,
    protected readonly handles: HandleSet,
    /** By which attribute its shapes are known. */
    private readonly known: string,
  ) {
    root.addEventListener('pointerdown', (e) => this.press(e));
    root.addEventListener('pointermove', (e) => this.move(e));
    root.addEventListener('pointerup', (e) => this.release(e));
    root.addEventListener('pointercancel', () => this.putBack());
    root.addEventListener('lostpointercapture', () => this.putBack());
    root.addEventListener('keydown', (e) => this.keyed(e));
  }

  get dragging(): boolean {
    return this.held !== null;
  }

  putBack(): void {
    if (!this.held) return;
    this.leave();
    session.putBack();
    this.handles.stage.draw();
  }

  /** What a shape is the grip of. */
  protected abstract gripOf(shape: SVGGElement): Grip;

  /** The edit that brings it to a ray; null: there is none. */
  protected abstract edited(grip: Grip, ray: number[], step: number): Edit | null;

  /** The edit of an arrow key, up or down, by more with Shift. */
  protected abstract nudged(grip: Grip, way: number, more: boolean): Edit;

  /** Whether it turns, or goes along. */
  protected abstract turns(grip: Grip): boolean;

  /** It was tried anew. */
  protected tried(_grip: Grip): void {}

  private leave(): void {
    this.held?.ended();
    this.held = null;
  }

  private under(event: Event): SVGGElement | null {
    return (event.target as Element).closest<SVGGElement>(`g[data-${this.known}]`);
  }

  private press(event: PointerEvent): void {
    const shape = this.under(event);
    if (event.button !== 0 || !shape || this.held) return;
    event.preventDefault();
    event.stopPropagation();
    leaveHover(this.handles.stage);
    shape.focus({ preventScroll: true });
    this.box = this.root.getBoundingClientRect();
    this.root.setPointerCapture(event.pointerId);
    this.handles.stage.activate(this.handles.view);
    this.held = {
      grip: this.gripOf(shape),
      pointer: event.pointerId,
      at: { x: event.clientX, y: event.clientY },
      edit: null,
      ended: begin(() => this.putBack()),
    };
    this.handles.stage.draw();
  }

  private move(event: PointerEvent): void {
    const { held } = this;
    if (!held || event.pointerId !== held.pointer) return;
    if (!held.edit && Math.hypot(event.clientX - held.at.x, event.clientY - held.at.y) < 3) return;
    const { stepSizes } = get();
    const steps = this.turns(held.grip) ? stepSizes.rotate : stepSizes.move;
    // Ctrl turns the steps round for this drag.
    const step = steps.on !== (event.ctrlKey || event.metaKey) ? steps.size : 0;
    const ray = this.handles.view.eye.ray(event.clientX - this.box.left, event.clientY - this.box.top);
    const edit = this.edited(held.grip, ray, step);
    if (!edit) return;
    if (session.tryEdit(edit)) {
      held.edit = edit;
      this.tried(held.grip);
    }
    this.handles.stage.pace.moving();
    this.handles.stage.draw();
  }

  private release(event: PointerEvent): void {
    const { held } = this;
    if (!held || event.pointerId !== held.pointer) return;
    this.leave();
    if (held.edit && get().trying) session.keep(held.edit);
    else session.putBack();
    this.handles.stage.draw();
  }

  private keyed(event: KeyboardEvent): void {
    const shape = this.under(event);
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!shape || way === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    session.keep(this.nudged(this.gripOf(shape), way, event.shiftKey));
  }
}
