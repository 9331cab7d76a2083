import { Vector3 } from 'three';
import { isRefusal, type Frame } from '../core/answers';
import { template } from '../acts/edits';
import { session } from '../acts/session';
import { ownSettings } from '../state/ownSettings';
import { get, set, type Verb, isLocked } from '../state/store';
import { HandleDrag } from './handleDrag';
import { arc, arcFrame, area, attributes, children, Layer, path, svg, tag, toEnd, type Pixel } from './layer';
import { LensHands } from './lensHands';
import { LimitHands } from './limitHands';
import { Signs } from './signs';
import { Threads } from './threads';
import type { HandleSet, OwnAxes } from './handleSet';
import type { OnStage } from './onStage';
import type { View } from './view';

const letters = 'XYZ';
const usualLength = 92;

type At = (v: Vector3) => Pixel | null;

/**
 * The handles, drawn as vector shapes over the stage: needles that end in letters, quarter discs between two needles, an
 * open ring for the view plane, arcs with degrees, pads. They keep one size on the screen and never flip; each can be
 * reached by Tab or arrows and then takes a number.
 */
export class Handles implements HandleSet {
  frame: Frame | null = null;
  /** Of the other picked objects, where each has axes of its own. */
  others: OwnAxes[] = [];
  private key = '';
  readonly layer: Layer;
  private readonly signs: Signs;
  private readonly drag: HandleDrag;
  private readonly lens: LensHands;
  private readonly threads: Threads;
  private readonly limits: LimitHands;
  /** What stands about the centre of the handles; moves with it as a whole. */
  private readonly centred = document.createElementNS(svg, 'g');
  /** Where stand-ins for handles out of sight are; null: the handles stand at their true place. */
  standIn: Vector3 | null = null;

  constructor(
    private readonly root: SVGSVGElement,
    readonly stage: OnStage,
    readonly view: View,
  ) {
    root.append(this.centred);
    this.layer = new Layer(root);
    this.drag = new HandleDrag(root, this);
    this.lens = new LensHands(root, this);
    this.limits = new LimitHands(root, this);
    this.signs = new Signs(this);
    this.threads = new Threads(this);
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
    return this.drag.held !== null || this.lens.dragging || this.limits.dragging;
  }

  invalidate(): void {
    this.key = '';
  }

  putBack(): void {
    this.drag.putBack();
    this.lens.putBack();
    this.limits.putBack();
  }

  /** Takes away what was drawn: a view that is not shown holds nothing of former scenes. */
  clear(): void {
    this.layer.begin();
    this.layer.end();
  }

  /** Draws everything at its present place. */
  update(): void {
    const state = get();
    const { held } = this.drag;
    if (!held) this.read();
    const { eye } = this.view;
    this.layer.begin();
    const { frame } = this;
    const row = state.byId.get(state.lead?.node.id ?? '');
    const locked = row !== undefined && isLocked(state, row);
    if (frame && state.lead) {
      const centre = this.centre(frame);
      const place = eye.project(centre);
      const drawn =
        place && place.x > -200 && place.y > -200 && place.x < eye.width + 200 && place.y < eye.height + 200;
      if (drawn) {
        if (state.handlesOn && !locked && !state.plan) this.drawVerb(frame, centre);
        this.drawPivot(state.verb === 'pivot');
        attributes(this.centred, { transform: `translate(${place.x.toFixed(2)} ${place.y.toFixed(2)})` });
        // While it is dragged, the sentence says what moves; the flag would lie over the amount.
        if (this.stage.view === this.view && !held)
          this.signs.flag(place, state.lead.node.name, locked, this.standIn !== null);
      }
      if (this.stage.view === this.view && !held && !state.plan) this.signs.outOfSight(centre, state.lead.node.name);
      this.signs.others();
      if (state.handlesOn && !locked && !state.plan && !held) this.lens.draw();
    }
    // All that is picked has of its own in the shot what the edit would change in every shot.
    this.root.toggleAttribute('data-hollow', state.refused === 'cheated' && !held);
    this.threads.draw();
    this.signs.draw(held?.at ?? null);
    this.layer.end();
  }

