import { expect } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

test('the star globe stands in the middle of the desk, by align', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('star-globe');
  await page.getByRole('tab', { name: 'Align' }).click();
  await page.getByRole('button', { name: 'Press another…' }).click();
  // The right half of the desk's top is free of things.
  const top = await room.at('desk-top');
  await page.mouse.click(top.x - 20, top.y + 2);
  await expect(page.getByText('to Desk top')).toBeVisible();
  const choose = (axis: string, place: string) =>
    page.getByRole('radiogroup', { name: axis }).getByRole('radio', { name: place }).click();
  await choose('X, of what moves', 'middle');
  await choose('Z, of what moves', 'middle');
  await choose('Y, of what moves', 'low');
  await choose('Y, of the target', 'high');
  // Along the target's own axes: the desk stands askew in the room.
  await page.getByRole('combobox').selectOption({ label: "the target's own" });
  // It is seen before it is kept, and nothing is stored yet.
  const before = await room.evaluated('star-globe');
  await expect.poll(() => room.number('Position X')).not.toBe(-0.38);
  expect((await room.evaluated('star-globe')).pivot).toEqual(before.pivot);
  await page.getByRole('button', { name: 'Align', exact: true }).click();
  await room.saved();
  const [desk, globe] = [await room.evaluated('desk-top'), await room.evaluated('star-globe')];
  // The desk's top is 6 cm thick with its frame in the middle; the globe's frame is at its foot.
  const up = desk.world.slice(4, 7);
  const middle = desk.world.slice(12, 15).map((v, i) => v + up[i]! * 0.03);
  globe.world.slice(12, 15).forEach((v, i) => expect(v).toBeCloseTo(middle[i]!, 2));
  expect(globe.pivot[1]!).toBeCloseTo(0.76, 9);
  await room.key('Control+z');
  await room.saved();
  expect((await room.evaluated('star-globe')).pivot).toEqual(before.pivot);
});

test('the counterweight slides along the inclined tube, by its own axis', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('counterweight');
  await room.key('v');
  await room.still();
  await page.getByRole('button', { name: 'Along whose axes' }).click();
  await page.getByRole('menuitemradio', { name: /^(● )?its own/ }).click();
  const before = await room.evaluated('counterweight');
  const tube = await room.evaluated('tube');
  await room.drag('needle', 1, -30, -40);
  await room.saved();
  const after = await room.evaluated('counterweight');
  const way = after.pivot.map((v, i) => v - before.pivot[i]!);
  const length = Math.hypot(...way);
  expect(length).toBeGreaterThan(0.02);
  // Along the tube's Y in the world, and nowhere else.
  const along = tube.world.slice(4, 7);
  const dot = way.reduce((sum, v, i) => sum + v * along[i]!, 0);
  expect(Math.abs(dot)).toBeCloseTo(length, 9);
  const stored = (await room.node('counterweight')).placement.position;
  expect(stored[0]).toBeCloseTo(0.32, 12);
  expect(stored[2]).toBeCloseTo(0, 12);
});

test('the shutter leaf swings by exactly 90° on its hinge, after its pivot is mended', async ({ page }) => {
  const room = await Room.open(page);
  const before = await room.evaluated('shutter-leaf-right');
  expect(before.pivot.every((v) => Math.abs(v) < 1e-9)).toBe(true);
  await room.key('Control+k');
  await page.keyboard.type('check pivots');
  await page.keyboard.press('Enter');
  const check = page.getByRole('dialog', { name: 'Pivots away from their objects' });
  await expect(check).toContainText('Shutter leaf right');
  await expect(check.getByLabel('Mend Shutter leaf right')).toBeChecked();
  await expect(check.getByLabel('Mend Rib 1', { exact: true })).not.toBeChecked();
  // The hinge is the +X side of the leaf.
  const box = check.getByRole('radiogroup');
  await box.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(check).toContainText('the middle of the +X side');
  await check.getByRole('button', { name: 'Mend 1' }).click();
  await room.saved();
  await expect(check).not.toContainText('Shutter leaf right');
  await check.getByRole('button', { name: 'Close' }).click();
  const mended = await room.evaluated('shutter-leaf-right');
  mended.world.forEach((v, i) => expect(v).toBeCloseTo(before.world[i]!, 9));
  const hinge = mended.pivot;
  await room.pick('shutter-leaf-right');
  await room.key('r');
  await page.getByRole('button', { name: 'Along whose axes' }).click();
  await page.getByRole('menuitemradio', { name: /^(● )?its own/ }).click();
  await room.key('z');
  const angle = (await room.node('shutter-leaf-right')).placement.rotation[2]!;
  await room.key('9');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await room.saved();
  const swung = await room.evaluated('shutter-leaf-right');
  swung.pivot.forEach((v, i) => expect(v).toBeCloseTo(hinge[i]!, 9));
  expect((await room.node('shutter-leaf-right')).placement.rotation[2]! - angle).toBeCloseTo(90, 9);
  expect((await room.node('shutter-leaf-right')).placement.scale).toEqual([1, 1, 1]);
});

