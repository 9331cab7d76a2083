import { Matrix4, Ray, Sphere, Triangle, Vector3, Vector4, type BufferGeometry } from 'three';
import { INTERSECTED, NOT_INTERSECTED, CONTAINED, type MeshBVH } from 'three-mesh-bvh';
import { DoubleSide } from 'three';
import { edgesOf } from './edges';
import type { Eye } from './eye';
import type { Drawn, Pictures } from './pictures';

/** What stands under a pixel. */
export interface Hit {
  id: string;
  /** In the world. */
  point: Vector3;
  /** The three corners of the face, in the object's own frame; none where an edge or a point was met. */
  face: [Vector3, Vector3, Vector3] | null;
  distance: number;
}

/** Which objects can be picked: not the hidden, the locked, or kinds that are left out. */
export type Pickable = (drawn: Drawn) => boolean;

/** How far from a line or point, in pixels, it is still met. */
const reach = 5;

const [matrix, inverse, ray, sphere] = [new Matrix4(), new Matrix4(), new Ray(), new Sphere()];
const [from, to, centre] = [new Vector3(), new Vector3(), new Vector3()];

function sphereOf(geometry: BufferGeometry): Sphere {
  if (!geometry.boundingSphere) geometry.computeBoundingSphere();
  return geometry.boundingSphere!;
}

function bvhOf(geometry: BufferGeometry): MeshBVH | undefined {
  return (geometry as { boundsTree?: MeshBVH }).boundsTree;
}

/**
 * Everything under a pixel, near to far, exact to the triangle, each object once. Where edges show what lies behind, an edge
 * under the pointer is met before any face.
 */
export function underPixel(
  pictures: Pictures,
  eye: Eye,
  x: number,
  y: number,
  pickable: Pickable,
  edges: boolean,
): Hit[] {
  const [ox, oy, oz, dx, dy, dz] = eye.ray(x, y);
  const origin = new Vector3(ox, oy, oz);
  const world = new Ray(origin.clone().sub(eye.origin), new Vector3(dx, dy, dz));
  const faces: Hit[] = [];
  const lines: (Hit & { pixels: number })[] = [];
  for (const drawn of pictures.nodes) {
    if (drawn.entries.length === 0 || !pickable(drawn)) continue;
    pictures.matrix(drawn, matrix);
    let nearest: Hit | null = null;
    for (const { part } of drawn.entries) {
      sphere.copy(sphereOf(part.geometry)).applyMatrix4(matrix);
      // Seen from far, an object can be smaller than the reach.
      const grown =
        part.mode !== 'triangles' || edges ? eye.pixel(centre.copy(sphere.center).add(eye.origin)) * reach : 0;
      sphere.radius += grown;
      if (!world.intersectsSphere(sphere)) continue;
      if (part.mode === 'triangles') {
        const hit = faceHit(part.geometry, drawn.id, world, eye);
        if (hit && (!nearest || hit.distance < nearest.distance)) nearest = hit;
      }
      if (part.mode !== 'triangles' || edges) {
        if (part.mode === 'triangles') part.edges ??= edgesOf(part.geometry);
        const geometry = part.mode === 'triangles' ? part.edges! : part.geometry;
        const hit = lineHit(geometry, part.mode === 'points' ? 1 : 2, drawn.id, world, eye, x, y);
        if (hit) lines.push(hit);
      }
    }
    if (nearest) faces.push(nearest);
  }
  faces.sort((a, b) => a.distance - b.distance);
  lines.sort((a, b) => a.pixels - b.pixels || a.distance - b.distance);
  // A thing made of lines is thin: within reach it is meant, unless something stands well before it.
  const before = edges ? lines : lines.filter((l) => !faces[0] || l.distance < faces[0].distance);
  const all = [...before, ...faces, ...lines];
  const seen = new Set<string>();
  return all.filter((hit) => !seen.has(hit.id) && seen.add(hit.id));
}

