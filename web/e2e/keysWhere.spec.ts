import { expect, type Page } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

const hint = (page: Page) => page.locator('[data-hint]');

async function centreOf(page: Page): Promise<{ x: number; y: number }> {
  const box = (await page.locator('g[data-handle="ring"]').first().boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Where a press means the middle handle. */
async function onRing(page: Page, room: Room, id: string): Promise<{ x: number; y: number }> {
  const { x, y } = await room.at(id);
  const on = await page.evaluate(
    (at) =>
      [6, 8, 9, 10, 12].find(
        (d) =>
          document
            .elementFromPoint(at.x + d, at.y)
            ?.closest('g[data-handle]')
            ?.getAttribute('data-handle') === 'ring',
      ),
    { x, y },
  );
  expect(on, JSON.stringify(await centreOf(page))).toBeDefined();
  return { x: x + on!, y };
}

test('a second quick press on what is picked leaves it where it is; a long one lets it follow', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await room.key('m');
  await room.still();
  const before = (await room.node('sun-lamp')).placement.position;
  const at = await onRing(page, room, 'sun-lamp');
  await page.mouse.click(at.x, at.y);
  await page.mouse.move(at.x + 120, at.y - 40, { steps: 3 });
  await page.locator('[id="row-drum"]').click();
  expect(await room.picked()).toEqual(['drum']);
  await room.saved();
  expect((await room.node('sun-lamp')).placement.position).toEqual(before);

  // Held for a moment it follows; a press elsewhere puts it back and does its own.
  await room.pick('sun-lamp');
  await room.still();
  const hold = async () => {
    const now = await onRing(page, room, 'sun-lamp');
    await page.mouse.move(now.x, now.y);
    await page.mouse.down();
    await page.waitForTimeout(350);
    await page.mouse.up();
    await page.mouse.move(now.x + 90, now.y - 30, { steps: 3 });
    await expect(hint(page)).toContainText('It follows the pointer');
  };
  await hold();
  await page.locator('[id="row-drum"]').click();
  expect(await room.picked()).toEqual(['drum']);
  await room.saved();
  expect((await room.node('sun-lamp')).placement.position).toEqual(before);

  // An axis is changed while it follows, and Enter keeps what is shown, though nothing moved since.
  await room.pick('sun-lamp');
  await room.still();
  await hold();
  await page.keyboard.press('y');
  await expect(hint(page)).toContainText('It follows the pointer');
  await page.keyboard.press('Enter');
  await room.saved();
  const after = (await room.node('sun-lamp')).placement.position;
  expect(after).not.toEqual(before);
  await page.keyboard.press('Control+z');
  await room.saved();
  expect((await room.node('sun-lamp')).placement.position).toEqual(before);
});

test('undo acts after a typed number, with a panel open over the stage, and never on a text that is typed', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const before = await room.number('Position X');
  const x = room.field('Position X');
  await x.fill('1.25');
  await x.press('Enter');
  await room.saved();
  await page.keyboard.press('Control+z');
  await expect.poll(() => room.number('Position X')).toBe(before);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => room.number('Position X')).toBe(1.25);
  await room.saved();

  // What is being typed is taken back as text.
  await x.click();
  await page.keyboard.type('7');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  expect(await room.number('Position X')).toBe(1.25);
  for (const panel of ['Seen by shot: the table', 'Steps']) {
    await room.run(panel);
    // Letters are for what lies over the stage: they choose no verb under it.
    const verb = await page.getByRole('radio', { name: 'Rotate' }).getAttribute('data-state');
    if (panel !== 'Steps') {
      await expect(page.locator('[data-over]:focus-within')).toHaveCount(1);
      await page.keyboard.press('r');
      expect(await page.getByRole('radio', { name: 'Rotate' }).getAttribute('data-state')).toBe(verb);
    }
    await page.keyboard.press('Control+z');
    await room.saved();
    expect((await room.node('sun-lamp')).placement.position[0]).toBeCloseTo(before, 9);
    await page.keyboard.press('Control+Shift+z');
    await room.saved();
    expect((await room.node('sun-lamp')).placement.position[0]).toBe(1.25);
    await page.keyboard.press('Escape');
  }
});

