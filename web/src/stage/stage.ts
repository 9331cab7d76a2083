import {
  Color,
  DirectionalLight,
  HemisphereLight,
  MathUtils,
  PCFShadowMap,
  Plane,
  Raycaster,
  Scene,
  Vector3,
  WebGLRenderer,
  type Mesh,
  type Object3D,
} from 'three';
import type { OutlineRow } from '../core/bridge';
import { session, type Picture } from '../state/session';
import { get, set, type ViewName } from '../state/store';
import { Eye, type Look } from './eye';
import { Ground } from './ground';
import { Handles } from './handles';
import { Outlines, type Marking, type Rectangle } from './outlines';
import { Pace } from './pace';
import { Pictures } from './pictures';

const turns: Record<Exclude<ViewName, 'perspective' | 'free'>, [number, number]> = {
  front: [0, 0],
  back: [Math.PI, 0],
  right: [Math.PI / 2, 0],
  left: [-Math.PI / 2, 0],
  top: [0, MathUtils.degToRad(89.9)],
  bottom: [0, MathUtils.degToRad(-89.9)],
};

/** The stage: draws on demand, never in a loop. Plain classes around three.js; where anything stands, the core says. */
export class Stage implements Picture {
  readonly eye = new Eye();
  readonly pictures = new Pictures();
  private readonly scene = new Scene();
  private readonly renderer: WebGLRenderer;
  private readonly ground = new Ground();
  private readonly outlines = new Outlines();
  private readonly sky = new HemisphereLight();
  private readonly sun = new DirectionalLight();
  private readonly raycaster = new Raycaster();
  readonly handles: Handles;
  readonly pace = new Pace(() => this.resize(this.eye.width, this.eye.height));
  private requested = 0;
  private colors = { stage: '', ink: '', plum: '', night: false };
  /** Metres between the dots of the ground. */
  spacing = 1;
  frames = 0;
  /** Milliseconds that the last drawing kept the page's thread. */
  drawTime = 0;

  constructor(
    canvas: HTMLCanvasElement,
    overlay: SVGSVGElement,
    private readonly onDraw: () => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.renderer.shadowMap.autoUpdate = false;
    this.scene.matrixWorldAutoUpdate = false;
    this.sun.castShadow = true;
    this.sun.shadow.mapSize.set(1536, 1536);
    this.sun.shadow.bias = -0.0006;
    this.sun.shadow.normalBias = 0.02;
    this.sun.shadow.radius = 5;
    this.sun.shadow.intensity = 0.62;
    this.scene.add(this.sky, this.sun, this.sun.target, this.ground.group, this.pictures.group);
    this.pictures.seenOf = (row) => this.seen(row);
    this.raycaster.firstHitOnly = true;
    this.handles = new Handles(overlay, this);
    this.readColors();
  }

  resize(width: number, height: number): void {
    const ratio = Math.min(2, window.devicePixelRatio || 1) * (this.pace.coarse ? 0.5 : 1);
    this.eye.resize(width, height);
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    this.outlines.resize(width, height, ratio);
    this.draw();
  }

  /** The theme's colours, asked of the page. */
  readColors(): void {
    const style = getComputedStyle(document.documentElement);
    const color = (name: string) => style.getPropertyValue(name).trim();
    const night = document.documentElement.dataset['theme'] === 'night';
    this.colors = { stage: color('--stage'), ink: color('--ink-3'), plum: color('--plum'), night };
    this.scene.background = new Color(this.colors.stage);
    this.sky.color.set(night ? '#8f97a8' : '#fffaf0');
    this.sky.groundColor.set(night ? '#3a332a' : '#b09f82');
    this.sky.intensity = night ? 1.1 : 1.75;
    this.sun.color.set(night ? '#ffdfb0' : '#fff2dc');
    this.sun.intensity = night ? 1.5 : 2.1;
    this.draw();
  }

  rebuild(): void {
    this.pictures.rebuild(get().rows, this.eye.origin);
    this.renderer.shadowMap.needsUpdate = true;
    this.handles.invalidate();
    this.draw();
  }

  looksChanged(ids: string[]): void {
    const { byId, children } = get();
    // A switch shows or hides what rides along, too.
    const all = new Set(ids);
    const walk = [...ids];
    for (let id = walk.pop(); id !== undefined; id = walk.pop()) {
      for (const child of children.get(id) ?? []) {
        if (!all.has(child)) {
          all.add(child);
          walk.push(child);
        }
      }
    }
    this.pictures.update([...all], byId, this.eye.origin);
    this.renderer.shadowMap.needsUpdate = true;
    this.draw();
  }