function faceHit(geometry: BufferGeometry, id: string, world: Ray, eye: Eye): Hit | null {
  const bvh = bvhOf(geometry);
  if (!bvh) return null;
  ray.copy(world).applyMatrix4(inverse.copy(matrix).invert());
  const hit = bvh.raycastFirst(ray, DoubleSide);
  if (!hit?.face) return null;
  const point = hit.point.clone().applyMatrix4(matrix);
  const position = geometry.getAttribute('position');
  const corner = (i: number) => new Vector3().fromBufferAttribute(position, i);
  const { a, b, c } = hit.face;
  return {
    id,
    face: [corner(a), corner(b), corner(c)],
    distance: point.distanceTo(world.origin),
    point: point.add(eye.origin),
  };
}

/** The nearest line (or point) of a geometry on the picture, if it is within reach. */
function lineHit(
  geometry: BufferGeometry,
  ends: 1 | 2,
  id: string,
  world: Ray,
  eye: Eye,
  x: number,
  y: number,
): (Hit & { pixels: number }) | null {
  const position = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const count = index ? index.count : position.count;
  const project = eye.camera.projectionMatrix;
  const view = eye.camera.matrixWorldInverse;
  const pixel = (v: Vector3) => ((v.x = ((v.x + 1) / 2) * eye.width), (v.y = ((1 - v.y) / 2) * eye.height));
  let best: (Hit & { pixels: number }) | null = null;
  const [a, b] = [new Vector3(), new Vector3()];
  for (let i = 0; i + ends <= count; i += ends) {
    from.fromBufferAttribute(position, index ? index.getX(i) : i).applyMatrix4(matrix);
    to.copy(from);
    if (ends === 2) to.fromBufferAttribute(position, index ? index.getX(i + 1) : i + 1).applyMatrix4(matrix);
    a.copy(from).applyMatrix4(view);
    b.copy(to).applyMatrix4(view);
    if (!eye.parallel && (a.z > -1e-9 || b.z > -1e-9)) continue;
    pixel(a.applyMatrix4(project));
    pixel(b.applyMatrix4(project));
    const [lx, ly] = [b.x - a.x, b.y - a.y];
    const length = lx * lx + ly * ly;
    const t = length > 0 ? Math.max(0, Math.min(1, ((x - a.x) * lx + (y - a.y) * ly) / length)) : 0;
    const pixels = Math.hypot(a.x + lx * t - x, a.y + ly * t - y);
    if (pixels > reach || (best && pixels >= best.pixels)) continue;
    const point = from.clone().lerp(to, t);
    best = { id, face: null, pixels, distance: point.distanceTo(world.origin), point: point.add(eye.origin) };
  }
  return best;
}

/** A rectangle in pixels of a view. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The objects that a box touches or, if asked, holds whole; exact to the triangle. */
export function inBox(pictures: Pictures, eye: Eye, box: Box, whole: boolean, pickable: Pickable): string[] {
  const planes = sides(eye, box);
  const found: string[] = [];
  const local = planes.map(() => new Vector4());
  for (const drawn of pictures.nodes) {
    if (drawn.entries.length === 0 || !pickable(drawn)) continue;
    pictures.matrix(drawn, matrix);
    const held = drawn.entries.map(({ part }) => {
      sphere.copy(sphereOf(part.geometry)).applyMatrix4(matrix);
      const heights = planes.map((p) => p.x * sphere.center.x + p.y * sphere.center.y + p.z * sphere.center.z + p.w);
      if (heights.some((h) => h < -sphere.radius)) return false;
      if (heights.every((h) => h > sphere.radius)) return true;
      // A plane goes with the transposed matrix, so that nothing is turned round for every vertex.
      const transposed = inverse.copy(matrix).transpose();
      planes.forEach((p, i) => local[i]!.copy(p).applyMatrix4(transposed));
      return whole ? allInside(part.geometry, local) : anyInside(part.geometry, part.mode, local);
    });
    if (whole ? held.every(Boolean) : held.some(Boolean)) found.push(drawn.id);
  }
  return found;
}

