import { expect, type Page } from '@playwright/test';
import validator from 'gltf-validator';
import { independentPage } from './independent';
import { Room } from './room';
import { test } from './shared';

/**
 * What the stage draws beside what an independent renderer draws of the same scene as a file: three's own reader of glTF in a page that
 * knows nothing of ours, with the lamps of the file and the scene's camera.
 */

const [width, height] = [480, 270];

/** Pictures drawn in the page: colours, bumps, roughness with metalness, creases, and one with holes. */
async function pictures(page: Page): Promise<Record<string, Buffer>> {
  const drawn = await page.evaluate(async () => {
    const side = 64;
    const draw = async (at: (u: number, v: number) => number[]) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [side, side];
      const context = canvas.getContext('2d')!;
      const image = context.createImageData(side, side);
      for (let i = 0; i < side * side; i++) image.data.set(at((i % side) / side, Math.floor(i / side) / side), 4 * i);
      context.putImageData(image, 0, 0);
      const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
      return [...new Uint8Array(await blob!.arrayBuffer())];
    };
    const wave = (t: number) => 0.5 + 0.5 * Math.sin(2 * Math.PI * t);
    return {
      colour: await draw((u, v) => [60 + 180 * wave(u), 60 + 150 * wave(2 * v), 80, 255]),
      bumps: await draw((u, v) => [128 + 70 * Math.sin(12.566 * u), 128 + 70 * Math.sin(12.566 * v), 220, 255]),
      rough: await draw((u, v) => [0, 40 + 200 * wave(u), 220 * wave(v), 255]),
      creases: await draw((u) => [80 + 175 * wave(2 * u), 0, 0, 255]),
      holes: await draw((u, v) => [200, 120, 60, (u - 0.5) ** 2 + (v - 0.5) ** 2 < 0.09 ? 0 : 255]),
    };
  });
  return Object.fromEntries(Object.entries(drawn).map(([name, bytes]) => [name, Buffer.from(bytes)]));
}

/** A row of things, each with something else that a material can say. */
async function made(page: Page): Promise<string> {
  const { id } = (await (await page.request.post('/api/scenes', { data: { name: 'Surfaces' } })).json()) as {
    id: string;
  };
  const hashes: Record<string, string> = {};
  for (const [name, data] of Object.entries(await pictures(page))) {
    const kept = await page.request.post(`/api/scenes/${id}/pictures?name=${name}`, {
      headers: { 'content-type': 'image/png' },
      data,
    });
    expect(kept.status(), await kept.text()).toBe(201);
    hashes[name] = ((await kept.json()) as { hash: string }).hash;
  }
  const use = (channel: string, name: string, more: object = {}) => ({ channel, image: hashes[name], ...more });
  const surfaces: object[] = [
    { color: '#B5533C', roughness: 0.55 },
    { color: '#C99A4E', roughness: 0.35, metalness: 0.7 },
    { color: '#FFFFFF', textures: [use('BaseColor', 'colour', { repeat: [2, 1.5], offset: [0.2, 0.1], turn: 30 })] },
    { color: '#DDDDDD', roughness: 0.5, textures: [use('Normal', 'bumps', { strength: 0.8 })] },
    {
      color: '#8899AA',
      roughness: 1,
      metalness: 1,
      textures: [use('MetallicRoughness', 'rough'), use('Occlusion', 'creases', { strength: 0.7 })],
    },
    { color: '#FFFFFF', alphaMode: 'mask', alphaCutoff: 0.5, doubleSided: true, textures: [use('BaseColor', 'holes')] },
    { color: '#3388CC', opacity: 0.45, alphaMode: 'blend', roughness: 0.2 },
    { color: '#111111', emissive: '#FF8822', emissiveStrength: 1.6 },
    { color: '#66AA44', unlit: true },
    { color: '#FFFFFF', textures: [use('BaseColor', 'colour', { wrapS: 33648, wrapT: 33071, repeat: [3, 3] })] },
    {
      color: '#FFFFFF',
      textures: [use('BaseColor', 'colour')],
      lies: { how: 'box', metres: 0.7, aspect: 1, true: true },
    },
    { color: '#AA7755', doubleSided: true, roughness: 0.8 },
  ];
  const edits: object[] = surfaces.map((material, i) => ({
    do: 'create',
    node: {
      id: `thing-${i}`,
      name: `Thing ${i}`,
      kind: 'shape',
      shape:
        i === 11
          ? { type: 'plane', size: [1, 1] }
          : i % 2 === 0 || i === 5
            ? { type: 'ball', radius: 0.5 }
            : { type: 'box', size: [0.8, 0.8, 0.8] },
      material: { name: `Surface ${i}`, ...material },
      placement: {
        position: [(i % 4) * 1.3 - 1.95, 1.3 - Math.floor(i / 4) * 1.3, 0],
        rotation: [i === 11 ? -110 : 20, 30 * i, 0],
        scale: i === 10 ? [1.2, 0.8, 1] : [1, 1, 1],
      },
    },
  }));
  edits.push(
    {
      do: 'create',
      node: {
        id: 'behind',
        name: 'Behind the glass',
        kind: 'shape',
        shape: { type: 'box', size: [0.3, 1.2, 0.1] },
        placement: { position: [0.65, 0, -0.9] },
      },
    },
    {
      do: 'create',
      node: {
        id: 'eye',
        name: 'Eye',
        kind: 'camera',
        camera: { projection: 'perspective', fov: 34, near: 0.1, far: 50, aspect: width / height },
        placement: { position: [0, 0, 7.4] },
      },
    },
    // The same light in both: a lamp of the file, and white from all sides, which a file has no place for.
    {
      do: 'create',
      node: {
        id: 'sun',
        name: 'Sun',
        kind: 'light',
        light: { type: 'directional', intensity: 2.4, color: '#FFF2DC', shadow: false },
        placement: { rotation: [-42, 28, 0] },
      },
    },
    { do: 'setSurroundings', style: 'even', color: '#FFFFFF', strength: allSides, behind: false },
    { do: 'shot', shot: { id: 'one', number: '01', name: 'One', camera: 'eye', frames: 24 } },
  );
  const kept = await page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1, edits } });
  expect(kept.ok(), await kept.text()).toBe(true);
  return id;
}

