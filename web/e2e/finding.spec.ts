import { expect } from '@playwright/test';
import { test } from './shared';
import { readFile } from 'node:fs/promises';
import { Room } from './room';

test('lose an object and get it back: by any part of its name, framed with a second key', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await room.field('Position X').fill('4000');
  await page.keyboard.press('Enter');
  await room.saved();
  await room.key('Shift+e');
  await room.key('Control+k');
  await page.keyboard.type('glob');
  await expect(page.getByRole('option').first()).toContainText('Globe');
  await page.keyboard.press('Shift+Enter');
  await expect(page.locator('[id="row-globe"]')).toHaveAttribute('aria-selected', 'true');
  const at = await room.at('globe');
  const stage = (await page.locator('[data-stage]').boundingBox())!;
  expect(Math.abs(at.x - stage.x - stage.width / 2)).toBeLessThan(40);
  expect(at.y).toBeGreaterThan(stage.y + 100);
  await room.key('Control+z');
  await room.saved();
  expect((await room.node('globe')).placement.position[0]).toBe(0);
});

test('commands are found by the trade’s other words, do their work, and come first the next time', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await room.key('Control+k');
  await page.keyboard.type('hide');
  await expect(page.getByRole('option').first()).toContainText('Switch the picked off or on');
  await page.keyboard.press('Enter');
  await room.saved();
  await expect(page.locator('[id="row-globe"]')).toHaveAttribute('aria-label', /off in the working view/);
  await room.key('Control+k');
  await expect(page.getByRole('option').first()).toContainText('Switch the picked off or on');
  await page.keyboard.type('mrcry rm');
  await expect(page.getByRole('option').first()).toContainText('Mercury arm');
  await page.keyboard.type('zzzz');
  await expect(page.getByText('Nothing is called')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await room.key('Control+k');
  await page.keyboard.type('handles');
  await page.getByRole('option', { name: /Size of the handles/ }).click();
  await expect(page.getByRole('dialog', { name: 'Settings' })).toBeVisible();
});

test('steps: pointing shows what moved, a press goes back and forward, checkpoints have names', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  for (const x of ['+0.5', '+0.5', '+0.5']) {
    await room.field('Position X').fill(x);
    await page.keyboard.press('Enter');
    await room.saved();
  }
  const x = async () => (await room.node('stool')).placement.position[0]!;
  const last = await x();
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  const steps = page.getByRole('complementary', { name: 'Steps' });
  await expect(steps.getByRole('listitem')).toHaveCount(3);
  await steps.getByRole('listitem').first().hover();
  await expect(page.locator('[data-view="0"] .way line').first()).toBeVisible();
  await steps.getByRole('button', { name: 'Name step 1' }).click();
  await page.getByLabel('Name of this checkpoint').fill('Where it began');
  await page.keyboard.press('Enter');
  await expect(steps).toContainText('Where it began');
  await steps.getByRole('button', { name: /Where it began/ }).click();
  await room.saved();
  await expect.poll(x).toBeCloseTo(last - 1, 9);
  await steps.getByRole('listitem').first().getByRole('button').first().click();
  await room.saved();
  await expect.poll(x).toBeCloseTo(last, 9);
  await page.reload();
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  await expect(steps).toContainText('Where it began');
  // Going to where one already is says so, and changes nothing.
  await steps.getByRole('listitem').first().getByRole('button').first().click();
  await expect(page.getByRole('alert')).toContainText('stands at this step already');
  expect(await x()).toBeCloseTo(last, 9);
});

