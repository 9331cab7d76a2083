import { Color, PCFShadowMap, Plane, Quaternion, Ray, Scene, Vector3, WebGLRenderer } from 'three';
import {
  sightBits,
  type CameraView,
  type DrawnAs,
  type LampReading,
  type Lens,
  type NodeKind,
  type Projection,
  type Vec3,
} from '../core/answers';
import type { OutlineRow } from '../core/outline';
import { rememberFocus } from '../acts/focus';
import type { PictureType, StillFiles, StillWanted } from '../acts/open';
import { session, type Picture } from '../acts/session';
import { get, isLocked, isSeen, set, tintOf, type ViewName } from '../state/store';
import { matesOf } from '../acts/mates';
import { looksBy, recall, remember, type Memory } from '../state/remembered';
import { settingsOf } from '../state/settings';
import { type Eye } from './eye';
import { renderDeep } from './depths';
import { entering, framedBounds, framing } from './framing';
import { setFrames } from '../state/frames';
import { KeptPrograms } from './keptPrograms';
import { Ground } from './ground';
import { Handles } from './handles';
import { around, markedIn } from './marking';
import type { Marked } from './silhouettes';
import type { OnStage } from './onStage';
import { Outlines } from './outlines';
import { Pace } from './pace';
import { inBox, seenInBox, underPixel, type Box, type Hit } from './picking';
import { pointer, setPointer } from '../state/pointer';
import { Pictures, type Drawn, type SeenAs } from './pictures';
import { Ball } from './ball';
import { farFirst } from './batches';
import { drawTo } from './portion';
import { encoded } from './encoder';
import { drawShot, ledTo, readBack, type Drawing } from './shotPicture';
import type { StillOf } from './frozen';
import { makeStill, type Going } from './still';
import { done, filesOf } from './stillFiles';
import { Studio } from './studio';
import { asPicture, Surround } from './surround';
import { Uprights } from './uprights';
import { turns, View } from './view';

/** Pixels between four views. */
const seam = 2;

/** The stage: draws on demand, never in a loop. Plain classes around three.js; where anything stands, the core says. */
export class Stage implements Picture, OnStage {
  readonly views: View[];
  /** The handles over each view. */
  private readonly hands: Handles[];
  readonly pictures = new Pictures(() => {
    set({ picturesCame: get().picturesCame + 1 });
    this.draw();
  });
  readonly pace = new Pace(
    () => this.fit(),
    () => {
      this.renderer.shadowMap.needsUpdate = true;
      this.draw();
    },
  );
  private readonly scene = new Scene();
  private readonly renderer: WebGLRenderer;
  private readonly ground = new Ground();
  private readonly outlines = new Outlines();
  private readonly studio = new Studio();
  private readonly surround = new Surround(
    (hash) => session.fetchPicture(hash),
    () => this.draw(),
  );
  private readonly uprightLines = new Uprights(this.pictures);
  private readonly programs = new KeptPrograms();
  private requested = 0;
  private readonly origin = new Vector3();
  private colors = { stage: '', ink: '', plum: '', line: '' };
  private width = 1;
  private height = 1;
  /** Metres between the dots of the ground. */
  spacing = 1;
  /** Without outlines, for a picture of the scene. */
  private bare = false;
  /** The view whose camera is being steered at this moment. */
  steered: View | null = null;
  frames = 0;
  /** Milliseconds that the last drawing kept the page's thread. */
  drawTime = 0;