  worldsChanged(all: boolean): void {
    this.pictures.place(all ? null : session.core.changed(), this.eye.origin);
    this.renderer.shadowMap.needsUpdate = true;
    if (all) this.handles.invalidate();
    this.draw();
  }

  draw(): void {
    if (this.requested === 0) this.requested = requestAnimationFrame((now) => this.drawNow(now));
  }

  viewWorld(): number[] {
    return this.eye.world();
  }

  /** Looks at some nodes, or at everything. */
  frame(ids: string[] | null, glide: boolean): void {
    const bounds = session.core.boundsOf(ids ?? get().children.get(null) ?? []);
    const low = new Vector3(...(bounds?.low ?? [-2, 0, -2]));
    const high = new Vector3(...(bounds?.high ?? [2, 2, 2]));
    const radius = Math.max(low.distanceTo(high) / 2, 1e-3);
    this.eye.glideTo(this.eye.framing(low.add(high).multiplyScalar(0.5), radius), glide);
    this.draw();
  }

  startView(): void {
    this.eye.parallel = false;
    set({ view: { name: 'perspective', parallel: false } });
    const all = session.core.boundsOf(get().children.get(null) ?? []);
    this.eye.look = { target: new Vector3(0, 0.9, 0), yaw: 0.42, pitch: 0.3, distance: 8.6 };
    // A scene without anything to see begins with a piece of ground.
    if (!all || !get().rows.some((row) => row.kind === 'shape' || row.kind === 'mesh')) return;
    const size = Math.max(...[0, 1, 2].map((i) => all.high[i]! - all.low[i]!));
    // Rooms are entered; things are looked at from outside.
    if (size > 8 && size < 40) return;
    const look = this.eye.framing(
      new Vector3(...all.low).add(new Vector3(...all.high)).multiplyScalar(0.5),
      Math.max(size * 0.62, 1e-3),
    );
    this.eye.look = { ...look, yaw: 0.6, pitch: 0.35 };
  }

  show(name: ViewName): void {
    const look: Look = { ...this.eye.look, target: this.eye.look.target.clone() };
    if (name === 'perspective' || name === 'free') {
      this.eye.parallel = false;
      if (name === 'perspective' && Math.abs(look.pitch) > 1.5) Object.assign(look, { yaw: 0.42, pitch: 0.3 });
    } else {
      [look.yaw, look.pitch] = turns[name];
      this.eye.parallel = true;
    }
    set({ view: { name, parallel: this.eye.parallel } });
    this.eye.glideTo(look, true);
    this.draw();
  }

  toggleParallel(): void {
    this.eye.parallel = !this.eye.parallel;
    set({ view: { name: get().view.name, parallel: this.eye.parallel } });
    this.draw();
  }

  /** What stands under a pixel. */
  pick(x: number, y: number): { id: string; point: Vector3; normal: Vector3 } | null {
    this.aim(x, y);
    const hit = this.pictures.pick(this.raycaster);
    if (!hit) return null;
    const mesh = hit.object as Mesh;
    const normal = (hit.face?.normal.clone() ?? new Vector3(0, 1, 0)).transformDirection(mesh.matrixWorld);
    return { id: this.pictures.idOf(hit.object), point: hit.point.add(this.eye.origin), normal };
  }