test('keys are changed, clashes are refused by name, and all settings go out and in as a file', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Keys' }).click();
  await page.getByLabel('Find a command').fill('frame what');
  await page.getByRole('button', { name: 'Give Frame what is picked a key' }).click();
  await page.keyboard.press('r');
  await expect(page.getByRole('alert')).toContainText('R is the key of “Rotate”');
  await page.getByRole('button', { name: 'Give Frame what is picked a key' }).click();
  await page.keyboard.press('5');
  await expect(page.getByRole('alert')).toContainText('starts the amount');
  await page.getByRole('button', { name: 'Give Frame what is picked a key' }).click();
  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: 'Take J away from Frame what is picked' })).toBeVisible();
  await page.getByRole('tab', { name: 'Looks' }).click();
  await page.getByRole('radio', { name: 'Night' }).click();
  await page.getByRole('tab', { name: 'File' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  const file = await download.path();
  expect(JSON.parse(await readFile(file, 'utf8'))).toMatchObject({
    calmPivotSettings: { theme: 'night', keys: { 'view.frame': ['v', 'j'] } },
  });
  await page.getByRole('button', { name: 'All as it came' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'day');
  await page
    .getByLabel('File of settings')
    .setInputFiles({ name: 'broken.json', mimeType: 'application/json', buffer: Buffer.from('{"theme":') });
  await expect(page.getByRole('alert')).toContainText('not JSON');
  await page.getByLabel('File of settings').setInputFiles(file);
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await page.waitForTimeout(500);
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await room.pick('stool');
  const before = await room.look();
  await room.key('j');
  expect(await room.look()).not.toEqual(before);
  await room.key('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('V  J');
});

test('panels fold, change sides and keep their widths; own arrangements are kept', async ({ page }) => {
  const room = await Room.open(page);
  await room.key('Control+k');
  await page.keyboard.type('arranged for looking');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('tree')).toBeHidden();
  const wide = (await page.locator('[data-stage]').boundingBox())!.width;
  expect(wide).toBeGreaterThan(1270);
  await room.key('F6');
  await expect(page.getByRole('tree')).toBeVisible();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Panels' }).click();
  await page.getByRole('switch', { name: 'Tree on the right' }).click();
  await page.getByLabel('Name of an own arrangement').fill('Mine');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'For placing' }).click();
  await page.getByRole('button', { name: 'Mine', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.waitForTimeout(400);
  await page.reload();
  const tree = (await page.getByRole('tree').boundingBox())!;
  expect(tree.x).toBeGreaterThan(900);
});

test('the first walk is done by doing', { tag: '@alone' }, async ({ page }) => {
  await page.request.post('/api/demo');
  const room = await Room.enter(page, 'orrery-room');
  await page.getByRole('button', { name: 'Start the walk' }).click();
  const walk = page.getByRole('region', { name: 'First walk' });
  await expect(walk).toContainText('1 of 5');
  await room.sweep(await room.viewAt(0, 100, 0), await room.viewAt(0, 130, 0), 'right');
  await expect(walk).toContainText('2 of 5');
  await room.pick('moon-arm');
  await expect(walk).toContainText('3 of 5');
  await room.key('r');
  await expect(walk).toContainText('4 of 5');
  await room.key('1');
  await page.keyboard.type('5');
  await page.keyboard.press('Enter');
  await expect(walk).toContainText('5 of 5');
  await room.key('Control+z');
  await expect(walk).toBeHidden();
  expect((await room.node('moon-arm')).placement.rotation[1]).toBe(35);
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible();
  await expect(walk).toBeHidden();
});

test('geometry that nothing uses is found and cleared, and what it takes with it is said', async ({ page }) => {
  const source = await page.request.get('/api/scenes/orrery-room/export');
  const made = await page.request.post('/api/scenes/import?name=Kept', {
    headers: { 'content-type': 'model/gltf-binary' },
    data: stripped(await source.body()),
  });
  const { id } = (await made.json()) as { id: string };
  const room = await Room.enter(page, id);
  const meshes = (await room.nodes()).filter((n) => n.geometry);
  expect(meshes.length).toBeGreaterThan(10);
  await room.key('e');
  await room.key('Delete');
  if (await page.locator('[data-plan]').isVisible()) await room.key('Delete');
  await room.saved();
  await room.key('Control+k');
  await page.keyboard.type('purge');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-hint]')).toContainText('No object uses');
  await page.getByRole('button', { name: 'Clear them' }).click();
  await expect(page.locator('[data-hint]')).toContainText('Cleared');
  await room.key('Control+z');
  await expect(page.getByRole('alert')).toContainText('was cleared since');
  expect(await room.nodes()).toEqual([]);
});

/** A .glb without our extras, so that shapes come in as stored meshes. */
function stripped(glb: Buffer): Buffer {
  const length = glb.readUInt32LE(12);
  const json = JSON.parse(glb.subarray(20, 20 + length).toString('utf8')) as { nodes: { extras?: unknown }[] };
  for (const node of json.nodes) delete node.extras;
  let text = JSON.stringify(json);
  while (Buffer.byteLength(text) % 4 !== 0) text += ' ';
  const chunk = Buffer.from(text);
  const head = Buffer.alloc(20);
  glb.copy(head, 0, 0, 20);
  head.writeUInt32LE(chunk.length, 12);
  const rest = glb.subarray(20 + length);
  head.writeUInt32LE(20 + chunk.length + rest.length, 8);
  return Buffer.concat([head, chunk, rest]);
}
