import type { Lens } from '../core/answers';
import { MathUtils, Matrix4, OrthographicCamera, PerspectiveCamera, Quaternion, Vector3 } from 'three';

/** How the stage is looked at: a point, a distance and a turn (−Z looks, +Y is up), in 64-bit world coordinates. */
export interface Look {
  target: Vector3;
  turn: Quaternion;
  distance: number;
}

const defaultFov = 36;
const steepest = MathUtils.degToRad(89.9);
const up = new Vector3(0, 1, 0);
/** How much wider a view is than what it frames. */
const air = 1.2;
/** How much of a view the frame of the final picture fills. */
const frameShare = 0.9;

/** The turn for an angle about the upright and one above the ground, in radians. */
export function turnOf(yaw: number, pitch: number): Quaternion {
  return new Quaternion()
    .setFromAxisAngle(up, yaw)
    .multiply(new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), -pitch));
}

/**
 * The eye of a view. What goes to the graphics card is relative to an origin near the eye, re-centred rarely, so that a
 * scene far from zero does not shake.
 */
export class Eye {
  readonly origin = new Vector3();
  private readonly perspective = new PerspectiveCamera(defaultFov, 1, 0.01, 1000);
  private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0.01, 1000);
  look: Look = { target: new Vector3(0, 1.2, 0), turn: turnOf(0.5, 0.3), distance: 9 };
  parallel = false;
  /** The lens of the scene's camera that is looked through; null: the free view's own. */
  lens: Lens | null = null;
  /** It shows what the picture shows: nothing before the near plane of the lens, and nothing beyond its far one. */
  isPicture = false;
  width = 1;
  height = 1;
  /** Everything that is drawn, so that near and far planes fit it. */
  scene = { centre: new Vector3(), radius: 10 };
  private glide: { from: Look; to: Look; start: number } | null = null;

  get camera(): PerspectiveCamera | OrthographicCamera {
    return this.parallel ? this.flat : this.perspective;
  }

  /** The angle above the ground, radians. */
  get pitch(): number {
    return Math.asin(MathUtils.clamp(new Vector3(0, 0, 1).applyQuaternion(this.look.turn).y, -1, 1));
  }

  /** Where the eye is, in the world. */
  position(): Vector3 {
    return new Vector3(0, 0, this.look.distance).applyQuaternion(this.look.turn).add(this.look.target);
  }

  /** The view's world matrix, sixteen numbers, column-major. */
  world(): number[] {
    return new Matrix4().compose(this.position(), this.look.turn, new Vector3(1, 1, 1)).toArray();
  }

  resize(width: number, height: number): void {
    this.width = Math.max(1, width);
    this.height = Math.max(1, height);
  }

  /** Half the height of what is seen at the distance looked at, over that distance. */
  private slope(): number {
    const half = Math.tan(MathUtils.degToRad((this.lens?.fov ?? defaultFov) / 2));
    return this.lens ? half / this.frameScale() : half;
  }

  private halfHeight(): number {
    if (!this.lens) return this.look.distance * Math.tan(MathUtils.degToRad(defaultFov / 2));
    return this.lens.height / 2 / this.frameScale();
  }

  /** How far the middle of the picture lies beside the axis: in metres where it is parallel, else as a slope. */
  private beside(): { x: number; y: number } {
    if (!this.lens) return { x: 0, y: 0 };
    const { shiftX, shiftY, height, fov } = this.lens;
    const whole = this.parallel ? height : 2 * Math.tan(MathUtils.degToRad(fov / 2));
    return { x: shiftX * whole, y: shiftY * whole };
  }

  /** The frame's height over the view's. */
  private frameScale(): number {
    const aspect = this.width / this.height;
    return frameShare * Math.min(1, aspect / (this.lens?.aspect ?? aspect));
  }

  /** What a camera needs to see the same, at the distance looked at. */
  sees(): { projection: 'perspective' | 'parallel'; fov: number; height: number } {
    return {
      projection: this.parallel ? 'parallel' : 'perspective',
      fov: MathUtils.radToDeg(2 * Math.atan(this.slope())),
      height: 2 * this.halfHeight(),
    };
  }

  /** The frame of the final picture in pixels of the view; null where no camera is looked through. */
  frame(): { x: number; y: number; width: number; height: number } | null {
    if (!this.lens) return null;
    const height = this.height * this.frameScale();
    const width = height * this.lens.aspect;
    return { x: (this.width - width) / 2, y: (this.height - height) / 2, width, height };
  }

  /** Brings the cameras up to date; true when the origin has moved and everything must be placed anew. */
  update(shared: Vector3 = this.origin): boolean {
    const position = this.position();
    const moved = position.distanceTo(shared) > Math.max(1000, 100 * this.look.distance);
    this.origin.copy(moved ? this.look.target.clone().round() : shared);
    const camera = this.camera;
    camera.position.copy(position).sub(this.origin);
    camera.quaternion.copy(this.look.turn);
    this.setPlanes(position);
    const aspect = this.width / this.height;
    this.perspective.aspect = aspect;
    this.perspective.fov = MathUtils.radToDeg(Math.atan(this.slope())) * 2;
    const half = this.halfHeight();
    this.flat.top = half;
    this.flat.bottom = -half;
    this.flat.left = -half * aspect;
    this.flat.right = half * aspect;
    this.between(camera.near, camera.far);
    camera.updateMatrixWorld(true);
    return moved;
  }

  /** Sees what lies between two planes only. */
  between(near: number, far: number): void {
    const { camera } = this;
    [camera.near, camera.far] = [near, far];
    camera.updateProjectionMatrix();
    const { elements } = camera.projectionMatrix;
    const { x, y } = this.beside();
    const aspect = this.width / this.height;
    // The picture of a shifted lens lies beside the axis.
    if (this.parallel) {
      const half = this.halfHeight();
      elements[12]! -= x / (half * aspect);
      elements[13]! -= y / half;
    } else {
      elements[8]! += x / (this.slope() * aspect);
      elements[9]! += y / this.slope();
    }
    camera.projectionMatrixInverse.copy(camera.projectionMatrix).invert();
  }

  /** Near and far planes about the scene, or those of the lens: never so near that far things flicker more than they must. */
  private setPlanes(position: Vector3): void {
    const cut = this.isPicture ? this.lens : null;
    const { centre, radius } = this.scene;
    const away = position.distanceTo(centre);
    const reach = Math.max(this.look.distance, radius, 1e-6);
    if (this.parallel) {
      const depth = away + radius + this.look.distance * 40;
      this.flat.near = cut?.near ?? -depth;
      this.flat.far = cut?.far ?? depth;
      return;
    }
    this.perspective.near = cut?.near ?? Math.max((away - radius) * 0.9, Math.min(this.look.distance, reach) / 150);
    this.perspective.far = cut?.far ?? Math.max(away + radius * 1.1, this.look.distance * 60);
  }

  /** Pixels that a length of 1 takes at a distance of 1; in parallel views, pixels a metre. */
  get focal(): number {
    return this.height / (2 * (this.parallel ? this.halfHeight() : this.slope()));
  }

  /** Metres that one pixel covers at a point. */
  pixel(at: Vector3): number {
    if (this.parallel) return (2 * this.halfHeight()) / this.height;
    const depth = Math.max(1e-6, -this.inView(at).z);
    return (2 * this.slope() * depth) / this.height;
  }

  /** How large some pixels are: everywhere, and more for each metre away. */
  pixels(count: number): { fixed: number; perDistance: number } {
    if (this.parallel) return { fixed: (2 * this.halfHeight() * count) / this.height, perDistance: 0 };
    return { fixed: 0, perDistance: (2 * this.slope() * count) / this.height };
  }

  /** A world point in pixels of the view; null behind the eye. */
  project(p: Vector3): { x: number; y: number } | null {
    const v = p.clone().sub(this.origin).applyMatrix4(this.camera.matrixWorldInverse);
    if (!this.parallel && v.z > -1e-9) return null;
    v.applyMatrix4(this.camera.projectionMatrix);
    return { x: ((v.x + 1) / 2) * this.width, y: ((1 - v.y) / 2) * this.height };
  }

  /** The ray under a pixel: origin and direction in the world, six numbers. */
  ray(x: number, y: number): number[] {
    const [nx, ny] = [(x / this.width) * 2 - 1, 1 - (y / this.height) * 2];
    const aspect = this.width / this.height;
    const beside = this.beside();
    if (this.parallel) {
      // From behind everything, so that nothing in the picture is missed.
      const half = this.halfHeight();
      const from = new Vector3(nx * half * aspect + beside.x, ny * half + beside.y, 0).add(
        new Vector3(0, 0, -this.flat.near),
      );
      from.applyQuaternion(this.look.turn).add(this.position());
      return [...from.toArray(), ...new Vector3(0, 0, -1).applyQuaternion(this.look.turn).toArray()];
    }
    const slope = this.slope();
    const way = new Vector3(nx * slope * aspect + beside.x, ny * slope + beside.y, -1)
      .normalize()
      .applyQuaternion(this.look.turn);
    return [...this.position().toArray(), ...way.toArray()];
  }

  /** Turns about a point, which stays where it is in the picture. */
  orbit(dx: number, dy: number, about: Vector3 | null, ball = false): void {
    const before = about ? this.inView(about) : null;
    const { turn } = this.look;
    if (ball) {
      const sideways = new Quaternion().setFromAxisAngle(up, -dx * 0.007);
      const upwards = new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), -dy * 0.007);
      turn.multiply(sideways).multiply(upwards).normalize();
    } else {
      const pitch = this.pitch;
      const wanted = MathUtils.clamp(pitch + dy * 0.007, -steepest, steepest);
      // A view from straight above stays allowed; orbiting leaves it, and never turns over.
      turn.premultiply(new Quaternion().setFromAxisAngle(up, -dx * 0.007));
      turn.multiply(new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), pitch - wanted)).normalize();
    }
    if (before && about) this.look.target.add(about.clone().sub(this.fromView(before)));
  }

  /** Upright again, with the same point looked at from the same side. */
  level(): void {
    const back = new Vector3(0, 0, 1).applyQuaternion(this.look.turn);
    const flat = Math.hypot(back.x, back.z) < 1e-6;
    // From straight above, what is up in the picture decides.
    const to = flat
      ? new Vector3(0, -Math.sign(back.y), 0).cross(new Vector3(1, 0, 0).applyQuaternion(this.look.turn))
      : back;
    const yaw = flat ? Math.atan2(-to.x, -to.z) : Math.atan2(back.x, back.z);
    this.glideTo({ ...copyOf(this.look), turn: turnOf(yaw, this.pitch) }, true);
  }

  pan(dx: number, dy: number): void {
    const metres = this.pixel(this.look.target);
    this.look.target.add(new Vector3(-dx * metres, dy * metres, 0).applyQuaternion(this.look.turn));
  }

  /** Comes nearer to a point of the scene or goes away from it; never reaches it, and never stalls. */
  dolly(amount: number, toward: Vector3): void {
    this.focus(toward);
    const factor = MathUtils.clamp(Math.exp(amount), 0.5, 2);
    const distance = MathUtils.clamp(this.look.distance * factor, 1e-5, 1e7);
    const real = distance / this.look.distance;
    this.look.target.lerpVectors(toward, this.look.target, real);
    this.look.distance = distance;
  }

  /** Takes the distance of a point as the one looked at, with the eye where it is; else a dolly could stall before it. */
  private focus(at: Vector3): void {
    if (this.parallel || this.lens) return;
    const depth = -this.inView(at).z;
    if (depth < 1e-5 || depth > 1e7) return;
    const eye = this.position();
    this.look.distance = depth;
    this.look.target.copy(new Vector3(0, 0, -depth).applyQuaternion(this.look.turn).add(eye));
  }

  /** Stands where a camera of the scene stands, looking at something so far away. */
  stand(world: number[], distance: number): void {
    const matrix = new Matrix4().fromArray(world);
    const turn = new Quaternion().setFromRotationMatrix(matrix);
    const target = new Vector3(0, 0, -distance).applyQuaternion(turn).add(new Vector3().setFromMatrixPosition(matrix));
    this.glide = null;
    this.look = { target, turn, distance };
  }

  glideTo(to: Look, glide: boolean): void {
    if (!glide || matchMedia('(prefers-reduced-motion: reduce)').matches) {
      this.look = to;
      this.glide = null;
      return;
    }
    this.glide = { from: copyOf(this.look), to, start: performance.now() };
  }

  /** Where a glide leads, or where the eye is. */
  get heading(): Look {
    return this.glide?.to ?? this.look;
  }

  /** Advances a glide; true while it goes on. */
  advance(now: number): boolean {
    if (!this.glide) return false;
    const { from, to, start } = this.glide;
    const t = MathUtils.clamp((now - start) / 140, 0, 1);
    const s = t * t * (3 - 2 * t);
    this.look.target.lerpVectors(from.target, to.target, s);
    this.look.turn.slerpQuaternions(from.turn, to.turn, s);
    this.look.distance = from.distance * (to.distance / from.distance) ** s;
    if (t >= 1) this.glide = null;
    return t < 1;
  }

  /**
   * The look that shows a box whole, with a little air around it, from the direction of a turn.
   * @param foot How many pixels at the view's foot are covered.
   */
  framing(low: Vector3, high: Vector3, foot = 0, turn = this.heading.turn, parallel = this.parallel): Look {
    const target = low.clone().add(high).multiplyScalar(0.5);
    const back = turn.clone().invert();
    const slope = Math.tan(MathUtils.degToRad(defaultFov / 2)) / air;
    const aspect = this.width / this.height;
    const open = Math.max(0.3, 1 - foot / this.height);
    let distance = Math.max(low.distanceTo(high) * 0.05, 1e-3);
    for (let i = 0; i < 8; i++) {
      const corner = new Vector3(i & 1 ? low.x : high.x, i & 2 ? low.y : high.y, i & 4 ? low.z : high.z);
      const { x, y, z } = corner.sub(target).applyQuaternion(back);
      const across = Math.max(Math.abs(y) / open, Math.abs(x) / aspect) / slope;
      distance = Math.max(distance, parallel ? across : z + across);
    }
    // What is framed stands in the middle of the part that is open.
    const half = distance * Math.tan(MathUtils.degToRad(defaultFov / 2));
    target.add(new Vector3(0, -half * (1 - open), 0).applyQuaternion(turn));
    return { turn: turn.clone(), target, distance };
  }

  /** A point as this view sees it: right, up and toward the eye. */
  inView(p: Vector3): Vector3 {
    return p.clone().sub(this.position()).applyQuaternion(this.look.turn.clone().invert());
  }

  private fromView(p: Vector3): Vector3 {
    return p.clone().applyQuaternion(this.look.turn).add(this.position());
  }
}

export function copyOf(look: Look): Look {
  return { target: look.target.clone(), turn: look.turn.clone(), distance: look.distance };
}
