import { expect, test } from '@playwright/test';
import { Vector3 } from 'three';
import { Eye, turnOf } from '../../src/stage/eye';

/** The free view's eye, without a browser. */
function eye(parallel = false): Eye {
  const made = new Eye();
  made.resize(800, 600);
  made.parallel = parallel;
  made.look = { target: new Vector3(1, 2, 3), turn: turnOf(0.7, 0.4), distance: 10 };
  made.update();
  return made;
}

const points = [new Vector3(1, 2, 3), new Vector3(0, 1, 2), new Vector3(3, 2, 1.5), new Vector3(-1, 4, 3)];

for (const parallel of [false, true]) {
  test(`the ray under a projected point goes through the point, ${parallel ? 'parallel' : 'perspective'}`, () => {
    const e = eye(parallel);
    for (const p of points) {
      const at = e.project(p)!;
      const [ox, oy, oz, dx, dy, dz] = e.ray(at.x, at.y);
      const origin = new Vector3(ox, oy, oz);
      const direction = new Vector3(dx, dy, dz);
      expect(direction.length()).toBeCloseTo(1, 9);
      const along = p.clone().sub(origin).dot(direction);
      expect(along).toBeGreaterThan(0);
      expect(origin.addScaledVector(direction, along).distanceTo(p)).toBeLessThan(1e-5);
    }
  });

  test(`a pixel is as large as it says, ${parallel ? 'parallel' : 'perspective'}`, () => {
    const e = eye(parallel);
    const target = e.look.target;
    const up = new Vector3().setFromMatrixColumn(e.camera.matrixWorld, 1);
    const a = e.project(target)!;
    const b = e.project(target.clone().addScaledVector(up, e.pixel(target) * 50))!;
    expect(Math.abs(a.y - b.y)).toBeCloseTo(50, 3);
  });

  test(`orbiting about a point leaves it where it is in the picture, ${parallel ? 'parallel' : 'perspective'}`, () => {
    const e = eye(parallel);
    const p = new Vector3(2, 1, 2);
    const before = e.project(p)!;
    e.orbit(120, -60, p);
    e.update();
    const after = e.project(p)!;
    expect(after.x).toBeCloseTo(before.x, 3);
    expect(after.y).toBeCloseTo(before.y, 3);
  });
}

test('the dolly comes nearer to what is under the pointer and never reaches it', () => {
  const e = eye();
  const p = new Vector3(0, 1, 2);
  const before = e.project(p)!;
  for (let i = 0; i < 400; i++) e.dolly(-0.3, p);
  e.update();
  expect(e.position().distanceTo(p)).toBeGreaterThan(0);
  expect(e.position().distanceTo(p)).toBeLessThan(0.01);
  expect(e.position().toArray().every(Number.isFinite)).toBe(true);
  for (let i = 0; i < 400; i++) e.dolly(0.3, p);
  expect(e.look.distance).toBeLessThanOrEqual(1e7);
  const fresh = eye();
  fresh.dolly(-0.2, p);
  fresh.update();
  expect(fresh.project(p)!.x).toBeCloseTo(before.x, 6);
});

test('the eye never turns over the top', () => {
  const e = eye();
  e.orbit(0, 1e6, null);
  expect(e.pitch).toBeLessThan(Math.PI / 2);
  e.orbit(0, -1e6, null);
  expect(e.pitch).toBeGreaterThan(-Math.PI / 2);
});

test('far from zero the origin comes along, so that nothing shakes', () => {
  const e = eye();
  e.look.target.set(1e6, 0, 0);
  expect(e.update()).toBe(true);
  expect(e.camera.position.length()).toBeLessThan(100);
  const a = e.project(new Vector3(1e6, 0, 0))!;
  const b = e.project(new Vector3(1e6 + 0.001, 0, 0))!;
  expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(1e-3);
  expect(e.update()).toBe(false);
});

for (const parallel of [false, true]) {
  test(`framing shows a box whole, and not much more, ${parallel ? 'parallel' : 'perspective'}`, () => {
    const e = eye(parallel);
    const [low, high] = [new Vector3(4, 5, -2), new Vector3(6, 9, 7)];
    e.look = e.framing(low, high);
    e.update();
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => {
      const at = e.project(new Vector3(i & 1 ? low.x : high.x, i & 2 ? low.y : high.y, i & 4 ? low.z : high.z))!;
      expect(at.x).toBeGreaterThan(0);
      expect(at.x).toBeLessThan(800);
      expect(at.y).toBeGreaterThan(0);
      expect(at.y).toBeLessThan(600);
      return at;
    });
    const spread = (pick: (p: { x: number; y: number }) => number) =>
      Math.max(...corners.map(pick)) - Math.min(...corners.map(pick));
    expect(Math.max(spread((p) => p.x) / 800, spread((p) => p.y) / 600)).toBeGreaterThan(0.5);
  });
}

test('what lies behind the eye is nowhere in the picture', () => {
  const e = eye();
  const behind = e.position().multiplyScalar(2).sub(e.look.target);
  expect(e.project(behind)).toBeNull();
});
