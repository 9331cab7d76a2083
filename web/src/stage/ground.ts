import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  Points,
  RingGeometry,
  ShaderMaterial,
  ShadowMaterial,
  type Vector3,
} from 'three';

const reach = 40;

/** The ground: a lattice of dots, every tenth larger, a ring at world zero, and the plane that shadows fall on. */
export class Ground {
  readonly group = new Group();
  private readonly dots: Points;
  private readonly ring: Mesh;
  private readonly shade: Mesh;

  constructor() {
    const positions: number[] = [];
    for (let x = -reach; x <= reach; x++) for (let z = -reach; z <= reach; z++) positions.push(x, 0, z);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(positions), 3));
    this.dots = new Points(
      geometry,
      new ShaderMaterial({
        transparent: true,
        depthWrite: false,
        uniforms: { tint: { value: new Color() }, ratio: { value: 1 }, unit: { value: 1 }, middle: { value: [0, 0] } },
        vertexShader: `
          uniform float ratio, unit; uniform vec2 middle; varying float fade;
          void main() {
            vec2 cell = position.xz + middle;
            bool tenth = mod(cell.x, 10.0) == 0.0 && mod(cell.y, 10.0) == 0.0;
            vec4 p = modelViewMatrix * vec4(position, 1.0);
            gl_Position = projectionMatrix * p;
            gl_PointSize = (tenth ? 4.5 : 2.2) * ratio;
            fade = (1.0 - smoothstep(0.35, 1.0, length(position.xz) / ${reach.toFixed(1)})) * (tenth ? 1.0 : 0.62);
          }`,
        fragmentShader: `
          uniform vec3 tint; varying float fade;
          void main() { if (length(gl_PointCoord - 0.5) > 0.5) discard; gl_FragColor = vec4(tint, fade);
            #include <colorspace_fragment>
          }`,
      }),
    );
    this.dots.frustumCulled = false;
    this.ring = new Mesh(
      new RingGeometry(0.09, 0.115, 48),
      new MeshBasicMaterial({ side: DoubleSide, transparent: true, opacity: 0.8 }),
    );
    this.ring.rotation.x = -Math.PI / 2;
    this.shade = new Mesh(new PlaneGeometry(200, 200), new ShadowMaterial({ opacity: 0.42, depthWrite: false }));
    this.shade.rotation.x = -Math.PI / 2;
    this.shade.receiveShadow = true;
    this.group.add(this.shade, this.dots, this.ring);
  }

  /** Shadows on the bare ground. A whole room brings its own floor, and a shaded ground below it would only cost time. */
  showShade(on: boolean): void {
    this.shade.visible = on;
  }

  /**
   * Keeps the lattice about the point looked at, with a spacing that fits the distance.
   * @param step The steps that something is moved in: the lattice follows them, or a multiple that fits the distance.
   * @param across The direction that an upright lattice stands across; none: it lies on the ground.
   */
  update(
    origin: Vector3,
    target: Vector3,
    distance: number,
    ink: string,
    ratio: number,
    across: 'x' | 'z' | false | null,
    step = 0,
  ): number {
    const usual = 10 ** Math.max(-3, Math.floor(Math.log10(Math.max(distance, 1e-3) / 6)));
    const unit = step > 0 ? step * multiple(usual / step) : usual;
    // Seen from a side, the lattice stands upright, so that heights can be read.
    const at = [target.x, across ? target.y : 0, target.z].map((v) => Math.round(v / unit));
    if (across) at[across === 'x' ? 0 : 2] = 0;
    const [x, z] = across === 'x' ? [at[1]!, at[2]!] : across === 'z' ? [at[0]!, at[1]!] : [at[0]!, at[2]!];
    this.dots.rotation.set(across === 'z' ? Math.PI / 2 : 0, 0, across === 'x' ? Math.PI / 2 : 0);
    this.dots.scale.set(unit, 1, unit);
    this.dots.position.set(at[0]! * unit - origin.x, at[1]! * unit - origin.y, at[2]! * unit - origin.z);
    const uniforms = (this.dots.material as ShaderMaterial).uniforms;
    uniforms['tint']!.value.set(ink);
    uniforms['ratio']!.value = ratio;
    uniforms['middle']!.value = [x, z];
    this.ring.position.set(-origin.x, 0.002 - origin.y, -origin.z);
    this.ring.scale.setScalar(Math.max(unit, 0.01));
    (this.ring.material as MeshBasicMaterial).color.set(ink);
    this.shade.position.set(target.x - origin.x, -0.001 - origin.y, target.z - origin.z);
    this.group.updateMatrixWorld(true);
    return unit;
  }
}

/** The smallest of 1, 2, 5, 10, 20 … that is not below half of what would fit. */
function multiple(fitting: number): number {
  for (let tens = 1; ; tens *= 10) for (const of of [1, 2, 5]) if (of * tens >= fitting / 2) return of * tens;
}
