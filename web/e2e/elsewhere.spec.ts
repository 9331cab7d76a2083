import { expect, type Page } from '@playwright/test';
import { Room } from './room';
import { test } from './shared';

/** What an edit does in shots in which it is not made is said before, and in the line of the history. */

const hint = (page: Page) => page.locator('[data-hint]');
const plan = (page: Page) => page.locator('[data-plan]');

/** A scene made by steps, the last of them in its one shot only. */
async function made(page: Page, edits: unknown[], inShot: unknown): Promise<Room> {
  const { id } = (await (await page.request.post('/api/scenes', { data: { name: 'Boxes' } })).json()) as { id: string };
  const shot = { do: 'shot', shot: { id: 'one', number: '010', name: 'One' } };
  for (const [base, data] of [{ edits: [...edits, shot] }, { edits: [inShot], shot: 'one', scope: 'shot' }].entries()) {
    const answer = await page.request.post(`/api/scenes/${id}/edits`, { data: { base, ...data } });
    expect(answer.status(), await answer.text()).toBe(200);
  }
  return Room.enter(page, id);
}

const oneUp = (node: string) => ({ do: 'move', nodes: [node], by: [0, 1, 0], space: { kind: 'world' } });

test('joining says what it moves in another shot, and can leave what differs by itself', async ({ page }) => {
  const boxes = ['a', 'b', 'c'].map((id, i) => ({
    do: 'create',
    node: { id, name: `Box ${id}`, kind: 'shape', shape: { type: 'box' }, placement: { position: [2 * i, 0, 0] } },
  }));
  const room = await made(page, boxes, oneUp('a'));
  const pick = async (first: string, ...others: string[]) => {
    await room.pick(first);
    for (const other of others) await room.pick(other, true);
  };
  await pick('a', 'b', 'c');
  await room.run('Join into the lead');
  await expect(plan(page)).toHaveText(/Join3 objectsinto Box c/);
  await expect(hint(page)).toContainText('In 010 One 8 corners of Box a move, as it stands otherwise there.');

  await page.getByLabel('What other shots do').click();
  await page.getByRole('menuitemradio', { name: 'but for what differs elsewhere' }).click();
  await expect(hint(page)).not.toContainText('corners');
  await page.locator('[data-make]').click();
  await expect(hint(page)).toContainText('Joined 2 objects into Box c; Box a stays an object of its own.');
  await page.keyboard.press('Control+z');
  await expect(hint(page)).toContainText('Undone: Joined 2 objects');

  await pick('a', 'b', 'c');
  await room.run('Join into the lead');
  await page.locator('[data-make]').click();
  await expect(hint(page)).toContainText('Joined 3 objects into Box c; in 010 One 8 corners of Box a moved.');
  await expect(plan(page)).toHaveCount(0);
  await page.keyboard.press('Control+z');

  // Where no shot shows it otherwise there is nothing to ask.
  await pick('b', 'c');
  await room.run('Join into the lead');
  await expect(hint(page)).toContainText('Joined 2 objects into Box c.');
});

test('a shear that a shot keeps is said before it is taken out; a finer colour is shown by its nearest figures', async ({
  page,
}) => {
  const sheared = (by: number) => ({ do: 'place', node: 'a', placement: { shear: [by, 0, 0] } });
  const room = await made(
    page,
    [
      { do: 'create', node: { id: 'a', name: 'Box a', kind: 'shape', shape: { type: 'box' } } },
      sheared(0.5),
      { do: 'material', id: 'sea', like: { name: 'Sea', color: [0.02, 0.35, 0.8] }, nodes: ['a'] },
    ],
    sheared(0.2),
  );
  await room.pick('a');
  const out = page.locator('p', { hasText: 'Sheared' }).getByRole('button', { name: 'Take out' });
  await out.click();
  await expect(plan(page)).toHaveText(/Take the shear out ofBox a/);
  await expect(hint(page)).toContainText('In 010 One Box a keeps a shear of its own.');
  await out.click();
  await expect(hint(page)).toContainText('Took the shear out of Box a; in 010 One Box a kept a shear of its own.');

  await room.chapter('What');
  const figures = page.getByLabel('Colour of the material, figures');
  await expect(figures).toHaveValue('#27A0E7');
  const materials = async () =>
    ((await (await room.request.get(`/api/scenes/${room.id}`)).json()) as { materials: { color: unknown }[] })
      .materials;
  expect((await materials())[0]!.color).toEqual([0.02, 0.35, 0.8]);
  await figures.fill('#27A0E8');
  await figures.press('Enter');
  await expect.poll(async () => (await materials())[0]!.color).toBe('#27A0E8');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await materials())[0]!.color).toEqual([0.02, 0.35, 0.8]);
});
