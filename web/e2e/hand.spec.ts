import { expect, type Page } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

/** A scene of some nodes, opened in the page. */
async function scene(page: Page, ...nodes: object[]): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'By hand' } });
  const { id } = (await made.json()) as { id: string };
  if (nodes.length > 0) {
    const edits = nodes.map((node) => ({ do: 'create', node }));
    const kept = await page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1, edits } });
    expect(kept.ok(), await kept.text()).toBe(true);
  }
  return Room.enter(page, id);
}

const box = (id: string, position = [0, 0, 0]) => ({
  id,
  name: id,
  kind: 'shape',
  shape: { type: 'box' },
  placement: { position },
});

const hint = (page: Page) => page.locator('[data-hint]');

test('what has no extent is framed at a sensible size, and a scene of such things as a whole', async ({ page }) => {
  const room = await scene(page, { id: 'lamp', name: 'lamp', kind: 'light', placement: { position: [3, 2, 1] } });
  await room.pick('lamp');
  await room.key('v');
  expect((await room.look()).at(-1)!).toBeGreaterThan(0.5);
  await room.key('Shift+v');
  expect((await room.look()).at(-1)!).toBeGreaterThan(0.5);
});

test('in a flat view the middle drags across the view, whatever points at the eye', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  await room.key('Shift+Digit1');
  await room.still();
  const middle = await room.at('a');
  const over = await page.evaluate(
    ({ x, y }) =>
      document
        .elementFromPoint(x + 9, y)
        ?.closest('g[data-handle]')
        ?.getAttribute('data-handle'),
    middle,
  );
  expect(over).toBe('ring');
  await page.mouse.move(middle.x + 9, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 60, middle.y - 40, { steps: 3 });
  await page.mouse.up();
  await room.saved();
  const { position } = (await room.node('a')).placement;
  expect(position[0]).toBeGreaterThan(0.01);
  expect(position[1]).toBeGreaterThan(0.01);
  expect(Math.abs(position[2]!)).toBeLessThan(1e-9);
});

test('the first press of a verb’s key shows the handles, the second hides them', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await expect(room.handle('needle', 0)).toBeVisible();
  await room.key('m');
  await expect(room.handle('needle', 0)).toBeVisible();
  await room.key('m');
  await expect(room.handle('needle', 0)).toBeHidden();
  await room.key('m');
  await expect(room.handle('needle', 0)).toBeVisible();
});

test('what is added beside something stands beside it, and is seen before it is kept; again makes a row', async ({
  page,
}) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Box', exact: true }).click();
  await expect(page.locator('g.newcomer path').first()).toBeVisible();
  const plan = page.locator('[data-plan=add]');
  // The initials choose where, a size is typed.
  await room.key('i');
  await expect(plan.getByRole('button', { name: 'Where it goes' })).toHaveText('inside');
  await room.key('b');
  await expect(plan.getByRole('button', { name: 'Where it goes' })).toHaveText('beside');
  await plan.getByLabel('Size X').fill('50cm');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toHaveText('Added Box beside a.');
  await room.saved();
  const row = async () => (await room.nodes()).map((n) => n.placement.position.map((v) => Math.round(v * 1000) / 1000));
  const [first, second] = await row();
  expect(second).not.toEqual(first);
  await room.key('l');
  await expect(hint(page)).toHaveText('Added Box 2 beside Box.');
  await room.key('l');
  await expect(hint(page)).toHaveText('Added Box 3 beside Box 2.');
  await room.saved();
  const places = await row();
  expect(new Set(places.map(String)).size).toBe(4);
  expect((await room.nodes()).slice(1).every((n) => (n.shape!['size'] as number[])[0] === 0.5)).toBe(true);
  // The next one of the kind begins with the same size.
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Box', exact: true }).click();
  await expect(plan.getByLabel('Size X')).toHaveValue('0.5');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await room.nodes()).length).toBe(3);
});

