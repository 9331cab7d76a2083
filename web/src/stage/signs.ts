import { Vector3 } from 'three';
import type { Caught, Shadow, Vec3 } from '../core/answers';
import type { OutlineRow } from '../core/outline';
import { answered } from '../acts/asked';
import { session } from '../acts/session';
import { get, isSeen, type PageState } from '../state/store';
import { pick } from './press';
import type { HandleSet } from './handleSet';
import { attributes, children, path, widthOf, type Pixel } from './layer';
import { middleCut } from '../controls/middleCut';

/** What was caught, by the kind of target; drawn about its point. */
const caughtSigns: Record<Caught['kind'], string> = {
  vertex: 'M-3 -3h6v6h-6z',
  pivot: 'M-3.5 0a3.5 3.5 0 1 0 7 0a3.5 3.5 0 1 0 -7 0',
  corner: 'M-5 3v-8h8',
  edgeMiddle: 'M-7 0h14M0 -4v8',
  edge: 'M-7 0h14',
  grid: 'M-5 0h10M0 -5v10',
  face: 'M-7 3l5 -6h9l-5 6z',
};

const colors = ['axis-0', 'axis-1', 'axis-2'];

/** What else is said by small signs over a view: names, marks, what was caught, the axes of the other picked, ways and uprights. */
export class Signs {
  private standInOf = '';

  constructor(private readonly handles: HandleSet) {}

  draw(held: Pixel | null): void {
    const state = get();
    this.marks(state.marks, state.selection, state.currentMark);
    state.shadows.slice(0, 60).forEach((shadow, i) => this.way(i, shadow));
    state.newcomers.slice(0, 60).forEach((corners, i) => this.newcomer(i, corners));
    if (!held) this.groups(state);
    if (held) this.reading(held);
    if (state.caught && held) this.caught(state.caught);
    if (state.snap.from && !held) this.point('snap-from', state.snap.from);
    if (state.picked) this.picked(state.picked.point, state.picked.normal);
    if (state.uprights && !held) this.uprights();
  }

  private get layer() {
    return this.handles.layer;
  }

  private project(p: Vec3 | Vector3): Pixel | null {
    return this.handles.view.eye.project(p instanceof Vector3 ? p : new Vector3(...p));
  }

  flag(c: Pixel, name: string, locked: boolean, standIn: boolean): void {
    const role = locked ? 'locked' : standIn ? 'stand-in for its pivot' : 'lead';
    const at = { x: c.x + 46, y: Math.max(c.y - 84, 46) };
    this.layer.label(
      this.layer.plain('flag', 'flag'),
      `${middleCut(name, 28)} · ${role}`,
      at,
      this.handles.view.eye.width,
    );
  }

  private reading(at: Pixel): void {
    const { reading, caught } = get();
    if (!reading?.amount) return;
    const text = caught ? `${reading.amount} · ${middleCut(caught.words, 40)}` : reading.amount;
    const place = { x: at.x + 18, y: Math.max(10, at.y - 34) };
    this.layer.label(this.layer.plain('reading', 'reading'), text, place, this.handles.view.eye.width);
  }

  /** The pivots of the other picked objects, with short needles where each has axes of its own. */
  others(): void {
    const { eye } = this.handles.view;
    const own = new Map(this.handles.others.map((o) => [o.id, o]));
    const ids = get().selection.slice(0, -1).slice(-200);
    const pivots = ids.length > 0 ? session.core.pivotsOf(ids) : [];
    for (const [k, id] of ids.entries()) {
      const pivot = pivots.slice(3 * k, 3 * k + 3) as Vec3;
      const c = this.project(pivot);
      if (!c || Number.isNaN(pivot[0])) continue;
      const g = this.layer.plain(`other-${id}`, '');
      const [circle] = children(g, 'circle', 1);
      attributes(circle!, { cx: c.x, cy: c.y, r: 3.5, class: 'other-pivot' });
      const axes = own.get(id)?.axes;
      const length = eye.pixel(new Vector3(...pivot)) * 26;
      children(g, 'line', axes ? 3 : 0).forEach((line, i) => {
        const tip = this.project(
          new Vector3(...axes!.slice(3 * i, 3 * i + 3)).multiplyScalar(length).add(new Vector3(...pivot)),
        );
        if (tip) attributes(line, { x1: c.x, y1: c.y, x2: tip.x, y2: tip.y, class: `line small-axis ${colors[i]}` });
      });
    }
  }

