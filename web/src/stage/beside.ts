import {
  Color,
  FloatType,
  InstancedBufferAttribute,
  NearestFilter,
  NoBlending,
  ShaderMaterial,
  WebGLRenderTarget,
  type OrthographicCamera,
  type PerspectiveCamera,
  type WebGLRenderer,
} from 'three';
import type { Frozen } from './frozen';

/** What lies beside a still: how far away everything is, and which object is where. */

type Lens = PerspectiveCamera | OrthographicCamera;
interface Size {
  width: number;
  height: number;
}

const vertex = `
varying float away; varying vec3 who;
void main() {
  vec4 p = vec4(position, 1.0);
  #ifdef USE_INSTANCING
  p = instanceMatrix * p;
  #endif
  #ifdef USE_INSTANCING_COLOR
  who = instanceColor;
  #endif
  vec4 v = modelViewMatrix * p;
  away = -v.z;
  gl_PointSize = 3.0;
  gl_Position = projectionMatrix * v;
}`;

/** Metres along the view; 0 where nothing is. The lowest row first. */
export function depthsOf(renderer: WebGLRenderer, frozen: Frozen, lens: Lens, size: Size): Float32Array {
  const material = plain('varying float away; void main() { gl_FragColor = vec4(away, 0.0, 0.0, 1.0); }');
  const target = new WebGLRenderTarget(size.width, size.height, {
    type: FloatType,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  });
  const all = new Float32Array(size.width * size.height * 4);
  draw(renderer, frozen, lens, material, target);
  renderer.readRenderTargetPixels(target, 0, 0, size.width, size.height, all);
  target.dispose();
  material.dispose();
  const away = new Float32Array(size.width * size.height);
  for (let i = 0; i < away.length; i++) away[i] = all[4 * i]!;
  return away;
}

/** A colour of its own for each object; clear where nothing is. */
export function masksOf(renderer: WebGLRenderer, frozen: Frozen, lens: Lens, size: Size): Uint8Array {
  const material = plain('varying vec3 who; void main() { gl_FragColor = vec4(who, 1.0); }');
  const target = new WebGLRenderTarget(size.width, size.height, { minFilter: NearestFilter, magFilter: NearestFilter });
  const colors = new Map<string, Color>();
  for (const object of frozen.objects) {
    const ids = frozen.members.get(object)!;
    const own = new InstancedBufferAttribute(new Float32Array(3 * ids.length), 3);
    ids.forEach((id, i) => {
      if (!colors.has(id)) colors.set(id, apart(colors.size));
      colors.get(id)!.toArray(own.array, 3 * i);
    });
    object.instanceColor = own;
  }
  const all = new Uint8Array(size.width * size.height * 4);
  draw(renderer, frozen, lens, material, target);
  renderer.readRenderTargetPixels(target, 0, 0, size.width, size.height, all);
  for (const object of frozen.objects) object.instanceColor = null;
  target.dispose();
  material.dispose();
  return all;
}

/** A colour as it stands in the file, for each index below 2²⁴ another: multiples of the golden section, which lie far apart. */
export function apart(index: number): Color {
  const hex = ((index + 1) * 0x9e3779) % 0x1000000;
  return new Color((hex >> 16) / 255, ((hex >> 8) & 255) / 255, (hex & 255) / 255);
}

function plain(fragmentShader: string): ShaderMaterial {
  return new ShaderMaterial({ vertexShader: vertex, fragmentShader, blending: NoBlending, toneMapped: false });
}

function draw(
  renderer: WebGLRenderer,
  { scene }: Frozen,
  lens: Lens,
  material: ShaderMaterial,
  target: WebGLRenderTarget,
): void {
  scene.background = scene.environment = null;
  scene.overrideMaterial = material;
  renderer.setRenderTarget(target);
  renderer.setClearColor(0x000000, 0);
  renderer.clear();
  renderer.render(scene, lens);
  scene.overrideMaterial = null;
}
