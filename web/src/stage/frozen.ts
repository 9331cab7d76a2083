import {
  InstancedBufferAttribute,
  InstancedMesh,
  LineSegments,
  Matrix4,
  MeshBasicMaterial,
  MeshStandardMaterial,
  Points,
  Scene,
  Vector3,
  type BufferGeometry,
  type Material,
  type Sphere,
} from 'three';
import type { CameraView, LampReading, SurroundingsAnswer } from '../core/answers';
import { session } from '../acts/session';
import { get } from '../state/store';
import { letGo, repeated, type Instanced } from './batches';
import type { Pictures } from './pictures';
import { ledTo, throughLens, type Drawing } from './shotPicture';

/** What a still is made of: the current shot or another, a camera, or a view. */
export type StillOf = { shot: string } | { camera: string } | { view: CameraView };

/** A scene as it stood at one moment, with copies of all that changes: arranging goes on beside it. */
export interface Frozen {
  scene: Scene;
  objects: Instanced[];
  /** Who stands at the places of an object. */
  members: Map<Instanced, string[]>;
  lamps: LampReading[];
  surroundings: SurroundingsAnswer;
  seen: CameraView;
  sphere: Sphere;
  origin: Vector3;
  letGo: () => void;
}

/** Takes the scene as a still shows it. Null: there is no camera, or no such shot. */
export function freeze(on: Drawing, of: StillOf, aspect: number, fromAllSides: boolean): Frozen | null {
  if ('shot' in of) {
    const camera = get().shots.find((s) => s.id === of.shot)?.camera ?? null;
    return camera === null ? null : ledTo(on, of.shot, () => take(on, camera, null, aspect, fromAllSides));
  }
  return 'camera' in of
    ? take(on, of.camera, null, aspect, fromAllSides)
    : take(on, null, of.view, aspect, fromAllSides);
}

function take(
  on: Drawing,
  camera: string | null,
  view: CameraView | null,
  aspect: number,
  fromAllSides: boolean,
): Frozen | null {
  const { pictures } = on;
  const seen = view ?? session.core.cameraView(camera!);
  if (!seen) return null;
  const sphere = pictures.bounds().clone();
  const origin = on.origin.clone();
  pictures.shade('picture');
  pictures.showFinal(true);
  const lens = throughLens(seen, aspect, origin, sphere);
  pictures.sort(new Matrix4().multiplyMatrices(lens.projectionMatrix, lens.matrixWorldInverse));
  const copied = copies(pictures, fromAllSides);
  const release = pictures.holdTextures();
  pictures.showFinal(false);
  const scene = new Scene();
  scene.matrixWorldAutoUpdate = false;
  for (const object of copied.objects) scene.add(object);
  return {
    ...copied,
    letGo: () => {
      copied.letGo();
      release();
    },
    scene,
    lamps: session.core.lamps().filter((lamp) => lamp.on && lamp.intensity > 0),
    surroundings: session.core.surroundings(),
    seen,
    sphere,
    origin,
  };
}

/** Copies of materials for stills, so that what the graphics card has prepared for one still serves the next. */
const prepared = new WeakMap<Material, Map<boolean, Material>>();

function inStill(material: Material, fromAllSides: boolean): Material {
  let both = prepared.get(material);
  if (!both) {
    prepared.set(material, (both = new Map()));
    material.addEventListener('dispose', function gone() {
      material.removeEventListener('dispose', gone);
      for (const own of prepared.get(material)?.values() ?? []) own.dispose();
      prepared.delete(material);
    });
  }
  let own = both.get(fromAllSides);
  if (own) own.copy(material);
  else both.set(fromAllSides, (own = material.clone()));
  own.polygonOffset = false;
  if (own instanceof MeshStandardMaterial) {
    own.userData['glow'] = own.emissiveIntensity;
    if (fromAllSides) own.defines = { ...own.defines, FROM_ALL_SIDES: '' };
  } else if (own instanceof MeshBasicMaterial) own.userData['color'] = own.color.clone();
  return own;
}

function copies(pictures: Pictures, fromAllSides: boolean): Pick<Frozen, 'objects' | 'members' | 'letGo'> {
  const objects: Instanced[] = [];
  const members = new Map<Instanced, string[]>();
  for (const batch of pictures.drawnBatches()) {
    const { surface, array } = batch;
    const ids = batch.members.map((m) => m.id);
    const shown = ids.map((_, i) => i).filter((i) => array[16 * i + 15] !== 0);
    if (!surface.visible || shown.length === 0) continue;
    const matrices = new InstancedBufferAttribute(new Float32Array(16 * shown.length), 16);
    shown.forEach((from, to) =>
      (matrices.array as Float32Array).set(array.subarray(16 * from, 16 * from + 16), 16 * to),
    );
    const geometry = surface.geometry as BufferGeometry;
    const material = inStill(surface.material as Material, fromAllSides);
    let copy: Instanced;
    if (surface instanceof InstancedMesh) {
      copy = new InstancedMesh(geometry, material, 0);
      copy.instanceMatrix = matrices;
      copy.castShadow = copy.receiveShadow = true;
    } else
      copy = repeated(
        surface instanceof Points ? new Points(geometry, material) : new LineSegments(geometry, material),
        matrices,
      );
    copy.count = shown.length;
    copy.matrixAutoUpdate = copy.matrixWorldAutoUpdate = copy.frustumCulled = false;
    copy.matrixWorld.copy(surface.matrixWorld);
    copy.renderOrder = surface.renderOrder;
    copy.userData['batch'] = { alone: batch.alone, away: batch.away };
    objects.push(copy);
    members.set(
      copy,
      shown.map((i) => ids[i]!),
    );
  }
  return {
    objects,
    members,
    letGo: () => objects.forEach(letGo),
  };
}