  /** Where something would stand that is being added: the edges of its bounds. */
  private newcomer(index: number, numbers: number[]): void {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => this.project(numbers.slice(3 * i, 3 * i + 3) as Vec3));
    path(this.layer.plain(`newcomer-${index}`, 'newcomer'), 'line', edges(corners));
  }

  /** From where a step moved a pivot to where it is now. */
  private way(i: number, { from, to }: Shadow): void {
    const [a, b] = [this.project(from), this.project(to)];
    if (!a || !b || Math.hypot(a.x - b.x, a.y - b.y) < 2) return;
    const g = this.layer.plain(`way-${i}`, 'way');
    const [line] = children(g, 'line', 1);
    const [circle] = children(g, 'circle', 1);
    attributes(line!, { x1: a.x, y1: a.y, x2: b.x, y2: b.y });
    attributes(circle!, { cx: a.x, cy: a.y, r: 3.5 });
  }

  /** Marks: a small kite that points to where their Y does, with their three directions and their name. */
  private marks(marks: OutlineRow[], selection: string[], current: string | null): void {
    const { eye } = this.handles.view;
    const worlds = marks.length > 0 ? session.core.worlds() : null;
    for (const mark of marks) {
      const m = worlds!.subarray(mark.slot * 12, mark.slot * 12 + 12);
      const at = new Vector3(m[3], m[7], m[11]);
      const c = this.project(at);
      if (!c) continue;
      const chosen = selection.includes(mark.id);
      const g = this.layer.button(
        `mark-${mark.id}`,
        `mark${chosen ? ' chosen' : ''}${mark.id === current ? ' current' : ''}`,
        `Mark ${mark.name}`,
      );
      if (!g.dataset['mark']) {
        g.dataset['mark'] = mark.id;
        g.addEventListener('pointerdown', (e) => this.pressMark(e, mark.id));
        g.addEventListener('keydown', (e) => {
          if (e.key === 'Enter' || e.key === ' ') pick(mark.id, e.ctrlKey);
        });
      }
      const length = eye.pixel(at) * 20;
      children(g, 'line', 3).forEach((line, i) => {
        const tip = this.project(new Vector3(m[i], m[4 + i], m[8 + i]).multiplyScalar(length).add(at)) ?? c;
        attributes(line, { x1: c.x, y1: c.y, x2: tip.x, y2: tip.y, class: `line ${colors[i]}` });
      });
      const kite = `M${c.x} ${c.y - 8}L${c.x + 6} ${c.y}L${c.x} ${c.y + 8}L${c.x - 6} ${c.y}Z`;
      path(g, 'hit-area', circleAt(c, 13));
      path(g, 'kite', kite);
      const [words] = children(g, 'text', 1) as SVGTextElement[];
      const text = mark.id === current ? `${middleCut(mark.name, 24)} · new objects here` : middleCut(mark.name, 24);
      if (words!.textContent !== text) words!.textContent = text;
      // At the right edge the name stands before the kite, so that it can be read.
      const before = c.x + 12 + widthOf(text, false) > eye.width - 6;
      attributes(words!, { x: before ? c.x - 12 : c.x + 12, y: c.y + 12, 'text-anchor': before ? 'end' : 'start' });
    }
  }

  /** The bounds of picked groups, and a small sign for each that is empty; neither is ever in a picture. */
  private groups(state: PageState): void {
    for (const id of state.selection.slice(-20)) {
      if (state.byId.get(id)?.kind !== 'group') continue;
      const bounds = state.trying || (state.children.get(id) ?? []).length === 0 ? null : boundsOf(id);
      if (!bounds) continue;
      const corner = (i: number): Vec3 => [
        (i & 1 ? bounds.high : bounds.low)[0],
        (i & 2 ? bounds.high : bounds.low)[1],
        (i & 4 ? bounds.high : bounds.low)[2],
      ];
      const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => this.project(corner(i)));
      path(this.layer.plain(`group-${id}`, 'group-bounds'), 'line', edges(corners));
    }
    const empty = emptyGroups(state);
    const worlds = empty.length > 0 ? session.core.worlds() : null;
    for (const { id } of empty) {
      const row = state.byId.get(id);
      if (!row || !isSeen(state, row)) continue;
      const m = worlds!.subarray(row.slot * 12, row.slot * 12 + 12);
      const c = this.project(new Vector3(m[3], m[7], m[11]));
      if (!c) continue;
      const g = this.layer.button(
        `empty-${row.id}`,
        `empty-group${state.selection.includes(row.id) ? ' chosen' : ''}`,
        `Empty group ${row.name}`,
      );
      if (!g.dataset['group']) {
        g.dataset['group'] = row.id;
        g.addEventListener('pointerdown', (e) => this.pressMark(e, row.id));
        g.addEventListener('keydown', (e) => {
          if (e.key === 'Enter' || e.key === ' ') pick(row.id, e.ctrlKey);
        });
      }
      path(g, 'hit-area', circleAt(c, 12));
      path(g, 'sign', `M${c.x - 6} ${c.y - 6}h12v12h-12zM${c.x - 3} ${c.y}h6M${c.x} ${c.y - 3}v6`);
    }
  }

  private pressMark(event: PointerEvent, id: string): void {
    if (event.button !== 0 || (get().picking && !asksForMark())) return;
    event.preventDefault();
    event.stopPropagation();
    if (!answered(id)) pick(id, event.ctrlKey || event.metaKey);
  }

  private caught({ point, kind, normal }: Caught): void {
    const c = this.project(point);
    if (!c) return;
    const g = this.layer.plain('caught', 'caught');
    const [circle] = children(g, 'circle', 1);
    attributes(circle!, { cx: c.x, cy: c.y, r: 10 });
    path(g, 'sign', caughtSigns[kind]);
    g.querySelector('.sign')!.setAttribute('transform', `translate(${c.x} ${c.y})`);
    this.upright('caught-normal', point, normal);
  }

  private point(name: string, at: Vec3): void {
    const c = this.project(at);
    if (!c) return;
    const [circle] = children(this.layer.plain(name, 'caught'), 'circle', 1);
    attributes(circle!, { cx: c.x, cy: c.y, r: 6 });
  }

  /** A point or a direction that was picked off a surface. */
  private picked(at: Vec3, normal: Vec3 | null): void {
    this.point('picked-point', at);
    this.upright('picked-normal', at, normal);
  }

  private upright(name: string, at: Vec3, normal: Vec3 | null): void {
    const from = this.project(at);
    const origin = new Vector3(...at);
    const length = this.handles.view.eye.pixel(origin) * 34;
    const to = normal && this.project(new Vector3(...normal).multiplyScalar(length).add(origin));
    if (!from || !to) return;
    const [line] = children(this.layer.plain(name, 'upright'), 'line', 1);
    attributes(line!, { x1: from.x, y1: from.y, x2: to.x, y2: to.y });
  }

  /** Uprights of the faces of what is picked, as short lines. */
  private uprights(): void {
    const lines = this.handles.stage.uprights();
    let d = '';
    for (const { at, way } of lines) {
      const [a, b] = [
        this.project(at),
        this.project(at.clone().addScaledVector(way, this.handles.view.eye.pixel(at) * 12)),
      ];
      if (a && b) d += `M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`;
    }
    path(this.layer.plain('uprights', 'uprights'), 'line', d);
  }

  /** A pivot out of sight: a tag at the edge points to it; pressed, stand-ins for the handles come into view. */
  outOfSight(centre: Vector3, name: string): void {
    const { handles } = this;
    const { eye } = handles.view;
    // A camera that is looked through stands where the eye is: nothing of it lies aside.
    const { camera } = handles.view.state();
    if (camera !== null && get().selection.at(-1) === camera) return;
    const key = get().selection.join();
    if (handles.standIn && key !== this.standInOf) handles.standIn = null;
    const c = this.project(handles.standIn ? new Vector3(...handles.frame!.centre) : centre);
    const foot = get().layout === 'one' && eye.lens === null ? get().foot : 0;
    const high = eye.height - foot;
    const inside = c && c.x > 0 && c.y > 0 && c.x < eye.width && c.y < high;
    if (inside && handles.standIn) {
      handles.standIn = null;
      return;
    }
    if (inside) return;
    // Behind the eye it lies the other way round.
    const p = eye.inView(handles.frame ? new Vector3(...handles.frame.centre) : centre);
    const way = { x: p.x, y: -p.y };
    const k = 1 / Math.max(1e-9, Math.abs(way.x) / (eye.width / 2 - 90), Math.abs(way.y) / (high / 2 - 40));
    const at = { x: eye.width / 2 + way.x * k, y: high / 2 + way.y * k };
    const text = handles.standIn
      ? `Pivot of ${middleCut(name, 20)} is there`
      : `Pivot of ${middleCut(name, 20)}: bring handles here`;
    const g = this.layer.button('out-of-sight', 'out-of-sight', text);
    if (!g.dataset['bound']) {
      g.dataset['bound'] = 'yes';
      const bring = (e: Event) => {
        e.preventDefault();
        e.stopPropagation();
        this.standInOf = get().selection.join();
        handles.standIn = handles.standIn ? null : eye.look.target.clone();
        handles.stage.draw();
      };
      g.addEventListener('pointerdown', bring);
      g.addEventListener('keydown', (e) => {
        if (e.key === 'Enter' || e.key === ' ') bring(e);
      });
    }
    const angle = (Math.atan2(way.y, way.x) * 180) / Math.PI;
    path(g, 'arrow', 'M12 -6L22 0L12 6Z');
    g.querySelector('.arrow')!.setAttribute('transform', `translate(${at.x} ${at.y}) rotate(${angle})`);
    this.layer.label(g, text, { x: at.x - 110, y: at.y + (at.y > high / 2 ? -38 : 14) }, eye.width);
  }
}

