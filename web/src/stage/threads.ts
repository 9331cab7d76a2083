import { Vector3 } from 'three';
import type { LinkThread, Vec3 } from '../core/answers';
import { session } from '../acts/session';
import { axisWord } from '../controls/constraintWords';
import { get } from '../state/store';
import type { HandleSet } from './handleSet';
import { arc, attributes, children, path, tag, type Pixel } from './layer';

/** How long things are drawn, in pixels. */
const sizes = { axis: 52, rod: 24, arc: 44, pennant: 36 };

const colors = ['axis-0', 'axis-1', 'axis-2'];

/** Threads of more picked objects are told apart by nobody. */
const mostPicked = 40;

/**
 * Constraints on the stage: a dashed line from the pivot to the target with an open knot, the letter of the axis that aims, a rod for a
 * hinge with the arc of its limits, a pennant for up, and a sign where one warns. What they show, the core says.
 */
export class Threads {
  private key = '';
  private known: LinkThread[] = [];

  constructor(private readonly handles: HandleSet) {}

  draw(): void {
    const { prepared, heldBy, selection } = get();
    const threads = this.read();
    const picked = new Set(selection);
    for (const thread of threads)
      this.thread(thread, picked.has(thread.node), heldBy?.node === thread.node && heldBy.link === thread.link);
    if (prepared) {
      for (const thread of prepared.threads) this.thread(thread, true, false, 'prepared ');
      if (prepared.axesOf && !prepared.threads.some((t) => t.points)) this.axes(prepared.axesOf, prepared.axis);
    }
  }

  /** Asked of the core when something has changed; while something is tried, at every picture, if there was any before. */
  private read(): LinkThread[] {
    const { selection, allThreads, trying, prepared } = get();
    // What is prepared says it all by itself.
    if ((prepared || selection.length === 0) && !allThreads) return [];
    const key = `${session.changes} ${session.core.revision()} ${allThreads ? 'all' : selection.join()}`;
    if (key !== this.key || (trying && this.known.length > 0) || this.tried !== trying) {
      this.known = session.core.threadsOf(allThreads ? null : selection.slice(-mostPicked));
      this.key = key;
      this.tried = trying;
    }
    return this.known;
  }

  private tried = false;

  private get layer() {
    return this.handles.layer;
  }

  private project(p: Vector3): Pixel | null {
    return this.handles.view.eye.project(p);
  }

  private thread(thread: LinkThread, full: boolean, held: boolean, prefix = ''): void {
    const name = `${prefix}thread-${thread.node}-${thread.link}`;
    const state = `${held ? ' held' : ''}${thread.pulls ? '' : ' off'}${prefix ? ' prepared' : ''}`;
    const at = new Vector3(...thread.at);
    const c = this.project(at);
    const g = this.layer.plain(name, `thread${state}`);
    const knot = thread.target && this.project(new Vector3(...thread.target));
    path(g, 'line', c && knot ? `M${number(c)}L${number(knot)}` : '');
    const [circle] = children(g, 'circle', knot ? 1 : 0);
    if (circle && knot) attributes(circle, { cx: knot.x, cy: knot.y, r: 4.5, class: 'knot' });
    if (!c) return;
    path(g, 'sign', thread.warns ? `M${c.x - 20} ${c.y + 6}l6 -11l6 11z` : '');
    if (!full) return;
    const pixel = this.handles.view.eye.pixel(at);
    if (thread.points && thread.axis)
      this.axis(`${name}-axis`, at, thread.points, thread.axis, pixel * sizes.axis, state);
    if (thread.up) this.pennant(`${name}-up`, at, thread.up, pixel * sizes.pennant, state);
    if (thread.hinge) this.hinge(name, thread, at, pixel, state);
  }

