import { expect, type Page } from '@playwright/test';
import { renewed } from './living';
import { Room } from './room';
import { test } from './shared';

interface Hooks {
  calmPivotPage(): Record<string, unknown>;
  calmPivotSession: { rest(): Promise<void> };
}

/** Addresses of pictures are others in each page, as is how often it has begun, and who else is there. */
const others = ['shotPictures', 'balls', 'life', 'scenes', 'others'];

/** All that the page holds, as text by name. */
const heldBy = (page: Page) =>
  page.evaluate((left) => {
    const plain = (_: string, value: unknown): unknown =>
      value instanceof Map || value instanceof Set
        ? [...(value as Iterable<unknown>)]
        : ArrayBuffer.isView(value)
          ? [...(value as Uint16Array)]
          : value;
    const all = Object.entries((window as unknown as Hooks).calmPivotPage()).filter(([name]) => !left.includes(name));
    return Object.fromEntries(all.map(([name, value]) => [name, JSON.stringify(value, plain)]));
  }, others);

/** What stands on it, but for pictures that are still to come. */
const shownBy = (page: Page) =>
  page.evaluate(() =>
    document.body.innerText
      .replace(/\d+ s ago|just now/g, '')
      .split('\n')
      .filter((line) => line !== '…')
      .join('\n'),
  );

test('a page that is put back is as one that has just been loaded', async ({ page, context }) => {
  const room = await Room.open(page);
  // Much of what a page can hold is otherwise: what is picked, chosen, opened, folded, isolated, looked at, tried and prepared.
  await room.pick('telescope');
  await room.key('i');
  await room.key('Shift+8');
  await room.key('r');
  await room.key('k');
  await room.chapter('What');
  await page.getByRole('button', { name: 'Lamps', exact: true }).click();
  await room.run('Seen by shot');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  await room.key('1');
  await page.keyboard.type('5');
  await page.keyboard.press('Enter');
  await room.saved();
  await room.key('n');
  await room.key('q');
  const before = await heldBy(page);

  const made = await page.request.post('/api/scenes', { data: { name: 'Test room', like: 'orrery-room' } });
  const { id } = (await made.json()) as { id: string };
  await page.evaluate(async () => {
    await (window as unknown as Hooks).calmPivotSession.rest();
    localStorage.clear();
  });
  expect(await renewed(page, id)).toBe(true);
  await room.still();
  // It remembers how it looks in this browser; another page is to begin without.
  await page.evaluate(() => localStorage.clear());
  const fresh = await context.newPage();
  const other = await Room.enter(fresh, id);
  await other.still();
  await expect.poll(() => heldBy(page)).toEqual(await heldBy(fresh));
  await expect.poll(() => shownBy(page)).toBe(await shownBy(fresh));
  const changed = await heldBy(page);
  expect(Object.keys(before).filter((name) => before[name] !== changed[name]).length).toBeGreaterThan(8);
});
