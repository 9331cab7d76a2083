import { expect } from '@playwright/test';
import { Room, texturedRoom } from './room';
import { test } from './shared';

/** Every type of shape, smoothed, faceted, sheared, mirrored, and taking only a part of what carries it. */
function shapesOfAllKinds(): object[] {
  const types = ['box', 'ball', 'icoball', 'cylinder', 'cone', 'ring', 'plane', 'capsule', 'disc'];
  const made = types.flatMap((type, i) => [
    {
      do: 'create',
      node: {
        id: type,
        name: type,
        kind: 'shape',
        shape: { type },
        placement: {
          position: [i * 1.1, 0.3 / (i + 1), -i],
          rotation: [17.3 * i, -41.7, 123.456 + i],
          order: ['XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX'][i % 6],
          scale: [1 / 3, -1.7, 0.1 + i],
          shear: [0.1, -0.2, i / 7],
          pivot: [0.1, 0.2, 0.3],
          pivotTurn: [3, 33, i * 11],
          takes: { position: true, rotation: i % 2 === 0, scale: i % 3 !== 0 },
        },
      },
      ...(i === 0 ? {} : { under: types[i - 1] }),
    },
  ]);
  return [
    ...made,
    { do: 'setNormals', nodes: types.slice(0, 5), how: 'smooth', angle: 33 },
    { do: 'setNormals', nodes: ['ring'], how: 'facets' },
  ];
}

test('page and server compute the same of every scene, to the bit', async ({ page }) => {
  const make = async (name: string, like?: string): Promise<string> => {
    const answer = await page.request.post('/api/scenes', { data: { name, ...(like ? { like } : {}) } });
    return ((await answer.json()) as { id: string }).id;
  };
  const shapes = await make('Shapes');
  const edited = await page.request.post(`/api/scenes/${shapes}/edits`, {
    data: { base: 1, edits: shapesOfAllKinds() },
  });
  expect(edited.status(), await edited.text()).toBe(200);
  for (const scene of [
    await make('Empty'),
    await make('Start', 'start'),
    await make('Demo', 'orrery-room'),
    await texturedRoom(page.request),
    shapes,
  ]) {
    const room = await Room.enter(page, scene);
    await room.computesAsServer();
  }
});

test('meshes are copied with their geometry, out of the page and back', async ({ page }) => {
  await Room.enter(page, await texturedRoom(page.request));
  const { text, tops } = await page.evaluate(() => {
    const { calmPivotCore: core } = window as unknown as {
      calmPivotCore: {
        outline(): { id: string; geometry: string | null }[];
        copyAsText(ids: string[]): string | { detail: string };
        topsOfText(text: string): unknown;
      };
    };
    const meshes = core.outline().filter((row) => row.geometry !== null);
    const copied = core.copyAsText(meshes.map((row) => row.id));
    const text = typeof copied === 'string' ? copied : copied.detail;
    return { text, tops: JSON.stringify(core.topsOfText(text)) };
  });
  expect(text).toContain('"geometries":{');
  expect(tops).toMatch(/[1-9]/);
});
