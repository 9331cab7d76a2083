import { expect, type Page } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

const distance = (a: number[], b: number[]) => Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

const view = (page: Page, index: number) =>
  page.evaluate(
    (i) =>
      (
        window as unknown as { calmPivotPage: () => { views: { shading: string; name: string; parallel: boolean }[] } }
      ).calmPivotPage().views[i]!,
    index,
  );

test('each view keeps its own shading and projection', async ({ page }) => {
  const room = await Room.open(page);
  await room.key('Shift+Digit8');
  await page
    .getByRole('toolbar', { name: 'View: Front' })
    .getByRole('button', { name: /^Shading/ })
    .click();
  await page.getByRole('menuitem', { name: /^wire Edges only/ }).click();
  await page.getByRole('toolbar', { name: 'View: Top' }).getByRole('button', { name: 'What Top shows' }).click();
  await page.getByRole('menuitem', { name: /^Left/ }).click();
  await expect(page.getByRole('toolbar', { name: 'View: Left' })).toBeVisible();
  await page.mouse.click((await room.viewAt(3)).x, (await room.viewAt(3)).y + 120);
  await room.key('Shift+Digit7');
  expect((await view(page, 0)).shading).toBe('clay');
  expect((await view(page, 2)).shading).toBe('wire');
  expect((await view(page, 1)).name).toBe('left');
  expect([(await view(page, 2)).parallel, (await view(page, 3)).parallel]).toEqual([true, false]);
});

test('a camera that somebody else moves takes the view that looks through it along', async ({ page, browser }) => {
  const room = await Room.open(page);
  const other = await Room.enter(await (await browser.newContext()).newPage(), room.id);
  await room.pick('wide-camera');
  await room.key('Shift+Digit0');
  const before = await room.look();
  await other.pick('wide-camera');
  await other.field('Position Y').fill('+1');
  await other.page.keyboard.press('Enter');
  await other.saved();
  await expect.poll(async () => distance(await room.look(), before)).toBeGreaterThan(0.5);
  const stands = (await room.evaluated('wide-camera')).world.slice(12, 15);
  expect(distance((await room.look()).slice(12, 15), stands)).toBeLessThan(1e-9);
  // Removed, it leaves the free view where it was.
  // A board in the room faces this camera: that it will not any more is said first.
  await other.key('Delete');
  await other.page.locator('[data-make]').click();
  await other.saved();
  await expect(page.getByRole('toolbar', { name: 'View: Free view' })).toBeVisible();
  await other.page.context().close();
});

test('picked but hidden shows as a ghost that can be turned off, and picking can pale all else', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await room.key('v');
  const marks = () =>
    page.evaluate(() => {
      interface Marked {
        marked(): { marking: string }[];
      }
      return (window as unknown as { calmPivotStage: Marked }).calmPivotStage.marked().map((m) => m.marking);
    });
  await room.still();
  expect(await marks()).toContain('lead');
  await room.key('o');
  await room.saved();
  await room.still();
  expect(await marks()).toEqual(['ghost']);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('switch', { name: /dotted ghosts/ }).click();
  expect(await marks()).toEqual([]);
  await page.getByRole('radio', { name: 'Paling all else' }).click();
  await page.keyboard.press('Escape');
  await room.key('o');
  await room.saved();
  await room.still();
  expect(await marks()).toContain('lead');
  // Far from what is picked, the picture has become paler.
  const picture = () => page.locator('[data-stage]').screenshot();
  const pale = await picture();
  await room.key('Shift+e');
  await room.still();
  expect((await picture()).equals(pale)).toBe(false);
});