test('a size that is changed keeps what stands on the ground standing', async ({ page }) => {
  const room = await scene(page, { id: 'a', name: 'Drum', kind: 'shape', shape: { type: 'box' }, anchor: [0, -1, 0] });
  await room.pick('a');
  await room.chapter('What');
  await room.field('Size Y').fill('3');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toContainText('kept at the middle of the base');
  await room.saved();
  const { placement } = await room.node('a');
  expect(placement.pivot).toEqual([0, -1.5, 0]);
  expect(placement.position).toEqual([0, 0, 0]);
  await page.keyboard.press('Escape');
  await room.key('Control+z');
  await expect.poll(async () => (await room.node('a')).placement.pivot).toEqual([0, -0.5, 0]);
});

test('Esc ends what is going on: a scrubbed letter, an arrangement, a plan, a drawing', async ({ page }) => {
  const room = await scene(page, box('a'), box('b', [3, 0, 0]), box('c', [4, 1, 0]));
  const before = await room.nodes();
  await room.pick('a');
  const letter = await page.getByTitle('Drag to change position X; press to set it back').boundingBox();
  await page.mouse.move(letter!.x + 4, letter!.y + 6);
  await page.mouse.down();
  await page.mouse.move(letter!.x + 80, letter!.y + 6, { steps: 4 });
  expect(await room.number('Position X')).not.toBe(0);
  await page.keyboard.press('Escape');
  expect(await room.number('Position X')).toBe(0);
  await page.mouse.up();
  await page.getByRole('tab', { name: 'Drop' }).click();
  await expect(page.getByRole('tab', { name: 'Drop' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('tab', { name: 'Drop' })).toHaveAttribute('aria-selected', 'false');
  await room.key('Control+g');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-plan]')).toHaveCount(0);
  await room.run('draw a box');
  await expect(page.locator('[data-draw]')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-draw]')).toHaveCount(0);
  expect(await room.nodes()).toEqual(before);
});

test('during a drag no key changes the scene or the view, and a release that is lost puts back', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  const before = await room.nodes();
  const look = await room.look();
  const from = await room.grip('needle', 0, 0.6);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y, { steps: 3 });
  const held = room.handle('needle', 0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Shift+Digit1');
  await expect(held).toHaveAttribute('data-held', '');
  await expect(page.getByTitle('X (X)')).toHaveAttribute('aria-pressed', 'true');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await expect(page.locator('[data-held]')).toHaveCount(0);
  await page.mouse.up();
  expect(await room.look()).toEqual(look);
  expect(await room.nodes()).toEqual(before);
});

test('a handle that is pressed and let go follows the pointer until the next press, or Esc', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  const from = await room.grip('needle', 0, 0.6);
  await page.mouse.click(from.x, from.y);
  await expect(hint(page)).toContainText('It follows the pointer');
  await page.mouse.move(from.x + 60, from.y + 10, { steps: 4 });
  await page.keyboard.press('Escape');
  expect(await room.number('Position X')).toBe(0);
  await page.mouse.click(from.x, from.y);
  await page.mouse.move(from.x + 60, from.y + 10, { steps: 4 });
  await page.mouse.click(from.x + 60, from.y + 10);
  await room.saved();
  expect(Math.abs((await room.node('a')).placement.position[0]!)).toBeGreaterThan(0.01);
  expect(await room.picked()).toEqual(['a']);
});

