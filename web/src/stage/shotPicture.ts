import { Matrix4, OrthographicCamera, PerspectiveCamera, type Sphere, Vector3 } from 'three';
import type { CameraView } from '../core/answers';

/** A camera of the scene for drawing through it, less the origin; near and far planes fit what is drawn. */
export function throughLens(
  { world, lens }: CameraView,
  aspect: number,
  origin: Vector3,
  sphere: Sphere,
): PerspectiveCamera | OrthographicCamera {
  const matrix = new Matrix4().fromArray(world);
  const at = new Vector3().setFromMatrixPosition(matrix).sub(origin);
  matrix.setPosition(at);
  const far = at.distanceTo(sphere.center) + sphere.radius + 0.1;
  const near = Math.max(far * 1e-4, at.distanceTo(sphere.center) - sphere.radius);
  const half = lens.height / 2;
  const camera =
    lens.projection === 'parallel'
      ? new OrthographicCamera(-half * aspect, half * aspect, half, -half, -far, far)
      : new PerspectiveCamera(lens.fov, aspect, near, far);
  camera.matrixAutoUpdate = false;
  camera.matrix.copy(matrix);
  camera.updateMatrixWorld(true);
  camera.updateProjectionMatrix();
  return camera;
}

let worker: Worker | null = null;
let next = 0;
const waiting = new Map<number, (picture: Blob | null) => void>();

/** A picture as a file, made beside the page. */
export function encoded(image: ImageBitmap): Promise<Blob | null> {
  if (!worker) {
    worker = new Worker(new URL('./encoding.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; picture: Blob | null }>) => {
      waiting.get(data.id)?.(data.picture);
      waiting.delete(data.id);
    };
    worker.onerror = () => {
      for (const done of waiting.values()) done(null);
      waiting.clear();
    };
  }
  const id = next++;
  worker.postMessage({ id, image }, [image]);
  return new Promise((done) => waiting.set(id, done));
}
