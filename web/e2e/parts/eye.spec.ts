import { expect, test } from '@playwright/test';
import { Vector3 } from 'three';
import { apart } from '../../src/stage/beside';
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

test('like a free ball the eye turns over the top and stays square', () => {
  const e = eye();
  for (let i = 0; i < 200; i++) e.orbit(13, 37, new Vector3(1, 2, 3), true);
  const world = e.world();
  const column = (i: number) => new Vector3(world[4 * i], world[4 * i + 1], world[4 * i + 2]);
  for (const i of [0, 1, 2]) {
    expect(column(i).length()).toBeCloseTo(1, 9);
    expect(column(i).dot(column((i + 1) % 3))).toBeCloseTo(0, 9);
  }
  expect(Math.abs(e.pitch)).toBeLessThanOrEqual(Math.PI / 2);
});

test('from straight above, orbiting leaves the view and never turns it over', () => {
  const e = eye(true);
  e.look.turn = turnOf(0, Math.PI / 2);
  e.update();
  expect(e.pitch).toBeCloseTo(Math.PI / 2, 9);
  e.orbit(0, -50, null);
  expect(e.pitch).toBeLessThan(1.3);
  e.orbit(0, 1e5, null);
  expect(e.pitch).toBeLessThanOrEqual(Math.PI / 2 + 1e-9);
});

const lens = {
  projection: 'perspective' as const,
  fov: 40,
  height: 4,
  aspect: 16 / 9,
  near: null,
  far: null,
  shiftX: 0,
  shiftY: 0,
  opening: 0,
  focus: 0,
  width: 1920,
  pictureHeight: 1080,
};

test('through a shifted lens the frame shows what lies beside the axis, and rays go there', () => {
  for (const projection of ['perspective', 'parallel'] as const) {
    const e = eye(projection === 'parallel');
    e.lens = { ...lens, projection, shiftX: 0.25, shiftY: -0.5 };
    e.stand([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 10, 1], 10);
    e.update();
    const frame = e.frame()!;
    const high = projection === 'parallel' ? 4 : 20 * Math.tan((20 * Math.PI) / 180);
    // Half a picture lower and a quarter of its height to the right lies the middle of the frame.
    const middle = e.project(new Vector3(0.25 * high, -0.5 * high, 0))!;
    expect(middle.x).toBeCloseTo(frame.x + frame.width / 2, 3);
    expect(middle.y).toBeCloseTo(frame.y + frame.height / 2, 3);
    const [x, y, z, dx, dy, dz] = e.ray(middle.x, middle.y) as [number, number, number, number, number, number];
    const t = -z / dz;
    expect(x + dx * t).toBeCloseTo(0.25 * high, 6);
    expect(y + dy * t).toBeCloseTo(-0.5 * high, 6);
  }
});

test('through a camera the frame has the final picture’s aspect and shows just what the camera sees', () => {
  for (const aspect of [16 / 9, 1, 0.5, 3]) {
    const e = eye();
    e.lens = { ...lens, aspect };
    e.stand([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 10, 1], 10);
    e.update();
    const frame = e.frame()!;
    expect(frame.width / frame.height).toBeCloseTo(aspect, 9);
    expect(frame.x).toBeGreaterThanOrEqual(0);
    expect(frame.y).toBeGreaterThanOrEqual(0);
    // The upper edge of what a lens of 40° sees, ten metres away, lies on the frame's upper edge.
    const top = e.project(new Vector3(0, 10 * Math.tan((20 * Math.PI) / 180), 0))!;
    expect(top.y).toBeCloseTo(frame.y, 3);
    const right = e.project(new Vector3(10 * Math.tan((20 * Math.PI) / 180) * aspect, 0, 0))!;
    expect(right.x).toBeCloseTo(frame.x + frame.width, 3);
  }
});

test('through a parallel camera the frame is as high as the camera says', () => {
  const e = eye(true);
  e.lens = { ...lens, projection: 'parallel', height: 3, aspect: 1.5 };
  e.stand([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 2, 2, 10, 1], 10);
  e.update();
  const frame = e.frame()!;
  expect(e.project(new Vector3(2, 3.5, 0))!.y).toBeCloseTo(frame.y, 3);
  expect(e.project(new Vector3(0, 2, -50))!.x).toBeCloseTo(frame.x + frame.width / 2 - (2 * frame.height) / 3, 3);
});

test('the dolly never stalls, however near the last thing looked at was', () => {
  const e = eye();
  const far = e.position().add(new Vector3(0, 0, -300));
  e.look = { target: e.position().add(new Vector3(0, 0, -0.001)), turn: turnOf(0, 0), distance: 0.001 };
  e.update();
  const before = e.position().distanceTo(far);
  for (let i = 0; i < 20; i++) e.dolly(-0.2, far);
  expect(e.position().distanceTo(far)).toBeLessThan(before * 0.05);
});

test('near and far planes hold the whole scene, from a speck to a town', () => {
  for (const [radius, distance] of [
    [0.001, 0.004],
    [10, 3],
    [4000, 0.5],
    [4000, 20000],
  ] as const) {
    const e = eye();
    e.scene = { centre: new Vector3(0, 0, 0), radius };
    e.look = { target: new Vector3(), turn: turnOf(0.3, 0.2), distance };
    e.update();
    const camera = e.camera as { near: number; far: number } & typeof e.camera;
    expect(camera.near).toBeGreaterThan(0);
    expect(camera.near).toBeLessThan(distance);
    expect(camera.far).toBeGreaterThan(e.position().length() + radius);
  }
});

test('framing leaves what is covered at the foot alone', () => {
  const e = eye();
  const [low, high] = [new Vector3(-1, -1, -1), new Vector3(1, 1, 1)];
  e.look = e.framing(low, high, 150);
  e.update();
  for (let i = 0; i < 8; i++) {
    const at = e.project(new Vector3(i & 1 ? -1 : 1, i & 2 ? -1 : 1, i & 4 ? -1 : 1))!;
    expect(at.y).toBeLessThan(600 - 150);
    expect(at.y).toBeGreaterThan(0);
  }
});

test('a shifted lens stays shifted where near and far are drawn one after the other, and its picture is cut where it says', () => {
  const e = eye();
  const lens = {
    projection: 'perspective',
    fov: 30,
    height: 4,
    aspect: 1.5,
    near: 4,
    far: 40,
    shiftX: 0.3,
    shiftY: -0.2,
  };
  e.lens = { ...lens, opening: 0, focus: 0, width: 100, pictureHeight: 67 } as NonNullable<Eye['lens']>;
  e.update();
  const before = points.map((p) => e.project(p)!);
  expect([e.camera.near === 4, e.camera.far === 40]).toEqual([false, false]);
  e.between(0.01, 5000);
  points.forEach((p, i) => {
    expect(e.project(p)!.x).toBeCloseTo(before[i]!.x, 6);
    expect(e.project(p)!.y).toBeCloseTo(before[i]!.y, 6);
  });
  e.isPicture = true;
  e.update();
  expect([e.camera.near, e.camera.far]).toEqual([4, 40]);
});

test('two hundred thousand objects have a colour each in a mask, none of them black', () => {
  const hexes = new Set(
    Array.from({ length: 200_000 }, (_, i) => [...apart(i).toArray()].map((c) => Math.round(c * 255)).join(' ')),
  );
  expect(hexes.size).toBe(200_000);
  expect(hexes.has('0 0 0')).toBe(false);
});
