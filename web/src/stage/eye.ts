import { MathUtils, OrthographicCamera, PerspectiveCamera, Quaternion, Vector3, Euler, Matrix4 } from 'three';

/** How the stage is looked at: a point, a distance and two angles, in 64-bit world coordinates. */
export interface Look {
  target: Vector3;
  yaw: number;
  pitch: number;
  distance: number;
}

const fov = 36;
const limit = MathUtils.degToRad(89.9);

/**
 * The free view's eye. What goes to the graphics card is relative to an origin near the eye, re-centred rarely, so that a
 * scene far from zero does not shake.
 */
export class Eye {
  readonly origin = new Vector3();
  private readonly perspective = new PerspectiveCamera(fov, 1, 0.01, 1000);
  private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0.01, 1000);
  look: Look = { target: new Vector3(0, 1.2, 0), yaw: 0.5, pitch: 0.3, distance: 9 };
  parallel = false;
  width = 1;
  height = 1;
  private glide: { from: Look; to: Look; start: number } | null = null;

  get camera(): PerspectiveCamera | OrthographicCamera {
    return this.parallel ? this.flat : this.perspective;
  }

  /** The turn of the view: −Z looks, +Y is up. */
  private turn(): Quaternion {
    return new Quaternion().setFromEuler(new Euler(-this.look.pitch, this.look.yaw, 0, 'YXZ'));
  }

  /** Where the eye is, in the world. */
  position(): Vector3 {
    return new Vector3(0, 0, this.look.distance).applyQuaternion(this.turn()).add(this.look.target);
  }

  /** The view's world matrix, sixteen numbers, column-major. */
  world(): number[] {
    return new Matrix4().compose(this.position(), this.turn(), new Vector3(1, 1, 1)).toArray();
  }

  resize(width: number, height: number): void {
    this.width = Math.max(1, width);
    this.height = Math.max(1, height);
  }

  /** Brings the cameras up to date; true when the origin has moved and everything must be placed anew. */
  update(): boolean {
    const position = this.position();
    const moved = position.distanceTo(this.origin) > Math.max(1000, 100 * this.look.distance);
    if (moved) this.origin.copy(this.look.target).round();
    const camera = this.camera;
    camera.position.copy(position).sub(this.origin);
    camera.quaternion.copy(this.turn());
    camera.near = this.parallel ? -this.look.distance * 50 : this.look.distance / 150;
    camera.far = this.look.distance * 60 + 60;
    const aspect = this.width / this.height;
    this.perspective.aspect = aspect;
    const half = this.look.distance * Math.tan(MathUtils.degToRad(fov / 2));
    this.flat.top = half;
    this.flat.bottom = -half;
    this.flat.left = -half * aspect;
    this.flat.right = half * aspect;
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld(true);
    return moved;
  }

  /** Metres that one pixel covers at a point. */
  pixel(at: Vector3): number {
    const half = Math.tan(MathUtils.degToRad(fov / 2));
    if (this.parallel) return (2 * half * this.look.distance) / this.height;
    const depth = Math.max(1e-6, -at.clone().sub(this.position()).applyQuaternion(this.turn().invert()).z);
    return (2 * half * depth) / this.height;
  }

  /** A world point on the stage in pixels; null behind the eye. */
  project(p: Vector3): { x: number; y: number } | null {
    const v = p.clone().sub(this.origin).applyMatrix4(this.camera.matrixWorldInverse);
    if (!this.parallel && v.z > -1e-9) return null;
    v.applyMatrix4(this.camera.projectionMatrix);
    return { x: ((v.x + 1) / 2) * this.width, y: ((1 - v.y) / 2) * this.height };
  }

  /** The ray under a pixel: origin and direction in the world, six numbers. */
  ray(x: number, y: number): number[] {
    const ndc = new Vector3((x / this.width) * 2 - 1, 1 - (y / this.height) * 2, this.parallel ? -1 : 0.5);
    const through = ndc.unproject(this.camera).add(this.origin);
    if (this.parallel) {
      const direction = new Vector3(0, 0, -1).applyQuaternion(this.turn());
      // From the near plane, which lies far behind all that is looked at.
      return [...through.toArray(), ...direction.toArray()];
    }
    const from = this.position();
    return [...from.toArray(), ...through.sub(from).normalize().toArray()];
  }

  orbit(dx: number, dy: number, about: Vector3 | null): void {
    const before = about ? this.inView(about) : null;
    this.look.yaw -= dx * 0.007;
    this.look.pitch = MathUtils.clamp(this.look.pitch + dy * 0.007, -limit, limit);
    if (before && about) {
      // The point that is orbited about stays where it is in the picture.
      const shift = about.clone().sub(this.fromView(before));
      this.look.target.add(shift);
    }
  }

  pan(dx: number, dy: number): void {
    const metres = this.pixel(this.look.target);
    this.look.target.add(new Vector3(-dx * metres, dy * metres, 0).applyQuaternion(this.turn()));
  }

  /** Comes nearer to a point of the scene or goes away from it; never reaches it. */
  dolly(amount: number, toward: Vector3): void {
    const factor = MathUtils.clamp(Math.exp(amount), 0.5, 2);
    const distance = MathUtils.clamp(this.look.distance * factor, 1e-4, 1e7);
    const real = distance / this.look.distance;
    this.look.target.lerpVectors(toward, this.look.target, real);
    this.look.distance = distance;
  }

  glideTo(to: Look, glide: boolean): void {
    if (!glide || matchMedia('(prefers-reduced-motion: reduce)').matches) {
      this.look = to;
      this.glide = null;
      return;
    }
    const turns = Math.round((to.yaw - this.look.yaw) / (2 * Math.PI)) * 2 * Math.PI;
    this.look.yaw += turns;
    this.glide = { from: { ...this.look, target: this.look.target.clone() }, to, start: performance.now() };
  }

  /** Advances a glide; true while it goes on. */
  advance(now: number): boolean {
    if (!this.glide) return false;
    const { from, to, start } = this.glide;
    const t = Math.min(1, (now - start) / 140);
    const s = t * t * (3 - 2 * t);
    this.look.target.lerpVectors(from.target, to.target, s);
    this.look.yaw = MathUtils.lerp(from.yaw, to.yaw, s);
    this.look.pitch = MathUtils.lerp(from.pitch, to.pitch, s);
    this.look.distance = from.distance * (to.distance / from.distance) ** s;
    if (t >= 1) this.glide = null;
    return t < 1;
  }

  /** The look that shows a sphere whole, from where we look now. */
  framing(centre: Vector3, radius: number): Look {
    const narrow = Math.min(1, this.width / this.height);
    const distance = Math.max(1e-3, (radius * 1.25) / Math.sin(MathUtils.degToRad(fov / 2)) / narrow);
    return { ...this.look, target: centre, distance };
  }

  private inView(p: Vector3): Vector3 {
    return p.clone().sub(this.position()).applyQuaternion(this.turn().invert());
  }

  private fromView(p: Vector3): Vector3 {
    return p.clone().applyQuaternion(this.turn()).add(this.position());
  }
}
