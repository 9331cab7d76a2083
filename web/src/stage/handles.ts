import { Vector3 } from 'three';
import { isRefusal, type Frame, type Shadow } from '../core/bridge';
import { session } from '../state/session';
import { get, set } from '../state/store';
import { ownSettings } from '../state/settings';
import type { Stage } from './stage';
import type { View } from './view';

const svg = 'http://www.w3.org/2000/svg';
const letters = 'XYZ';
const usualLength = 92;

interface Held {
  part: string;
  axis: number;
  pointer: number;
  startAngle: number;
  at: { x: number; y: number };
}

/**
 * The handles, drawn as vector shapes over the stage: needles that end in letters, quarter discs between two needles, an
 * open ring for the view plane, arcs with degrees, pads. They keep one size on the screen and never flip; each can be
 * reached by Tab or arrows and then takes a number.
 */
export class Handles {
  private frame: Frame | null = null;
  private key = '';
  private held: Held | null = null;
  private box = new DOMRect();
  /** What stands about the centre of the handles; moves with it as a whole. */
  private readonly centred = document.createElementNS(svg, 'g');
  private startPivot: Vector3 | null = null;
  private readonly parts = new Map<string, SVGGElement>();

  constructor(
    private readonly root: SVGSVGElement,
    private readonly stage: Stage,
    private readonly view: View,
  ) {
    root.append(this.centred);
    root.addEventListener('pointerdown', (e) => this.press(e));
    root.addEventListener('pointermove', (e) => this.move(e));
    root.addEventListener('pointerup', (e) => this.release(e));
    root.addEventListener('pointercancel', () => this.putBack());
    root.addEventListener('keydown', (e) => this.keyed(e));
  }

  /** How long needles are, in pixels. */
  private get length(): number {
    return usualLength * ownSettings().handleSize;
  }

  /** The axes that the needles follow, nine numbers; null while there are none. */
  get axes(): number[] | null {
    return this.frame?.axes ?? null;
  }

  get dragging(): boolean {
    return this.held !== null;
  }

  invalidate(): void {
    this.key = '';
  }

  putBack(): void {
    if (!this.held) return;
    this.held = null;
    session.putBack();
    this.root.removeAttribute('data-dragging');
    this.invalidate();
    this.stage.draw();
  }

  /** Draws everything at its present place. */
  update(): void {
    const state = get();
    if (!this.held) this.read();
    const shown = new Set<string>();
    const frame = this.frame;
    const locked = state.lead?.node.switches.locked ?? false;
    if (frame && state.lead) {
      const centre = this.centre(frame);
      const place = this.view.eye.project(centre);
      if (
        place &&
        place.x > -200 &&
        place.y > -200 &&
        place.x < this.view.eye.width + 200 &&
        place.y < this.view.eye.height + 200
      ) {
        if (state.handlesOn && !locked) this.drawVerb(shown, frame, centre);
        this.drawPivot(shown, state.verb === 'pivot');
        attributes(this.centred, { transform: `translate(${place.x.toFixed(2)} ${place.y.toFixed(2)})` });
        if (this.stage.view === this.view) this.drawFlag(shown, place, state.lead.node.name, locked);
        this.drawReading(shown);
      }
      for (const id of state.selection.slice(0, -1).slice(-200)) this.drawOther(shown, id);
    }
    state.shadows.slice(0, 60).forEach((shadow, i) => this.drawWay(shown, i, shadow));
    for (const [name, part] of this.parts) {
      if (!shown.has(name)) {
        part.remove();
        this.parts.delete(name);
      }
    }
  }

  /** Asks the core where the handles stand, when anything that decides it has changed. */
  private read(): void {
    const t = session.template(() => this.view.eye.world());
    const key = t ? JSON.stringify([t, session.core.revision(), get().lead?.node.placement]) : '';
    if (key === this.key && key !== '') return;
    this.key = key;
    const answer = t ? session.core.frame(t.edit, t.space, false) : null;
    this.frame = answer && !isRefusal(answer) ? answer : null;
  }