test('one finger orbits, two pan and pinch, and a pen adds without a key', async ({ page }) => {
  const room = await Room.open(page);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Pointer' }).click();
  await page.getByRole('radio', { name: 'Pen' }).click();
  await page.keyboard.press('Escape');
  const touch = (type: string, id: number, x: number, y: number, pointerType = 'touch') =>
    page.evaluate(
      ([kind, pointer, px, py, what]) => {
        const stage = document.querySelector<HTMLElement>('[data-stage]')!;
        // Pointers that are made up cannot be captured.
        stage.setPointerCapture = () => undefined;
        const box = stage.getBoundingClientRect();
        stage.dispatchEvent(
          new PointerEvent(kind as string, {
            pointerId: pointer as number,
            pointerType: what as string,
            clientX: box.x + (px as number),
            clientY: box.y + (py as number),
            button: 0,
            bubbles: true,
          }),
        );
      },
      [type, id, x, y, pointerType] as const,
    );
  const start = await room.look();
  await touch('pointerdown', 11, 300, 250);
  await touch('pointermove', 11, 340, 250);
  await touch('pointermove', 11, 380, 260);
  await touch('pointerup', 11, 380, 260);
  const orbited = await room.look();
  expect(distance(orbited.slice(0, 11), start.slice(0, 11))).toBeGreaterThan(0.05);

  await touch('pointerdown', 21, 250, 250);
  await touch('pointerdown', 22, 350, 250);
  for (const d of [20, 40, 60]) {
    await touch('pointermove', 21, 250 - d, 250);
    await touch('pointermove', 22, 350 + d, 250);
  }
  await touch('pointerup', 21, 190, 250);
  await touch('pointerup', 22, 410, 250);
  const pinched = await room.look();
  // Pinched apart, the eye has come nearer along the way it looks.
  const nearer = [0, 1, 2].reduce((sum, i) => sum - (pinched[12 + i]! - orbited[12 + i]!) * orbited[8 + i]!, 0);
  expect(nearer).toBeGreaterThan(0.5);
  expect(distance(pinched.slice(0, 11), orbited.slice(0, 11))).toBeLessThan(1e-9);

  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Picking' }).click();
  await page.getByRole('switch', { name: 'Every press adds' }).click();
  await page.keyboard.press('Escape');
  await room.key('Home');
  const box = (await page.locator('[data-stage]').boundingBox())!;
  for (const id of ['sun-lamp', 'earth']) {
    const at = await room.at(id);
    for (const type of ['pointerdown', 'pointerup']) await touch(type, 31, at.x - box.x, at.y - box.y, 'pen');
  }
  expect(await room.picked()).toEqual(['sun-lamp', 'earth']);
});

test('handles can be made larger and smaller, and switched off', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const needle = async () => (await room.handle('needle', 1).boundingBox())?.height ?? 0;
  await room.still();
  const usual = await needle();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('slider', { name: 'Size of the handles' }).focus();
  await page.keyboard.press('End');
  await room.still();
  expect(await needle()).toBeGreaterThan(usual * 1.5);
  await page.keyboard.press('Home');
  await room.still();
  expect(await needle()).toBeLessThan(usual * 0.8);
  await page.keyboard.press('Escape');
  // The first press of a verb's key always shows its handles; only pressed again it switches them off.
  await room.key('m');
  await expect(room.handle('needle', 1)).toBeVisible();
  await room.key('m');
  await expect(room.handle('needle', 1)).toBeHidden();
  // Without handles a press where they stood picks what is there.
  const at = await room.at('sun-lamp');
  await page.mouse.click(at.x, at.y - 10);
  expect(await room.picked()).toEqual(['sun-lamp']);
});

test('keyboard alone: find, look from the side, step through the tree, and back', async ({ page }) => {
  const room = await Room.open(page);
  await room.key('Control+k');
  await page.keyboard.type('earth mount');
  await page.keyboard.press('Enter');
  await expect.poll(() => room.picked()).toEqual(['earth-mount']);
  await room.key('Control+ArrowDown');
  const child = (await room.picked())[0]!;
  expect((await room.node(child)).parent).toBe('earth-mount');
  await room.key('Control+ArrowRight');
  expect((await room.node((await room.picked())[0]!)).parent).toBe('earth-mount');
  await room.key('Control+ArrowUp');
  expect(await room.picked()).toEqual(['earth-mount']);
  await room.key('Control+k');
  await page.keyboard.type('view from the right');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('toolbar', { name: 'View: Right' })).toBeVisible();
  await room.key('v');
  const at = await room.at('earth-mount');
  const stage = (await page.locator('[data-stage]').boundingBox())!;
  expect(Math.abs(at.x - stage.x - stage.width / 2)).toBeLessThan(60);
});