test('Enter makes what the foot says it makes, and not what was pressed before', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('drum');
  await page.getByRole('button', { name: 'Materials', exact: true }).click();
  const card = page.locator('[data-material]').filter({ hasNotText: 'unused' }).first();
  await card.focus();
  const id = (await card.getAttribute('data-material'))!;
  const has = async () => (await room.node('drum')) as unknown as { materials?: string[]; material?: string };
  const before = await has();
  await page.keyboard.press('Delete');
  await expect(hint(page)).toContainText('is used by');
  await page.keyboard.press('Enter');
  await room.saved();
  await expect(page.locator(`[data-material="${id}"]`)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await room.saved();
  await expect(page.locator(`[data-material="${id}"]`)).toHaveCount(1);
  expect(await has()).toEqual(before);
});

test('a target that was pressed by mistake is named anew by the next press', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await room.run('Look at something, and keep');
  await expect(page.locator('[data-plan="tie"]')).toBeVisible();
  for (const id of ['drum', 'orrery']) {
    await page.locator(`[id="row-${id}"]`).click();
    await expect(page.locator('[data-plan="tie"]')).toBeVisible();
    expect(await room.picked()).toEqual(['sun-lamp']);
  }
  await page.keyboard.press('Enter');
  await room.saved();
  const { constraints } = (await room.node('sun-lamp')) as unknown as { constraints: { target: string }[] };
  expect(constraints.map((c) => c.target)).toEqual(['orrery']);
  await page.keyboard.press('Control+z');
  await room.saved();
});

test('a text that vanishes while one types takes its keys along, and the focus goes on beside it', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('drum');
  const before = (await room.node('drum')).placement.position;
  const x = room.field('Position X');
  await x.click();
  await page.keyboard.type('1');
  // Somebody else removes what it is a field of.
  await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 1_000_000, edits: [{ do: 'remove', nodes: ['drum'], children: 'lift' }] },
  });
  await expect(page.locator('[id="row-drum"]')).toHaveCount(0);
  await page.keyboard.type('5');
  await page.keyboard.press('Enter');
  await room.saved();
  await expect(page.locator('[data-amount]')).toHaveCount(0);
  expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false);
  await page.request.post(`/api/scenes/${room.id}/undo`, { data: { base: 1_000_000 } });
  expect(before).toHaveLength(3);
});

test('a weight is typed, and a row of arrow presses on its slider is one step', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const tie = { do: 'constrain', nodes: ['sun-lamp'], constraint: { kind: 'aim', target: 'drum' } };
  await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base: 1_000_000, edits: [tie] } });
  await page.getByRole('tab', { name: 'Why' }).click();
  const weight = async () =>
    ((await room.node('sun-lamp')) as unknown as { constraints: { weight?: number }[] }).constraints[0]!.weight ?? 1;
  const field = page.getByRole('textbox', { name: /^Weight of .*typed/ });
  for (const [text, now] of [
    ['40 %', 0.4],
    ['0.25', 0.25],
    ['60', 0.6],
  ] as const) {
    await field.fill(text);
    await field.press('Enter');
    await expect.poll(weight).toBeCloseTo(now, 9);
  }
  const steps = async () =>
    ((await (await page.request.get(`/api/scenes/${room.id}/steps`)).json()) as object[]).length;
  const made = await steps();
  await page.getByRole('slider', { name: /^Weight of/ }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(weight).toBeCloseTo(0.65, 9);
  expect(await steps()).toBe(made + 1);
});

