import { expect, type Page } from '@playwright/test';
import { Room } from './room';
import { test } from './shared';

/**
 * Stills by numbers: the light itself, without tones, with no surroundings. What is expected is worked out here from the open standard (glTF 2.0, Appendix B, and
 * KHR_lights_punctual), not from what draws it.
 */

/** What a white rough surface reflects of light of irradiance 1 square to it. */
function reflected(toLight: number[], toEye: number[], normal: number[]): number {
  const dot = (a: number[], b: number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const unit = (a: number[]) => a.map((v) => v / Math.hypot(...a));
  const [l, v, n] = [unit(toLight), unit(toEye), unit(normal)];
  const h = unit(l.map((x, i) => x + v[i]!));
  const [nl, nv, nh, vh] = [dot(n, l), dot(n, v), dot(n, h), dot(v, h)];
  const a = 1;
  const d = a ** 2 / (Math.PI * (nh * nh * (a ** 2 - 1) + 1) ** 2);
  const smith = nl * Math.sqrt(nv * nv * (1 - a ** 2) + a ** 2) + nv * Math.sqrt(nl * nl * (1 - a ** 2) + a ** 2);
  const f = 0.04 + 0.96 * (1 - vh) ** 5;
  return ((1 - f) / Math.PI + (f * d * 0.5) / smith) * nl;
}

const side = 64;

/** An empty scene with what is asked for, opened. */
async function fresh(page: Page, edits: object[]): Promise<void> {
  const made = (await (await page.request.post('/api/scenes', { data: { name: 'Light' } })).json()) as { id: string };
  const done = await page.request.post(`/api/scenes/${made.id}/edits`, { data: { base: 1, edits } });
  expect(done.status(), await done.text()).toBe(200);
  await Room.enter(page, made.id);
}

/** The light of a still, seen straight from above onto 4 × 4 metres of the ground; by metres across (x) and down (z). */
async function lightOf(page: Page, passes: number, around = [side, side]) {
  const [width, height] = around as [number, number];
  const sum = await page.evaluate(
    async ([width, height, passes]) => {
      const stage = (window as unknown as { calmPivotStage: StageHook }).calmPivotStage;
      let all: number[] = [];
      await stage.still(
        {
          shot: null,
          camera: 'above',
          view: null,
          width,
          height,
          part: null,
          passes,
          transparent: false,
          tone: 'none',
          depth: false,
          mask: false,
        },
        { stop: false, gone: false },
        () => undefined,
        (light) => (all = [...light]),
      );
      return all;
    },
    [width, height, passes] as const,
  );
  expect(sum.length).toBe(width * height * 4);
  return (x: number, z: number) => {
    const column = Math.floor(((x + 2) / 4) * width);
    const row = Math.floor(((2 - z) / 4) * height);
    return sum[4 * (row * width + column)]!;
  };
}

interface StageHook {
  still(
    plan: object,
    going: { stop: boolean; gone: boolean },
    progress: () => void,
    light: (sum: Float32Array) => void,
  ): Promise<unknown>;
}

const ground = {
  do: 'create',
  node: {
    id: 'ground',
    name: 'Ground',
    kind: 'shape',
    shape: { type: 'plane', size: [8, 8] },
    material: { name: 'White', color: '#FFFFFF', roughness: 1 },
  },
};
const above = {
  do: 'create',
  node: {
    id: 'above',
    name: 'Above',
    kind: 'camera',
    placement: { position: [0, 5, 0], rotation: [-90, 0, 0] },
    camera: { projection: 'parallel', height: 4, aspect: 1 },
  },
};
const dark = { do: 'setSurroundings', strength: 0 };
const lamp = (light: object, position: number[], rotation = [-90, 0, 0]) => ({
  do: 'create',
  node: { id: 'lamp', name: 'Lamp', kind: 'light', placement: { position, rotation }, light },
});

/** Where a pixel's middle lies. */
const middle = (v: number) => (Math.floor(((v + 2) / 4) * side) + 0.5) * (4 / side) - 2;
const middleDown = (v: number) => -middle(-v);
const places = [
  [0, 0],
  [0.8, 0.3],
  [-1.2, 0.9],
  [0.4, -1.6],
  [1.7, 1.7],
] as const;
const up = [0, 1, 0];

test('a white rough surface shines as the standard says: point, spot and directional, with range and cone', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const falloffs: [object, number[], number[], (way: number[], far: number) => number][] = [
    [{ type: 'point', intensity: 30 }, [0.5, 1.5, 0.2], [0, 0, 0], (_, far) => 30 / far ** 2],
    [
      { type: 'point', intensity: 30, range: 3 },
      [0.5, 1.5, 0.2],
      [0, 0, 0],
      (_, far) => (30 * Math.max(Math.min(1 - (far / 3) ** 4, 1), 0)) / far ** 2,
    ],
    [
      { type: 'spot', intensity: 20, innerCone: 20, outerCone: 60 },
      [0, 1.5, 0],
      [-90, 0, 0],
      (way, far) => {
        const [inner, outer] = [Math.cos(Math.PI / 9), Math.cos(Math.PI / 3)];
        return (20 * Math.min(1, Math.max(0, (way[1]! - outer) / (inner - outer))) ** 2) / far ** 2;
      },
    ],
    [
      { type: 'panel', intensity: 20, size: 0.5 },
      [0, 1.5, 0],
      [-90, 0, 0],
      (way, far) => (20 * Math.max(0, way[1]!)) / far ** 2,
    ],
    [{ type: 'directional', intensity: 3 }, [0, 2, 0], [-60, 0, 0], () => 3],
  ];
  for (const [light, position, rotation, irradiance] of falloffs) {
    await fresh(page, [ground, above, dark, lamp(light, position, rotation)]);
    const at = await lightOf(page, 1);
    for (const [px, pz] of places) {
      const [x, z] = [middle(px), middleDown(pz)];
      const directional = (light as { type: string }).type === 'directional';
      const way = directional
        ? [0, Math.sin(Math.PI / 3), Math.cos(Math.PI / 3)]
        : [position[0]! - x, position[1]!, position[2]! - z];
      const far = Math.hypot(...way);
      const wanted =
        irradiance(
          way.map((v) => v / far),
          far,
        ) * reflected(way, up, up);
      expect(
        Math.abs(at(px, pz) - wanted),
        `${JSON.stringify(light)} at ${x} ${z}: ${at(px, pz)}, wanted ${wanted}`,
      ).toBeLessThan(Math.max(0.01 * wanted, 2e-4));
    }
  }
});