test('five treads are placed by steps', async ({ page }) => {
  test.setTimeout(60_000);
  const made = await page.request.post('/api/scenes', { data: { name: 'Stair' } });
  const room = await Room.enter(page, ((await made.json()) as { id: string }).id);
  for (let i = 0; i < 5; i++) {
    await room.add('Box');
    await room.chapter('What');
    await room.field('Size X').first().fill('1');
    await page.keyboard.press('Enter');
    if (i === 0) {
      await page.getByRole('button', { name: 'Size of steps' }).click();
      await page.getByLabel('Another size').fill('18cm');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('button', { name: 'Size of steps' })).toHaveText('in steps of 0.18 m');
    }
    // Each stands beside the one before, and so further out of the view that was.
    await room.key('v');
    await room.still();
    if (i > 0) await room.drag('needle', 1, 0, -30 * i - 8);
    await room.saved();
  }
  const heights = (await room.nodes()).map((n) => n.placement.position[1]!);
  expect(heights).toHaveLength(5);
  heights.forEach((h) => expect(Math.abs(h / 0.18 - Math.round(h / 0.18))).toBeLessThan(1e-9));
  expect(Math.max(...heights)).toBeGreaterThan(0.1);
  // Spread makes their rises equal.
  await room.key('e');
  await room.chapter('Where');
  await page.getByRole('tab', { name: 'Spread' }).click();
  await page.getByRole('radio', { name: 'Y', exact: true }).click();
  await page.getByRole('radio', { name: 'equal steps of pivots' }).click();
  await page.getByRole('button', { name: 'Spread', exact: true }).click();
  await room.saved();
  const rises = (await room.nodes()).map((n) => n.placement.position[1]!).toSorted((a, b) => a - b);
  for (let i = 1; i < 5; i++) expect(rises[i]! - rises[i - 1]!).toBeCloseTo((rises[4]! - rises[0]!) / 4, 9);
});

test('a ring drag snaps to what is under the pointer, says it, and N holds it off', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('book');
  await room.key('v');
  await room.key('n');
  await page.getByRole('button', { name: 'Snapping' }).click();
  for (const kind of ['vertices', 'middles of edges', 'edges', 'corners of bounds', 'faces'])
    await page.getByRole('checkbox', { name: new RegExp(`^${kind}`) }).uncheck();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Snapping' })).toHaveText('snapping to pivots and marks');
  await room.still();
  const from = await room.grip('ring');
  const mark = await page.locator('g.mark[aria-label="Mark Chart place"] .kite').boundingBox();
  const to = { x: mark!.x + mark!.width / 2, y: mark!.y + mark!.height / 2 };
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2);
  await page.mouse.move(to.x + 3, to.y + 2);
  await expect(page.locator('[data-hint]')).toContainText('Snapped to the mark Chart place');
  await page.keyboard.down('n');
  await expect(page.locator('[data-hint]')).not.toContainText('Snapped');
  await page.keyboard.up('n');
  await expect(page.locator('[data-hint]')).toContainText('Snapped to the mark Chart place');
  await page.mouse.up();
  await room.saved();
  (await room.evaluated('book')).pivot.forEach((v, i) => expect(v).toBeCloseTo([2.9, 0.764, 2.2][i]!, 9));
  await room.key('Control+z');
  await room.saved();
  expect((await room.node('book')).placement.position).toEqual([0.2, 0.03, 0.08]);
});

