import { Vector3 } from 'three';
import type { Edit, LensPart, LensShape, Vec3 } from '../core/answers';
import { begin } from '../acts/doing';
import { session } from '../acts/session';
import { get } from '../state/store';
import type { HandleSet } from './handleSet';
import { attributes, children, path, type Pixel } from './layer';
import { leaveHover } from './press';

/** How far from the lamp or camera its lens is drawn, in pixels. */
const reach = 132;

/** How much an arrow key changes: degrees, or metres. */
const nudge = { angle: 1, length: 0.1 };

interface Held {
  part: LensPart;
  angle: boolean;
  pointer: number;
  at: Pixel;
  edit: Edit | null;
  ended: () => void;
}

/**
 * The lens of the lead on the stage: the cone and the range of a lamp, the angle of view of a camera, as thin lines with
 * open lozenges to take hold of. Where they stand and what a drag makes of them, the core says.
 */
export class LensHands {
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

  /** Draws the lens of the lead, if it has one and is not what is looked through. */
  draw(): void {
    const { lead } = get();
    if (!lead || (!lead.node.light && !lead.node.camera)) return;
    const { view, layer } = this.handles;
    const state = view.state();
    if (state.name === 'camera' && state.camera === lead.node.id) return;
    const { eye } = view;
    const { lines, grips } = this.shape(lead.node.id);
    const project = (p: Vec3) => eye.project(new Vector3(...p));
    const number = (v: number) => v.toFixed(1);
    let d = '';
    for (const line of lines) {
      let pen = 'M';
      for (const point of line) {
        const p = project(point);
        if (p) d += `${pen}${number(p.x)} ${number(p.y)}`;
        pen = p ? 'L' : 'M';
      }
    }
    path(layer.plain('lens', 'lens'), 'line', d);
    for (const { part, at, words, angle } of grips) {
      const c = project(at);
      if (!c) continue;
      const g = layer.button(`lens-${part}`, 'lens-grip', words);
      g.dataset['lens'] = part;
      g.dataset['angle'] = String(angle);
      g.toggleAttribute('data-held', this.held?.part === part);
      const [hit] = children(g, 'circle', 1);
      hit!.setAttribute('class', 'hit-area');
      attributes(hit!, { cx: c.x, cy: c.y, r: 13 });
      path(g, 'sign', `M${number(c.x)} ${number(c.y - 6)}l6 6l-6 6l-6 -6z`);
      if (this.held?.part === part)
        layer.label(layer.plain('lens-words', 'reading'), words, { x: c.x + 14, y: c.y + 12 }, eye.width);
    }
  }

  private shape(id: string): LensShape {
    const { eye } = this.handles.view;
    return session.core.lensShape(id, eye.world(), eye.parallel, this.size());
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

  /** How long the lens is drawn, in metres at the lead. */
  private size(): number {
    const at = get().lead?.pivotInWorld ?? [0, 0, 0];
    return this.handles.view.eye.pixel(new Vector3(...at)) * reach;
  }

  private press(event: PointerEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-lens]');
    if (event.button !== 0 || !g || this.held) return;
    event.preventDefault();
    event.stopPropagation();
    leaveHover(this.handles.stage);
    g.focus({ preventScroll: true });
    this.box = this.root.getBoundingClientRect();
    this.root.setPointerCapture(event.pointerId);
    this.handles.stage.activate(this.handles.view);
    this.held = {
      part: g.dataset['lens'] as LensPart,
      angle: g.dataset['angle'] === 'true',
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
    const { eye } = this.handles.view;
    const { stepSizes } = get();
    const steps = held.angle ? stepSizes.rotate : stepSizes.move;
    // Ctrl turns the steps round for this drag.
    const step = steps.on !== (event.ctrlKey || event.metaKey) ? steps.size : 0;
    const id = get().lead?.node.id;
    const ray = eye.ray(event.clientX - this.box.left, event.clientY - this.box.top);
    const edit = id && session.core.lensTo(id, held.part, eye.world(), eye.parallel, this.size(), ray, step);
    if (!edit) return;
    if (session.tryEdit(edit)) {
      held.edit = edit;
      const grip = this.shape(id).grips.find((g) => g.part === held.part);
      session.say({ kind: 'info', text: `${grip?.words}. Let go to keep it, Esc puts it back.` });
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

  /** Arrow keys change what has the focus. */
  private keyed(event: KeyboardEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-lens]');
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    const node = get().lead?.node;
    if (!g || way === undefined || !node) return;
    event.preventDefault();
    event.stopPropagation();
    const part = g.dataset['lens'] as LensPart;
    const by = way * (g.dataset['angle'] === 'true' ? nudge.angle : nudge.length) * (event.shiftKey ? 10 : 1);
    const nodes = [node.id];
    session.keep(
      part === 'fov' || part === 'height'
        ? { do: 'setCamera', nodes, [part]: by, mode: 'add' }
        : { do: 'setLight', nodes, [part]: by, mode: 'add' },
    );
  }
}