test('even surroundings light a surface that nothing covers by all of their light, pass by pass', async ({ page }) => {
  await fresh(page, [
    ground,
    above,
    { do: 'setSurroundings', style: 'even', color: '#FFFFFF', strength: 2, behind: false },
  ]);
  const at = await lightOf(page, 64);
  // Radiance 2 from every side: what is white sends back 2, but for what is mirrored otherwise.
  for (const [x, z] of places) expect(Math.abs(at(x, z) - 2)).toBeLessThan(0.16);
});

test('the edge of a shadow lies where geometry says, and is soft for a large lamp', async ({ page }) => {
  test.setTimeout(120_000);
  const box = {
    do: 'create',
    node: {
      id: 'box',
      name: 'Box',
      kind: 'shape',
      shape: { type: 'box', size: [1, 0.02, 1] },
      placement: { position: [-1, 1, 0] },
    },
  };
  const edge = async (size: number, passes: number) => {
    await fresh(page, [ground, above, dark, box, lamp({ type: 'point', intensity: 30, size }, [-1, 3, 0])]);
    const at = await lightOf(page, passes, [256, 256]);
    // Beyond the box itself, along x: from dark to light.
    const steps = Array.from({ length: 256 }, (_, i) => -2 + (i + 0.5) / 64).filter((x) => x > -0.45 && x < 0.6);
    const bright = at(0.55, 0);
    const first = steps.find((x) => at(x, 0) > 0.1 * bright)!;
    const last = steps.find((x) => at(x, 0) > 0.85 * bright)!;
    return { first, last };
  };
  // The upper edge of the box, 1.01 m high, as seen from the lamp at 3 m: 0.5 m aside becomes 0.5 · 3 / 1.99.
  const wanted = -1 + (0.5 * 3) / 1.99;
  const sharp = await edge(0, 1);
  expect(Math.abs(sharp.first - wanted)).toBeLessThan(0.05);
  expect(sharp.last - sharp.first).toBeLessThan(0.1);
  const soft = await edge(0.6, 64);
  // A ball of 0.6 m, an edge 2 m below it and 1 m above the ground: 0.15 m to each side, the most of it in the middle.
  expect(soft.last - soft.first).toBeGreaterThan(0.12);
  expect(Math.abs((soft.first + soft.last) / 2 - wanted)).toBeLessThan(0.12);
});

test('more passes come nearer to the same picture', async ({ page }) => {
  test.setTimeout(180_000);
  await fresh(page, [
    ground,
    above,
    { do: 'setSurroundings', style: 'sky', strength: 1 },
    {
      do: 'create',
      node: {
        id: 'ball',
        name: 'Ball',
        kind: 'shape',
        shape: { type: 'ball', radius: 0.6 },
        placement: { position: [0, 0.6, 0] },
      },
    },
    lamp({ type: 'panel', intensity: 10, size: 1 }, [1, 2, 1]),
  ]);
  const grid = Array.from(
    { length: 24 * 24 },
    (_, i) => [-1.9 + (3.8 * (i % 24)) / 23, -1.9 + (3.8 * Math.floor(i / 24)) / 23] as const,
  );
  const of = async (passes: number) => {
    const at = await lightOf(page, passes);
    return grid.map(([x, z]) => at(x, z));
  };
  const [best, some, more] = [await of(512), await of(16), await of(64)];
  const off = (all: number[]) => Math.sqrt(all.reduce((sum, v, i) => sum + (v - best[i]!) ** 2, 0) / all.length);
  // By chance alone four times as many would halve it.
  expect(off(more)).toBeLessThan(0.6 * off(some));
});