  /** The point of the scene under a pixel: on an object, on the ground, or at the distance looked at. */
  under(x: number, y: number): Vector3 {
    const hit = this.pick(x, y);
    if (hit) return hit.point;
    this.aim(x, y);
    const ground = this.raycaster.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), this.eye.origin.y), new Vector3());
    const at = ground?.add(this.eye.origin);
    if (at && at.distanceTo(this.eye.position()) < this.eye.look.distance * 6) return at;
    const facing = new Plane().setFromNormalAndCoplanarPoint(
      this.eye.camera.getWorldDirection(new Vector3()),
      this.eye.look.target.clone().sub(this.eye.origin),
    );
    return (
      this.raycaster.ray.intersectPlane(facing, new Vector3())?.add(this.eye.origin) ?? this.eye.look.target.clone()
    );
  }

  dispose(): void {
    cancelAnimationFrame(this.requested);
    this.pace.dispose();
    this.renderer.dispose();
  }

  private aim(x: number, y: number): void {
    const [ox, oy, oz, dx, dy, dz] = this.eye.ray(x, y);
    this.raycaster.ray.origin.set(ox!, oy!, oz!).sub(this.eye.origin);
    this.raycaster.ray.direction.set(dx!, dy!, dz!);
    this.raycaster.near = 0;
    this.raycaster.far = Infinity;
    this.raycaster.camera = this.eye.camera;
    // Lines and points are taken within a few pixels.
    const reach = this.eye.pixel(this.eye.look.target) * 4;
    this.raycaster.params.Line.threshold = reach;
    this.raycaster.params.Points.threshold = reach;
  }

  private seen(row: OutlineRow): boolean {
    const { byId } = get();
    for (let at: OutlineRow | undefined = row; at; at = at.parent === null ? undefined : byId.get(at.parent)) {
      if (!at.working) return false;
    }
    return true;
  }

  private drawNow(now: number): void {
    const started = performance.now();
    this.requested = 0;
    this.pace.drawing(started);
    if (this.eye.advance(now)) this.draw();
    if (this.eye.update()) this.pictures.place(null, this.eye.origin);
    this.spacing = this.ground.update(
      this.eye.origin,
      this.eye.look.target,
      this.eye.look.distance,
      this.colors.ink,
      this.renderer.getPixelRatio(),
    );
    this.light();
    this.renderer.setRenderTarget(null);
    this.renderer.render(this.scene, this.eye.camera);
    const marked = this.marked();
    const around = this.around(marked.map(([object]) => object));
    this.outlines.draw(this.renderer, this.scene, this.eye.camera, marked, around, this.colors.plum);
    this.handles.update();
    this.frames++;
    this.drawTime = performance.now() - started;
    this.onDraw();
  }

  /** One soft sun over the shoulder of the scene; its shadow covers what is drawn. */
  private light(): void {
    if (!this.renderer.shadowMap.needsUpdate) return;
    const sphere = this.pictures.bounds();
    this.ground.showShade(sphere.radius < 6);
    const radius = Math.min(sphere.radius, this.eye.look.distance * 3);
    this.sun.target.position.copy(sphere.center);
    this.sun.position.copy(sphere.center).addScaledVector(new Vector3(0.72, 0.85, 0.26).normalize(), radius * 2);
    const camera = this.sun.shadow.camera;
    [camera.left, camera.right, camera.bottom, camera.top] = [-radius, radius, -radius, radius];
    [camera.near, camera.far] = [radius * 0.2, radius * 4];
    camera.updateProjectionMatrix();
    this.sun.updateMatrixWorld(true);
    this.sun.target.updateMatrixWorld(true);
  }

  /** The part of the picture that holds some objects, with a margin for their outlines. */
  private around(objects: Object3D[]): Rectangle {
    const { width, height } = this.eye;
    let [left, bottom, right, top] = [width, height, 0, 0];
    const centre = new Vector3();
    for (const object of objects) {
      const geometry = (object as Mesh).geometry;
      if (!geometry.boundingSphere) geometry.computeBoundingSphere();
      const sphere = geometry.boundingSphere!;
      centre.copy(sphere.center).applyMatrix4(object.matrixWorld).add(this.eye.origin);
      const radius = sphere.radius * object.matrixWorld.getMaxScaleOnAxis();
      const at = this.eye.project(centre);
      const near = !this.eye.parallel && centre.distanceTo(this.eye.position()) < radius * 1.5;
      if (!at || near) return { x: 0, y: 0, width, height };
      const reach = (radius / this.eye.pixel(centre)) * 1.3 + 8;
      left = Math.min(left, at.x - reach);
      right = Math.max(right, at.x + reach);
      bottom = Math.min(bottom, height - at.y - reach);
      top = Math.max(top, height - at.y + reach);
    }
    [left, bottom] = [Math.max(0, Math.floor(left)), Math.max(0, Math.floor(bottom))];
    return { x: left, y: bottom, width: Math.min(width, right) - left, height: Math.min(height, top) - bottom };
  }

  private marked(): [Object3D, Marking][] {
    const state = get();
    const marked: [Object3D, Marking][] = [];
    const done = new Set<string>();
    const add = (id: string, marking: Marking) => {
      done.add(id);
      for (const object of this.pictures.objectsOf(id)) marked.push([object, marking]);
    };
    state.selection.forEach((id, i) => add(id, i === state.selection.length - 1 ? 'lead' : 'picked'));
    const walk = [...state.selection];
    for (let id = walk.pop(); id !== undefined && marked.length < 2000; id = walk.pop()) {
      for (const child of state.children.get(id) ?? []) {
        if (!done.has(child)) add(child, 'riding');
        walk.push(child);
      }
    }
    return marked;
  }
}