  constructor(canvas: HTMLCanvasElement, overlays: SVGSVGElement[]) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.renderer.shadowMap.autoUpdate = false;
    this.renderer.info.autoReset = false;
    this.renderer.setTransparentSort(farFirst);
    // Asking after every shader makes the page wait for the graphics card; the tests look for errors on the console.
    this.renderer.debug.checkShaderErrors = false;
    // The graphics card may be taken away for a while; three.js fills it anew, and everything is drawn again.
    canvas.addEventListener('webglcontextlost', () =>
      session.say({ kind: 'warning', text: 'The graphics card was taken away. The stage comes back by itself.' }),
    );
    canvas.addEventListener('webglcontextrestored', () => {
      this.lost++;
      this.fit();
      session.say(null);
    });
    this.scene.matrixWorldAutoUpdate = false;
    this.scene.add(this.studio.group, this.ground.group, this.pictures.group);
    this.pictures.sightOf = sightOf;
    this.views = overlays.map(
      (_, i) =>
        new View(
          i,
          () => get().views[i]!,
          (change) => {
            // Without a camera there is no picture to be exact about.
            const exact = change.camera === null ? { exact: false } : {};
            set({ views: get().views.map((v, k) => (k === i ? { ...v, ...change, ...exact } : v)) });
          },
        ),
    );
    this.hands = overlays.map((overlay, i) => new Handles(overlay, this, this.views[i]!));
    this.readColors();
    looksBy(() =>
      this.views.map((view) => {
        const { steering: _, ...state } = view.state();
        const { target, turn, distance } = view.eye.heading;
        return { ...state, target: target.toArray(), turn: turn.toArray(), distance };
      }),
    );
  }

  /** The view that commands act on. */
  get view(): View {
    return this.views[get().active]!;
  }

  get eye(): Eye {
    return this.view.eye;
  }

  get handles(): Handles {
    return this.hands[get().active]!;
  }

  get dragging(): boolean {
    return this.hands.some((h) => h.dragging);
  }

  /** In very large scenes a drag leaves out shadows, what covers the picked and what rides along; at rest all is drawn. */
  private get hurries(): boolean {
    return get().rows.length > 3000 && this.pace.isMoving;
  }

  /** Draw calls of the last picture. */
  get drawCalls(): number {
    return this.renderer.info.render.calls;
  }

  resize(width: number, height: number): void {
    const first = this.width === 1;
    [this.width, this.height] = [Math.max(1, width), Math.max(1, height)];
    this.fit();
    // Before, nothing could be framed.
    const { scene } = get();
    if (first) this.startView(scene ? recall(scene.id) : null);
  }

  /** Lays out the views and sets how finely is drawn. */
  fit(): void {
    if (!this.pace.coarse) this.renderer.shadowMap.needsUpdate = true;
    const { layout, active, views, foot } = get();
    const four = layout === 'four';
    // Four views and pictures end above the sentence; any other view lies below it.
    const high = views[active]!.camera === null ? this.height : Math.max(80, this.height - foot);
    const [w, h] = [(this.width - seam) / 2, Math.max(80, this.height - get().foot - seam) / 2];
    // Top and the free view above, front and right below.
    const places = [[1, 0], [0, 0], [0, 1], [1, 1]] as const; // prettier-ignore
    this.views.forEach((view, i) => {
      view.shown = four || i === active;
      const [column, row] = places[i]!;
      view.rect = four
        ? { x: column * (w + seam), y: row * (h + seam), width: w, height: h }
        : { x: 0, y: 0, width: this.width, height: high };
      view.eye.resize(view.rect.width, view.rect.height);
    });
    this.hands.forEach((handles, i) => {
      if (!this.views[i]!.shown) handles.clear();
    });
    setFrames({ rects: this.views.map((view) => (view.shown ? view.rect : null)) });
    const ratio = Math.min(2, window.devicePixelRatio || 1) * (this.pace.coarse ? 0.5 : 1);
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(this.width, this.height, false);
    this.outlines.resize(this.width, this.height, ratio);
    this.draw();
  }

  /** The view under a point of the stage, and the point in it. */
  viewAt(x: number, y: number): { view: View; x: number; y: number } {
    const inside = ({ rect }: View) =>
      x >= rect.x && y >= rect.y && x < rect.x + rect.width && y < rect.y + rect.height;
    const view = this.views.find((v) => v.shown && inside(v)) ?? this.view;
    return { view, x: x - view.rect.x, y: y - view.rect.y };
  }

  activate(view: View): void {
    if (get().active !== view.index) set({ active: view.index });
  }

  /** One view or four. */
  arrange(layout: 'one' | 'four', active = get().active): void {
    set({ layout, active });
    this.fit();
  }

  /** The theme's colours, asked of the page. */
  readColors(): void {
    const style = getComputedStyle(document.documentElement);
    const color = (name: string) => style.getPropertyValue(name).trim();
    const night = document.documentElement.dataset['theme'] === 'night';
    this.colors = { stage: color('--stage'), ink: color('--ink-3'), plum: color('--plum'), line: color('--line') };
    this.scene.background = new Color(this.colors.stage);
    this.pictures.fade = this.colors.stage;
    this.studio.setTheme(night);
    this.pictures.materials.setInk(color('--ink-2'), 0.85);
    this.draw();
  }

  rebuild(): void {
    this.pictures.rebuild(get().rows, this.origin);
    this.followCameras();
    this.sceneChanged();
  }

  looksChanged(ids: string[]): void {
    const { byId } = get();
    this.pictures.update(ids, byId, this.origin);
    this.followCameras();
    this.sceneChanged();
  }

  materialsChanged(ids: string[] | null): void {
    const anew = this.pictures.readMaterials(ids);
    if (anew.length > 0) this.looksChanged(anew);
    else this.draw();
  }

  sightChanged(): void {
    this.pictures.sight(get().byId, this.origin);
    this.sceneChanged();
  }

  worldsChanged(all: boolean): void {
    this.pictures.place(all ? null : session.core.changed(), this.origin);
    this.followCameras();
    if (all) this.sceneChanged();
    else {
      // Where drawing is slow, shadows follow when the drag rests.
      if (!this.pace.coarse && !this.hurries) this.renderer.shadowMap.needsUpdate = true;
      this.draw();
    }
  }

  draw(): void {
    remember();
    if (this.requested === 0) this.requested = requestAnimationFrame((now) => this.drawNow(now));
  }

  viewWorld(): number[] {
    return this.eye.world();
  }

  lens(): { projection: Projection; fov: number; height: number } {
    return this.eye.sees();
  }

  axisSeen(axis: number): Vec3 | null {
    const { axes } = this.handles;
    if (!axes) return null;
    const way = new Vector3(axes[3 * axis], axes[3 * axis + 1], axes[3 * axis + 2]);
    return way.applyQuaternion(this.eye.look.turn.clone().invert()).toArray();
  }

  snapshot(width: number, height: number): Promise<Blob | null> {
    this.bare = true;
    this.drawNow(performance.now());
    this.bare = false;
    const { rect } = this.view;
    const ratio = this.renderer.getPixelRatio();
    // Without what the sentence covers, and cut to the shape that is wanted.
    const high = Math.min(rect.height, this.height - (get().layout === 'one' ? get().foot : 0));
    const scale = Math.max(width / rect.width, height / high);
    const [w, h] = [width / scale, height / scale];
    const [x, y] = [rect.x + (rect.width - w) / 2, rect.y + (high - h) / 2];
    const small = document.createElement('canvas');
    [small.width, small.height] = [width, height];
    small
      .getContext('2d')!
      .drawImage(this.renderer.domElement, x * ratio, y * ratio, w * ratio, h * ratio, 0, 0, width, height);
    this.draw();
    return new Promise((done) => small.toBlob(done, 'image/webp', 0.82));
  }

  async throughShot(
    shot: string,
    width: number,
    height: number,
    type: PictureType = 'image/webp',
  ): Promise<Blob | null> {
    await this.picturesOf(shot);
    const image = this.drawShot(shot, width, height, () => readBack(this.renderer, width, height));
    this.draw();
    return image && encoded(await image, type);
  }

  drawOnto(shot: string, canvas: HTMLCanvasElement): boolean {
    const { width, height } = canvas;
    const from = this.renderer.domElement;
    const drawn = this.drawShot(shot, width, height, () => {
      canvas.getContext('2d')!.drawImage(from, 0, from.height - height, width, height, 0, 0, width, height);
      return true;
    });
    return drawn ?? false;
  }

  viewAsCamera(): CameraView {
    const { eye } = this;
    const high = Math.max(1, eye.height - (get().layout === 'one' && eye.lens === null ? get().foot : 0));
    const aspect = eye.lens?.aspect ?? eye.width / high;
    const sees = eye.sees();
    // Of a view that lies below the sentence only what is above it; of a camera's its picture.
    const share = eye.lens ? 1 : high / eye.height;
    const lens: Lens = eye.lens ?? {
      ...sees,
      aspect,
      near: null,
      far: null,
      shiftX: 0,
      shiftY: (1 - share) / 2 / share,
      opening: 0,
      focus: 0,
      width: 1280,
      pictureHeight: Math.max(1, Math.round(1280 / aspect)),
    };
    const half = Math.atan(Math.tan((lens.fov * Math.PI) / 360) * share);
    return {
      world: eye.world(),
      lens: eye.lens ? lens : { ...lens, fov: (half * 360) / Math.PI, height: lens.height * share },
    };
  }

  async still(
    wanted: StillWanted,
    going: { stop: boolean; gone: boolean },
    progress: (done: number, all: number) => void,
    light: ((sum: Float32Array) => void) | null = null,
  ): Promise<StillFiles | null> {
    const of: StillOf =
      wanted.shot !== null
        ? { shot: wanted.shot }
        : wanted.camera !== null
          ? { camera: wanted.camera }
          : { view: wanted.view as CameraView };
    const all: Going = Object.assign(going, {
      lost: this.lost,
      progress,
      rest: async () => {
        // The graphics card does one thing after the other: what is arranged goes first.
        await new Promise((next) => setTimeout(next, this.pace.isMoving ? 120 : 0));
        await done(this.renderer);
        while (this.renderer.getContext().isContextLost() && !going.gone)
          await new Promise((next) => setTimeout(next, 200));
        all.lost = this.lost;
      },
    });
    await this.picturesOf(wanted.shot);
    const making = makeStill(this.drawing, { ...wanted, of }, all, light);
    this.draw();
    const made = await making;
    this.draw();
    return made && filesOf(made);
  }

  /** The pictures that a shot, or what is shown, is drawn with are there once this is done: of its materials, and of what surrounds it. */
  private async picturesOf(shot: string | null): Promise<void> {
    const ask = () => {
      this.pictures.shade('picture');
      return this.surround.of(session.core.surroundings()).ready;
    };
    // Most shots have the scene's.
    const own = get().shot !== null || (get().shots.find((one) => one.id === shot)?.cheats ?? 0) > 0;
    const surroundings = shot === null || !own ? ask() : ledTo(this.drawing, shot, ask);
    this.draw();
    await surroundings;
    await this.pictures.texturesReady();
  }

  /** How often the graphics card has come back. */
  private lost = 0;

  brightness(): number | null {
    const sums: number[] = [];
    const view = this.viewAsCamera();
    const height = Math.max(1, Math.round(96 / view.lens.aspect));
    const ask = {
      of: { view },
      width: 96,
      height,
      part: null,
      passes: 1,
      transparent: false,
      tone: 'none',
      depth: false,
      mask: false,
    } as const;
    const going: Going = { stop: false, gone: false, lost: 0, progress: () => undefined, rest: async () => undefined };
    // One pass is drawn and read at once.
    void makeStill(this.drawing, ask, going, (sum) => {
      for (let i = 0; i < sum.length; i += 4) {
        const bright = 0.2126 * sum[i]! + 0.7152 * sum[i + 1]! + 0.0722 * sum[i + 2]!;
        if (bright > 0) sums.push(Math.log2(bright));
      }
    });
    this.draw();
    return sums.length === 0 ? null : 2 ** (sums.reduce((all, one) => all + one, 0) / sums.length);
  }

  ball(material: string): string | null {
    const drawn = this.theBall.draw(this.renderer, this.pictures.materials, material);
    this.draw();
    return drawn;
  }

  private readonly theBall = new Ball();

  private drawShot<T>(shot: string, width: number, height: number, take: () => T): T | null {
    const { renderer } = this;
    const { width: wide, height: high } = renderer.domElement;
    if (width > wide || height > high) {
      // Until what is shown is drawn again.
      this.isEnlarged = true;
      renderer.setPixelRatio(1);
      renderer.setSize(Math.max(width, wide), Math.max(height, high), false);
    }
    const taken = drawShot(this.drawing, shot, width, height, take);
    renderer.shadowMap.needsUpdate = true;
    return taken;
  }

  private get drawing(): Drawing {
    const { renderer, scene, pictures, studio, surround, origin } = this;
    return { renderer, scene, pictures, studio, surround, origin, ground: this.ground.group };
  }

  private wasLit = false;

  /** The canvas is larger than what the page shows of it. */
  private isEnlarged = false;

  lookOn(from: string, to: string): void {
    const seen = session.core.cameraView(to);
    if (!seen) return;
    for (const view of this.views) {
      if (view.state().camera === from) view.through(to, seen.world, seen.lens, view.eye.look.distance);
    }
    this.draw();
  }

  focus(): Vec3 {
    return this.eye.look.target.toArray();
  }

  /** Looks at some nodes, or at everything, in the active view. */
  frame(ids: string[] | null, glide: boolean): void {
    // Framing is a look of one's own; the camera stays.
    if (this.view.state().name === 'camera') this.show('free');
    this.view.remember();
    this.eye.glideTo(framing(this.eye, framedBounds(ids)), glide);
    this.draw();
  }

  /** Views as they were when the person was here last; what they looked through may be gone. */
  private recall({ views, layout, active }: Partial<Memory>): void {
    if (!views || views.length !== this.views.length) return;
    const { byId } = get();
    this.views.forEach((view, i) => {
      const { target, turn, distance, ...state } = views[i]!;
      const numbers = [...(target ?? []), ...(turn ?? []), distance];
      if (numbers.length !== 8 || !numbers.every((n) => Number.isFinite(n)) || !(distance > 0)) return;
      const look = { target: new Vector3(...target), turn: new Quaternion(...turn).normalize(), distance };
      view.recall(look, state);
      if (state.camera !== null && byId.get(state.camera)?.kind === 'camera') {
        const seen = session.core.cameraView(state.camera);
        if (seen) view.through(state.camera, seen.world, seen.lens, distance);
      }
    });
    set({ layout: layout === 'four' ? 'four' : 'one', active: this.views[active ?? 0] ? (active ?? 0) : 0 });
    this.fit();
  }

  startView(memory: Partial<Memory> | null = null): void {
    const all = framedBounds(null);
    const look = entering(this.eye, all);
    set({ layout: 'four', active: 0 });
    this.fit();
    const names: Exclude<ViewName, 'camera'>[] = ['free', 'top', 'front', 'right'];
    this.views.forEach((view, i) => {
      view.begin(i === 0 ? look : framing(view.eye, all), names[i]!);
      // From the side that it now looks from, the scene has another size.
      if (i > 0) view.begin(framing(view.eye, all), names[i]!);
    });
    set({ layout: 'one', active: 0 });
    this.fit();
    if (memory) this.recall(memory);
  }

  /** Back to where the scene was entered; a flat view back to its side, with everything in it. */
  toStart(): void {
    const { name } = this.view.state();
    if (name === 'free' || name === 'camera') this.view.toStart();
    else {
      this.view.show(name);
      this.eye.glideTo(framing(this.eye, framedBounds(null), turns[name]), true);
    }
    this.draw();
  }

  /** The menu by key: at the handles, else in the middle of the view. */
  openMenu(): void {
    rememberFocus();
    const { rect, eye } = this.view;
    const lead = get().lead;
    const at = lead && eye.project(new Vector3(...lead.pivotInWorld));
    const place = at ?? { x: rect.width / 2, y: rect.height / 2 };
    setPointer({ list: null, menu: { x: rect.x + place.x, y: rect.y + place.y, point: null } });
  }

  /** Looks round by keys as the pointer would: pixels across and down, about what is picked, else what is looked at. */
  navigate: (way: 'orbit' | 'pan' | 'dolly', dx: number, dy: number) => void = () => undefined;

  /** Every view stands upright again, looking where it looks. */
  level(): void {
    for (const { eye } of this.views) eye.level();
    this.draw();
  }

  /** Where the pointer was last, on the stage; null: outside. */
  pointerAt: { x: number; y: number } | null = null;

  underPointer(): View | null {
    return this.pointerAt && this.viewAt(this.pointerAt.x, this.pointerAt.y).view;
  }

  show(name: Exclude<ViewName, 'camera'>): void {
    this.view.show(name);
    this.draw();
  }

  /** Looks through a camera of the scene in the active view. */
  through(camera: string): void {
    const seen = session.core.cameraView(camera);
    if (!seen) {
      session.say({ kind: 'info', text: 'There is no camera to look through. Add one in the tree.' });
      return;
    }
    const before = this.eye.look.target;
    const away = Math.hypot(seen.world[12]! - before.x, seen.world[13]! - before.y, seen.world[14]! - before.z);
    this.view.through(camera, seen.world, seen.lens, Math.max(0.1, away));
    this.draw();
  }

  /** The view before this one, or the one after it. */
  stepView(way: -1 | 1): void {
    const moment = this.view.step(way);
    if (moment?.state.name === 'camera' && moment.state.camera) this.through(moment.state.camera);
    this.draw();
  }

  toggleParallel(): void {
    this.view.toggleParallel();
    this.draw();
  }

  /** Everything under a pixel of a view, near to far. */
  under(view: View, x: number, y: number, nearest = false): Hit[] {
    const edges = ['wire', 'wireOver', 'seeThrough'].includes(view.state().shading);
    const through = view.state().shading !== 'wireOver' && edges;
    return underPixel(this.pictures, view.eye, x, y, this.pickable(), through, nearest);
  }

  /** What is under a pixel when some objects are left out. */
  pickWithout(view: View, x: number, y: number, without: Set<string>): Hit | null {
    const pickable = this.pickable();
    return (
      underPixel(this.pictures, view.eye, x, y, (d) => pickable(d) && !without.has(d.id), false, true).find(
        (hit) => hit.face !== null,
      ) ?? null
    );
  }

  uprights(): { at: Vector3; way: Vector3 }[] {
    return this.uprightLines.of(get().selection, this.origin);
  }

  pick(view: View, x: number, y: number): Hit | null {
    return this.under(view, x, y, true)[0] ?? null;
  }

  /** The objects that a box in a view touches or holds whole. */
  inBox(view: View, box: Box, whole: boolean): string[] {
    return inBox(this.pictures, view.eye, box, whole, this.pickable());
  }

  /** Those of some objects in a box that nothing else covers whole. */
  seenOf(view: View, box: Box, found: string[]): string[] {
    // What cannot be picked covers what stands behind it, too.
    return seenInBox(this.pictures, view.eye, box, found, (drawn) => drawn.seen && !drawn.faded);
  }

  /** The nearest thing under a pixel that is seen, though it is locked; null: none. */
  lockedUnder(view: View, x: number, y: number): OutlineRow | null {
    const state = get();
    const [hit] = underPixel(this.pictures, view.eye, x, y, (d) => d.seen && !d.faded, false, true);
    const row = hit && state.byId.get(hit.id);
    return row && isLocked(state, row) ? row : null;
  }

  /** A surface's upright in the world; the core turns the face's corners into it. */
  normalOf(hit: Hit): Vec3 | null {
    return hit.face
      ? session.core.normalOf(
          hit.id,
          hit.face.map((v) => v.toArray()),
        )
      : null;
  }

  /** The point of the scene under a pixel: on an object, on the ground, or at the distance looked at. */
  pointUnder(view: View, x: number, y: number): Vector3 {
    const hit = this.pick(view, x, y);
    if (hit) return hit.point.clone();
    const { eye } = view;
    const r = eye.ray(x, y);
    const ray = new Ray(new Vector3(r[0], r[1], r[2]), new Vector3(r[3], r[4], r[5]));
    const ground = ray.intersectPlane(new Plane(new Vector3(0, 1, 0), 0), new Vector3());
    if (ground && !eye.parallel && ground.distanceTo(eye.position()) < eye.look.distance * 6) return ground;
    const facing = new Plane().setFromNormalAndCoplanarPoint(
      new Vector3(0, 0, 1).applyQuaternion(eye.look.turn),
      eye.look.target,
    );
    return ray.intersectPlane(facing, new Vector3()) ?? eye.look.target.clone();
  }

  /** Where the middle of a node is on the stage, for the tests and the first walk; null when out of sight. */
  placeOf(id: string): { x: number; y: number } | null {
    const bounds = session.core.boundsOf([id]);
    if (!bounds) return null;
    const middle = new Vector3(...bounds.low).add(new Vector3(...bounds.high)).multiplyScalar(0.5);
    const at = this.eye.project(middle);
    return at && { x: at.x + this.view.rect.x, y: at.y + this.view.rect.y };
  }

  dispose(): void {
    cancelAnimationFrame(this.requested);
    this.pace.dispose();
    this.surround.dispose();
    this.renderer.dispose();
    // A page may have only so many, and lets go of them when it likes otherwise.
    this.renderer.forceContextLoss();
  }

  private pickable(): (drawn: Drawn) => boolean {
    const left = new Set<NodeKind>(get().kindsLeftOut);
    const state = get();
    return (drawn) => drawn.seen && !drawn.faded && !isLocked(state, drawn.row) && !left.has(drawn.row.kind);
  }

  private sceneChanged(): void {
    this.renderer.shadowMap.needsUpdate = true;
    const sphere = this.pictures.bounds();
    for (const { eye } of this.views) {
      eye.scene = { centre: sphere.center.clone().add(this.origin), radius: sphere.radius };
    }
    for (const handles of this.hands) handles.invalidate();
    this.draw();
  }

  /** Views that look through a camera go where it goes; where it has gone for good, the free view comes back. */
  private followCameras(): void {
    for (const view of this.views) {
      const { name, camera, steering } = view.state();
      if (name !== 'camera' || camera === null || (steering && this.steered === view)) continue;
      const seen = session.core.cameraView(camera);
      if (seen) view.follow(seen.world, seen.lens, view.eye.look.distance);
      else view.show('free');
    }
  }

  /**
   * The shadows lie about what the active view shows: in coarse steps of its distance and place, so that they are drawn
   * anew seldom, and one view always shows the same ones.
   */
  private aimSun(): void {
    const all = this.pictures.bounds();
    const { look } = this.eye;
    const reach = 2 ** Math.ceil(Math.log2(look.distance * 3));
    const near = reach < all.radius;
    const grid = (v: number) => (Math.round(v / (reach / 4)) * reach) / 4;
    const { x, y, z } = look.target;
    const centre = near ? new Vector3(grid(x), grid(y), grid(z)).sub(this.origin) : all.center;
    const key = near ? `${centre.toArray().join()} ${reach}` : '';
    // Where drawing is slow, they follow at rest.
    if (key !== this.shadowsAt && !this.pace.coarse && !this.hurries) this.renderer.shadowMap.needsUpdate = true;
    if (!this.renderer.shadowMap.needsUpdate) return;
    this.shadowsAt = key;
    this.studio.aim(centre, near ? reach * 1.25 : all.radius, all);
  }

  private shadowsAt = '';

  private drawNow(now: number): void {
    const started = performance.now();
    this.requested = 0;
    // Shots that run through lie over it.
    if (get().running) return;
    if (this.isEnlarged) {
      this.isEnlarged = false;
      this.fit();
    }
    this.pace.drawing(started);
    this.renderer.info.reset();
    if (get().layout === 'four' || this.view.rect.height < this.height) {
      // Between views and below them the page's own colour shows.
      this.renderer.setRenderTarget(null);
      this.renderer.setClearColor(this.colors.line);
      this.renderer.clear();
      this.renderer.setClearColor(0x000000);
    }
    this.aimSun();
    for (const view of this.views) if (view.shown) this.drawView(view, now);
    this.programs.keep(this.renderer);
    this.frames++;
    this.drawTime = performance.now() - started;
    setFrames({ drawn: this.frames, spacing: this.spacing });
  }

  private drawView(view: View, now: number): void {
    const { eye, rect } = view;
    const { name, exact } = view.state();
    const shading = exact ? 'picture' : view.state().shading;
    eye.isPicture = exact === true;
    if (eye.advance(now)) this.draw();
    if (eye.update(this.origin)) {
      this.origin.copy(eye.origin);
      this.pictures.place(null, this.origin);
    }
    this.pictures.shade(shading);
    this.pictures.hide(view.state().camera);
    this.pictures.showFinal(shading === 'picture');
    this.ground.group.visible = shading !== 'picture';
    const spacing = this.ground.update(
      this.origin,
      eye.look.target,
      eye.parallel ? eye.pixel(eye.look.target) * eye.height * 1.5 : eye.look.distance,
      this.colors.ink,
      this.renderer.getPixelRatio(),
      eye.parallel && (name === 'front' || name === 'back' ? 'z' : name === 'left' || name === 'right' ? 'x' : null),
      this.lattice(),
    );
    if (view === this.view) this.spacing = spacing;
    const sphere = this.pictures.bounds();
    this.ground.showShade(sphere.radius < 6 && (shading === 'clay' || shading === 'coloured'));
    const lit = shading === 'lamps' || shading === 'picture';
    const lamps = lit ? lampsOf(shading === 'picture') : null;
    const leftOut = this.studio.use(lamps, this.origin, sphere);
    if (view === this.view && leftOut !== get().lampsLeftOut) set({ lampsLeftOut: leftOut });
    // What shines is drawn with shadows of its own, which are not those of the studio.
    if (lit !== this.wasLit) this.renderer.shadowMap.needsUpdate = true;
    this.wasLit = lit;
    const back = lit
      ? asPicture(this.renderer, this.scene, this.surround, session.core.surroundings(), shading === 'picture')
      : null;

    const y = this.height - rect.y - rect.height;
    this.renderer.setRenderTarget(null);
    drawTo(this.renderer, { ...rect, y });
    this.renderer.setScissor(rect.x, y, rect.width, rect.height);
    this.renderer.setScissorTest(true);
    this.pictures.sort(eye.camera.projectionMatrix.clone().multiply(eye.camera.matrixWorldInverse));
    renderDeep(this.renderer, this.scene, eye);
    back?.();
    this.renderer.setScissorTest(false);
    if (this.bare || exact) return;
    // Nobody sees the camera that they look through.
    const through = name === 'camera' ? view.state().camera : null;
    const all = this.marked();
    const marked = through === null ? all : all.filter((m) => m.id !== through);
    const place = { x: rect.x, y, width: rect.width, height: rect.height };
    const style = settingsOf(get().settings).marks;
    this.outlines.draw(
      this.renderer,
      this.scene,
      eye.camera,
      marked,
      place,
      around(view, marked, place),
      { width: this.width, height: this.height },
      {
        tint: style.tint ?? this.colors.plum,
        mates: matesOf(get())?.color ?? this.colors.line,
        width: style.width,
        outline: style.show !== 'dim',
        dim: style.show !== 'outline' && get().selection.length > 0 ? this.colors.stage : null,
        body: get().verb === 'pivot' && get().handlesOn ? this.colors.stage : null,
      },
      this.ground.group,
      this.hurries,
    );
    this.hands[view.index]!.update();
  }

  /** What gets an outline in the next picture; looked for anew only when something that decides it has changed. */
  marked(): Marked[] {
    const { selection, plan, others, shadows, children, settings, isolation } = get();
    const decides = [
      this.pictures.version,
      selection,
      plan,
      others,
      shadows,
      children,
      settings,
      isolation,
      pointer().hovered?.id,
      session.changes,
      this.hurries,
    ];
    if (!decides.every((one, i) => one === this.markedBy[i])) {
      this.markedBy = decides;
      this.markedNow = markedIn(this.pictures, this.origin, this.hurries);
    }
    return this.markedNow;
  }

  private markedBy: unknown[] = [];
  private markedNow: Marked[] = [];

  /** The steps that the lattice follows: those in which something is moved. */
  private lattice(): number {
    const { verb, stepSizes, selection } = get();
    const steps = stepSizes[verb];
    return selection.length > 0 && steps.on && (verb === 'move' || verb === 'pivot') ? steps.size : 0;
  }
}

/** The lamps that light a view: those of the final picture, or those that are seen; with some alone where that is asked for. */
function lampsOf(final: boolean): LampReading[] {
  const { soloLamps } = get();
  return session.core
    .lamps()
    .filter((lamp) => (final ? lamp.on : lamp.seen && (soloLamps.length === 0 || soloLamps.includes(lamp.id))));
}

const drawnAs: DrawnAs[] = ['full', 'wire', 'box'];

function sightOf(row: OutlineRow): SeenAs {
  const state = get();
  const bits = state.sight[row.slot] ?? sightBits.working;
  const faded = state.isolation?.dim === true && (bits & sightBits.leftOut) !== 0;
  const tint = tintOf(state, row);
  const controller = (bits & sightBits.controller) !== 0;
  const final = (bits & sightBits.final) !== 0 && !controller;
  const how = drawnAs[(bits & sightBits.drawn) >> 3]!;
  return { seen: isSeen(state, row), final, how: controller && how === 'full' ? 'wire' : how, faded, tint };
}
