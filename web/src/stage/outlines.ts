import {
  AddEquation,
  AlwaysDepth,
  Color,
  CustomBlending,
  DoubleSide,
  LessEqualDepth,
  Mesh,
  MeshBasicMaterial,
  OneFactor,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  Vector2,
  Vector4,
  WebGLRenderTarget,
  type Camera,
  type Object3D,
  type WebGLRenderer,
} from 'three';
import { drawTo } from './portion';
import { Marks, type Marked, type Marking } from './silhouettes';

/** A part of the picture, in pixels of the page from the lower left corner of the stage. */
export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How picked things are shown, as the person has set it. */
export interface MarkStyle {
  tint: string;
  /** Of the other members of a collection. */
  mates: string;
  /** Pixels. */
  width: number;
  outline: boolean;
  /** All else is paled by this colour; null: it is not. */
  dim: string | null;
  /** The picked bodies themselves pale towards this colour, while their pivot is edited; null: they do not. */
  body: string | null;
}

/** What the channels of the mask stand for, in a first round and in a second. */
const rounds: Partial<Record<Marking, number>>[] = [
  { lead: 0xff0000, picked: 0x00ff00, riding: 0x0000ff },
  { hovered: 0xff0000, ghost: 0x00ff00 },
  { mate: 0xff0000 },
];

/**
 * Outlines of even width about what is picked, pointed at, or hidden though picked. A mask is drawn whose red, green and blue
 * are silhouettes and whose alpha is what of them is in sight; its edges are then found on the picture. What is covered shows
 * through at a third of its strength; what rides along is dashed, what is hidden dotted. Only the part of the picture around
 * the marked is worked on.
 */
export class Outlines {
  private readonly mask = new WebGLRenderTarget(1, 1, { depthBuffer: true });
  private readonly depthOnly = new MeshBasicMaterial({ colorWrite: false, side: DoubleSide });
  private readonly quadScene = new Scene();
  private readonly quadCamera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly inSight = silhouette(0x000000, 1, true);
  private readonly silhouettes = rounds.map((round) =>
    Object.fromEntries(Object.entries(round).map(([name, color]) => [name, silhouette(color, 0, false)])),
  ) as Partial<Record<Marking, MeshBasicMaterial>>[];
  private readonly marks = new Marks();
  private ratio = 1;
  private readonly shader = new ShaderMaterial({
    transparent: true,
    depthTest: false,
    depthWrite: false,
    uniforms: {
      mask: { value: this.mask.texture },
      texel: { value: new Vector2() },
      view: { value: new Vector4(0, 0, 1, 1) },
      tint: { value: new Color() },
      pale: { value: new Color() },
      dim: { value: 0 },
      body: { value: 0 },
      ratio: { value: 1 },
      width: { value: 1 },
      second: { value: 0 },
    },
    vertexShader: `varying vec2 at; uniform vec4 view;
      void main() { at = view.xy + uv * view.zw; gl_Position = vec4(position.xy, 0.0, 1.0); }`,
    fragmentShader: `
      varying vec2 at;
      uniform sampler2D mask;
      uniform vec2 texel;
      uniform vec3 tint, pale;
      uniform float ratio, width, second, dim, body;
      void main() {
        vec4 here = texture2D(mask, at);
        vec4 near = vec4(0.0), far = vec4(0.0);
        for (int i = 0; i < 8; i++) {
          float angle = 0.7853982 * float(i);
          vec2 way = texel * ratio * width * vec2(cos(angle), sin(angle));
          vec4 m = texture2D(mask, at + way * 2.2);
          far = max(far, m);
          if (i < 4) near = max(near, texture2D(mask, at + way * 1.2));
        }
        float sight = mix(0.33, 1.0, step(0.5, far.a));
        float along = gl_FragCoord.x + gl_FragCoord.y;
        float alpha;
        if (second > 0.5) {
          float hovered = near.r * (1.0 - here.r) * 0.75;
          vec2 cell = fract(gl_FragCoord.xy / (10.0 * ratio)) - 0.5;
          float dots = 1.0 - step(0.16, length(cell));
          float dash = step(0.5, fract(along / (8.0 * ratio)));
          float ghost = max(near.g * (1.0 - here.g) * dash, here.g * dots * 0.6);
          alpha = max(hovered * sight, ghost);
        } else {
          float lead = far.r * (1.0 - here.r);
          float picked = near.g * (1.0 - here.g);
          float dash = step(0.45, fract(along / (9.0 * ratio)));
          float riding = near.b * (1.0 - here.b) * dash * 0.85;
          alpha = max(lead, max(picked, riding)) * sight * step(0.01, width);
        }
        float paled = dim * (1.0 - max(here.r, max(here.g, here.b)) * step(0.5, here.a));
        paled = max(paled, body * max(here.r, here.g) * step(0.5, here.a));
        float both = alpha + paled * (1.0 - alpha);
        if (both < 0.01) discard;
        gl_FragColor = vec4(mix(pale, tint, alpha / both), both);
        #include <colorspace_fragment>
      }`,
  });

  constructor() {
    const quad = new Mesh(new PlaneGeometry(2, 2), this.shader);
    quad.frustumCulled = false;
    this.quadScene.add(quad);
  }