  /** The axis that aims, with its letter. */
  private axis(name: string, at: Vector3, way: Vec3, axis: string, length: number, state: string): void {
    const [from, to] = [this.project(at), this.project(new Vector3(...way).multiplyScalar(length).add(at))];
    if (!from || !to) return;
    const letter = 'xyz'.indexOf(axis.slice(1));
    const g = this.layer.plain(name, `aim-axis ${colors[letter]}${state}`);
    path(g, 'line', `M${number(from)}L${number(to)}`);
    tag(g, to.x, to.y, axisWord(axis));
  }

  /** All own axes, while it is not said yet which of them aims. */
  private axes(id: string, chosen: string | null): void {
    const [at, ...ways] = session.core.ownAxesOf(id);
    if (!at) return;
    const origin = new Vector3(...at);
    const length = this.handles.view.eye.pixel(origin) * sizes.axis;
    ways.forEach((way, i) => {
      const sign = chosen === `-${'xyz'[i]}` ? -1 : 1;
      const state = chosen?.slice(1) === 'xyz'[i] ? ' chosen' : '';
      const signed = way.map((v) => v * sign) as Vec3;
      this.axis(`prepared-axis-${i}`, origin, signed, `${sign < 0 ? '-' : '+'}${'xyz'[i]}`, length, state);
    });
  }

  private pennant(name: string, at: Vector3, up: Vec3, length: number, state: string): void {
    const [foot, top] = [this.project(at), this.project(new Vector3(...up).multiplyScalar(length).add(at))];
    if (!foot || !top) return;
    const g = this.layer.plain(name, `pennant${state}`);
    path(g, 'line', `M${number(foot)}L${number(top)}`);
    path(g, 'sign', `M${number(top)}l10 3.5l-10 3.5z`);
  }

  /** A rod along the hinge, the arc of its limits, and how far it is turned now. */
  private hinge(name: string, { hinge, node, link }: LinkThread, at: Vector3, pixel: number, state: string): void {
    const along = new Vector3(...hinge!.axis);
    const rod = along.clone().multiplyScalar(pixel * sizes.rod);
    const [a, b] = [this.project(at.clone().sub(rod)), this.project(at.clone().add(rod))];
    const g = this.layer.plain(`${name}-hinge`, `hinge${state}`);
    path(g, 'rod', a && b ? `M${number(a)}L${number(b)}` : '');
    const zero = new Vector3(...hinge!.zero);
    const across = along.clone().cross(zero);
    const radius = pixel * sizes.arc;
    const on = (degrees: number) =>
      this.project(arc(zero, across, degrees, degrees, 1)[0]!.multiplyScalar(radius).add(at));
    const { from, to, now } = hinge!;
    const open = from === null && to === null;
    const [low, high] = open ? [0, 0] : [from ?? to! - 180, to ?? from! + 180];
    const points = open
      ? []
      : arc(zero, across, low, Math.min(high, low + 360), 48).map((p) =>
          this.project(p.multiplyScalar(radius).add(at)),
        );
    path(g, 'line', points.every((p) => p) ? points.map((p, i) => `${i ? 'L' : 'M'}${number(p!)}`).join('') : '');
    const tick = on(now);
    const centre = this.project(at);
    path(g, 'now', tick && centre ? `M${number(centre)}L${number(tick)}` : '');
    for (const [end, value] of [
      ['from', from],
      ['to', to],
    ] as const) {
      const c = value === null ? null : on(value);
      if (!c) continue;
      const grip = this.layer.button(
        `${name}-${end}`,
        `limit-grip${state}`,
        `${end === 'from' ? 'At least' : 'At most'} ${Math.round(value! * 100) / 100}°`,
      );
      Object.assign(grip.dataset, { limit: end, node, link, value: String(value) });
      const [hit] = children(grip, 'circle', 1);
      attributes(hit!, { cx: c.x, cy: c.y, r: 12, class: 'hit-area' });
      path(grip, 'sign', `M${c.x - 5} ${c.y}a5 5 0 1 0 10 0a5 5 0 1 0 -10 0`);
    }
  }
}

const number = (p: Pixel) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
