import {
  DoubleSide,
  Matrix3,
  Matrix4,
  Ray,
  Vector3,
  Vector4,
  Triangle as Triangles,
  type BufferGeometry,
  type Triangle,
} from 'three';
import { CONTAINED, INTERSECTED, NOT_INTERSECTED, type MeshBVH } from 'three-mesh-bvh';
import { edgesOf } from './edges';
import type { Eye } from './eye';
import type { Drawn, Entry, Pictures } from './pictures';

/** What stands under a pixel. */
export interface Hit {
  id: string;
  /** In the world. */
  point: Vector3;
  /** The three corners of the face, in the object's own frame; none where an edge or a point was met. */
  face: [Vector3, Vector3, Vector3] | null;
  distance: number;
  /** Of the part that was met. */
  slot: number;
  /** Upright to the surface as it is shown, in the world; none where an edge or a point was met. */
  upright?: Vector3;
}

/** Which objects can be picked: not the hidden, the locked, or kinds that are left out. */
export type Pickable = (drawn: Drawn) => boolean;

/** How far from a line or point, in pixels, it is still met. */
const reach = 5;

const [matrix, inverse, ray] = [new Matrix4(), new Matrix4(), new Ray()];
const [from, to] = [new Vector3(), new Vector3()];

function bvhOf(geometry: BufferGeometry): MeshBVH | undefined {
  return (geometry as { boundsTree?: MeshBVH }).boundsTree;
}

/**
 * Everything under a pixel, near to far, exact to the triangle, each object once. Where edges show what lies behind, an edge
 * under the pointer is met before any face.
 * @param nearest Only what is nearest is wanted; what lies behind it may be left out.
 */
export function underPixel(
  pictures: Pictures,
  eye: Eye,
  x: number,
  y: number,
  pickable: Pickable,
  edges: boolean,
  nearest = false,
): Hit[] {
  const [ox, oy, oz, dx, dy, dz] = eye.ray(x, y);
  const world = new Ray(new Vector3(ox, oy, oz).sub(eye.origin), new Vector3(dx, dy, dz));
  const faces: Hit[] = [];
  const lines: (Hit & { pixels: number })[] = [];
  let closest = Infinity;
  for (const { member: drawn, enters } of pictures.spheres.along(world.origin, world.direction, eye.pixels(reach))) {
    // What is entered behind the nearest face lies behind it.
    if (nearest && !edges && enters > closest) break;
    if (!pickable(drawn)) continue;
    pictures.matrix(drawn, matrix);
    let own: Hit | null = null;
    for (const { part } of drawn.entries) {
      const solid = part.mode === 'triangles';
      if (solid) {
        const hit = faceHit(part.geometry, drawn.id, world, eye);
        if (hit && (!own || hit.distance < own.distance)) own = { ...hit, slot: part.slot };
      }
      if (!solid || edges) {
        if (solid) part.edges ??= edgesOf(part.geometry);
        const hit = lineHit(
          solid ? part.edges! : part.geometry,
          part.mode === 'points' ? 1 : 2,
          drawn.id,
          world,
          eye,
          x,
          y,
        );
        if (hit) lines.push(hit);
      }
    }
    if (own) {
      faces.push(own);
      closest = Math.min(closest, own.distance);
    }
  }
  faces.sort((a, b) => a.distance - b.distance);
  lines.sort((a, b) => a.pixels - b.pixels || a.distance - b.distance);
  // A thing made of lines is thin: within reach it is meant, unless something stands well before it.
  const before = edges ? lines : lines.filter((l) => l.distance < closest);
  const seen = new Set<string>();
  return [...before, ...faces, ...lines].filter((hit) => !seen.has(hit.id) && seen.add(hit.id));
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
    slot: 0,
    upright: uprightAt(geometry, hit.face, hit.point),
  };
}