test('rehearsing puts everything back and says so in the conditional', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('tube');
  await room.key('r');
  await room.key('q');
  await expect(page.getByLabel('Sentence')).toContainText('Would rotate');
  const before = await room.node('tube');
  await room.drag('arc', 1, 30, -30);
  await expect(page.locator('[data-hint]')).toContainText('it is back where it was');
  expect(await room.number('Rotation Y')).toBeCloseTo(before.placement.rotation[1]!, 9);
  expect(await room.node('tube')).toEqual(before);
  await room.key('q');
  await expect(page.getByLabel('Sentence')).not.toContainText('Would');
});

test('marks: placed by a press, worked along and about, brought to, current, removed', async ({ page }) => {
  const room = await Room.open(page);
  await page.getByRole('button', { name: 'New mark' }).click();
  await page.getByRole('menuitem', { name: 'Press on a surface or the ground…' }).click();
  const drum = await room.at('drum-plate');
  await page.mouse.click(drum.x - 50, drum.y);
  await room.saved();
  const scene = async () =>
    (await (await page.request.get(`/api/scenes/${room.id}`)).json()) as {
      marks: { id: string; name: string; parent: string | null }[];
    };
  const mark = (await scene()).marks.find((m) => m.name === 'Mark 3')!;
  await expect(page.getByRole('list', { name: 'Marks of this scene' })).toContainText('Mark 3');
  const menu = async (item: string) => {
    await page.getByRole('button', { name: 'More about the mark Mark 3' }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
  };
  // New objects appear there.
  await menu('New objects here');
  await room.add('Cone');
  await room.saved();
  const cone = (await room.nodes()).find((n) => n.name === 'Cone')!;
  const at = (await room.evaluated(mark.id)).pivot;
  (await room.evaluated(cone.id)).pivot.forEach((v, i) => expect(v).toBeCloseTo(at[i]!, 9));
  // It is an axes word and a point to work about.
  await room.key('r');
  await page.getByRole('button', { name: 'About which point' }).click();
  await page.getByRole('menuitemradio', { name: /the mark Mark 3/ }).click();
  await page.getByRole('button', { name: 'Along whose axes' }).click();
  await page.getByRole('menuitemradio', { name: /the mark Mark 3's/ }).click();
  await expect(page.getByLabel('Sentence')).toContainText("aboutthe mark Mark 3alongthe mark Mark 3's");
  // Brought and followed.
  await room.pick('moon');
  await menu('Bring the picked here');
  await room.saved();
  (await room.evaluated('moon')).pivot.forEach((v, i) => expect(v).toBeCloseTo(at[i]!, 9));
  await menu('Follow the lead');
  await room.saved();
  expect((await scene()).marks.find((m) => m.id === mark.id)!.parent).toBe('moon');
  await menu('Pin it here');
  await room.saved();
  expect((await scene()).marks.find((m) => m.id === mark.id)!.parent).toBeNull();
  // Taken out of its parent, it stands where it stood, and the server knows.
  const moon = await room.evaluated('moon');
  expect(await room.picked()).toEqual(['moon']);
  await room.key('Shift+U');
  await expect.poll(async () => (await room.node('moon')).parent).toBeNull();
  (await room.evaluated('moon')).pivot.forEach((v, i) => expect(v).toBeCloseTo(moon.pivot[i]!, 9));
  // Gone with a word: the sentence falls back, and undo brings it again.
  await menu('Remove');
  await room.saved();
  await expect(page.getByLabel('Sentence')).toContainText("its parent's");
  expect((await scene()).marks.some((m) => m.id === mark.id)).toBe(false);
  await room.key('Control+z');
  await expect(page.getByRole('list', { name: 'Marks of this scene' })).toContainText('Mark 3');
});

test('several picked: equal values, mixed ones, and each changed by itself', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('mercury-arm');
  await room.pick('venus-arm', true);
  await expect(room.field('Position X')).toHaveValue('0.000');
  await expect(room.field('Position Y')).toHaveValue('');
  await expect(room.field('Position Y')).toHaveAttribute('placeholder', 'mixed');
  await room.field('Position Y').fill('+0.5');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('mercury-arm')).placement.position[1]).toBeCloseTo(1.39, 12);
  expect((await room.node('venus-arm')).placement.position[1]).toBeCloseTo(1.46, 12);
  await room.field('Position Y').fill('1.2');
  await page.keyboard.press('Enter');
  await room.saved();
  await expect(room.field('Position Y')).toHaveValue('1.200');
  expect((await room.node('mercury-arm')).placement.position[1]).toBe(1.2);
});

