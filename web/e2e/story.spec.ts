import { expect } from '@playwright/test';
import { test } from './shared';
import { close, Room } from './room';

test('move: drag a needle along the parent’s, the world’s and the view’s axes', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('earth-arm');
  const before = await room.evaluated('earth-arm');
  const moon = await room.evaluated('moon');
  await room.drag('needle', 1, 0, -60, async () => {
    await expect(page.locator('[data-reading]')).toContainText('was Y');
    await expect(page.getByLabel('Amount')).toHaveValue(/^\+0\.\d+ m$/);
  });
  await room.saved();
  const after = await room.evaluated('earth-arm');
  expect(after.pivot[1]! - before.pivot[1]!).toBeGreaterThan(0.1);
  expect(after.pivot[0]!).toBeCloseTo(before.pivot[0]!, 12);
  // The children ride, and the numbers on the screen are those of the server.
  const rode = await room.evaluated('moon');
  expect(rode.pivot[1]! - moon.pivot[1]!).toBeCloseTo(after.pivot[1]! - before.pivot[1]!, 12);
  expect(await room.number('Position Y')).toBeCloseTo((await room.node('earth-arm')).placement.position[1]!, 3);

  for (const [word, kind] of [
    ['the world', 'world'],
    ['its own', 'own'],
    ['the view', 'view'],
  ] as const) {
    await page.getByRole('button', { name: 'Along whose axes' }).click();
    await page.getByRole('menuitemradio', { name: new RegExp(`^(● )?${word}`) }).click();
    const start = await room.evaluated('earth-arm');
    await room.drag('needle', 0, 40, kind === 'view' ? 0 : 12);
    await room.saved();
    expect((await room.evaluated('earth-arm')).pivot).not.toEqual(start.pivot);
  }
});

test('move: a quarter disc moves along two axes, and Esc puts back', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const before = await room.evaluated('sun-lamp');
  await room.drag('quarter', 1, 40, 20);
  await room.saved();
  const after = await room.evaluated('sun-lamp');
  expect(after.pivot[1]!).toBeCloseTo(before.pivot[1]!, 12);
  expect(Math.hypot(after.pivot[0]! - before.pivot[0]!, after.pivot[2]! - before.pivot[2]!)).toBeGreaterThan(0.05);
  await room.drag('needle', 1, 0, -50, async () => {
    expect(await room.number('Position Y')).toBeGreaterThan(1.6);
    await page.keyboard.press('Escape');
  });
  expect(await room.number('Position Y')).toBeCloseTo(1.58, 6);
  expect((await room.evaluated('sun-lamp')).pivot).toEqual(after.pivot);
});

test('rotate: an arc in steps, whole turns kept, then typed degrees', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('moon-arm');
  await room.key('r');
  await room.drag('arc', 1, 45, -18);
  await room.saved();
  const turned = (await room.node('moon-arm')).placement.rotation[1]!;
  expect(turned).not.toBe(35);
  expect((turned - 35) % 5).toBeCloseTo(0, 9);
  await room.key('4');
  await page.keyboard.type('00');
  await expect(page.getByLabel('Amount')).toHaveValue('400');
  expect(await room.number('Rotation Y')).toBeCloseTo(turned + 400, 6);
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('moon-arm')).placement.rotation[1]).toBeCloseTo(turned + 400, 9);
  await expect(page.locator('[data-hint]')).toHaveText("Rotated Moon arm +400° about its pivot, along its parent's Y.");
});

test('scale: a pad along one axis, the round pad along all', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await room.key('s');
  await room.drag('pad', 0, 30, 0);
  await room.saved();
  const [x, y, z] = (await room.node('globe')).placement.scale;
  expect(x).not.toBe(1);
  expect([y, z]).toEqual([1, 1]);
  await room.drag('roundPad', 0, 30, -30);
  await room.saved();
  const scale = (await room.node('globe')).placement.scale;
  expect(scale[1]).toBeGreaterThan(1.05);
  expect(scale[0]! / x!).toBeCloseTo(scale[1]!, 9);
});

test('placement fields understand amounts, and refuse what they do not', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  // All forms are in the core's AmountStories.
  for (const [typed, expected] of [
    ['2', 2],
    ['by -50cm', 1.5],
  ] as const) {
    await room.field('Position X').fill(typed);
    await page.keyboard.press('Enter');
    await room.saved();
    expect((await room.node('sun-lamp')).placement.position[0]).toBeCloseTo(expected, 12);
  }
  await room.field('Position X').fill('5 apples');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('☛apples');
  await room.field('Scale Y').fill('0');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Hide it instead');
  await page.keyboard.press('Escape');
  expect((await room.node('sun-lamp')).placement.scale).toEqual([1, 1, 1]);
});

