import type { Edit } from '../core/answers';
import { begin } from '../acts/doing';
import { session } from '../acts/session';
import { get } from '../state/store';
import type { HandleSet } from './handleSet';
import { leaveHover } from './press';

interface Held {
  node: string;
  link: string;
  high: boolean;
  pointer: number;
  edit: Edit | null;
  ended: () => void;
}

/** The ends of a hinge's arc: dragged, or moved by arrow keys, they set its limits. Where a drag leads, the core says. */
export class LimitHands {
  private held: Held | null = null;
  private box = new DOMRect();

  constructor(
    private readonly root: SVGSVGElement,
    private readonly handles: HandleSet,
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

  private leave(): void {
    this.held?.ended();
    this.held = null;
  }

  private press(event: PointerEvent): void {
    const grip = gripOf(event);
    if (event.button !== 0 || !grip || this.held) return;
    event.preventDefault();
    event.stopPropagation();
    leaveHover(this.handles.stage);
    grip.focus({ preventScroll: true });
    this.box = this.root.getBoundingClientRect();
    this.root.setPointerCapture(event.pointerId);
    this.handles.stage.activate(this.handles.view);
    const { node, link, limit } = grip.dataset;
    this.held = {
      node: node!,
      link: link!,
      high: limit === 'to',
      pointer: event.pointerId,
      edit: null,
      ended: begin(() => this.putBack()),
    };
  }

  private move(event: PointerEvent): void {
    const { held } = this;
    if (!held || event.pointerId !== held.pointer) return;
    const { rotate } = get().stepSizes;
    // Ctrl turns the steps round for this drag.
    const step = rotate.on !== (event.ctrlKey || event.metaKey) ? rotate.size : 0;
    const ray = this.handles.view.eye.ray(event.clientX - this.box.left, event.clientY - this.box.top);
    const edit = session.core.limitAt(held.node, held.link, held.high, ray, step);
    if (edit && session.tryEdit(edit)) held.edit = edit;
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
    const grip = gripOf(event);
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!grip || way === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const { node, link, limit, value } = grip.dataset;
    const to = Number(value) + way * (event.shiftKey ? 10 : 1);
    session.keep({
      do: 'setConstraint',
      of: [{ node: node!, id: link! }],
      ...(limit === 'to' ? { to } : { from: to }),
    });
  }
}

const gripOf = (event: Event) => (event.target as Element).closest<SVGGElement>('g[data-limit]');
