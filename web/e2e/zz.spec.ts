import { test } from '@playwright/test';
test.use({ deviceScaleFactor: 1, viewport: { width: 1280, height: 800 } });
test('look', async ({ page }) => {
  page.on('pageerror', (e) => console.log('ERR', String(e)));
  page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()));
  await page.goto('/?scene=orrery-room');
  await page.waitForSelector('[role=tree]');
  await page.waitForTimeout(2500);
  await page.keyboard.press('Escape');
  const leave = page.getByRole('button', { name: /Skip|Leave|Not now/ });
  if (await leave.count()) await leave.first().click();
  const pick = async (id: string) => {
    await page.evaluate((n) => (window as any).calmPivotSession.select([n]), id);
    await page.waitForTimeout(900);
  };
  await pick('moon-arm');
  await page.screenshot({ path: '/tmp/c1.png' });
  await page.getByRole('tab', { name: 'What' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/c2.png' });
  await page.getByRole('tab', { name: 'Why' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/c3.png' });
  await page.getByRole('tab', { name: 'What' }).click();
  const rows = await page.evaluate(() =>
    (window as any)
      .calmPivotPage()
      .rows.filter((r: any) => r.kind === 'light' || r.kind === 'camera')
      .map((r: any) => r.id + ' ' + r.kind),
  );
  console.log(rows.join());
  for (const [i, r] of rows.slice(0, 3).entries()) {
    await pick(r.split(' ')[0]);
    await page.evaluate((n) => (window as any).calmPivotStage.frame([n], false), r.split(' ')[0]);
    await page.waitForTimeout(1200);
    await page.screenshot({ path: `/tmp/l${i}.png` });
  }
});