test('inside the arcs a drag turns freely, a press picks, and a pad between two needles sizes both', async ({
  page,
}) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  await room.key('r');
  await room.key('t');
  const middle = await room.at('a');
  await page.mouse.move(middle.x + 12, middle.y + 9);
  await page.mouse.down();
  await page.mouse.move(middle.x + 50, middle.y + 34, { steps: 5 });
  await page.mouse.up();
  await expect(hint(page)).toHaveText(/^Rotated a \+[\d.]+° about its pivot, freely about \(.*\) of the world\.$/);
  await room.saved();
  const turned = (await room.node('a')).placement;
  expect(turned.rotation.filter((r) => Math.abs(r) > 0.5).length).toBeGreaterThan(1);
  expect(turned.scale).toEqual([1, 1, 1]);
  await page.mouse.click(middle.x + 12, middle.y + 9);
  expect(await room.picked()).toEqual(['a']);
  await room.key('Control+z');
  await expect.poll(async () => (await room.node('a')).placement.rotation).toEqual([0, 0, 0]);
  await room.key('s');
  await room.still();
  const pad = await room.grip('quarterPad', 2);
  await page.mouse.move(pad.x, pad.y);
  await page.mouse.down();
  await page.mouse.move(pad.x + (pad.x - middle.x), pad.y + (pad.y - middle.y), { steps: 4 });
  await page.mouse.up();
  await room.saved();
  const { scale } = (await room.node('a')).placement;
  expect(scale[0]).toBeCloseTo(scale[1]!, 9);
  expect(Math.abs(scale[0]! - 1)).toBeGreaterThan(0.05);
  expect(scale[2]).toBe(1);
});

test('the sentence understands what fields do, and keeps what is typed when the focus goes on', async ({ page }) => {
  const room = await scene(page, box('a', [1, 0, 0]));
  await room.pick('a');
  const amount = page.getByLabel('Amount');
  // All forms are in the core's TypedStories.
  for (const [typed, x] of [
    ['*2', 2],
    ['1ft 2in', 2.3556],
  ] as const) {
    await amount.fill(typed);
    await page.keyboard.press('Tab');
    await room.saved();
    await expect.poll(async () => (await room.node('a')).placement.position[0]).toBeCloseTo(x, 9);
    await expect(amount).toHaveValue('');
  }
  await amount.fill('2 apples');
  await page.keyboard.press('Tab');
  await expect(hint(page)).toContainText('☛apples');
  expect((await room.node('a')).placement.position[0]).toBeCloseTo(2.3556, 9);
});

test('relative entries change each once, and again repeats what was meant', async ({ page }) => {
  const room = await scene(page, box('a', [1, 0, 0]), box('b', [1, 2, 0]));
  await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 2, edits: [{ do: 'putUnder', nodes: ['b'], parent: 'a', keep: 'numbers' }] },
  });
  await expect.poll(() => page.locator('[id="row-a"]').getAttribute('aria-expanded')).not.toBeNull();
  await room.pick('a');
  await room.pick('b', true);
  await room.field('Position X').fill('+2');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('a')).placement.position[0]).toBe(3);
  expect((await room.node('b')).placement.position[0]).toBe(1);
  await page.keyboard.press('Escape');
  await room.key('Shift+e');
  await room.pick('a');
  await room.field('Position X').fill('+0.5');
  await page.keyboard.press('Enter');
  await room.key('l');
  await room.saved();
  expect((await room.node('a')).placement.position[0]).toBe(4);
  // The fields of the pivot change all that is picked.
  await room.pick('b', true);
  await room.field('Pivot Y').fill('0.25');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.nodes()).map((n) => n.placement.pivot)).toEqual([
    [0, 0.25, 0],
    [0, 0.25, 0],
  ]);
});

test('a copy that is dragged off offers more at the same step', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  await page.keyboard.down('Alt');
  await room.drag('needle', 0, 40, 4);
  await page.keyboard.up('Alt');
  await page.getByRole('button', { name: '… and more at the same step' }).click();
  await page.getByLabel('How many more').fill('3');
  await page.keyboard.press('Enter');
  await room.saved();
  const xs = (await room.nodes()).map((n) => n.placement.position[0]!);
  expect(xs).toHaveLength(5);
  xs.slice(1).forEach((x, i) => expect(x - xs[i]!).toBeCloseTo(xs[1]! - xs[0]!, 9));
});