test('placement in the world and as size, typed to, scrubbed and by arrow keys', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('moon');
  await page.getByRole('button', { name: 'As stored' }).click();
  const before = await room.evaluated('moon');
  expect(await room.number('Position X')).toBeCloseTo(before.pivot[0]!, 3);
  await room.field('Position X').fill('1');
  await page.keyboard.press('Enter');
  await room.saved();
  const after = await room.evaluated('moon');
  expect(after.pivot[0]).toBeCloseTo(1, 9);
  expect(after.pivot[1]).toBeCloseTo(before.pivot[1]!, 9);
  await page.getByRole('button', { name: 'In the world' }).click();
  await page.getByRole('button', { name: 'Factor' }).click();
  await expect(page.getByRole('group', { name: 'Axes' })).toBeVisible();
  await page.getByLabel('Size X', { exact: true }).first().fill('0.32');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('moon')).placement.scale[0]).toBeCloseTo(2, 9);
  await page.getByRole('button', { name: 'Size', exact: true }).click();
  await room.field('Rotation Y').focus();
  await page.keyboard.press('Shift+ArrowUp');
  await room.saved();
  expect((await room.node('moon')).placement.rotation[1]).toBe(10);
  // What is so already makes no step, and says so.
  const revision = async () =>
    ((await (await page.request.get(`/api/scenes/${room.id}`)).json()) as { revision: number }).revision;
  const seen = await revision();
  await room.field('Rotation Y').fill('10');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-hint]')).toHaveText('Nothing to change: it is so already.');
  await room.saved();
  expect(await revision()).toBe(seen);
  // "to" sets the channel.
  await room.key('r');
  await page.getByRole('button', { name: 'Type by or to' }).click();
  await room.key('4');
  await page.keyboard.type('5');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('moon')).placement.rotation[1]).toBe(45);
});

test('drop, mirror and a pasted placement', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await room.field('Position Z').fill('3');
  await page.keyboard.press('Enter');
  await room.key('d');
  await room.saved();
  // It comes to rest on the floor, whose top lies at height 0; the ball's radius is 27 cm.
  expect((await room.evaluated('sun-lamp')).pivot[1]).toBeCloseTo(0.27, 2);
  await page.getByRole('tab', { name: 'Mirror' }).click();
  await page.getByRole('radio', { name: 'Z', exact: true }).click();
  await page.getByRole('button', { name: 'Mirror', exact: true }).click();
  await room.saved();
  expect((await room.node('sun-lamp')).placement.scale[2]).toBe(-1);
  await page.getByRole('button', { name: 'More about placement' }).click();
  await page.getByRole('menuitem', { name: 'Copy placement' }).click();
  await expect(page.locator('[data-hint]')).toContainText('Copied');
  const stored = (await room.node('sun-lamp')).placement;
  await room.pick('mast');
  await page.getByRole('button', { name: 'More about placement' }).click();
  await page.getByRole('menuitem', { name: 'Paste placement' }).click();
  const { position, rotation, scale } = stored;
  await expect.poll(async () => (await room.node('mast')).placement).toMatchObject({ position, rotation, scale });
  await page.evaluate(() => navigator.clipboard.writeText('a poem'));
  await page.getByRole('button', { name: 'More about placement' }).click();
  await page.getByRole('menuitem', { name: 'Paste placement' }).click();
  await expect(page.getByRole('alert')).toContainText('“a poem” is no placement');
});