/** The four sides of a box as planes (x, y, z, w) that are positive inside; less the eye's origin. */
function sides(eye: Eye, box: Box): Vector4[] {
  const corners = [
    [box.left, box.top],
    [box.right, box.top],
    [box.right, box.bottom],
    [box.left, box.bottom],
  ].map(([x, y]) => {
    const r = eye.ray(x!, y!);
    return { at: new Vector3(r[0], r[1], r[2]).sub(eye.origin), way: new Vector3(r[3], r[4], r[5]) };
  });
  const middle = corners.reduce(
    (sum, c) => sum.addScaledVector(c.at, 0.25).addScaledVector(c.way, 0.25),
    new Vector3(),
  );
  const planes = corners.map((corner, i) => {
    const next = corners[(i + 1) % 4]!;
    const across = next.at.clone().add(next.way).sub(corner.at).sub(corner.way);
    const normal = across.cross(corner.way).normalize();
    if (normal.dot(middle.clone().sub(corner.at)) < 0) normal.negate();
    return new Vector4(normal.x, normal.y, normal.z, -normal.dot(corner.at));
  });
  // Nothing behind the eye is in the picture.
  const z = new Vector3(0, 0, -1).applyQuaternion(eye.look.turn);
  const at = eye.position().sub(eye.origin);
  if (!eye.parallel) planes.push(new Vector4(z.x, z.y, z.z, -z.dot(at)));
  return planes;
}

const height = (p: Vector4, v: Vector3) => p.x * v.x + p.y * v.y + p.z * v.z + p.w;

function allInside(geometry: BufferGeometry, planes: Vector4[]): boolean {
  const position = geometry.getAttribute('position');
  for (let i = 0; i < position.count; i++) {
    from.fromBufferAttribute(position, i);
    if (planes.some((p) => height(p, from) < 0)) return false;
  }
  return true;
}

function anyInside(geometry: BufferGeometry, mode: string, planes: Vector4[]): boolean {
  const bvh = mode === 'triangles' ? bvhOf(geometry) : undefined;
  if (bvh) {
    return bvh.shapecast({
      intersectsBounds: (box) => {
        let inside = true;
        for (const p of planes) {
          const high =
            p.w +
            p.x * (p.x > 0 ? box.max.x : box.min.x) +
            p.y * (p.y > 0 ? box.max.y : box.min.y) +
            p.z * (p.z > 0 ? box.max.z : box.min.z);
          if (high < 0) return NOT_INTERSECTED;
          const low =
            p.w +
            p.x * (p.x > 0 ? box.min.x : box.max.x) +
            p.y * (p.y > 0 ? box.min.y : box.max.y) +
            p.z * (p.z > 0 ? box.min.z : box.max.z);
          if (low < 0) inside = false;
        }
        return inside ? CONTAINED : INTERSECTED;
      },
      intersectsTriangle: (triangle: Triangle) => meets([triangle.a, triangle.b, triangle.c], planes),
    });
  }
  const position = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const step = mode === 'points' ? 1 : 2;
  const count = index ? index.count : position.count;
  for (let i = 0; i + step <= count; i += step) {
    const at = (k: number) => new Vector3().fromBufferAttribute(position, index ? index.getX(i + k) : i + k);
    if (meets(step === 1 ? [at(0)] : [at(0), at(1)], planes)) return true;
  }
  return false;
}

/** Whether anything of a polygon, a line or a point is left after clipping by all planes (Sutherland and Hodgman). */
function meets(polygon: Vector3[], planes: Vector4[]): boolean {
  let left = polygon.map((v) => v.clone());
  for (const plane of planes) {
    const next: Vector3[] = [];
    left.forEach((a, i) => {
      const b = left[(i + 1) % left.length]!;
      const [ha, hb] = [height(plane, a), height(plane, b)];
      if (ha >= 0) next.push(a);
      if (ha >= 0 !== hb >= 0) next.push(a.clone().lerp(b, ha / (ha - hb)));
    });
    if (next.length === 0) return false;
    left = next;
  }
  return true;
}
