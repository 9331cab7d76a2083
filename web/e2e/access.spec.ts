import { expect } from '@playwright/test';
import { test } from './shared';
import { faults } from './faults';
import { Room } from './room';

const rules = { 'label-content-name-mismatch': { enabled: true } };

for (const theme of ['day', 'night'] as const) {
  test(`the page can be used without seeing it, ${theme}`, async ({ page }) => {
    const room = await Room.open(page);
    if (theme === 'night') await page.getByRole('button', { name: 'Night colours' }).click();
    await room.pick('moon-arm');
    await page.waitForTimeout(300);
    expect(await faults(page, 'html', rules)).toEqual([]);
    await room.key('Shift+F10');
    await expect(page.getByRole('menuitem', { name: /^Rename/ })).toBeVisible();
    expect(await faults(page, 'html', rules)).toEqual([]);
  });
}

test('what cannot be used without seeing it is found', async ({ page }) => {
  await Room.open(page);
  await page.evaluate(() => {
    const bad = document.createElement('div');
    bad.innerHTML = '<img src="data:,"><button></button><p>pale</p>';
    Object.assign(bad.style, { color: '#999', background: '#aaa' });
    bad.id = 'bad';
    document.querySelector('[role=tabpanel]')!.append(bad);
  });
  const found = await faults(page, '#bad');
  expect(found.map((fault) => fault.split(':')[0]).sort()).toEqual(['button-name', 'color-contrast', 'image-alt']);
  await page.evaluate(() => document.querySelector('#bad')!.remove());
});

test('what opens over the page can be used without seeing it', async ({ page }) => {
  test.slow();
  const room = await Room.open(page);
  await room.pick('moon-arm');
  // A dialog is looked at by itself: what lies behind it cannot be reached.
  const check = async (what: string, within: string) => {
    await page.waitForTimeout(200);
    await expect(page.locator(within)).toBeVisible();
    expect(await faults(page, within), what).toEqual([]);
  };
  await room.key('Control+k');
  await check('find', '[role=dialog]');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Settings' }).click();
  for (const tab of ['Looks', 'Pointer', 'Picking', 'Panels', 'Keys', 'File']) {
    await page.getByRole('tab', { name: tab }).click();
    await check(tab, '[role=dialog]');
  }
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  await check('steps', 'main');
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  for (const [id, what] of [
    ['sun-glow', 'lamp'],
    ['wide-camera', 'camera'],
    ['moon-arm', 'shape'],
  ] as const) {
    await room.pick(id);
    for (const chapter of ['Why', 'What'] as const) {
      await room.chapter(chapter);
      await check(`${what}, ${chapter}`, '[aria-label="Picked object"]');
    }
  }
  await room.run('All scenes');
  await check('gallery', '[data-gallery]');
});

test('by keyboard alone: pick in the tree, choose a verb, reach a handle, type, keep', async ({ page }) => {
  const room = await Room.open(page);
  await page.getByRole('tree').focus();
  await page.keyboard.press('Home');
  await room.letters('tel');
  await expect(page.locator('[id="row-telescope"]')).toHaveAttribute('aria-selected', 'true');
  await room.key('r');
  await room.handle('arc', 0).focus();
  await page.keyboard.press('ArrowRight');
  await expect(room.handle('arc', 1)).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.type('0.25turn');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('telescope')).placement.rotation[1]).toBeCloseTo(24 + 90, 9);
});

test('nothing is said on the console, and the page keeps to its security policy', async ({ page }) => {
  const said: string[] = [];
  page.on('console', (m) => {
    if (m.type() === 'error' || /Content Security Policy/.test(m.text())) said.push(m.text());
  });
  page.on('pageerror', (e) => said.push(e.message));
  const room = await Room.open(page);
  await room.pick('tube');
  for (const key of ['r', 's', 'p', 'm']) await room.key(key);
  await page.getByRole('button', { name: 'Along whose axes' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  await page.waitForTimeout(300);
  expect(said).toEqual([]);
});