/** How much light comes from everywhere. */
const allSides = 0.5;

test('the stage draws what a material says as an independent renderer draws the same file', async ({ page }) => {
  await page.goto('/');
  const room = await Room.enter(page, await made(page));
  await room.still();
  const ours = await page.evaluate(
    async ([w, h]) => {
      interface Stage {
        throughShot(shot: string, w: number, h: number, type: string): Promise<Blob>;
      }
      const stage = (window as unknown as { calmPivotStage: Stage }).calmPivotStage;
      // Twice: pictures may still have been on their way.
      await stage.throughShot('one', w!, h!, 'image/png');
      await new Promise((done) => setTimeout(done, 1500));
      const blob = await stage.throughShot('one', w!, h!, 'image/png');
      return [...new Uint8Array(await blob.arrayBuffer())];
    },
    [width, height] as const,
  );

  // What goes out is a file of the standard, whatever its materials say.
  const file = await page.request.get(`/api/scenes/${room.id}/export?format=glb&shot=one`);
  const report = await validator.validateBytes(new Uint8Array(await file.body()));
  expect(report.issues.messages.filter((m) => m.severity < 2).map((m) => m.code)).toEqual([]);

  const other = await independentPage(page.context());
  const difference = await other.evaluate(
    async ([file, strength, png, w, h]) => {
      const draw = (window as unknown as { draw(file: string, strength: number, w: number, h: number): Promise<Uint8ClampedArray> }).draw; // prettier-ignore
      const theirs = await draw(file as string, strength as number, w as number, h as number);
      const bitmap = await createImageBitmap(new Blob([new Uint8Array(png as number[])], { type: 'image/png' }));
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [w as number, h as number];
      const context = canvas.getContext('2d')!;
      context.drawImage(bitmap, 0, 0);
      const own = context.getImageData(0, 0, canvas.width, canvas.height).data;
      let [sum, over, drawn] = [0, 0, 0];
      for (let i = 0; i < own.length; i += 4) {
        const worst = Math.max(...[0, 1, 2].map((k) => Math.abs(own[i + k]! - theirs[i + k]!)));
        sum += (Math.abs(own[i]! - theirs[i]!) + Math.abs(own[i + 1]! - theirs[i + 1]!) + Math.abs(own[i + 2]! - theirs[i + 2]!)) / 3; // prettier-ignore
        if (worst > 8) over++;
        if ([0, 1, 2].some((k) => Math.abs(own[i + k]! - own[k]!) > 12)) drawn++;
      }
      const pixels = own.length / 4;
      return { mean: sum / pixels, over: over / pixels, drawn: drawn / pixels };
    },
    [`/api/scenes/${room.id}/export?format=glb&shot=one`, allSides, ours, width, height] as const,
  );
  await other.close();
  // There is something to see at all.
  expect(difference.drawn).toBeGreaterThan(0.2);
  expect(difference.mean).toBeLessThanOrEqual(2);
  expect(difference.over).toBeLessThanOrEqual(0.01);
});