test('all kinds of handles at once, and the axis changed during a drag', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await room.key('Shift+M');
  await room.still();
  for (const part of ['needle', 'arc', 'pad']) await expect(room.handle(part, 0)).toBeAttached();
  const before = (await room.node('sun-lamp')).placement;
  const from = await room.grip('needle', 1, 0.8);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y - 30, { steps: 3 });
  await page.keyboard.press('x');
  await page.mouse.move(from.x + 60, from.y - 30, { steps: 3 });
  await page.mouse.up();
  await room.saved();
  const after = (await room.node('sun-lamp')).placement;
  expect(after.position[1]).toBe(before.position[1]);
  expect(Math.abs(after.position[0]! - before.position[0]!)).toBeGreaterThan(0.02);
});

test('a pivot out of sight is pointed to, and stand-ins work about the true one', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('counterweight');
  await room.key('v');
  await room.pick('sun-lamp');
  await room.still();
  const tag = page.locator('g.out-of-sight');
  await expect(tag).toBeVisible();
  await tag.locator('rect').click();
  await room.still();
  await expect(room.handle('needle', 1)).toBeVisible();
  const before = await room.evaluated('sun-lamp');
  await room.drag('needle', 1, 0, -40);
  await room.saved();
  const after = await room.evaluated('sun-lamp');
  expect(after.pivot[1]! - before.pivot[1]!).toBeGreaterThan(0.01);
  expect(after.pivot[0]).toBeCloseTo(before.pivot[0]!, 12);
});

test('a box is drawn by eye on the floor: its footprint, then its height', async ({ page }) => {
  const room = await Room.open(page);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Draw a box by eye' }).click();
  await page.mouse.move(500, 560);
  await page.mouse.down();
  await page.mouse.move(600, 600, { steps: 3 });
  await page.mouse.up();
  await expect(page.locator('[data-hint]')).toContainText('Move up or down for its height');
  await page.mouse.move(600, 540, { steps: 3 });
  await page.mouse.down();
  await page.mouse.up();
  await expect(page.locator('[data-hint]')).toContainText('Added Box');
  await room.saved();
  const box = (await room.nodes()).find((n) => n.name === 'Box')!;
  const [x, y, z] = box.shape!['size'] as [number, number, number];
  expect(Math.min(x, y, z)).toBeGreaterThan(0.1);
  // It stands on the floor by the middle of its base.
  expect((await room.evaluated(box.id)).pivot[1]).toBeCloseTo(0, 6);
  expect(box.placement.pivot).toEqual([0, -y / 2, 0]);
  // Esc leaves without a trace.
  await room.key('Control+k');
  await page.keyboard.type('draw a cylinder');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-draw]')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-draw]')).toHaveCount(0);
});

test('the pivot goes where one presses, a mark moves by its handles, and values are scrubbed', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('book');
  await room.key('v');
  await room.still();
  const before = await room.evaluated('book');
  const { x, y } = await room.at('book-pages');
  await page.getByRole('button', { name: 'Press a point…' }).click();
  await page.mouse.click(x, y);
  await room.saved();
  const after = await room.evaluated('book');
  after.world.forEach((v, i) => expect(v).toBeCloseTo(before.world[i]!, 9));
  expect(after.pivot).not.toEqual(before.pivot);
  // Its X letter is dragged sideways; the value follows, and one step is kept.
  const letter = page.getByTitle('Drag to change rotation Y; press to set it back');
  const box = (await letter.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 24, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await room.saved();
  expect((await room.node('book')).placement.rotation[1]).toBe(24);
  await room.key('Control+z');
  await room.saved();
  expect((await room.node('book')).placement.rotation[1]).toBe(14);
  // A mark is picked on the stage and moved like an object.
  const mark = await room.evaluated('chart-place');
  await page.locator('g.mark[aria-label="Mark Chart place"] .kite').click();
  await room.still();
  await room.drag('needle', 1, 0, -30);
  await room.saved();
  expect((await room.evaluated('chart-place')).pivot[1]! - mark.pivot[1]!).toBeGreaterThan(0.01);
});

test('where children stay, it is said at once that a locked one rides along', async ({ page }) => {
  const room = await Room.open(page);
  const answer = await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 1, edits: [{ do: 'lock', nodes: ['drum'], on: true }] },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
  await room.pick('orrery');
  await room.key('m');
  await page.getByText('children ride along').click();
  await expect(page.locator('[data-hint]')).toContainText('Drum is locked and rides along.');
});
