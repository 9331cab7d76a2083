import { expect, test } from '@playwright/test';
import {
  BoxGeometry,
  DoubleSide,
  Euler,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  Quaternion,
  Raycaster,
  Sphere,
  SphereGeometry,
  TorusGeometry,
  Vector3,
  type BufferGeometry,
} from 'three';
import { computeBoundsTree } from 'three-mesh-bvh';
import { Eye, turnOf } from '../../src/stage/eye';
import { inBox, underPixel } from '../../src/stage/picking';
import type { Drawn, Pictures } from '../../src/stage/pictures';
import { Spheres } from '../../src/stage/spheres';

/** Numbers that are the same in every run. */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 4294967296;
    return state / 4294967296;
  };
}

const geometries: BufferGeometry[] = [
  new BoxGeometry(),
  new SphereGeometry(0.6, 12, 8),
  new TorusGeometry(0.6, 0.2, 8, 16),
];
for (const geometry of geometries) {
  geometry.computeBoundingSphere();
  computeBoundsTree.call(geometry);
}

/** A stage without a picture: objects at random places, turned, stretched and mirrored. */
function scene(seed: number, count: number) {
  const next = dice(seed);
  const within = (size: number) => (next() - 0.5) * 2 * size;
  const matrices = new Map<string, Matrix4>();
  const spheres = new Spheres<Drawn>();
  const meshes: Mesh[] = [];
  for (let i = 0; i < count; i++) {
    const id = `n${i}`;
    const geometry = geometries[i % geometries.length]!;
    const turn = new Quaternion().setFromEuler(new Euler(within(3), within(3), within(3)));
    const scale = new Vector3(0.3 + next(), 0.3 + next(), (0.3 + next()) * (i % 4 === 0 ? -1 : 1));
    const matrix = new Matrix4().compose(new Vector3(within(4), within(4), within(4)), turn, scale);
    matrices.set(id, matrix);
    const part = { mode: 'triangles' as const, slot: 0, geometry };
    const drawn = { id, entries: [{ part }], seen: true, at: -1 } as unknown as Drawn;
    spheres.add(drawn);
    spheres.place(drawn, geometry.boundingSphere as Sphere, matrix);
    const mesh = new Mesh(geometry, new MeshBasicMaterial({ side: DoubleSide }));
    mesh.name = id;
    mesh.matrixAutoUpdate = false;
    mesh.matrixWorld.copy(matrix);
    meshes.push(mesh);
  }
  const pictures = {
    spheres,
    matrix: (d: Drawn, into: Matrix4) => into.copy(matrices.get(d.id)!),
  } as unknown as Pictures;
  return { pictures, meshes };
}

function eye(parallel: boolean, yaw: number): Eye {
  const made = new Eye();
  made.resize(640, 480);
  made.parallel = parallel;
  made.look = { target: new Vector3(), turn: turnOf(yaw, 0.4), distance: 12 };
  made.update();
  return made;
}

for (const parallel of [false, true]) {
  const name = parallel ? 'parallel' : 'perspective';

  test(`what is under a pixel is what an exhaustive search finds, in the same order, ${name}`, () => {
    const { pictures, meshes } = scene(7, 60);
    const raycaster = new Raycaster();
    let met = 0;
    for (let i = 0; i < 150; i++) {
      const e = eye(parallel, i * 0.37);
      const next = dice(i + 1);
      const [x, y] = [next() * 640, next() * 480];
      const r = e.ray(x, y);
      raycaster.ray.origin.set(r[0]!, r[1]!, r[2]!).sub(e.origin);
      raycaster.ray.direction.set(r[3]!, r[4]!, r[5]!);
      const nearest = new Map<string, number>();
      for (const hit of meshes.flatMap((m) => raycaster.intersectObject(m))) {
        nearest.set(hit.object.name, Math.min(hit.distance, nearest.get(hit.object.name) ?? Infinity));
      }
      const wanted = [...nearest].toSorted((a, b) => a[1] - b[1]).map(([id]) => id);
      expect(underPixel(pictures, e, x, y, () => true, false).map((h) => h.id)).toEqual(wanted);
      // Asked for the nearest only, it is the same one, found with less work.
      expect(underPixel(pictures, e, x, y, () => true, false, true)[0]?.id).toBe(wanted[0]);
      met += wanted.length;
    }
    expect(met).toBeGreaterThan(100);
  });

  test(`a box touches what has a point in it and holds what has all of them in it, ${name}`, () => {
    const { pictures, meshes } = scene(11, 60);
    let [touched, held] = [0, 0];
    for (let i = 0; i < 40; i++) {
      const e = eye(parallel, i * 0.41);
      const next = dice(i + 5);
      const [a, b, c, d] = [next() * 640, next() * 640, next() * 480, next() * 480];
      const box = { left: Math.min(a, b), right: Math.max(a, b), top: Math.min(c, d), bottom: Math.max(c, d) };
      const touching = new Set(inBox(pictures, e, box, false, () => true));
      const whole = new Set(inBox(pictures, e, box, true, () => true));
      for (const mesh of meshes) {
        const inside = vertices(mesh).map((v) => {
          const at = e.project(v.add(e.origin))!;
          return at.x > box.left && at.x < box.right && at.y > box.top && at.y < box.bottom;
        });
        expect(whole.has(mesh.name)).toBe(inside.every(Boolean));
        // A vertex inside is enough; an edge or a face that only crosses it counts too.
        if (inside.some(Boolean)) expect(touching.has(mesh.name)).toBe(true);
        if (whole.has(mesh.name)) expect(touching.has(mesh.name)).toBe(true);
      }
      touched += touching.size;
      held += whole.size;
    }
    expect(touched).toBeGreaterThan(held);
    expect(held).toBeGreaterThan(20);
  });

  test(`a box in the middle of one large face touches it, ${name}`, () => {
    const { pictures } = scene(3, 0);
    const drawn = {
      id: 'wall',
      entries: [{ part: { mode: 'triangles', slot: 0, geometry: geometries[0]! } }],
      at: -1,
    } as unknown as Drawn;
    const matrix = new Matrix4().makeScale(8, 8, 0.1);
    pictures.spheres.add(drawn);
    pictures.spheres.place(drawn, geometries[0]!.boundingSphere!, matrix);
    pictures.matrix = (_: Drawn, into: Matrix4) => into.copy(matrix);
    const e = eye(parallel, 0);
    const box = { left: 318, right: 322, top: 238, bottom: 242 };
    expect(inBox(pictures, e, box, false, () => true)).toEqual(['wall']);
    expect(inBox(pictures, e, box, true, () => true)).toEqual([]);
    expect(inBox(pictures, e, box, false, () => false)).toEqual([]);
  });
}

function vertices(mesh: Mesh): Vector3[] {
  const position = mesh.geometry.getAttribute('position');
  return Array.from({ length: position.count }, (_, i) =>
    new Vector3().fromBufferAttribute(position, i).applyMatrix4(mesh.matrixWorld),
  );
}