/** Between the uprights of the corners, as the surface is drawn. */
function uprightAt(
  geometry: BufferGeometry,
  { a, b, c, normal }: { a: number; b: number; c: number; normal: Vector3 },
  at: Vector3,
): Vector3 {
  const [position, normals] = [geometry.getAttribute('position'), geometry.getAttribute('normal')];
  const shares = new Vector3();
  const corners = [a, b, c].map((i) => new Vector3().fromBufferAttribute(position, i)) as [Vector3, Vector3, Vector3];
  const upright = normals && Triangles.getBarycoord(at, ...corners, shares) ? new Vector3() : normal.clone();
  if (normals)
    [a, b, c].forEach((i, k) =>
      upright.addScaledVector(new Vector3().fromBufferAttribute(normals, i), shares.getComponent(k)),
    );
  return upright.applyMatrix3(new Matrix3().getNormalMatrix(matrix)).normalize();
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
    best = { id, face: null, pixels, distance: point.distanceTo(world.origin), point: point.add(eye.origin), slot: 0 };
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
  for (const { member: drawn, inside } of pictures.spheres.within(planes)) {
    if (!pickable(drawn)) continue;
    if (!inside) {
      // A plane goes with the transposed matrix, so that nothing is turned round for every vertex.
      const transposed = pictures.matrix(drawn, matrix).transpose();
      planes.forEach((p, i) => local[i]!.copy(p).applyMatrix4(transposed));
      const held = ({ part }: Entry) =>
        whole ? allInside(part.geometry, local) : anyInside(part.geometry, part.mode, local);
      if (!(whole ? drawn.entries.every(held) : drawn.entries.some(held))) continue;
    }
    found.push(drawn.id);
  }
  return found;
}

/** More rays than this through a box would be waited for; half of them go through it evenly. */
const mostRays = 4000;

/**
 * Those of some objects that are seen within a box: met by one of many rays through it, or by one at a point of their own,
 * which small things need.
 */
export function seenInBox(pictures: Pictures, eye: Eye, box: Box, found: string[], pickable: Pickable): string[] {
  const open = new Set(found);
  const seen = new Set<string>();
  let rays = 0;
  const look = (x: number, y: number) => {
    rays++;
    const [hit] = underPixel(pictures, eye, x, y, pickable, false, true);
    if (hit && open.delete(hit.id)) seen.add(hit.id);
  };
  const [wide, high] = [box.right - box.left, box.bottom - box.top];
  const step = Math.max(6, Math.sqrt((wide * high * 2) / mostRays));
  for (let y = box.top + step / 2; y < box.bottom && open.size > 0; y += step)
    for (let x = box.left + step / 2; x < box.right && open.size > 0; x += step) look(x, y);
  for (const id of open) {
    // What there is no time to look at closely counts as seen.
    if (rays > mostRays) seen.add(id);
    else for (const { x, y } of pointsOf(pictures, eye, id, box)) if (open.has(id)) look(x, y);
  }
  return found.filter((id) => seen.has(id) || (open.has(id) && isThin(pictures, id)));
}

/** Lines, points, lamps and cameras are thin, and what they stand behind hardly hides them. */
function isThin(pictures: Pictures, id: string): boolean {
  return pictures.get(id)?.entries.every(({ part }) => part.mode !== 'triangles') ?? false;
}

/** Some vertices of an object that lie within a box of the picture. */
function pointsOf(pictures: Pictures, eye: Eye, id: string, box: Box): { x: number; y: number }[] {
  const drawn = pictures.get(id);
  const points: { x: number; y: number }[] = [];
  if (!drawn) return points;
  const world = pictures.matrix(drawn, new Matrix4());
  for (const { part } of drawn.entries) {
    const position = part.geometry.getAttribute('position');
    const every = Math.max(1, Math.floor(position.count / 12));
    for (let i = 0; i < position.count; i += every) {
      const at = eye.project(new Vector3().fromBufferAttribute(position, i).applyMatrix4(world).add(eye.origin));
      if (at && at.x > box.left && at.x < box.right && at.y > box.top && at.y < box.bottom) points.push(at);
    }
  }
  return points;
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