  private centre(frame: Frame): Vector3 {
    const centre = new Vector3(...frame.centre);
    const pivot = get().lead?.pivotInWorld;
    const rides = get().verb === 'move' || get().verb === 'pivot';
    if (this.held && rides && pivot && this.startPivot) centre.add(new Vector3(...pivot)).sub(this.startPivot);
    return centre;
  }

  private axis(frame: Frame, i: number): Vector3 {
    return new Vector3(frame.axes[3 * i], frame.axes[3 * i + 1], frame.axes[3 * i + 2]);
  }

  private drawVerb(shown: Set<string>, frame: Frame, centre: Vector3): void {
    const verb = get().verb;
    const size = this.size(centre);
    const c = this.view.eye.project(centre)!;
    // From the centre, in tenths of a pixel: while it moves, hardly anything but its place is written anew.
    const tenth = (v: number) => Math.round(v * 10) / 10;
    const at = (v: Vector3) => {
      const p = this.view.eye.project(centre.clone().addScaledVector(v, size));
      return p && { x: tenth(p.x - c.x), y: tenth(p.y - c.y) };
    };
    const axes = [0, 1, 2].map((i) => this.axis(frame, i));
    const words = this.words();
    // Later parts lie over earlier ones: flat quarter discs must not be hidden below the ring.
    const moves = verb === 'move' || verb === 'pivot';
    if (moves) this.drawCircle(shown, 'ring', 16, `${words.verb} in the view plane`);
    if (moves) for (const i of [0, 1, 2]) this.drawQuarter(shown, i, axes, at, words);
    if (verb === 'rotate') this.drawArcs(shown, axes, at, centre, words);
    for (const i of [0, 1, 2]) this.drawNeedle(shown, i, axes[i]!, at, words);
    if (verb === 'scale') this.drawRoundPad(shown);
    if (verb === 'rotate') this.drawCircle(shown, 'viewArc', this.length * 1.22, 'Rotate in the view plane');
  }

  private size(centre: Vector3): number {
    return this.view.eye.pixel(centre) * this.length;
  }

  private words(): { verb: string; chosen: boolean[] } {
    const { verb, axes } = get();
    const name = { move: 'Move', rotate: 'Rotate', scale: 'Scale', pivot: 'Move the pivot' }[verb];
    return { verb: name, chosen: axes[verb] };
  }

  private drawNeedle(
    shown: Set<string>,
    i: number,
    axis: Vector3,
    at: (v: Vector3) => { x: number; y: number } | null,
    words: { verb: string; chosen: boolean[] },
  ): void {
    const verb = get().verb;
    const [from, to] = [at(axis.clone().multiplyScalar(verb === 'scale' ? 0.2 : 0.14)), at(axis)];
    if (!from || !to) return;
    const foreshortened = Math.hypot(to.x - from.x, to.y - from.y) < 14;
    const part = verb === 'rotate' ? 'tag' : verb === 'scale' ? 'pad' : 'needle';
    const g = this.part(shown, `${part}-${i}`, `axis-${i}`, part, i, `${words.verb} along ${letters[i]}`);
    if (words.chosen[i]) g.setAttribute('data-chosen', '');
    else g.removeAttribute('data-chosen');
    g.style.opacity = foreshortened && !this.held ? '0.25' : '';
    if (part !== 'tag') path(g, 'hit', `M${from.x} ${from.y}L${to.x} ${to.y}`);
    path(g, part === 'tag' ? 'line thin' : 'line', `M${from.x} ${from.y}L${to.x} ${to.y}`);
    if (part === 'pad') {
      // A short bar across the needle, a little before its letter.
      const p = at(axis.clone().multiplyScalar(0.78));
      const [dx, dy] = [to.x - from.x, to.y - from.y];
      const k = 8 / Math.max(1, Math.hypot(dx, dy));
      if (p) path(g, 'line pad', `M${p.x - dy * k} ${p.y + dx * k}L${p.x + dy * k} ${p.y - dx * k}`);
    }
    tag(g, to.x, to.y, letters[i]!);
  }

