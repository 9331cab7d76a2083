import { test } from '@playwright/test';
import { Room } from './room';
test.use({ deviceScaleFactor: 1, viewport: { width: 1280, height: 800 } });
test('look', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(String(e)));
  page.on('console', (m) => m.type() === 'error' && errors.push(m.text()));
  await page.goto('/?scene=orrery-room');
  await page.waitForFunction(
    () => document.querySelector('canvas') && (window as any).calmPivotStore?.getState().ready,
  );
  await page.waitForTimeout(1500);
  await page
    .getByRole('button', { name: 'Not now' })
    .click()
    .catch(() => {});
  for (let i = 0; i < 4; i++) {
    await page.evaluate((i) => {
      const s = (window as any).calmPivotStore.getState();
      (window as any).calmPivotSession.keep({
        do: 'move',
        nodes: ['floor'],
        by: [0, 0.01 * (i + 1), 0],
        space: { kind: 'world' },
      });
    }, i);
    await page.waitForTimeout(300);
  }
  await page.keyboard.press('Control+h');
  await page.waitForTimeout(600);
  await page.getByRole('listitem').first().hover();
  await page.waitForTimeout(600);
  await page.screenshot({ path: '/tmp/steps.png' });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await page.waitForTimeout(500);
  await page.keyboard.press('Control+k');
  await page.waitForTimeout(300);
  await page.keyboard.type('All scenes');
  await page.waitForTimeout(300);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/gallery.png' });
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Delete');
  await page.waitForTimeout(300);
  await page.screenshot({ path: '/tmp/gallery2.png' });
  await page.keyboard.press('Enter');
  await page.waitForTimeout(600);
  await page.screenshot({ path: '/tmp/gallery3.png' });
  await page.getByRole('button', { name: 'Bin' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/bin.png' });
  await page.getByRole('button', { name: 'Remove for good' }).first().click();
  await page.screenshot({ path: '/tmp/bin2.png' });
  await page.getByRole('button', { name: 'Keep' }).first().click();
  await page.getByRole('button', { name: 'Bring back' }).first().click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/bin3.png' });
  console.log(errors.join('\n'));
});