  /** Asks the core where the handles stand, when anything that decides it has changed. */
  read(): void {
    const world = () => this.view.eye.world();
    const t = session.template(world);
    const key = t ? JSON.stringify([t, session.core.revision(), get().lead?.node.placement]) : '';
    if (key === this.key && key !== '') return;
    this.key = key;
    const answer = t ? session.core.frame(t.edit, t.space, false) : null;
    this.frame = answer && !isRefusal(answer) ? answer : null;
    const state = get();
    const { kind } = (t?.space ?? {}) as { kind?: string };
    const each = kind === 'own' || kind === 'parent' || kind === 'channels';
    this.others = [];
    if (!each || !state.handlesOn) return;
    for (const id of state.selection.slice(0, -1).slice(-60)) {
      const one = template(world, { ...state, selection: [id] });
      const own = one && session.core.frame(one.edit, one.space, false);
      if (own && !isRefusal(own)) this.others.push({ id, centre: new Vector3(...own.centre), axes: own.axes });
    }
  }

  /** Where the handles are drawn: at the point that the edit works about, or at their stand-in. */
  centre(frame: Frame): Vector3 {
    const centre = this.standIn?.clone() ?? new Vector3(...frame.centre);
    const pivot = get().lead?.pivotInWorld;
    const rides = get().verb === 'move' || get().verb === 'pivot';
    const { held } = this.drag;
    if (held?.startPivot && rides && pivot) centre.add(new Vector3(...pivot)).sub(held.startPivot);
    return centre;
  }

  /** How far a stand-in stands from the true place. */
  offset(): Vector3 {
    return this.standIn && this.frame ? new Vector3(...this.frame.centre).sub(this.standIn) : new Vector3();
  }

  axis(frame: Frame, i: number): Vector3 {
    return new Vector3(frame.axes[3 * i], frame.axes[3 * i + 1], frame.axes[3 * i + 2]);
  }

  /** How long needles are at a point, in metres. */
  size(centre: Vector3): number {
    return this.view.eye.pixel(centre) * this.length;
  }

  /** The axis words of the sentence follow the handle that is taken. */
  setAxes(axes: [boolean, boolean, boolean]): void {
    const { verb } = get();
    set({ axes: { ...get().axes, [verb]: axes } });
    this.invalidate();
    this.stage.draw();
  }

  private drawVerb(frame: Frame, centre: Vector3): void {
    const { verb, allHandles } = get();
    const size = this.size(centre);
    const c = this.view.eye.project(centre)!;
    // From the centre, in tenths of a pixel: while it moves, hardly anything but its place is written anew.
    const tenth = (v: number) => Math.round(v * 10) / 10;
    const at: At = (v) => {
      const p = this.view.eye.project(centre.clone().addScaledVector(v, size));
      return p && { x: tenth(p.x - c.x), y: tenth(p.y - c.y) };
    };
    const axes = [0, 1, 2].map((i) => this.axis(frame, i));
    // Later parts lie over earlier ones: flat quarter discs must not be hidden below the ring.
    const moves = verb === 'move' || verb === 'pivot' || allHandles;
    const turns = verb === 'rotate' || verb === 'pivot' || allHandles;
    const movesAs = verb === 'pivot' ? 'pivot' : 'move';
    const channels = get().spaces.rotate === 'channels';
    if (verb === 'rotate' && !allHandles && !channels) this.drawBall();
    if (moves) this.drawCircle('ring', movesAs, 16, `${says(movesAs)} in the view plane`);
    if (moves) for (const i of [0, 1, 2]) this.drawQuarter(movesAs, i, axes, at);
    if (turns) this.drawArcs(verb === 'pivot' ? 'pivot' : 'rotate', axes, at, centre, moves ? 0.72 : 1);
    for (const i of [0, 1, 2]) {
      if (moves) this.drawNeedle('needle', movesAs, i, axes[i]!, at);
      else if (verb === 'rotate') this.drawNeedle('tag', 'rotate', i, axes[i]!, at);
      if (verb === 'scale' && !allHandles) this.drawNeedle('pad', 'scale', i, axes[i]!, at);
      else if (allHandles) this.drawLonePad(i, axes[i]!, at);
    }
    if (verb === 'scale' && !allHandles) for (const i of [0, 1, 2]) this.drawQuarterPad(i, axes, at);
    if (verb === 'scale' || allHandles) this.drawRoundPad(allHandles);
    if (verb === 'rotate' && !allHandles && !channels)
      this.drawCircle('viewArc', 'rotate', this.length * 1.22, 'Rotate in the view plane');
  }

  private part(name: string, className: string, handle: string, verb: Verb, axis: number, label: string): SVGGElement {
    const g = this.layer.button(name, className, label, this.centred);
    g.dataset['handle'] = handle;
    g.dataset['axis'] = String(axis);
    g.dataset['verb'] = verb;
    const chosen =
      get().axes[verb][axis] && get().verb === verb && className !== 'axis-none' && !handle.startsWith('quarter');
    if (chosen) g.setAttribute('data-chosen', '');
    else g.removeAttribute('data-chosen');
    return g;
  }

