import { expect, test, type Page } from '@playwright/test';
import { Room } from './room';
import { texturedFile } from './textured';

/** All scenes over the stage: found, told apart, opened, copied, renamed and removed there. */
const cards = (page: Page) => page.getByRole('gridcell');
const card = (page: Page, name: string) => page.getByRole('gridcell', { name: new RegExp(`^${name},`) });

async function showAll(page: Page): Promise<void> {
  await page.locator('[data-stage]').focus();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('All scenes');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Find a scene')).toBeFocused();
}

/** Scenes of one beginning, so that others of the same server do not count. */
async function make(page: Page, names: string[]): Promise<string[]> {
  const ids: string[] = [];
  for (const name of names) {
    const made = await page.request.post('/api/scenes', { data: { name, like: 'start' } });
    ids.push(((await made.json()) as { id: string }).id);
  }
  return ids;
}

test('scenes are found as one types, walked by arrows and opened; the menu keeps the few last used', async ({
  page,
}) => {
  const word = `Loft${Date.now()}`;
  const ids = await make(page, [`${word} red`, `${word} green`, `${word} blue`]);
  await Room.enter(page, ids[0]!);
  await page.getByRole('button', { name: `${word} red` }).click();
  await expect(page.getByRole('menuitem').first()).toContainText(`${word} red`);
  await page.getByRole('menuitem', { name: /^All scenes/ }).click();
  await page.getByLabel('Find a scene').fill(word.toLowerCase());
  await expect(cards(page)).toHaveCount(3);
  // Newest first.
  await expect(cards(page).first()).toContainText('blue');
  await expect(card(page, `${word} red`)).toContainText('open');
  await page.getByLabel('Find a scene').fill(`green ${word}`);
  await expect(cards(page)).toHaveCount(1);
  await page.keyboard.press('Escape');
  await page.getByLabel('Find a scene').fill(word);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-gallery]')).toHaveCount(0);
  await expect(page).toHaveURL(new RegExp(ids[2]!));
  await expect(page.getByRole('button', { name: `${word} blue` })).toBeVisible();
  await page.getByLabel('Find a scene').isHidden();
});

test('a scene that is left has a picture, with when and by whom it was changed', async ({ page, browser }) => {
  const room = await Room.open(page);
  await room.pick('moon-arm');
  await room.field('Rotation Y').fill('50');
  await page.keyboard.press('Enter');
  await room.saved();
  const word = `Other${Date.now()}`;
  const [other] = await make(page, [word]);
  const kept = page.waitForResponse((r) => r.request().method() === 'PUT' && r.url().includes('/picture'));
  await page.evaluate((id) => {
    const { open } = (window as unknown as { calmPivotSession: { open(id: string): void } }).calmPivotSession;
    open(id);
  }, other!);
  expect((await kept).status()).toBe(204);
  const picture = await page.request.get(`/api/scenes/${room.id}/picture`);
  expect(picture.headers()['content-type']).toBe('image/webp');
  expect((await picture.body()).length).toBeGreaterThan(500);
  const line = async (on: Page) =>
    (
      (await (await on.request.get('/api/scenes')).json()) as {
        id: string;
        mine: boolean;
        revision: number;
        picture: number;
      }[]
    ).find((s) => s.id === room.id)!;
  const mine = await line(page);
  expect(mine).toMatchObject({ mine: true, picture: mine.revision });
  const stranger = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  expect((await line(stranger)).mine).toBe(false);
  await showAll(page);
  await page.getByLabel('Find a scene').fill('Test room');
  await expect(page.locator(`[id="scene-${room.id}"]`)).toContainText('by you');
  const image = page.locator(`[id="scene-${room.id}"] img`);
  await expect(image).toHaveCount(1);
  await expect.poll(() => image.evaluate((i) => (i as HTMLImageElement).naturalWidth)).toBe(440);
});

test('a scene is renamed, copied and removed in the gallery, by keys and by its menu', async ({ page }) => {
  const word = `Shed${Date.now()}`;
  const [id] = await make(page, [word]);
  await Room.open(page);
  await showAll(page);
  await page.getByLabel('Find a scene').fill(word);
  await page.keyboard.press('F2');
  await page.getByLabel(`New name of ${word}`).fill(`${word} old`);
  await page.keyboard.press('Enter');
  await expect(card(page, `${word} old`)).toBeVisible();
  await page.getByRole('button', { name: `More for ${word} old` }).click();
  await page.getByRole('menuitem', { name: 'Copy' }).click();
  await page.getByLabel(`New name of ${word} old copy`).fill(`${word} young`);
  await page.keyboard.press('Enter');
  await page.getByLabel('Find a scene').fill(word);
  await expect(cards(page)).toHaveCount(2);
  // Asked first, and left by Esc.
  await page.getByLabel('Find a scene').fill(`${word} old`);
  await page.getByRole('button', { name: `More for ${word} old` }).click();
  await page.getByRole('menuitem', { name: 'Remove…' }).click();
  await expect(card(page, `${word} old`)).toContainText('Into the bin');
  await page.keyboard.press('Escape');
  await expect(card(page, `${word} old`)).not.toContainText('Into the bin');
  await page.getByRole('button', { name: `More for ${word} old` }).click();
  await page.getByRole('menuitem', { name: 'Remove…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).last().click();
  await expect(card(page, `${word} old`)).toHaveCount(0);
  expect((await page.request.get(`/api/scenes/${id}`)).status()).toBe(404);
  await expect(page.locator('[data-gallery]').getByText(/lies in the bin for thirty days/)).toBeVisible();
  await page.getByLabel('Find a scene').fill('nothing is called so');
  await expect(page.getByText('No scene is called')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-gallery]')).toHaveCount(0);
});

test('a file that is dropped on the gallery becomes a scene, and what is none is refused', async ({ page }) => {
  await Room.open(page);
  const drop = async (name: string, bytes: Uint8Array) => {
    await showAll(page);
    await page.evaluate(
      ([file, data]) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([new Uint8Array(data)], file));
        document
          .querySelector('[data-gallery]')!
          .dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true, cancelable: true }));
      },
      [name, [...bytes]] as const,
    );
  };
  const word = `Dropped${Date.now()}`;
  await drop(`${word}.glb`, await texturedFile());
  await expect(page.getByRole('button', { name: word })).toBeVisible({ timeout: 30_000 });
  await drop('nothing.glb', new Uint8Array([1, 2, 3]));
  await expect(page.getByRole('alert')).toBeVisible();
});

test('thousands of scenes are no more work than a screenful', async ({ page }) => {
  const room = await Room.open(page);
  const [like] = (await (await page.request.get('/api/scenes')).json()) as object[];
  const many = Array.from({ length: 3000 }, (_, i) => ({ ...like!, id: `many${i}`, name: `Many ${i}` }));
  await page.route('**/api/scenes', (route) => route.fulfill({ json: many }));
  await showAll(page);
  await expect(page.getByRole('status').filter({ hasText: '3000' })).toBeVisible();
  expect(await cards(page).count()).toBeLessThan(40);
  await page.getByLabel('Find a scene').fill('2999');
  await expect(cards(page)).toHaveCount(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-gallery]')).toHaveCount(0);
  await room.pick('moon-arm');
});
