import type { Scene, WebGLRenderer } from 'three';
import type { Eye } from './eye';

/** Between near and far plane, the depth of one picture tells at most so much apart; beyond, it is drawn in two parts. */
const deepest = 3e5;

/** From millimetres to kilometres: what is far is drawn first, then what is near with depths of its own. */
export function renderDeep(renderer: WebGLRenderer, scene: Scene, eye: Eye): void {
  const { camera } = eye;
  const { near, far } = camera;
  if (eye.parallel || far / near < deepest) {
    renderer.render(scene, camera);
    return;
  }
  const middle = Math.sqrt(near * far);
  eye.between(middle, far);
  renderer.render(scene, camera);
  renderer.autoClear = false;
  renderer.clearDepth();
  eye.between(near, middle * 1.001);
  renderer.render(scene, camera);
  renderer.autoClear = true;
  eye.between(near, far);
}
