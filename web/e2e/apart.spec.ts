import { expect, type Page, type Route } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

const tree = (page: Page) => page.getByRole('tree');
const hint = (page: Page) => page.locator('[data-hint]');

// What was fetched already does not fail.
test.use({ ownPage: true });

test('what was not fetched yet cannot be opened while the server is out of reach: it is said, nothing else goes, and later it opens', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('globe');
  const parts = [
    { words: 'All scenes', shows: page.locator('[data-gallery]') },
    { words: 'check pivots', shows: page.getByRole('dialog', { name: 'Pivots away from their objects' }) },
    { words: 'settings', shows: page.getByRole('dialog', { name: 'Settings' }) },
    { words: 'Make a still', shows: page.getByRole('region', { name: 'Make a still' }) },
  ];
  const away = (route: Route) => route.abort();
  await page.route('**/assets/*', away);
  await page.route('**/healthz', away);
  for (const { words, shows } of parts) {
    await room.run(words);
    await expect(hint(page)).toContainText('The server is out of reach. Try again when it is back.');
    await expect(shows).toHaveCount(0);
    await expect(tree(page)).toBeVisible();
    expect(await room.picked()).toEqual(['globe']);
    // Said anew for each.
    await room.key('v');
    await page.evaluate(() =>
      (window as unknown as { calmPivotStore: { setState(to: object): void } }).calmPivotStore.setState({
        notice: null,
      }),
    );
  }
  // A chapter says so in its place, and is asked for again there.
  await room.chapter('What');
  const again = page.getByRole('tabpanel', { name: 'What' }).getByRole('button', { name: 'Try again' });
  await expect(again).toBeVisible();
  // A server that has other files by now answers, but not with these.
  await page.unroute('**/healthz');
  await again.click();
  await expect(hint(page)).toContainText('The page was renewed on the server. Reload it to open this');
  await expect(again).toBeVisible();
  await page.unroute('**/assets/*');
  await again.click();
  await expect(page.getByRole('tabpanel', { name: 'What' }).getByRole('heading').first()).toBeVisible();
  await room.chapter('Where');
  for (const { words, shows } of parts) {
    await room.run(words);
    await expect(shows).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(shows).toHaveCount(0);
  }
});

test('a region of the page that fails leaves the others at work, and can be shown again', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  const store = (to: object | null) =>
    page.evaluate((to) => {
      const { calmPivotStore: store } = window as unknown as {
        calmPivotStore: { setState(to: object): void; getState(): { closed: unknown } };
      };
      const kept = window as unknown as { kept: unknown };
      kept.kept ??= store.getState().closed;
      store.setState(to ?? { closed: kept.kept });
    }, to);
  await store({ closed: null });
  const failed = page
    .getByRole('alert')
    .filter({ hasText: 'The tree cannot be shown just now. What you did is kept.' });
  await expect(failed).toBeVisible();
  // What is picked is still moved by its handles, and kept.
  await room.key('v');
  const before = (await room.node('globe')).placement.position;
  await room.drag('needle', 1, 0, -40);
  await room.saved();
  expect((await room.node('globe')).placement.position).not.toEqual(before);
  await store(null);
  await failed.getByRole('button', { name: 'Show it again' }).click();
  await expect(tree(page)).toBeVisible();
  await expect(failed).toHaveCount(0);
});