/** Marks can be what a constraint goes by. */
const asksForMark = () => get().picking === 'target' || get().picking === 'upward';

/** The twelve edges between eight corners, x first. */
function edges(corners: (Pixel | null)[]): string {
  let d = '';
  for (let i = 0; i < 8; i++)
    for (const bit of [1, 2, 4]) {
      const [a, b] = [corners[i], corners[i | bit]];
      if (i & bit || !a || !b) continue;
      d += `M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`;
    }
  return d;
}

function circleAt(c: Pixel, r: number): string {
  return `M${c.x - r} ${c.y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
}

/** Bounds are asked of the core once after a change, however often the stage is drawn. */
const known = new Map<string, ReturnType<typeof session.core.boundsOf>>();
let knownAt = '';

function boundsOf(id: string): ReturnType<typeof session.core.boundsOf> {
  const at = `${get().scene?.id} ${session.changes}`;
  if (at !== knownAt || known.size > 500) known.clear();
  knownAt = at;
  if (!known.has(id)) known.set(id, session.core.boundsOf([id]));
  return known.get(id)!;
}

let emptyOf: { children: PageState['children']; rows: OutlineRow[] } | null = null;

/** Groups that carry nothing, looked for anew only when the tree has changed. */
function emptyGroups({ rows, children }: PageState): OutlineRow[] {
  if (emptyOf?.children !== children)
    emptyOf = { children, rows: rows.filter((r) => r.kind === 'group' && !children.has(r.id)).slice(0, 100) };
  return emptyOf.rows;
}