test('a press on one of several picked leaves it alone picked, and the lead is handed on by a key', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await page.locator('[id="row-drum"]').click({ modifiers: ['Control'] });
  expect(await room.picked()).toEqual(['sun-lamp', 'drum']);
  await room.key('Shift+k');
  expect(await room.picked()).toEqual(['drum', 'sun-lamp']);
  await page.locator('[id="row-drum"]').click();
  expect(await room.picked()).toEqual(['drum']);
});

test('a refusal leaves the sentence when the next thing begins', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const x = room.field('Position X');
  await x.fill('nonsense');
  await x.press('Enter');
  await expect(page.locator('[data-hint][role="alert"]')).toBeVisible();
  await page.keyboard.press('Escape');
  await x.fill('nonsense');
  await x.press('Enter');
  await page.locator('[id="row-drum"]').click();
  await expect(page.locator('[data-hint][role="alert"]')).toHaveCount(0);
});

test('the first addition asks its size, which another scene does not remember; a ring never turns about its own pivot', async ({
  page,
}) => {
  const empty = async () => {
    const made = await page.request.post('/api/scenes', { data: { name: 'Empty' } });
    return Room.enter(page, ((await made.json()) as { id: string }).id);
  };
  const adding = async () => {
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Cylinder', exact: true }).click();
    return page.locator('[data-plan="add"] input').first();
  };
  const first = await empty();
  const radius = await adding();
  await expect(radius).toHaveValue('0.5');
  await radius.fill('0.25');
  await radius.press('Enter');
  await first.saved();
  expect((await first.nodes()).map((n) => (n as unknown as { shape: { radius: number } }).shape.radius)).toEqual([
    0.25,
  ]);

  // In a ring, which would be a heap about its own pivot, it goes about the world's middle.
  await first.key('Control+d');
  await page.getByRole('button', { name: 'What happens from copy to copy' }).click();
  await page.getByRole('menuitemradio', { name: /^turned/ }).click();
  await expect(page.locator('[data-copy-step]')).toContainText(/about\s*world zero/);
  await page.getByRole('button', { name: 'About which point from copy to copy' }).click();
  await expect(page.getByRole('menuitemradio', { name: /^its pivot/ })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  const second = await empty();
  await expect(await adding()).toHaveValue('0.5');
  await page.keyboard.press('Escape');
  expect(await second.nodes()).toEqual([]);
});

test('a preset of Align shows first and is kept with the button, which is in sight', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  await page.locator('[id="row-desk"]').click({ modifiers: ['Control'] });
  await room.chapter('Where');
  const before = (await room.node('stool')).placement.position;
  await page.getByText('Align', { exact: true }).first().click();
  await page.getByRole('button', { name: 'On top' }).click();
  const keep = page.getByRole('button', { name: 'Align', exact: true }).last();
  await expect(keep).toBeInViewport();
  await room.saved();
  expect((await room.node('stool')).placement.position).toEqual(before);
  await keep.click();
  await room.saved();
  expect((await room.node('stool')).placement.position).not.toEqual(before);
  await page.keyboard.press('Control+z');
  await room.saved();
  expect((await room.node('stool')).placement.position).toEqual(before);
});

test('what is looked through: the anchors say where they are seen, and figures are plain', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('drum');
  await room.chapter('Where');
  await expect(page.locator('[data-anchor-seen]')).toHaveText(/^seen as the (left|right|middle|front|back|top|bottom)/);
  // With what is looked through picked, no tag asks for its handles, and Leave stands in the first row.
  await page.locator('[data-shot]').first().dblclick();
  await expect(page.locator('[data-camera-words]')).toContainText('used by');
  const [leave, label] = await Promise.all(
    ['Leave', 'Steer the camera'].map((name) => page.getByRole('button', { name, exact: true }).boundingBox()),
  );
  expect(leave!.y).toBe(label!.y);
  await room.pick('wide-camera');
  await room.still();
  await expect(page.getByRole('button', { name: /bring handles here/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
});
