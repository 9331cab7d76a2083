import {
  AlwaysDepth,
  BackSide,
  Color,
  CustomBlending,
  AddEquation,
  LessEqualDepth,
  MeshBasicMaterial,
  OneFactor,
  OrthographicCamera,
  Mesh,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  Vector2,
  WebGLRenderTarget,
  type Camera,
  type Object3D,
  type WebGLRenderer,
  DoubleSide,
} from 'three';

void BackSide;

/** How a node is marked. */
export type Marking = 'lead' | 'picked' | 'riding';

/**
 * Outlines of even width about what is picked: a mask of silhouettes is drawn small and quick, and its edges are found on
 * the picture. What is covered shows through at a third of its strength; what rides along is dashed.
 */
export class Outlines {
  private readonly target = new WebGLRenderTarget(1, 1, { depthBuffer: true });
  private readonly seen = new WebGLRenderTarget(1, 1, { depthBuffer: true });
  private readonly depthOnly = new MeshBasicMaterial({ colorWrite: false, side: DoubleSide });
  private readonly quad: Mesh;
  private readonly quadScene = new Scene();
  private readonly quadCamera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly marks = {
    lead: [mark(0xff0000, false), mark(0xff0000, true)],
    picked: [mark(0x00ff00, false), mark(0x00ff00, true)],
    riding: [mark(0x0000ff, false), mark(0x0000ff, true)],
  } as const;
  private readonly shader: ShaderMaterial;

  constructor() {
    this.shader = new ShaderMaterial({
      transparent: true,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        mask: { value: this.target.texture },
        seen: { value: this.seen.texture },
        texel: { value: new Vector2() },
        tint: { value: new Color() },
        ratio: { value: 1 },
      },
      vertexShader: 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }',
      fragmentShader: `
        varying vec2 at;
        uniform sampler2D mask, seen;
        uniform vec2 texel;
        uniform vec3 tint;
        uniform float ratio;
        // How much of each silhouette lies around a pixel, and how much of that is in sight.
        void around(float radius, out vec3 most, out vec3 least, out vec3 inSight) {
          most = vec3(0.0); least = vec3(1.0); inSight = vec3(0.0);
          for (int i = 0; i < 12; i++) {
            float angle = 0.5235988 * float(i);
            vec2 p = at + texel * radius * vec2(cos(angle), sin(angle));
            vec3 m = texture2D(mask, p).rgb;
            most = max(most, m); least = min(least, m);
            inSight = max(inSight, texture2D(seen, p).rgb);
          }
        }
        void main() {
          vec3 most, least, inSight;
          vec3 here = texture2D(mask, at).rgb;
          around(2.3 * ratio, most, least, inSight);
          float lead = most.r * (1.0 - here.r);
          float leadSight = inSight.r;
          vec3 m2, l2, s2;
          around(1.3 * ratio, m2, l2, s2);
          float picked = m2.g * (1.0 - here.g);
          float dash = step(0.45, fract((gl_FragCoord.x + gl_FragCoord.y) / (9.0 * ratio)));
          float riding = m2.b * (1.0 - here.b) * dash;
          float alpha = max(max(lead * mix(0.33, 1.0, leadSight), picked * mix(0.33, 1.0, s2.g)), riding * mix(0.3, 0.85, s2.b));
          if (alpha < 0.01) discard;
          gl_FragColor = vec4(tint, alpha);
        }`,
    });
    this.quad = new Mesh(new PlaneGeometry(2, 2), this.shader);
    this.quad.frustumCulled = false;
    this.quadScene.add(this.quad);
  }

  resize(width: number, height: number, ratio: number): void {
    this.target.setSize(width * ratio, height * ratio);
    this.seen.setSize(width * ratio, height * ratio);
    this.shader.uniforms['texel']!.value.set(1 / (width * ratio), 1 / (height * ratio));
    this.shader.uniforms['ratio']!.value = ratio;
  }

  draw(renderer: WebGLRenderer, scene: Scene, camera: Camera, marked: [Object3D, Marking][], tint: string): void {
    if (marked.length === 0) return;
    const background = scene.background;
    const shadows = renderer.shadowMap.needsUpdate;
    scene.background = null;
    renderer.shadowMap.needsUpdate = false;
    const clear = renderer.getClearAlpha();
    renderer.setClearAlpha(0);
    const kept = marked.map(([object]) => ({ layers: object.layers.mask, material: (object as Mesh).material }));
    const cameraLayers = camera.layers.mask;
    const wear = (index: 0 | 1) => {
      for (const [object, marking] of marked) (object as Mesh).material = this.marks[marking][index];
    };

    for (const [object] of marked) object.layers.set(1);
    // Whole silhouettes.
    renderer.setRenderTarget(this.target);
    renderer.clear();
    camera.layers.set(1);
    wear(0);
    renderer.render(scene, camera);

    // The parts in sight: first the depth of everything, then the marked ones tested against it.
    renderer.setRenderTarget(this.seen);
    renderer.clear();
    for (const [i, [object]] of marked.entries()) (object as Mesh).material = kept[i]!.material;
    camera.layers.set(0);
    scene.overrideMaterial = this.depthOnly;
    renderer.render(scene, camera);
    scene.overrideMaterial = null;
    camera.layers.set(1);
    wear(1);
    const auto = renderer.autoClear;
    renderer.autoClear = false;
    renderer.render(scene, camera);

    for (const [i, [object]] of marked.entries()) {
      object.layers.mask = kept[i]!.layers;
      (object as Mesh).material = kept[i]!.material;
    }
    camera.layers.mask = cameraLayers;
    scene.background = background;
    renderer.setRenderTarget(null);
    renderer.setClearAlpha(clear);
    this.shader.uniforms['tint']!.value.set(tint);
    renderer.render(this.quadScene, this.quadCamera);
    renderer.autoClear = auto;
    renderer.shadowMap.needsUpdate = shadows;
  }
}

function mark(color: number, tested: boolean): MeshBasicMaterial {
  return new MeshBasicMaterial({
    color,
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
}