  private drawNeedle(part: 'needle' | 'tag' | 'pad', verb: Verb, i: number, axis: Vector3, at: At): void {
    const [from, to] = [at(axis.clone().multiplyScalar(part === 'pad' ? 0.2 : 0.14)), at(axis)];
    if (!from || !to) return;
    const g = this.part(`${part}-${i}`, `axis-${i}`, part, verb, i, `${says(verb)} along ${letters[i]}`);
    // One that points at the eye gives way to what stands in the middle.
    const aside = Math.hypot(to.x, to.y) < 32 && !this.dragging;
    g.style.opacity = aside ? '0.25' : '';
    g.toggleAttribute('data-aside', aside);
    // The middle belongs to the ring or the round pad: needles are taken a little way off it.
    const hold = at(axis.clone().multiplyScalar(0.34));
    if (part !== 'tag' && hold) path(g, 'hit', `M${hold.x} ${hold.y}L${to.x} ${to.y}`);
    path(g, part === 'tag' ? 'line thin' : 'line', `M${from.x} ${from.y}L${to.x} ${to.y}`);
    // A short bar across the needle, a little before its letter.
    if (part === 'pad') path(g, 'line pad', bar(at(axis.clone().multiplyScalar(0.78)), from, to));
    tag(g, to.x, to.y, this.channelLetter(i));
  }

  /** In the rotation channels' space each axis is named with its channel: outer, middle, inner. */
  private channelLetter(i: number): string {
    const order = get().lead?.node.placement.order;
    if (!order || get().verb !== 'rotate' || get().spaces.rotate !== 'channels') return letters[i]!;
    return letters[i]! + ['₁', '₂', '₃'][order.indexOf(letters[i]!)]!;
  }

  /** In the set with all kinds, a size pad lies beside each needle. */
  private drawLonePad(i: number, axis: Vector3, at: At): void {
    const [from, p, to] = [0.4, 0.5, 0.6].map((share) => at(axis.clone().multiplyScalar(share)));
    if (!from || !p || !to || Math.hypot(to.x - from.x, to.y - from.y) < 4) return;
    const g = this.part(`pad-${i}`, `axis-${i}`, 'pad', 'scale', i, `Scale along ${letters[i]}`);
    const d = bar(p, from, to, 11);
    path(g, 'hit', d);
    path(g, 'line pad', d);
  }

  private drawQuarter(verb: Verb, i: number, axes: Vector3[], at: At): void {
    const [a, b] = [axes[(i + 1) % 3]!, axes[(i + 2) % 3]!];
    const points = arc(a, b, 0, 90, 8);
    const outer = points.map((p) => at(p.clone().multiplyScalar(0.5)));
    const inner = points.map((p) => at(p.clone().multiplyScalar(0.3))).toReversed();
    const all = [...outer, ...inner];
    if (all.some((p) => p === null)) return;
    if (area(all as Pixel[]) < 90 && !this.dragging) return;
    const pair = [letters[(i + 1) % 3], letters[(i + 2) % 3]].toSorted().join(' and ');
    const g = this.part(`quarter-${i}`, `axis-${i}`, 'quarter', verb, i, `${says(verb)} along ${pair}`);
    const d = `M${all.map((p) => `${p!.x} ${p!.y}`).join('L')}Z`;
    path(g, 'hit-area', d);
    path(g, 'fill', d);
  }