test('while its key is held the pivot is placed by a press, and the verb from before comes back', async ({ page }) => {
  const room = await scene(page, box('a'));
  await room.pick('a');
  await room.key('v');
  await room.key('r');
  const at = await room.at('a');
  await page.keyboard.down('p');
  await page.mouse.click(at.x + 30, at.y + 52);
  await expect(hint(page)).toContainText('Put the pivot of a at a picked point');
  await page.keyboard.up('p');
  await room.saved();
  expect((await room.node('a')).placement.pivot).not.toEqual([0, 0, 0]);
  await expect(page.getByRole('radio', { name: 'Rotate' })).toHaveAttribute('data-state', 'on');
});

test('home leads a flat view back to its side; the view under the pointer is the one that is shown alone', async ({
  page,
}) => {
  const room = await scene(page, box('a'));
  await room.key('Shift+Digit5');
  await expect(page.getByRole('button', { name: /^Top/ })).toContainText('X → · Z ↓');
  const start = await room.look();
  await page.keyboard.press('Shift+PageUp');
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  expect(await room.look()).not.toEqual(start);
  await room.key('Home');
  await room.still();
  await expect(page.getByRole('button', { name: /^Top/ })).toBeVisible();
  await room.key('Shift+Digit8');
  const right = await room.viewAt(3);
  await page.mouse.move(right.x, right.y);
  await room.key('Shift+Digit8');
  await expect(page.getByRole('button', { name: /^Right/ })).toBeVisible();
});

test('the same view shows the same shadows before and after an edit', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('moon-arm');
  await room.key('v');
  // Another view in between, whose shadows lie elsewhere.
  await room.key('Shift+v');
  await room.still();
  await room.key('[');
  await room.key('Shift+e');
  await room.still();
  const canvas = () => page.locator('[data-stage] canvas').screenshot();
  // What was drawn in a hurry is drawn anew a moment later.
  let before = await canvas();
  await expect
    .poll(async () => {
      const [last, now] = [before, await canvas()];
      before = now;
      return now.equals(last);
    })
    .toBe(true);
  // An edit that nothing here shows; the shadows are drawn anew after it.
  const done = await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 1, edits: [{ do: 'lock', nodes: ['moon-arm'], on: true }] },
  });
  expect(done.ok(), await done.text()).toBe(true);
  await page.waitForTimeout(500);
  await page.evaluate(() => {
    const stage = (window as unknown as { calmPivotStage: { sightChanged(): void } }).calmPivotStage;
    stage.sightChanged();
  });
  await room.still();
  await expect.poll(async () => (await canvas()).equals(before)).toBe(true);
});

test('mates of a picked member are shown with the name of their collection, and can be left out', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('moon-arm');
  await expect(page.getByText(/^In Brass parts with \d+ more/)).toBeVisible();
  await page.getByRole('button', { name: 'Do not show' }).click();
  await expect(page.getByText(/^In Brass parts with/)).toBeHidden();
  await room.run('show the other members of its collection');
  await expect(page.getByText(/^In Brass parts with/)).toBeVisible();
});

test('what is switched off in the final picture is not drawn as in the picture', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await room.key('Control+Shift+o');
  await room.key('Shift+e');
  const shown = () =>
    page.evaluate(() => {
      interface Hooks {
        calmPivotStage: {
          pictures: { get(id: string): { entries: { at: number; batch: { array: Float32Array } }[] } };
        };
      }
      const { entries } = (window as unknown as Hooks).calmPivotStage.pictures.get('sun-lamp');
      return entries.some(({ at, batch }) => batch.array.slice(16 * at, 16 * at + 16).some((v) => v !== 0));
    });
  await room.still();
  expect(await shown()).toBe(true);
  await room.run('shade the view: as in the picture');
  await room.still();
  expect(await shown()).toBe(false);
  await room.run('shade the view: clay');
  await room.still();
  expect(await shown()).toBe(true);
});

test('pressing something locked says that it is locked', async ({ page }) => {
  const room = await scene(page, { ...box('a'), switches: { locked: true } });
  const at = await room.at('a');
  await page.mouse.click(at.x, at.y);
  await expect(hint(page)).toContainText('a is locked, so it is not picked.');
});
