import {
  FloatType,
  GLSL3,
  HalfFloatType,
  Mesh,
  NearestFilter,
  OrthographicCamera,
  PlaneGeometry,
  RawShaderMaterial,
  Scene,
  Vector2,
  WebGLRenderTarget,
  type Texture,
  type WebGLRenderer,
} from 'three';

/** How the light of a still becomes colours. */
export type Tone = 'neutral' | 'filmic' | 'none';

const corner = `
in vec3 position; out vec2 at;
void main() { at = position.xy * 0.5 + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }`;

/** Adds a picture to those before it. */
const adding = `precision highp float; precision highp sampler2D;
uniform sampler2D before; uniform sampler2D one; uniform bool first; uniform bool lightOnly; in vec2 at; out vec4 sum;
void main() {
  vec4 more = texture(one, at);
  // Beyond what half floats hold there is no light.
  more = vec4(min(max(more.rgb, vec3(0.0)), vec3(60000.0)), clamp(more.a, 0.0, 1.0));
  if (any(isnan(more))) more = vec4(0.0);
  sum = (first ? vec4(0.0) : texture(before, at)) + (lightOnly ? vec4(more.rgb, 0.0) : more);
}`;

/** From light to colours. Sources: Khronos PBR neutral tone mapper; Narkowicz, ACES filmic tone mapping curve, 2016; IEC 61966-2-1. */
const showing = `precision highp float; precision highp sampler2D;
uniform sampler2D sum; uniform float share; uniform float exposure; uniform int tone; uniform bool clear; in vec2 at; out vec4 color;
vec3 neutral(vec3 c) {
  float x = min(c.r, min(c.g, c.b));
  float offset = x < 0.08 ? x - 6.25 * x * x : 0.04;
  c -= offset;
  float peak = max(c.r, max(c.g, c.b));
  if (peak < 0.76) return c;
  float d = 0.24;
  float to = 1.0 - d * d / (peak + d - 0.76);
  c *= to / peak;
  return mix(c, vec3(to), 1.0 - 1.0 / (0.15 * (peak - to) + 1.0));
}
vec3 filmic(vec3 c) { return (c * (2.51 * c + 0.03)) / (c * (2.43 * c + 0.59) + 0.14); }
void main() {
  vec4 c = texture(sum, at) * share;
  float a = clear ? c.a : 1.0;
  vec3 light = (clear && c.a > 0.0 ? c.rgb / c.a : c.rgb) * exposure;
  if (tone == 0) light = neutral(light);
  else if (tone == 1) light = filmic(light);
  light = clamp(light, 0.0, 1.0);
  color = vec4(mix(light * 12.92, 1.055 * pow(light, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, light)), a);
}`;

/** The targets of one part of a still: what is drawn, what has been added up, and the colours of it. */
export class StillTargets {
  readonly pass: WebGLRenderTarget;
  readonly colors: WebGLRenderTarget;
  private sums: [WebGLRenderTarget, WebGLRenderTarget];
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly quad = new Mesh(new PlaneGeometry(2, 2));
  private readonly screen = new Scene().add(this.quad);
  private readonly add = raw(adding, { before: null, one: null, first: true, lightOnly: false });
  private readonly show = raw(showing, { sum: null, share: 1, exposure: 1, tone: 0, clear: false });

  constructor(
    readonly width: number,
    readonly height: number,
    samples: number,
  ) {
    const flat = { depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter } as const;
    this.pass = new WebGLRenderTarget(width, height, { type: HalfFloatType, samples });
    this.sums = [0, 1].map(() => new WebGLRenderTarget(width, height, { ...flat, type: FloatType })) as [
      WebGLRenderTarget,
      WebGLRenderTarget,
    ];
    this.colors = new WebGLRenderTarget(width, height, flat);
    this.quad.frustumCulled = false;
  }

  /** Adds what was drawn last. */
  take(renderer: WebGLRenderer, first: boolean, lightOnly: boolean): void {
    this.sums.reverse();
    set(this.add, { before: this.sums[1].texture, one: this.pass.texture, first, lightOnly });
    this.draw(renderer, this.add, this.sums[0]);
  }

  /** The colours of what has been added up. */
  develop(renderer: WebGLRenderer, passes: number, exposure: number, tone: Tone, clear: boolean): void {
    set(this.show, {
      sum: this.sums[0].texture,
      share: 1 / passes,
      exposure,
      tone: ['neutral', 'filmic', 'none'].indexOf(tone),
      clear,
    });
    this.draw(renderer, this.show, this.colors);
  }

  /** The light itself, four numbers a pixel, the lowest row first. */
  light(renderer: WebGLRenderer, passes: number): Float32Array {
    const numbers = new Float32Array(this.width * this.height * 4);
    renderer.readRenderTargetPixels(this.sums[0], 0, 0, this.width, this.height, numbers);
    return numbers.map((n) => n / passes);
  }

  dispose(): void {
    for (const target of [this.pass, this.colors, ...this.sums]) target.dispose();
    for (const material of [this.add, this.show]) material.dispose();
    this.quad.geometry.dispose();
  }

  private draw(renderer: WebGLRenderer, material: RawShaderMaterial, into: WebGLRenderTarget): void {
    this.quad.material = material;
    renderer.setRenderTarget(into);
    renderer.render(this.screen, this.camera);
  }
}

type Given = Record<string, Texture | Vector2 | number | boolean | null>;

function raw(fragmentShader: string, given: Given): RawShaderMaterial {
  const uniforms = Object.fromEntries(Object.entries(given).map(([name, value]) => [name, { value }]));
  return new RawShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: corner,
    fragmentShader,
    uniforms,
    depthTest: false,
    depthWrite: false,
  });
}

function set(material: RawShaderMaterial, given: Given): void {
  for (const [name, value] of Object.entries(given)) material.uniforms[name]!.value = value;
}
