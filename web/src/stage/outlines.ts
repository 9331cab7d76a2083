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
  WebGLRenderTarget,
  type Camera,
  type Object3D,
  type WebGLRenderer,
} from 'three';

/** How a node is marked. */
export type Marking = 'lead' | 'picked' | 'riding';

/** A part of the picture, in pixels of the page from its lower left corner. */
export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Outlines of even width about what is picked. A mask is drawn whose red, green and blue are the silhouettes of lead, picked
 * and riding nodes and whose alpha is what of them is in sight; its edges are then found on the picture. What is covered shows
 * through at a third of its strength, what rides along is dashed. Only the part of the picture around the nodes is worked on.
 */
export class Outlines {
  private readonly mask = new WebGLRenderTarget(1, 1, { depthBuffer: true });
  private readonly depthOnly = new MeshBasicMaterial({ colorWrite: false, side: DoubleSide });
  private readonly quadScene = new Scene();
  private readonly quadCamera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly inSight = silhouette(0x000000, 1, true);
  private readonly silhouettes = {
    lead: silhouette(0xff0000, 0, false),
    picked: silhouette(0x00ff00, 0, false),
    riding: silhouette(0x0000ff, 0, false),
  } as const;
  private readonly shader = new ShaderMaterial({
    transparent: true,
    depthTest: false,
    depthWrite: false,
    uniforms: {
      mask: { value: this.mask.texture },
      texel: { value: new Vector2() },
      tint: { value: new Color() },
      ratio: { value: 1 },
    },
    vertexShader: 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }',
    fragmentShader: `
      varying vec2 at;
      uniform sampler2D mask;
      uniform vec2 texel;
      uniform vec3 tint;
      uniform float ratio;
      void main() {
        vec4 here = texture2D(mask, at);
        vec4 near = vec4(0.0), far = vec4(0.0);
        for (int i = 0; i < 8; i++) {
          float angle = 0.7853982 * float(i);
          vec2 way = texel * ratio * vec2(cos(angle), sin(angle));
          vec4 m = texture2D(mask, at + way * 2.2);
          far = max(far, m);
          if (i < 4) near = max(near, texture2D(mask, at + way * 1.2));
        }
        float sight = mix(0.33, 1.0, step(0.5, far.a));
        float lead = far.r * (1.0 - here.r);
        float picked = near.g * (1.0 - here.g);
        float dash = step(0.45, fract((gl_FragCoord.x + gl_FragCoord.y) / (9.0 * ratio)));
        float riding = near.b * (1.0 - here.b) * dash * 0.85;
        float alpha = max(lead, max(picked, riding)) * sight;
        if (alpha < 0.01) discard;
        gl_FragColor = vec4(tint, alpha);
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
    this.shader.uniforms['texel']!.value.set(1 / (width * ratio), 1 / (height * ratio));
    this.shader.uniforms['ratio']!.value = ratio;
  }

  draw(
    renderer: WebGLRenderer,
    scene: Scene,
    camera: Camera,
    marked: [Object3D, Marking][],
    around: Rectangle,
    tint: string,
  ): void {
    if (marked.length === 0 || around.width <= 0 || around.height <= 0) return;
    const ratio = this.shader.uniforms['ratio']!.value as number;
    const kept = {
      background: scene.background,
      clearAlpha: renderer.getClearAlpha(),
      autoClear: renderer.autoClear,
      layers: camera.layers.mask,
      objects: marked.map(([object]) => ({ mask: object.layers.mask, material: (object as Mesh).material })),
    };
    scene.background = null;
    renderer.setClearAlpha(0);
    this.mask.scissorTest = true;
    this.mask.scissor.set(around.x * ratio, around.y * ratio, around.width * ratio, around.height * ratio);
    renderer.setRenderTarget(this.mask);
    renderer.clear();
    renderer.autoClear = false;

    // The depth of everything, then the silhouettes whole, then what of them is in sight.
    scene.overrideMaterial = this.depthOnly;
    renderer.render(scene, camera);
    scene.overrideMaterial = null;
    for (const [object, marking] of marked) {
      object.layers.set(1);
      (object as Mesh).material = this.silhouettes[marking];
    }
    camera.layers.set(1);
    renderer.render(scene, camera);
    for (const [object] of marked) (object as Mesh).material = this.inSight;
    renderer.render(scene, camera);

    marked.forEach(([object], i) => {
      object.layers.mask = kept.objects[i]!.mask;
      (object as Mesh).material = kept.objects[i]!.material;
    });
    camera.layers.mask = kept.layers;
    scene.background = kept.background;
    renderer.setRenderTarget(null);
    renderer.setClearAlpha(kept.clearAlpha);
    this.shader.uniforms['tint']!.value.set(tint);
    renderer.setScissorTest(true);
    renderer.setScissor(around.x, around.y, around.width, around.height);
    renderer.render(this.quadScene, this.quadCamera);
    renderer.setScissorTest(false);
    renderer.autoClear = kept.autoClear;
  }
}

function silhouette(color: number, opacity: number, tested: boolean): MeshBasicMaterial {
  const material = new MeshBasicMaterial({
    color,
    opacity,
    transparent: true,
    side: DoubleSide,
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