  private drawQuarter(
    shown: Set<string>,
    i: number,
    axes: Vector3[],
    at: (v: Vector3) => { x: number; y: number } | null,
    words: { verb: string },
  ): void {
    const [a, b] = [axes[(i + 1) % 3]!, axes[(i + 2) % 3]!];
    const points = arc(a, b, 0, 90, 8);
    const outer = points.map((p) => at(p.clone().multiplyScalar(0.5)));
    const inner = points.map((p) => at(p.clone().multiplyScalar(0.3))).toReversed();
    const all = [...outer, ...inner];
    if (all.some((p) => p === null)) return;
    if (area(all as { x: number; y: number }[]) < 90 && !this.held) return;
    const pair = [letters[(i + 1) % 3], letters[(i + 2) % 3]].toSorted().join(' and ');
    const g = this.part(shown, `quarter-${i}`, `axis-${i}`, 'quarter', i, `${words.verb} along ${pair}`);
    const d = `M${all.map((p) => `${p!.x} ${p!.y}`).join('L')}Z`;
    path(g, 'hit-area', d);
    path(g, 'fill', d);
  }

  private drawArcs(
    shown: Set<string>,
    axes: Vector3[],
    at: (v: Vector3) => { x: number; y: number } | null,
    centre: Vector3,
    words: { chosen: boolean[] },
  ): void {
    const eye = this.view.eye.position().sub(centre).normalize();
    for (const i of [0, 1, 2]) {
      const [a, b] = [axes[(i + 1) % 3]!, axes[(i + 2) % 3]!];
      const whole = words.chosen[i] || (this.held?.part === 'arc' && this.held.axis === i);
      const g = this.part(shown, `arc-${i}`, `axis-${i}`, 'arc', i, `Rotate about ${letters[i]}`);
      if (words.chosen[i]) g.setAttribute('data-chosen', '');
      else g.removeAttribute('data-chosen');
      let near = '';
      let far = '';
      let scale = '';
      if (whole) {
        const points = arc(a, b, 0, 360, 72);
        for (let k = 0; k < 72; k++) {
          const [p, q] = [at(points[k]!), at(points[k + 1]!)];
          if (!p || !q) continue;
          const piece = `M${p.x} ${p.y}L${q.x} ${q.y}`;
          if (points[k]!.dot(eye) >= -0.02) near += piece;
          else far += piece;
          const tick = at(points[k]!.clone().multiplyScalar(k % 6 === 0 ? 0.9 : 0.95));
          if (k % 3 === 0 && tick && points[k]!.dot(eye) >= -0.02) scale += `M${p.x} ${p.y}L${tick.x} ${tick.y}`;
        }
      } else {
        const points = arc(a, b, 10, 80, 14).map((p) => at(p.clone().multiplyScalar(0.86)));
        points.forEach((p, k) => (near += p ? `${k === 0 ? 'M' : 'L'}${p.x} ${p.y}` : ''));
      }
      path(g, 'hit', near);
      path(g, 'line arc', near);
      path(g, 'line far', far);
      path(g, 'line thin', scale);
      this.drawWedge(g, i, a, b, at);
    }
  }

  /** The swept angle, filled lightly, from where the arc was taken. */
  private drawWedge(
    g: SVGGElement,
    i: number,
    a: Vector3,
    b: Vector3,
    at: (v: Vector3) => { x: number; y: number } | null,
  ): void {
    const swept = this.held?.part === 'arc' && this.held.axis === i ? this.sweep : 0;
    const zero = at(new Vector3());
    if (swept === 0 || !zero || !this.held) {
      path(g, 'wedge', '');
      return;
    }
    const points = arc(a, b, this.held.startAngle, this.held.startAngle + Math.max(-360, Math.min(360, swept)), 40).map(
      at,
    );
    path(g, 'wedge', `M${zero.x} ${zero.y}${points.map((p) => (p ? `L${p.x} ${p.y}` : '')).join('')}Z`);
  }