test('pivot: put on another point nothing moves, but the turning does', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('shutter-leaf-left');
  const before = await room.evaluated('shutter-leaf-left');
  await page.getByRole('button', { name: 'Middle', exact: true }).click();
  await room.saved();
  const after = await room.evaluated('shutter-leaf-left');
  after.world.forEach((v, i) => expect(v).toBeCloseTo(before.world[i]!, 9));
  expect(after.pivot).not.toEqual(before.pivot);
  await room.key('r');
  await room.key('9');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await room.saved();
  close((await room.evaluated('shutter-leaf-left')).pivot, after.pivot, 6);
  await room.key('v');
  await room.key('p');
  await room.drag('needle', 1, 0, -40);
  await room.saved();
  expect((await room.evaluated('shutter-leaf-left')).pivot).not.toEqual(after.pivot);
});

test('undo and redo follow a reload, and the tree, the panels and the database agree', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('tube');
  await room.field('Rotation Z').fill('60');
  await page.keyboard.press('Enter');
  await room.field('Position Y').fill('+0.5');
  await page.keyboard.press('Enter');
  await room.saved();
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible();
  await room.pick('tube');
  expect(await room.number('Rotation Z')).toBe(60);
  await room.key('Control+z');
  await expect(room.field('Position Y')).toHaveValue('0.680');
  await room.key('Control+z');
  await expect(room.field('Rotation Z')).toHaveValue('38.00');
  await room.key('Control+Shift+z');
  await expect(room.field('Rotation Z')).toHaveValue('60.00');
  await room.saved();
  expect((await room.node('tube')).placement.rotation[2]).toBe(60);
  expect((await room.node('tube')).placement.position[1]).toBe(0.68);
});

test('pick on the stage, add with Ctrl, leave with a press beside', async ({ page }) => {
  const room = await Room.open(page);
  const sun = await room.at('sun-lamp');
  await page.mouse.click(sun.x, sun.y);
  await expect(page.locator('[id="row-sun-lamp"]')).toHaveAttribute('aria-selected', 'true');
  const earth = await room.at('earth');
  await page.keyboard.down('Control');
  await page.mouse.click(earth.x, earth.y);
  await page.keyboard.up('Control');
  await expect(page.getByLabel('Sentence', { exact: true })).toContainText('2 objects');
  await expect(page.locator('[id="row-earth"]')).toHaveAttribute('aria-label', /^Earth, lead/);
  await page.mouse.click(620, 100);
  await expect(page.getByLabel('Sentence', { exact: true })).toContainText('Pick an object');
});

test('what a drag writes past the page’s components is right at every moment, and as stored when it ends', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('moon-arm');
  const field = room.field('Position X');
  const before = await field.inputValue();
  const amount = page.getByLabel('Amount');
  // From inside, a move a picture: most of them fall between two times that components are told.
  const from = await room.grip('needle', 0, 0.6);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const seen = await page.evaluate(
    async ([x, y]) => {
      const root = document.querySelector('[data-view="0"] svg.handles')!;
      const page = (window as unknown as { calmPivotPage(): { lead: { node: { placement: { position: number[] } } } } })
        .calmPivotPage;
      const differ: string[] = [];
      for (let i = 1; i <= 24; i++) {
        const move = { pointerId: 1, clientX: x! + 3 * i, clientY: y!, bubbles: true };
        root.dispatchEvent(new PointerEvent('pointermove', move));
        const shown = document.querySelector<HTMLInputElement>('[aria-label="Position X"]')!.value;
        const real = page().lead.node.placement.position[0]!.toFixed(3);
        if (i > 2 && shown !== real) differ.push(`${i}: ${shown} for ${real}`);
        await new Promise(requestAnimationFrame);
      }
      return differ;
    },
    [from.x, from.y],
  );
  expect(seen).toEqual([]);
  await expect(field).not.toHaveValue(before);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(field).toHaveValue(before);
  await expect(amount).toHaveValue('');
  // Barely moved and back again: nothing of it is left standing either.
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 1, from.y);
  await page.mouse.move(from.x + 60, from.y, { steps: 2 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(field).toHaveValue(before);
});
