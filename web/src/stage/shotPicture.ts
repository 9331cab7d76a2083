import {
  Matrix4,
  OrthographicCamera,
  PerspectiveCamera,
  Vector3,
  type Object3D,
  type Scene,
  type Sphere,
  type WebGLRenderer,
} from 'three';
import { isRefusal, type CameraView } from '../core/answers';
import { session } from '../acts/session';
import { get, setQuietly } from '../state/store';
import type { Pixels } from './encoder';
import { drawTo } from './portion';
import type { Pictures } from './pictures';
import type { Studio } from './studio';
import { asPicture, type Surround } from './surround';

/** What draws the stage. */
export interface Drawing {
  renderer: WebGLRenderer;
  scene: Scene;
  pictures: Pictures;
  studio: Studio;
  surround: Surround;
  ground: Object3D;
  origin: Vector3;
}

/**
 * Does something with the core and the drawn things led to a shot, and back at once: the page shows nothing of it, as long as what is shown is drawn anew before
 * the next frame. Null: there is no such shot.
 */
export function ledTo<T>(on: Drawing, shot: string | null, act: () => T): T | null {
  const { shot: present, narrow, asInShot, sight, byId } = get();
  const { core } = session;
  const lead = (to: string | null, narrowly: boolean) => {
    const answer = core.setScope(to, narrowly, asInShot);
    if (isRefusal(answer)) return false;
    setQuietly({ sight: core.sight() });
    on.pictures.sight(byId, on.origin);
    if (answer.stale.worlds) on.pictures.place(core.changed(), on.origin);
    return true;
  };
  if (!lead(shot, false)) return null;
  try {
    return act();
  } finally {
    lead(present, narrow);
    setQuietly({ sight });
  }
}

/**
 * Draws a shot as its picture at the foot of the canvas. Null: it has no camera.
 * @param take Takes what was drawn, before anything else is.
 */
export function drawShot<T>(on: Drawing, shot: string, width: number, height: number, take: () => T): T | null {
  const camera = get().shots.find((s) => s.id === shot)?.camera;
  if (!camera) return null;
  return ledTo(on, shot, () => {
    const seen = session.core.cameraView(camera);
    if (!seen) return null;
    through(on, seen, camera, width, height);
    return take();
  });
}

function through(on: Drawing, seen: CameraView, camera: string, width: number, height: number): void {
  const { renderer, scene, pictures, studio, surround, ground, origin } = on;
  const sphere = pictures.bounds();
  pictures.shade('picture');
  pictures.hide(camera);
  pictures.showFinal(true);
  ground.visible = false;
  studio.use(
    session.core.lamps().filter((lamp) => lamp.on),
    origin,
    sphere,
  );
  const back = asPicture(renderer, scene, surround, session.core.surroundings());
  const ratio = renderer.getPixelRatio();
  renderer.shadowMap.needsUpdate = true;
  renderer.setRenderTarget(null);
  drawTo(renderer, { x: 0, y: 0, width: width / ratio, height: height / ratio });
  renderer.setScissor(0, 0, width / ratio, height / ratio);
  renderer.setScissorTest(true);
  const lens = throughLens(seen, width / height, origin, sphere);
  pictures.sort(new Matrix4().multiplyMatrices(lens.projectionMatrix, lens.matrixWorldInverse));
  renderer.render(scene, lens);
  renderer.setScissorTest(false);
  pictures.showFinal(false);
  back();
}
/** How often it is asked whether the graphics card is done, in milliseconds. */
const often = 8;

/** What has just been drawn, once the graphics card is done with it: nobody waits for it here. */
export async function readBack(renderer: WebGLRenderer, width: number, height: number): Promise<Pixels> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const buffer = gl.createBuffer();
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
  gl.bufferData(gl.PIXEL_PACK_BUFFER, width * height * 4, gl.STREAM_READ);
  gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, 0);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
  const done = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0)!;
  gl.flush();
  while (gl.clientWaitSync(done, 0, 0) === gl.TIMEOUT_EXPIRED) await new Promise((next) => setTimeout(next, often));
  gl.deleteSync(done);
  const colors = new Uint8Array(width * height * 4);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
  gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, colors);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
  gl.deleteBuffer(buffer);
  return { colors, width, height };
}

/** A camera of the scene for drawing through it, less the origin; near and far planes fit what is drawn, where the lens does not say them. */
export function throughLens(
  { world, lens }: CameraView,
  aspect: number,
  origin: Vector3,
  sphere: Sphere,
): PerspectiveCamera | OrthographicCamera {
  const matrix = new Matrix4().fromArray(world);
  const at = new Vector3().setFromMatrixPosition(matrix).sub(origin);
  matrix.setPosition(at);
  const far = lens.far ?? at.distanceTo(sphere.center) + sphere.radius + 0.1;
  const near = lens.near ?? Math.max(far * 1e-4, at.distanceTo(sphere.center) - sphere.radius);
  const half = lens.height / 2;
  const camera =
    lens.projection === 'parallel'
      ? new OrthographicCamera(-half * aspect, half * aspect, half, -half, lens.near ?? -far, far)
      : new PerspectiveCamera(lens.fov, aspect, near, far);
  camera.matrixAutoUpdate = false;
  camera.matrix.copy(matrix);
  camera.updateMatrixWorld(true);
  // The picture of a shifted lens lies beside the axis: so many pixels of it, for a picture that is 1 high.
  if (lens.shiftX !== 0 || lens.shiftY !== 0) camera.setViewOffset(aspect, 1, lens.shiftX, -lens.shiftY, aspect, 1);
  camera.updateProjectionMatrix();
  return camera;
}
