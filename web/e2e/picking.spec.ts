import { expect } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

/** Three plates one behind the other, seen from the front, and one beside them. */
async function plates(page: import('@playwright/test').Page): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'Plates' } });
  const { id } = (await made.json()) as { id: string };
  const plate = (name: string, x: number, z: number) => ({
    do: 'create',
    node: {
      id: name,
      name,
      kind: 'shape',
      shape: { type: 'box', size: [1, 1, 0.1] },
      placement: { position: [x, 0, z] },
    },
  });
  const edits = [plate('near', 0, 1), plate('middle', 0, 0), plate('far', 0.3, -1), plate('beside', 2, 0)];
  await page.request.post(`/api/scenes/${id}/edits`, {
    data: {
      base: 1,
      edits: [
        ...edits,
        { do: 'create', node: { id: 'lamp', name: 'lamp', kind: 'light', placement: { position: [1, 1.1, 0] } } },
      ],
    },
  });
  const room = await Room.enter(page, id);
  await room.key('Shift+Digit1');
  await room.key('Shift+v');
  await room.key('m');
  return room;
}

test('what is under the pointer says its name, and a second click lists what lies behind it', async ({ page }) => {
  const room = await plates(page);
  const at = await room.at('near');
  await page.mouse.move(at.x - 40, at.y + 40);
  await expect(page.locator('[data-hovered]')).toHaveText('near');
  await room.key('m');
  await page.mouse.click(at.x - 40, at.y + 40);
  expect(await room.picked()).toEqual(['near']);
  await page.mouse.click(at.x - 40, at.y + 40);
  const list = page.getByRole('menu', { name: 'Under here, near to far' });
  await expect(list.getByRole('menuitem')).toHaveText([/^near/, /^middle/, /^far/]);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(list.getByRole('menuitem').last()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(list).toBeHidden();
  expect(await room.picked()).toEqual(['far']);
});

test('a box picks what it touches; with Alt only what it holds whole; it never moves anything', async ({ page }) => {
  const room = await plates(page);
  const before = await room.nodes();
  const [a, b] = [await room.at('near'), await room.at('beside')];
  const size = (b.x - a.x) / 2;
  // Over the right half of the three plates: they are touched, not held.
  const from = { x: a.x + size * 0.1, y: a.y - size * 0.8 };
  const to = { x: a.x + size * 0.7, y: a.y + size * 0.8 };
  await room.sweep(from, to);
  // Where surfaces are drawn, what lies wholly behind others is left out, said, and can be had.
  expect((await room.picked()).toSorted()).toEqual(['far', 'near']);
  await expect(page.locator('[data-hint]')).toHaveText('Picked 2; 1 more lies behind what is seen.');
  await page.getByRole('button', { name: 'Pick them, too' }).click();
  expect((await room.picked()).toSorted()).toEqual(['far', 'middle', 'near']);
  await page.mouse.move(from.x, from.y);
  await page.keyboard.down('Alt');
  await page.mouse.move(from.x, from.y);
  await page.keyboard.up('Alt');
  await page.mouse.down();
  await page.mouse.move(b.x, to.y);
  await page.mouse.move(b.x + size, to.y);
  await expect(page.locator('[data-box]')).toContainText('touched · 4');
  await page.keyboard.down('Alt');
  await page.mouse.move(b.x + size - 1, to.y);
  await expect(page.locator('[data-box]')).toContainText('held whole · 1');
  await page.mouse.up();
  await page.keyboard.up('Alt');
  expect(await room.picked()).toEqual(['beside']);
  // Ctrl adds; Esc leaves a box without a change.
  await page.keyboard.down('Control');
  await room.sweep(from, to);
  await page.keyboard.up('Control');
  expect((await room.picked()).length).toBe(3);
  await page.mouse.move(from.x, from.y - 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y - 5);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(page.locator('[data-box]')).toBeHidden();
  expect(await room.nodes()).toEqual(before);
});

test('in wire the one behind is picked by its edge', async ({ page }) => {
  const room = await plates(page);
  const [near, beside] = [await room.at('near'), await room.at('beside')];
  // The left edge of the far plate, behind the near one.
  const edge = { x: near.x - 0.1 * (beside.x - near.x), y: near.y + 30 };
  await page.mouse.click(edge.x, edge.y);
  expect(await room.picked()).toEqual(['near']);
  for (const word of ['wire Edges only', 'see-through']) {
    await room.key('Shift+e');
    await page.getByRole('button', { name: /^Shading/ }).click();
    await page.getByRole('menuitem', { name: new RegExp(`^${word}`) }).click();
    await page.mouse.click(edge.x + 1, edge.y);
    expect(await room.picked()).toEqual(['far']);
    await page.mouse.click(near.x - 0.2 * (beside.x - near.x), near.y - 30);
    expect(await room.picked()).toEqual(['near']);
  }
});

test('lead, keeping, adding, kinds, the rest and likes', async ({ page }) => {
  const room = await plates(page);
  const [near, beside, lamp] = [await room.at('near'), await room.at('beside'), await room.at('lamp')];
  await page.mouse.click(near.x - 40, near.y + 40);
  await page.keyboard.down('Control');
  await page.mouse.click(beside.x - 40, beside.y + 40);
  await page.keyboard.up('Control');
  expect(await room.picked()).toEqual(['near', 'beside']);
  // A key hands the lead on; a press on one of them leaves it alone picked.
  await room.key('Shift+k');
  expect(await room.picked()).toEqual(['beside', 'near']);
  await page.mouse.click(near.x - 40, near.y + 46);
  expect(await room.picked()).toEqual(['near']);
  await page.locator('[id="row-beside"]').click();
  await page.locator('[id="row-near"]').click({ modifiers: ['Control'] });
  await room.key('k');
  await page.mouse.click(beside.x - 40, beside.y + 50);
  await page.locator('[id="row-far"]').click();
  expect(await room.picked()).toEqual(['beside', 'near']);
  await expect(page.locator('[data-hint]')).toContainText('The selection is kept');
  await page.getByRole('button', { name: 'Let it change' }).click();
  await page.locator('[id="row-far"]').click();
  expect(await room.picked()).toEqual(['far']);
  await room.key('Control+i');
  expect((await room.picked()).toSorted()).toEqual(['beside', 'lamp', 'middle', 'near']);
  await room.key('Shift+e');
  await room.still();
  await page.mouse.click(lamp.x, lamp.y);
  expect(await room.picked()).toEqual(['lamp']);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Picking' }).click();
  await page.getByRole('switch', { name: 'Lamps' }).click();
  await page.getByRole('switch', { name: 'Every press adds' }).click();
  await page.keyboard.press('Escape');
  await room.key('Shift+e');
  await page.mouse.click(lamp.x, lamp.y);
  expect(await room.picked()).toEqual([]);
  await page.mouse.click(near.x - 40, near.y + 40);
  await page.mouse.click(beside.x - 40, beside.y + 40);
  expect(await room.picked()).toEqual(['near', 'beside']);
  await page.getByRole('button', { name: 'Stop adding' }).click();
  await page.locator('[id="row-near"]').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Pick all of this kind' }).click();
  expect((await room.picked()).toSorted()).toEqual(['beside', 'far', 'middle', 'near']);
});

test('selections get names, are picked again, and undo brings back what was picked', async ({ page }) => {
  const room = await plates(page);
  await room.pick('far');
  await room.pick('near', true);
  await page.getByRole('button', { name: 'Selections' }).click();
  await page.getByLabel('Name of this selection').fill('Pair');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Pair/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await room.field('Position Y').fill('1');
  await page.keyboard.press('Enter');
  await room.key('4');
  await page.keyboard.press('Enter');
  await room.saved();
  await room.pick('beside');
  await room.key('Control+z');
  await expect.poll(() => room.picked()).toEqual(['far', 'near']);
  await room.pick('beside');
  await page.reload();
  await page.getByRole('button', { name: 'Selections' }).click();
  await page.getByRole('button', { name: /^Pair/ }).click();
  expect(await room.picked()).toEqual(['far', 'near']);

  // When asked, undo takes back selections, too.
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Picking' }).click();
  await page.getByRole('switch', { name: 'Undo takes back selections, too' }).click();
  await page.keyboard.press('Escape');
  await room.pick('middle');
  await room.pick('beside');
  await room.key('Control+z');
  expect(await room.picked()).toEqual(['middle']);
  await room.key('Control+z');
  expect(await room.picked()).toEqual(['far', 'near']);
  await room.key('Control+Shift+z');
  expect(await room.picked()).toEqual(['middle']);
});

test('with another set of hands nothing needs a middle button, and a right press asks for the menu', async ({
  page,
}) => {
  const room = await plates(page);
  const at = await room.at('near');
  await page.mouse.click(at.x - 6, at.y + 160, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Add here' }).hover();
  await expect(page.getByRole('menuitem', { name: 'Box', exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await room.pick('near');
  await page.mouse.click(at.x - 40, at.y + 40, { button: 'right' });
  await expect(page.getByRole('menuitem', { name: /^Rename/ })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Pointer' }).click();
  await page.getByRole('radio', { name: 'Trackpad' }).click();
  await page.keyboard.press('Escape');
  await room.key('Shift+e');
  const wheel = async (x: number, y: number, key?: string) => {
    const before = await room.look();
    await page.mouse.move(at.x + 200, at.y - 60);
    if (key) await page.keyboard.down(key);
    await page.mouse.wheel(x, y);
    if (key) await page.keyboard.up(key);
    await page.waitForTimeout(400);
    return [before, await room.look()] as const;
  };
  const [b1, orbited] = await wheel(60, 0);
  expect(orbited[0]).not.toBeCloseTo(b1[0]!, 3);
  const [b2, panned] = await wheel(60, 0, 'Shift');
  expect(panned.slice(0, 11)).toEqual(b2.slice(0, 11));
  expect(panned[12]).not.toBeCloseTo(b2[12]!, 3);
  const [b3, nearer] = await wheel(0, -60, 'Control');
  expect(nearer[16]!).toBeLessThan(b3[16]!);
});
