import { expect } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { Room } from './room';
import { test } from './shared';

/** A file of so many small parts under groups of two hundred. */
function parts(count: number): Buffer {
  const points = Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64');
  const nodes = Array.from({ length: count }, (_, i): Record<string, unknown> => ({
    name: `Part ${i}`,
    mesh: 0,
    translation: [i % 40, 0, Math.floor(i / 40)],
  }));
  const roots: number[] = [];
  for (let i = 0; i < count; i += 201) {
    roots.push(i);
    nodes[i]!['children'] = Array.from({ length: Math.min(200, count - i - 1) }, (_, k) => i + 1 + k);
  }
  return Buffer.from(
    JSON.stringify({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: roots }],
      nodes,
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [{ byteLength: 36, uri: `data:application/octet-stream;base64,${points}` }],
    }),
  );
}

test('a long import says how far it is, can be stopped, and leaves nothing then', async ({ page }, { retry }) => {
  // What a first try may have left is none of a second one's.
  const name = `many parts ${retry}`;
  await Room.open(page);
  await page
    .locator('[data-import]')
    .setInputFiles({ name: `${name}.gltf`, mimeType: 'model/gltf+json', buffer: parts(60_000) });
  const hint = page.locator('[data-hint]');
  await expect(hint).toContainText(/Importing many parts \d.gltf: (reading the file|storing objects [\d,]+ of 60,000)/);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(hint).toHaveText(`Stopped: Importing ${name}.gltf.`);
  await page.waitForTimeout(1500);
  const scenes = (await (await page.request.get('/api/scenes')).json()) as { name: string }[];
  expect(scenes.map((scene) => scene.name)).not.toContain(name);
  await expect(page.locator('header').first()).toContainText('Test room');
});

test('an import into the scene says what it stored, and an export comes down as a file with its name', async ({
  page,
}) => {
  const room = await Room.open(page);
  const asked = page.waitForEvent('filechooser');
  await room.key('Control+k');
  await page.keyboard.type('import a file into this scene');
  await page.keyboard.press('Enter');
  await (await asked).setFiles({ name: 'parts.gltf', mimeType: 'model/gltf+json', buffer: parts(300) });
  await expect(page.locator('[data-hint]')).toContainText('Imported parts.gltf: 300 objects');
  await room.key('Control+z');
  await room.saved();
  await page.getByRole('button', { name: 'Export' }).click();
  const coming = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'glTF 2.0, as text' }).click();
  const file = await coming;
  expect(file.suggestedFilename()).toMatch(/\.gltf$/);
  const text = JSON.parse(await readFile((await file.path())!, 'utf8')) as { asset: { version: string } };
  expect(text.asset.version).toBe('2.0');
  await expect(page.locator('[data-hint]')).toContainText('Exported');
});

test('what is asked for too often is sent again until it is taken', async ({ page }) => {
  const room = await Room.open(page);
  let refused = 0;
  await page.route('**/edits', async (route) => {
    if (refused++ < 2)
      return route.fulfill({
        status: 429,
        headers: { 'retry-after': '1' },
        contentType: 'application/problem+json',
        body: JSON.stringify({ refusal: 'too-many', detail: 'This was asked for too often.' }),
      });
    return route.continue();
  });
  await room.pick('moon-arm');
  await room.key('m');
  await page.keyboard.type('0.2');
  await page.keyboard.press('Enter');
  await room.saved();
  expect(refused).toBeGreaterThan(2);
  await room.key('Control+z');
  await room.saved();
});
