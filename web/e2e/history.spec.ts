import { expect, type Page } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

/** What a scene keeps of its past: steps by page, what one missed, the bin. */
const edit = (page: Page, id: string, edits: object[]) =>
  page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1_000_000, edits } });

test('a page that was away takes in what it missed by the log, without fetching the scene', async ({
  page,
  browser,
}) => {
  // The way to the hub, which the test cuts and gives back.
  let cut = () => {};
  let isCut = false;
  let isThere = false;
  await page.route('**/hub**', (route) => (isCut ? route.abort() : route.fallback()));
  await page.routeWebSocket('**/hub*', (socket) => {
    if (isCut) {
      void socket.close();
      return;
    }
    socket.connectToServer();
    isThere = true;
    cut = () => void socket.close();
  });
  const room = await Room.open(page);
  await expect.poll(() => isThere).toBe(true);
  await room.saved();
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).pathname));
  isCut = true;
  cut();
  await page.waitForFunction(
    () =>
      !(window as unknown as { calmPivotStore: { getState(): { online: boolean } } }).calmPivotStore.getState().online,
  );
  const other = await (await browser.newContext()).newPage();
  for (let i = 0; i < 12; i++) {
    const moved = await edit(other, room.id, [
      { do: 'move', nodes: ['globe'], by: [0.05, 0, 0], space: { kind: 'world' } },
    ]);
    expect(moved.ok()).toBe(true);
  }
  await edit(other, room.id, [
    { do: 'remove', nodes: ['mast'] },
    { do: 'collection', name: 'Found later', nodes: ['globe'] },
  ]);
  await other.request.post(`/api/scenes/${room.id}/undo`, { data: { base: 1_000_000 } });
  await other.request.patch(`/api/scenes/${room.id}`, { data: { name: 'Renamed meanwhile' } });
  await edit(other, room.id, [{ do: 'rename', node: 'floor', name: 'Planks' }]);
  isCut = false;
  await expect(page.getByRole('button', { name: 'Renamed meanwhile' })).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('treeitem', { name: /Planks/ })).toBeVisible();
  await room.computesAsServer();
  expect(asked.some((path) => path.endsWith('/log'))).toBe(true);
  expect(asked.filter((path) => path.endsWith('/document'))).toEqual([]);
  await other.context().close();
});

test('hundreds of steps are listed as one scrolls, and a far one can be gone back to', async ({ page }) => {
  test.setTimeout(120_000);
  const room = await Room.open(page);
  for (let i = 0; i < 340; i++)
    await edit(page, room.id, [{ do: 'move', nodes: ['globe'], by: [0.01, 0, 0], space: { kind: 'world' } }]);
  await room.key('Control+h');
  const panel = page.getByRole('complementary', { name: 'Steps' });
  await expect(panel.getByRole('button', { name: 'Name step 340' })).toBeAttached();
  expect(await panel.getByRole('listitem').count()).toBeLessThan(60);
  const list = panel.locator('ol').locator('..');
  await expect
    .poll(
      async () => {
        await list.evaluate((one) => one.scrollTo(0, one.scrollHeight));
        return panel.getByRole('button', { name: 'Name step 1', exact: true }).count();
      },
      { timeout: 20_000 },
    )
    .toBe(1);
  const third = panel
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'Name step 3', exact: true }) });
  await third.getByRole('button').first().click();
  await expect(page.getByText(/^Undone: Moved/)).toBeVisible({ timeout: 30_000 });
  await room.saved();
  await room.computesAsServer();
  await expect(third).not.toContainText('(undone)');
  const fourth = panel
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'Name step 4', exact: true }) });
  await expect(fourth).toContainText('(undone)');
  await panel.getByLabel('Steps of this scene are kept').selectOption({ label: 'for 90 days' });
  await expect
    .poll(
      async () =>
        ((await (await page.request.get(`/api/scenes/${room.id}`)).json()) as { keepSteps?: number }).keepSteps,
    )
    .toBe(90);
  await expect(panel.getByLabel('Steps of this scene are kept')).toHaveValue('90');
});

test('a removed scene is brought back from where it is said, or from the bin, or goes for good', async ({ page }) => {
  const word = `Attic${Date.now()}`;
  const ids: string[] = [];
  for (const name of [`${word} one`, `${word} two`]) {
    const made = await page.request.post('/api/scenes', { data: { name, like: 'start' } });
    ids.push(((await made.json()) as { id: string }).id);
  }
  const room = await Room.enter(page, ids[0]!);
  await room.key('Control+k');
  await page.keyboard.type('All scenes');
  await page.keyboard.press('Enter');
  const gallery = page.locator('[data-gallery]');
  const card = (name: string) => page.getByRole('gridcell', { name: new RegExp(`^${word} ${name},`) });
  const remove = async (name: string) => {
    await page.getByRole('button', { name: `More for ${word} ${name}` }).click();
    await page.getByRole('menuitem', { name: 'Remove…' }).click();
    await gallery.getByRole('button', { name: 'Remove', exact: true }).last().click();
    await expect(card(name)).toHaveCount(0);
  };
  await page.getByLabel('Find a scene').fill(word);
  await remove('two');
  await gallery.getByRole('button', { name: 'Bring it back' }).click();
  await expect(card('two')).toBeVisible();
  await remove('two');
  // The one that is open is left for another.
  await remove('one');
  await gallery.getByRole('button', { name: 'Bin', exact: true }).click();
  const bin = page.getByRole('region', { name: 'Bin' });
  const row = (name: string) => bin.getByRole('listitem').filter({ hasText: `${word} ${name}` });
  await expect(row('one')).toContainText('30 days left');
  await row('one').getByRole('button', { name: 'Bring back' }).click();
  await expect(row('one')).toHaveCount(0);
  await row('two').getByRole('button', { name: 'Remove for good' }).click();
  await page.keyboard.press('Escape');
  await expect(row('two').getByRole('button', { name: 'Remove for good' })).toBeVisible();
  await row('two').getByRole('button', { name: 'Remove for good' }).click();
  await row('two')
    .getByRole('button', { name: /No way back/ })
    .click();
  await expect(row('two')).toHaveCount(0);
  expect((await page.request.post(`/api/bin/${ids[1]}`)).status()).toBe(404);
  await page.keyboard.press('Escape');
  await page.getByLabel('Find a scene').fill(word);
  await expect(card('one')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(gallery).toHaveCount(0);
});
