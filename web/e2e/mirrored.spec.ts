import { expect, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import { independentPage } from './independent';
import { Room } from './room';
import { test } from './shared';

/** A room that is mirrored as a whole looks as in a mirror: drawn by the page, and as a file by an independent renderer. */

const [width, height] = [320, 180];

/** Things that are not alike on both sides, lamps of each kind and a camera, some of them carried by what is turned, uneven or mirrored already. */
async function made(page: Page): Promise<string> {
  const { id } = (await (await page.request.post('/api/scenes', { data: { name: 'Mirror' } })).json()) as {
    id: string;
  };
  const create = (node: object, parent?: string) => ({ do: 'create', node, ...(parent ? { under: parent } : {}) });
  const shape = (id: string, type: object, position: number[], color: string, more: object = {}) =>
    create({
      id,
      name: id,
      kind: 'shape',
      shape: type,
      material: { name: id, color, roughness: 0.8 },
      placement: { position, ...more },
    });
  const edits = [
    shape('floor', { type: 'box', size: [8, 0.2, 8] }, [0, -0.1, 0], '#B8A890'),
    shape('wall', { type: 'box', size: [8, 4, 0.2] }, [0, 2, -3], '#90A0B0'),
    shape('ball', { type: 'ball', radius: 0.7 }, [-1.2, 0.7, 0.2], '#B5533C'),
    shape('box', { type: 'box', size: [0.8, 1.6, 0.6] }, [1.4, 0.8, -0.6], '#3F7F5F', { rotation: [0, 30, 0] }),
    create({
      id: 'arm',
      name: 'arm',
      kind: 'group',
      placement: { position: [0, 2, 1], rotation: [10, 40, 5], scale: [3, 1, 1] },
    }),
    create(
      {
        id: 'spot',
        name: 'spot',
        kind: 'light',
        light: { type: 'spot', intensity: 90, outerCone: 40, innerCone: 20, size: 0, shadow: true },
        placement: { position: [0.2, 1, 0.5], rotation: [-70, 10, 0], scale: [-1, 1, 1] },
      },
      'arm',
    ),
    create({
      id: 'sun',
      name: 'sun',
      kind: 'light',
      light: { type: 'directional', intensity: 1.2, shadow: true },
      placement: { rotation: [-50, 35, 0], scale: [1, 1, -1] },
    }),
    create({
      id: 'bulb',
      name: 'bulb',
      kind: 'light',
      light: { type: 'point', intensity: 30, size: 0, shadow: true },
      placement: { position: [-2, 2.4, 1] },
    }),
    create({
      id: 'crane',
      name: 'crane',
      kind: 'group',
      placement: { position: [1, 1.6, 4], rotation: [0, 12, 0], scale: [1, 2, 0.5] },
    }),
    create(
      {
        id: 'eye',
        name: 'eye',
        kind: 'camera',
        camera: { projection: 'perspective', fov: 45, near: 0.1, far: 50, aspect: width / height },
        placement: { position: [0, 0, 2], rotation: [-6, 8, 3], scale: [-1, 1, 1] },
      },
      'crane',
    ),
    { do: 'setSurroundings', style: 'even', color: '#FFFFFF', strength: 0.3, behind: false },
    { do: 'shot', shot: { id: 'one', number: '01', name: 'One', camera: 'eye', frames: 24 } },
  ];
  const kept = await page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1, edits } });
  expect(kept.ok(), await kept.text()).toBe(true);
  return id;
}

/** Both pictures: a quick still, and as somebody else draws the file. */
async function drawn(page: Page, other: Page, id: string): Promise<{ ours: number[]; theirs: number[] }> {
  const stills = async () => (await (await page.request.get(`/api/scenes/${id}/stills`)).json()) as { id: string }[];
  const had = (await stills()).length;
  await page.getByRole('button', { name: 'Make a still', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Make a still' });
  await panel.getByRole('radio', { name: 'A camera' }).click();
  await panel.getByLabel('Width, in pixels').fill(`${width}`);
  await expect(panel.locator('[data-says]')).toContainText(`Makes a quick still of eye: ${width} × ${height} pixels`);
  await panel.getByRole('button', { name: 'Make it' }).click();
  await expect.poll(async () => (await stills()).length, { timeout: 60_000 }).toBe(had + 1);
  const still = (await stills()).at(-1)!;
  const png = decode(await (await page.request.get(`/api/scenes/${id}/stills/${still.id}/picture`)).body());
  expect([png.width, png.height, png.depth]).toEqual([width, height, 8]);
  const ours = Array.from({ length: width * height * 4 }, (_, i) =>
    i % 4 < png.channels ? png.data[Math.floor(i / 4) * png.channels + (i % 4)]! : 255,
  );
  const theirs = await other.evaluate(
    async ([file, w, h]) => {
      type Draw = (file: string, strength: number, w: number, h: number) => Promise<Uint8ClampedArray>;
      return [...(await (window as unknown as { draw: Draw }).draw(file, 0.3, w, h))];
    },
    [`/api/scenes/${id}/export?format=glb&shot=one&${Math.random()}`, width, height] as const,
  );
  return { ours, theirs };
}

/** Of the pixels that lie more than one from an outline, the share that a mirror shows alike, to 1 of 255; and how much of the picture that is. */
function alike(first: number[], second: number[]): { alike: number; inside: number } {
  const at = (x: number, y: number) => 4 * (y * width + x);
  const differ = (a: number[], i: number, b: number[], j: number, by: number) =>
    [0, 1, 2].some((k) => Math.abs(a[i + k]! - b[j + k]!) > by);
  let [inside, same] = [0, 0];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      let outline = false;
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++)
          outline ||= differ(first, at(x + dx, y + dy), first, at(x + Math.sign(dx), y + Math.sign(dy)), 10);
      if (outline) continue;
      inside++;
      if (!differ(first, at(x, y), second, at(width - 1 - x, y), 1)) same++;
    }
  return { alike: same / inside, inside: inside / (width * height) };
}

test('a room that is mirrored, lamps and camera with it, looks as in a mirror, and so does its file', async ({
  page,
}) => {
  const id = await made(page);
  const room = await Room.enter(page, id);
  await room.still();
  await page.getByRole('button', { name: 'Stills', exact: true }).click();
  const other = await independentPage(page.context());
  const before = await drawn(page, other, id);
  await page.evaluate(() => {
    const { calmPivotSession: session } = window as unknown as { calmPivotSession: { keep(edit: unknown): boolean } };
    session.keep({
      do: 'mirror',
      nodes: ['floor', 'wall', 'ball', 'box', 'arm', 'sun', 'bulb', 'crane'],
      axis: 'x',
      space: { kind: 'world' },
      about: { kind: 'zero' },
      how: 'mirror',
    });
  });
  await room.saved();
  await room.still();
  const after = await drawn(page, other, id);
  for (const who of ['ours', 'theirs'] as const) {
    const { alike: share, inside } = alike(before[who], after[who]);
    expect(inside, who).toBeGreaterThan(0.6);
    expect(share, who).toBeGreaterThan(0.99);
    // It is another picture, and not an empty one.
    expect(alike(before[who], [...before[who]]).alike, who).toBeLessThan(0.6);
  }
  await other.close();
  await room.computesAsServer();
});