  resize(width: number, height: number, ratio: number): void {
    this.mask.setSize(width * ratio, height * ratio);
    this.ratio = ratio;
    this.shader.uniforms['texel']!.value.set(1 / (width * ratio), 1 / (height * ratio));
    this.shader.uniforms['ratio']!.value = ratio;
  }

  /**
   * @param view Where on the stage the view lies.
   * @param around The part of the stage that holds all that is marked.
   * @param bare What covers nothing, such as the ground, and is left out.
   * @param quick Everything marked counts as in sight; what covers it is not looked at.
   */
  draw(
    renderer: WebGLRenderer,
    scene: Scene,
    camera: Camera,
    marked: Marked[],
    view: Rectangle,
    around: Rectangle,
    stage: { width: number; height: number },
    style: MarkStyle,
    bare: Object3D,
    quick: boolean,
  ): void {
    if (marked.length === 0 || around.width <= 0 || around.height <= 0) return;
    this.marks.set(marked);
    // The depth of everything is the same in each round.
    let deep: Rectangle | null = null;
    rounds.forEach((_, i) => {
      const silhouettes = this.silhouettes[i]!;
      if (!this.marks.dress((marking) => silhouettes[marking] ?? null)) return;
      const part = i === 0 && style.dim !== null ? view : around;
      this.drawMask(renderer, scene, camera, view, part, bare, silhouettes, quick, deep === part);
      deep = part;
      const uniforms = this.shader.uniforms;
      uniforms['tint']!.value.set(i === 2 ? style.mates : style.tint);
      uniforms['width']!.value = i === 0 ? (style.outline ? style.width / 2 : 0) : 1;
      uniforms['second']!.value = Math.min(i, 1);
      uniforms['dim']!.value = i === 0 && style.dim !== null ? 0.62 : 0;
      uniforms['body']!.value = i === 0 && style.body !== null ? 0.55 : 0;
      uniforms['pale']!.value.set(style.dim ?? style.body ?? '#ffffff');
      uniforms['view']!.value.set(
        view.x / stage.width,
        view.y / stage.height,
        view.width / stage.width,
        view.height / stage.height,
      );
      const kept = renderer.autoClear;
      renderer.autoClear = false;
      renderer.setRenderTarget(null);
      drawTo(renderer, view);
      renderer.setScissorTest(true);
      renderer.setScissor(part.x, part.y, part.width, part.height);
      renderer.render(this.quadScene, this.quadCamera);
      renderer.setScissorTest(false);
      renderer.autoClear = kept;
    });
  }

  /** The depth of everything, unless it is there, then the silhouettes whole, then what of them is in sight. */
  private drawMask(
    renderer: WebGLRenderer,
    scene: Scene,
    camera: Camera,
    view: Rectangle,
    part: Rectangle,
    bare: Object3D,
    silhouettes: Partial<Record<Marking, MeshBasicMaterial>>,
    quick: boolean,
    isDeep: boolean,
  ): void {
    const r = this.ratio;
    const kept = {
      background: scene.background,
      clearAlpha: renderer.getClearAlpha(),
      autoClear: renderer.autoClear,
      bare: bare.visible,
    };
    scene.background = null;
    bare.visible = false;
    renderer.setClearAlpha(0);
    this.mask.viewport.set(view.x * r, view.y * r, view.width * r, view.height * r);
    this.mask.scissorTest = true;
    // The edges look a little way beyond the part; nothing of an earlier picture may be found there.
    const beyond = 16;
    this.mask.scissor.set(
      (part.x - beyond) * r,
      (part.y - beyond) * r,
      (part.width + 2 * beyond) * r,
      (part.height + 2 * beyond) * r,
    );
    renderer.setRenderTarget(this.mask);
    renderer.clear(true, !isDeep, false);
    renderer.autoClear = false;
    if (!quick && !isDeep) {
      scene.overrideMaterial = this.depthOnly;
      renderer.render(scene, camera);
      scene.overrideMaterial = null;
    }
    for (const material of Object.values(silhouettes)) material.opacity = quick ? 1 : 0;
    renderer.render(this.marks.scene, camera);
    if (!quick) {
      this.marks.dress((marking) => (silhouettes[marking] ? this.inSight : null));
      renderer.render(this.marks.scene, camera);
    }
    scene.background = kept.background;
    bare.visible = kept.bare;
    renderer.setRenderTarget(null);
    renderer.setClearAlpha(kept.clearAlpha);
    renderer.autoClear = kept.autoClear;
  }
}

function silhouette(color: number, opacity: number, tested: boolean): MeshBasicMaterial {
  const material = new MeshBasicMaterial({
    color,
    opacity,
    transparent: true,
    side: DoubleSide,
    // Drawn back and front apart, it would be prepared anew for every object of every picture.
    forceSinglePass: true,
    toneMapped: false,
    fog: false,
    depthFunc: tested ? LessEqualDepth : AlwaysDepth,
    depthWrite: false,
    blending: CustomBlending,
    blendEquation: AddEquation,
    blendSrc: OneFactor,
    blendDst: OneFactor,
    polygonOffset: tested,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -2,
  });
  return material;
}