  private drawArcs(verb: Verb, axes: Vector3[], at: At, centre: Vector3, radius: number): void {
    const eye = this.view.eye.position().sub(centre).normalize();
    const { held } = this.drag;
    const single = get().verb === 'rotate' && !get().allHandles;
    for (const i of [0, 1, 2]) {
      const { a, b } = arcFrame(axes, i);
      const taken = held?.part === 'arc' && held.axis === i;
      const whole = (single && get().axes.rotate[i]) || taken;
      const what = verb === 'pivot' ? 'Turn the pivot about' : 'Rotate about';
      const g = this.part(`arc-${i}`, `axis-${i}`, 'arc', verb, i, `${what} ${letters[i]}`);
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
        const [from, to] = single ? [10, 80] : [18, 72];
        const points = arc(a, b, from, to, 14).map((p) => at(p.clone().multiplyScalar(single ? 0.86 : radius)));
        points.forEach((p, k) => (near += p ? `${points[k - 1] ? 'L' : 'M'}${p.x} ${p.y}` : ''));
      }
      path(g, 'hit', near);
      path(g, 'line arc', near);
      path(g, 'line far', far);
      path(g, 'line thin', scale);
      this.drawWedge(g, i, a, b, at);
    }
  }

  /** The swept angle, filled lightly, from where the arc was taken. */
  private drawWedge(g: SVGGElement, i: number, a: Vector3, b: Vector3, at: At): void {
    const { held } = this.drag;
    const swept = held?.part === 'arc' && held.axis === i ? held.sweep : 0;
    const zero = at(new Vector3());
    if (swept === 0 || !zero || !held) {
      path(g, 'wedge', '');
      return;
    }
    const whole = Math.max(-360, Math.min(360, swept));
    const points = arc(a, b, held.startAngle, held.startAngle + whole, 40).map(at);
    path(g, 'wedge', `M${zero.x} ${zero.y}${points.map((p) => (p ? `L${p.x} ${p.y}` : '')).join('')}Z`);
  }

  private drawCircle(part: string, verb: Verb, radius: number, label: string): void {
    const g = this.part(part, 'axis-none', part, verb, 0, label);
    const d = circle(radius);
    if (part === 'ring') path(g, 'hit-area', d);
    else path(g, 'hit', d);
    path(g, 'line thin', d);
  }

  /** The room inside the arcs, in which a drag turns freely. */
  private drawBall(): void {
    const g = this.part('ball', 'axis-none', 'ball', 'rotate', 0, 'Rotate freely');
    const d = circle(this.length * 0.6);
    path(g, 'hit-area', d);
    path(g, 'line ball', d);
  }

  /** A pad between two needles sizes along both. */
  private drawQuarterPad(i: number, axes: Vector3[], at: At): void {
    const [a, b] = [axes[(i + 1) % 3]!, axes[(i + 2) % 3]!];
    const corner = (x: number, y: number) => at(a.clone().multiplyScalar(x).addScaledVector(b, y));
    const points = [corner(0.42, 0.42), corner(0.58, 0.42), corner(0.58, 0.58), corner(0.42, 0.58)];
    if (points.some((p) => p === null) || (area(points as Pixel[]) < 40 && !this.dragging)) return;
    const pair = [letters[(i + 1) % 3], letters[(i + 2) % 3]].toSorted().join(' and ');
    const g = this.part(`quarterPad-${i}`, `axis-${i}`, 'quarterPad', 'scale', i, `Scale along ${pair}`);
    const d = `M${points.map((p) => `${p!.x} ${p!.y}`).join('L')}Z`;
    path(g, 'hit', d);
    path(g, 'fill', d);
  }

  private drawRoundPad(beside: boolean): void {
    const g = this.part('roundPad', 'axis-none', 'roundPad', 'scale', 0, 'Scale along all three');
    // Beside the ring, where that is drawn, too.
    const at = beside ? { x: -this.length * 0.5, y: this.length * 0.5 } : { x: 0, y: 0 };
    g.setAttribute('transform', `translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`);
    path(g, 'hit-area', circle(17));
    path(g, 'fill', circle(beside ? 10 : 14));
  }

  private drawPivot(editing: boolean): void {
    const g = this.layer.plain('pivot', this.standIn ? 'pivot stand-in' : 'pivot', this.centred);
    const circles = children(g, 'circle', 2);
    attributes(circles[0]!, { r: editing ? 8 : 6 });
    attributes(circles[1]!, { r: 2 });
    const lines = children(g, 'line', editing ? 4 : 0);
    [[1, 0], [-1, 0], [0, 1], [0, -1]].forEach(([x, y], i) => {
      if (lines[i]) attributes(lines[i], { x1: x! * 8, y1: y! * 8, x2: x! * 15, y2: y! * 15 });
    }); // prettier-ignore
    toEnd(g, circles[1]!);
  }
}

function says(verb: Verb): string {
  return { move: 'Move', rotate: 'Rotate', scale: 'Scale', pivot: 'Move the pivot' }[verb];
}

function circle(radius: number): string {
  return `M${-radius} 0a${radius} ${radius} 0 1 0 ${2 * radius} 0a${radius} ${radius} 0 1 0 ${-2 * radius} 0`;
}

/** A short stroke across a needle. */
function bar(p: Pixel | null, from: Pixel, to: Pixel, half = 8): string {
  if (!p) return '';
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const k = half / Math.max(1, Math.hypot(dx, dy));
  return `M${p.x - dy * k} ${p.y + dx * k}L${p.x + dy * k} ${p.y - dx * k}`;
}