  private drawCircle(shown: Set<string>, part: string, radius: number, label: string): void {
    const g = this.part(shown, part, 'axis-none', part, 0, label);
    const d = `M${-radius} 0a${radius} ${radius} 0 1 0 ${2 * radius} 0a${radius} ${radius} 0 1 0 ${-2 * radius} 0`;
    if (part === 'ring') path(g, 'hit-area', d);
    else path(g, 'hit', d);
    path(g, 'line thin', d);
  }

  private drawRoundPad(shown: Set<string>): void {
    const g = this.part(shown, 'roundPad', 'axis-none', 'roundPad', 0, 'Scale along all three');
    const circle = (r: number) => `M${-r} 0a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
    path(g, 'hit-area', circle(17));
    path(g, 'fill', circle(14));
  }

  private drawPivot(shown: Set<string>, editing: boolean): void {
    const g = this.plain(shown, 'pivot', 'pivot', this.centred);
    const circles = children(g, 'circle', 2);
    attributes(circles[0]!, { r: editing ? 8 : 6 });
    attributes(circles[1]!, { r: 2 });
    const lines = children(g, 'line', editing ? 4 : 0);
    [[1, 0], [-1, 0], [0, 1], [0, -1]].forEach(([x, y], i) => {
      if (lines[i]) attributes(lines[i], { x1: x! * 8, y1: y! * 8, x2: x! * 15, y2: y! * 15 });
    }); // prettier-ignore
    toEnd(g, circles[1]!);
  }

  private drawOther(shown: Set<string>, id: string): void {
    const pivot = session.core.node(id)?.pivotInWorld;
    const c = pivot && this.view.eye.project(new Vector3(...pivot));
    if (!c) return;
    const [circle] = children(this.plain(shown, `other-${id}`, ''), 'circle', 1);
    attributes(circle!, { cx: c.x, cy: c.y, r: 3.5, class: 'other-pivot' });
  }

  /** From where a step moved a pivot to where it is now. */
  private drawWay(shown: Set<string>, i: number, { from, to }: Shadow): void {
    const [a, b] = [this.view.eye.project(new Vector3(...from)), this.view.eye.project(new Vector3(...to))];
    if (!a || !b || Math.hypot(a.x - b.x, a.y - b.y) < 2) return;
    const g = this.plain(shown, `way-${i}`, 'way');
    const [line] = children(g, 'line', 1);
    const [circle] = children(g, 'circle', 1);
    attributes(line!, { x1: a.x, y1: a.y, x2: b.x, y2: b.y });
    attributes(circle!, { cx: a.x, cy: a.y, r: 3.5 });
  }

  private drawFlag(shown: Set<string>, c: { x: number; y: number }, name: string, locked: boolean): void {
    const text = `${middleCut(name, 28)} · ${locked ? 'locked' : 'lead'}`;
    this.label(this.plain(shown, 'flag', 'flag'), text, c.x + 46, Math.max(c.y - 84, 46));
  }

  private drawReading(shown: Set<string>): void {
    const reading = get().reading;
    if (!this.held || !reading?.amount) return;
    const { x, y } = this.held.at;
    this.label(this.plain(shown, 'reading', 'reading'), reading.amount, x + 18, Math.max(10, y - 34));
  }

  /** Words on a plate as wide as they are, kept within the view. */
  private label(g: SVGGElement, text: string, x: number, y: number): void {
    const [rect] = children(g, 'rect', 1);
    const [words] = children(g, 'text', 1) as SVGTextElement[];
    if (words!.textContent !== text) {
      words!.textContent = text;
      g.dataset['width'] = String(widthOf(text, g.getAttribute('class') === 'reading') + 18);
    }
    const width = Number(g.dataset['width']);
    const left = Math.max(4, Math.min(x, this.view.eye.width - width - 8));
    attributes(rect!, { x: left, y, width, height: 22, rx: 7 });
    attributes(words!, { x: left + 9, y: y + 11.5 });
  }

  private press(event: PointerEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-handle]');
    if (event.button !== 0 || !g || this.held) return;
    event.preventDefault();
    event.stopPropagation();
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
    if (!this.frame) return;
    this.chooseFor(part, axis);
    this.read();
    const at = this.local(event);
    const pivot = get().lead?.pivotInWorld;
    this.startPivot = pivot ? new Vector3(...pivot) : null;
    const eye = this.view.eye;
    this.stage.activate(this.view);
    const size = this.size(new Vector3(...this.frame.centre));
    if (!session.grab(part, axis, eye.world(), eye.parallel, size, eye.ray(at.x, at.y))) return;
    this.root.setPointerCapture(event.pointerId);
    this.root.setAttribute('data-dragging', '');
    g.setAttribute('data-held', '');
    this.sweep = 0;
    this.held = { part, axis, pointer: event.pointerId, at, startAngle: part === 'arc' ? this.angleAt(axis, at) : 0 };
    this.stage.draw();
  }

  private sweep = 0;

  private move(event: PointerEvent): void {
    if (!this.held || event.pointerId !== this.held.pointer) return;
    this.held.at = this.local(event);
    const steps = get().stepSizes[get().verb];
    // Ctrl turns the steps round for this drag.
    const step = steps.on !== (event.ctrlKey || event.metaKey) ? steps.size : 0;
    const tried = session.dragTo(this.view.eye.ray(this.held.at.x, this.held.at.y), event.shiftKey, step);
    this.sweep = tried.amount[0];
    this.stage.pace.moving();
    this.stage.draw();
  }

  private release(event: PointerEvent): void {
    if (!this.held || event.pointerId !== this.held.pointer) return;
    this.root.querySelector('[data-held]')?.removeAttribute('data-held');
    this.root.removeAttribute('data-dragging');
    this.held = null;
    this.invalidate();
    session.keepTrial();
  }

  private keyed(event: KeyboardEvent): void {
    const g = (event.target as Element).closest<SVGGElement>('g[data-handle]');
    if (!g) return;
    const all = [...this.root.querySelectorAll<SVGGElement>('g[data-handle]')];
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      event.stopPropagation();
      all[(all.indexOf(g) + step + all.length) % all.length]?.focus();
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      event.stopPropagation();
      const [part, axis] = [g.dataset['handle']!, Number(g.dataset['axis'])];
      if (part === 'tag') this.choose(axis);
      else this.chooseFor(part, axis);
      document.querySelector<HTMLInputElement>('[data-amount]')?.focus();
    }
  }

  /** The axis words of the sentence follow the handle that is taken. */
  private chooseFor(part: string, axis: number): void {
    if (part === 'needle' || part === 'arc' || part === 'pad') this.choose(axis);
    else if (part === 'quarter') this.setAxes([axis !== 0, axis !== 1, axis !== 2]);
    else if (part === 'roundPad' || part === 'ring') this.setAxes([true, true, true]);
  }

  private choose(axis: number): void {
    this.setAxes([axis === 0, axis === 1, axis === 2]);
  }

  private setAxes(axes: [boolean, boolean, boolean]): void {
    const { verb } = get();
    set({ axes: { ...get().axes, [verb]: axes } });
    this.invalidate();
    this.stage.draw();
  }

  /** Where on an arc a pixel lies, by the nearest of its points; only for drawing the wedge. */
  private angleAt(axis: number, at: { x: number; y: number }): number {
    const frame = this.frame!;
    const centre = new Vector3(...frame.centre);
    const size = this.size(centre);
    const [a, b] = [this.axis(frame, (axis + 1) % 3), this.axis(frame, (axis + 2) % 3)];
    let best = 0;
    let least = Infinity;
    arc(a, b, 0, 360, 180).forEach((p, k) => {
      const c = this.view.eye.project(centre.clone().addScaledVector(p, size));
      const d = c ? Math.hypot(c.x - at.x, c.y - at.y) : Infinity;
      if (d < least) [best, least] = [k * 2, d];
    });
    return best;
  }

  private local(event: PointerEvent): { x: number; y: number } {
    // Asked once a drag: asking makes the page lay itself out anew.
    const box = this.held ? this.box : (this.box = this.root.getBoundingClientRect());
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private plain(shown: Set<string>, name: string, className: string, into: SVGElement = this.root): SVGGElement {
    shown.add(name);
    let g = this.parts.get(name);
    if (!g) {
      g = document.createElementNS(svg, 'g');
      g.setAttribute('class', className);
      g.setAttribute('aria-hidden', 'true');
      this.parts.set(name, g);
      into.append(g);
    }
    return g;
  }

  private part(
    shown: Set<string>,
    name: string,
    className: string,
    handle: string,
    axis: number,
    label: string,
  ): SVGGElement {
    const g = this.plain(shown, name, className, this.centred);
    if (!g.dataset['handle']) {
      g.removeAttribute('aria-hidden');
      g.setAttribute('role', 'button');
      g.setAttribute('tabindex', this.parts.size === 1 ? '0' : '-1');
      g.dataset['handle'] = handle;
      g.dataset['axis'] = String(axis);
    }
    if (g.getAttribute('aria-label') !== label) g.setAttribute('aria-label', label);
    return g;
  }
}

function arc(a: Vector3, b: Vector3, from: number, to: number, parts: number): Vector3[] {
  return Array.from({ length: parts + 1 }, (_, k) => {
    const t = ((from + ((to - from) * k) / parts) * Math.PI) / 180;
    return a.clone().multiplyScalar(Math.cos(t)).addScaledVector(b, Math.sin(t));
  });
}

function area(points: { x: number; y: number }[]): number {
  let sum = 0;
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    sum += p.x * q.y - q.x * p.y;
  });
  return Math.abs(sum) / 2;
}

function path(g: SVGGElement, className: string, d: string): void {
  let p = [...g.children].find((c) => c.getAttribute('class') === className);
  if (!p) {
    p = document.createElementNS(svg, 'path');
    p.setAttribute('class', className);
    g.append(p);
  }
  if (p.getAttribute('d') !== d) p.setAttribute('d', d);
}

function tag(g: SVGGElement, x: number, y: number, letter: string): void {
  let t = g.querySelector<SVGGElement>('.tag');
  if (!t) {
    t = document.createElementNS(svg, 'g');
    t.setAttribute('class', 'tag');
    const hit = document.createElementNS(svg, 'circle');
    const text = document.createElementNS(svg, 'text');
    text.textContent = letter;
    t.append(hit, text);
    const area = document.createElementNS(svg, 'circle');
    area.setAttribute('class', 'hit-area');
    g.append(t, area);
  }
  attributes(t.children[0] as SVGElement, { cx: x, cy: y, r: 9 });
  attributes(t.children[1] as SVGElement, { x, y: y + 0.5 });
  const over = g.querySelector(':scope > .hit-area')!;
  attributes(over, { cx: x, cy: y, r: 13 });
  toEnd(g, over, t);
}

const ruler = document.createElement('canvas').getContext('2d')!;

/** How wide words are, asked without laying the page out. */
function widthOf(text: string, numbers: boolean): number {
  ruler.font = numbers ? "700 12px 'Commit Mono'" : "600 12px 'Instrument Sans Variable'";
  return ruler.measureText(text).width;
}

/** Brings what is drawn last to the end, and touches nothing where it stands there already. */
function toEnd(g: SVGElement, last: Element, before?: Element): void {
  if (g.lastElementChild === last && (!before || last.previousElementSibling === before)) return;
  if (before) g.append(before);
  g.append(last);
}

function children(g: SVGGElement, name: string, count: number): SVGElement[] {
  const present = [...g.children].filter((c) => c.tagName === name) as SVGElement[];
  while (present.length < count) {
    const child = document.createElementNS(svg, name);
    g.append(child);
    present.push(child);
  }
  for (const extra of present.splice(count)) extra.remove();
  return present;
}

function attributes(element: Element, values: Record<string, string | number>): void {
  for (const name in values) {
    const value = String(values[name]);
    if (element.getAttribute(name) !== value) element.setAttribute(name, value);
  }
}

export function middleCut(name: string, most: number): string {
  const half = Math.floor((most - 1) / 2);
  return name.length <= most ? name : `${name.slice(0, half)}…${name.slice(-half)}`;
}
