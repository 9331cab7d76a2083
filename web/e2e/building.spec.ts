import { expect, type Page } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

/** Who rides on whom, groups, copies, collections and what is seen, as an artist does it. */

const distance = (a: number[], b: number[]) => Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

const hint = (page: Page) => page.locator('[data-hint]');

async function fill(room: Room, fields: Record<string, string>): Promise<void> {
  for (const [label, value] of Object.entries(fields)) {
    await room.chapter(/^(Position|Rotation|Scale)/.test(label) ? 'Where' : 'What');
    await room.field(label).fill(value);
    await room.page.keyboard.press('Enter');
  }
}

async function rename(room: Room, name: string): Promise<void> {
  await room.key('F2');
  await room.page.getByLabel('Name', { exact: true }).fill(name);
  await room.page.keyboard.press('Enter');
}

async function newScene(page: Page): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'Workshop' } });
  return Room.enter(page, ((await made.json()) as { id: string }).id);
}

test('a lamp is built so that each joint turns what is below it', async ({ page }) => {
  test.slow();
  const room = await newScene(page);
  const parts: [string, string, Record<string, string>][] = [
    ['Foot', 'Cylinder', { Radius: '0.2', Height: '0.05' }],
    ['Lower arm', 'Box', { 'Size X': '0.04', 'Size Y': '0.5', 'Size Z': '0.04' }],
    ['Upper arm', 'Box', { 'Size X': '0.03', 'Size Y': '0.4', 'Size Z': '0.03' }],
    ['Shade', 'Cone', { Radius: '0.14', Height: '0.16' }],
  ];
  const heights: Record<string, number> = { Foot: 0, 'Lower arm': 0.05, 'Upper arm': 0.55, Shade: 0.95 };
  for (const [name, shape, fields] of parts) {
    await room.key('Shift+e');
    await room.add(shape);
    await rename(room, name);
    await fill(room, fields);
    await room.chapter('Where');
    // The hinge lies at the lower end of each part.
    await page.getByRole('button', { name: 'Base', exact: true }).click();
    await fill(room, { 'Position Y': String(heights[name]) });
  }
  await room.saved();
  const ids = Object.fromEntries((await room.nodes()).map((n) => [n.name, n.id]));
  // From the shade down, each goes under the one that carries it.
  for (const [child, parent] of [
    ['Shade', 'Upper arm'],
    ['Upper arm', 'Lower arm'],
    ['Lower arm', 'Foot'],
  ] as const) {
    await room.pick(ids[child]!);
    await room.key('u');
    await expect(hint(page)).toContainText('Press the parent');
    await page.locator(`[id="row-${ids[parent]}"]`).click();
    await expect(page.locator('[data-plan="under"]')).toContainText(
      new RegExp(`Put\\s*${child}\\s*under\\s*${parent}`),
    );
    await room.key('Enter');
    await room.saved();
  }
  const before = (await room.evaluated(ids['Shade']!)).world;
  expect(
    distance(
      before.slice(12, 15),
      [0, 0.95, 0].map((v, i) => v + (i === 1 ? 0.08 : 0)),
    ),
  ).toBeLessThan(0.1);
  await room.pick(ids['Lower arm']!);
  await fill(room, { 'Rotation Z': '30' });
  await room.saved();
  const bent = (await room.evaluated(ids['Shade']!)).pivot;
  // 0.9 m above the lower hinge, turned by 30°.
  expect(distance(bent, [-0.45, 0.05 + 0.9 * Math.cos(Math.PI / 6), 0])).toBeLessThan(1e-9);
  expect((await room.evaluated(ids['Foot']!)).pivot[1]).toBeCloseTo(0, 9);
  await room.pick(ids['Upper arm']!);
  await fill(room, { 'Rotation Z': '-60' });
  await room.saved();
  expect(
    distance((await room.evaluated(ids['Shade']!)).pivot, [
      -0.25 + 0.2,
      0.05 + 0.5 * Math.cos(Math.PI / 6) + 0.4 * Math.cos(Math.PI / 6),
      0,
    ]),
  ).toBeLessThan(1e-9);
});

test('twelve chairs stand around the desk, shown before they are made and undone in one', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  const count = (await room.nodes()).length;
  await room.key('Control+d');
  await expect(page.locator('[data-plan="copies"]')).toBeVisible();
  await page.getByLabel('How many copies').fill('11');
  await page.getByLabel('What happens from copy to copy').click();
  await page.getByRole('menuitemradio', { name: /^turned/ }).click();
  await page.getByLabel('About which point from copy to copy').click();
  await page.getByRole('menuitem', { name: 'The pivot of an object that I press' }).click();
  await expect(hint(page)).toContainText('Press the object whose pivot is turned about');
  await page.locator('[id="row-desk"]').click();
  await expect(page.getByLabel('About which point from copy to copy')).toHaveText('Desk’s place');
  const ghosts = () =>
    page.evaluate(
      () => (window as unknown as { calmPivotPage: () => { shadows: unknown[] } }).calmPivotPage().shadows.length,
    );
  expect(await ghosts()).toBe(11 * 5);
  expect((await room.nodes()).length).toBe(count);
  await room.key('Enter');
  await expect(hint(page)).toContainText('Made 11 copies of Stool with 4 below it');
  await room.saved();
  expect(await ghosts()).toBe(0);
  const stools = (await room.nodes()).filter((n) => n.name.startsWith('Stool') && n.parent === null);
  expect(stools.map((n) => n.name)).toEqual(['Stool', ...Array.from({ length: 11 }, (_, i) => `Stool ${i + 2}`)]);
  const centre = (await room.evaluated('desk')).pivot;
  const around = async (id: string) => {
    const { pivot } = await room.evaluated(id);
    return Math.hypot(pivot[0]! - centre[0]!, pivot[2]! - centre[2]!);
  };
  const radius = await around('stool');
  for (const stool of stools) expect(await around(stool.id)).toBeCloseTo(radius, 9);
  expect((await room.picked()).length).toBe(11);
  await room.key('Control+z');
  await room.saved();
  expect((await room.nodes()).length).toBe(count);
});

test('a counterpart stands across the plane of its own, and the last edit is done again to something else', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('desk-leg-front-left');
  await room.run('mirrored counterpart');
  const plan = page.locator('[data-plan=copies]');
  await expect(plan).toContainText(/across\s*the world's\s*YZ plane\s*through\s*world zero/);
  for (const [word, choice] of [
    ['Whose plane', /^its parent's/],
    ['Mirror plane', /^XY plane/],
    ['Through which point', /^the middle of its bounds/],
  ] as const) {
    await plan.getByRole('button', { name: word }).click();
    await page.getByRole('menuitemradio', { name: choice }).click();
  }
  await plan.getByRole('button', { name: 'Make it' }).click();
  await room.saved();
  const [copy] = await room.picked();
  const [was, now] = [await room.evaluated('desk-leg-front-left'), await room.evaluated(copy!)];
  // A leg is its own counterpart about its middle.
  const middle = (e: { world: number[] }) => e.world.slice(12, 15);
  expect(distance(middle(was), middle(now))).toBeLessThan(1e-9);

  await room.pick('book');
  const before = (await room.node('book')).placement.position;
  await room.key('0');
  await page.keyboard.type('.25');
  await page.keyboard.press('Enter');
  await room.saved();
  await room.pick('stool');
  const stool = (await room.node('stool')).placement.position;
  await room.key('l');
  await room.saved();
  const moved = (a: number[], b: number[]) => a.map((v, i) => v - b[i]!);
  const [one, two] = [(await room.node('book')).placement.position, (await room.node('stool')).placement.position];
  expect(Math.hypot(...moved(one, before))).toBeCloseTo(0.25, 9);
  expect(Math.hypot(...moved(two, stool))).toBeCloseTo(0.25, 9);
});

test('copies that share keep one shape until it is made their own', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('finder-target');
  await room.key('Control+d');
  await page.getByLabel('Sharing or independent').click();
  await page.getByRole('menuitemradio', { name: /^sharing/ }).click();
  await room.key('Enter');
  await room.saved();
  const [copy] = await room.picked();
  await fill(room, { Height: '0.6' });
  await room.saved();
  expect((await room.node('finder-target')).shape).toMatchObject({ height: 0.6 });
  await page.getByRole('treeitem', { name: /^Finder target 2/ }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Make its shape its own' }).click();
  await fill(room, { Height: '0.4' });
  await room.saved();
  expect((await room.node('finder-target')).shape).toMatchObject({ height: 0.6 });
  expect((await room.node(copy!)).shape).toMatchObject({ height: 0.4 });
});

test('group, move and ungroup displace nothing, and a closed group answers for its members', async ({ page }) => {
  test.slow();
  const room = await Room.open(page);
  await room.pick('book');
  await room.pick('chart', true);
  const worlds = async () => Promise.all(['book', 'chart'].map(async (id) => (await room.evaluated(id)).world));
  const before = await worlds();
  await room.key('Control+g');
  await page.getByLabel('Name of the group').fill('Papers');
  await page.getByLabel('Pivot of the group').click();
  await page.getByRole('menuitemradio', { name: /^the middle of the base/ }).click();
  await room.key('Enter');
  await room.saved();
  const group = (await room.nodes()).find((n) => n.name === 'Papers')!;
  expect(group.parent).toBe('desk-top');
  expect((await worlds()).every((w, i) => distance(w, before[i]!) < 1e-9)).toBe(true);

  await room.chapter('What');
  await page.getByRole('switch', { name: 'Open', exact: true }).click();
  await page.getByRole('button', { name: 'Frame picked' }).click();
  await room.key('Shift+e');
  const at = await room.at('book');
  await page.mouse.click(at.x, at.y);
  expect(await room.picked()).toEqual([group.id]);
  await page.mouse.click(at.x, at.y);
  await page.keyboard.press('Escape');
  await room.pick(group.id);
  await fill(room, { 'Position Y': '+0.1' });
  await room.saved();
  const moved = await worlds();
  await room.key('Control+Shift+g');
  await room.saved();
  expect((await room.nodes()).some((n) => n.name === 'Papers')).toBe(false);
  expect((await worlds()).every((w, i) => distance(w, moved[i]!) < 1e-9)).toBe(true);
  for (let i = 0; i < 4; i++) await room.key('Control+z');
  await room.saved();
  expect((await worlds()).every((w, i) => distance(w, before[i]!) === 0)).toBe(true);
});

test('collections are switched and explained, link by link', async ({ page }) => {
  test.slow();
  const room = await Room.open(page);
  await page.getByRole('switch', { name: 'Scaffold in the working view', exact: true }).click();
  await room.pick('scaffold-deck-upper');
  await room.chapter('Why');
  const why = page.getByRole('region', { name: 'Why it is seen' });
  await expect(why).toContainText(
    'hidden in the working view: “Scaffold tower”, which carries it, is in “Scaffold” only, and “Scaffold” is off',
  );
  await why.getByRole('button', { name: 'Switch Scaffold on' }).click();
  await expect(why).toContainText('It is on, and all that carries it is.');

  // Asked for, members and what they carry stand in the colours of their collections.
  const tint = (id: string) =>
    page.evaluate(
      (of) =>
        (
          window as unknown as { calmPivotStage: { pictures: { get(id: string): { tint: string | null } } } }
        ).calmPivotStage.pictures.get(of).tint,
      id,
    );
  const colours = async () => {
    await page.getByRole('button', { name: /^Shading/ }).click();
    await page.getByRole('menuitemcheckbox', { name: 'Members in the colours of their collections' }).click();
  };
  expect(await tint('scaffold-deck-upper')).toBe(null);
  await colours();
  expect(await tint('scaffold-deck-upper')).toMatch(/^#[0-9A-F]{6}$/i);
  expect(await tint('floor')).toBe(null);
  await colours();
  expect(await tint('scaffold-deck-upper')).toBe(null);

  // Members are picked by the collection, and the picked are put into another one.
  await page.getByRole('button', { name: /^Set dressing 6/ }).click();
  expect((await room.picked()).length).toBe(6);
  await page.getByRole('button', { name: 'More about the collection Scaffold' }).click();
  await page.getByRole('menuitem', { name: 'Put the picked into it' }).click();
  await room.saved();
  await page.getByRole('switch', { name: 'Set dressing in the working view', exact: true }).click();
  await room.pick('book');
  await expect(why).toContainText('It is on');
  await page.getByRole('switch', { name: 'Scaffold in the working view', exact: true }).click();
  await expect(why).toContainText('it is in “Scaffold” and “Set dressing” only, and all of them are off');

  // A locked collection locks its members.
  await page
    .getByRole('switch', { name: 'Unlock Scaffold' })
    .or(page.getByRole('switch', { name: 'Lock Scaffold', exact: true }))
    .click({ force: true });
  await room.saved();
  await room.key('Shift+e');
  await room.pick('book');
  await fill(room, { 'Position X': '+1' });
  await expect(page.getByRole('alert')).toContainText('“Book” is locked by the collection “Scaffold”');
  for (let i = 0; i < 5; i++) await room.key('Control+z');
  await room.saved();
  await page.reload();
  await expect(page.getByRole('button', { name: /^Set dressing 6/ })).toBeVisible();
});

test('a collection is made of what is picked, named, and given a rule that stays up to date', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  await page.getByRole('button', { name: 'New collection' }).click();
  await page.getByLabel('Name of the collection').fill('Ribs');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'More about the collection Ribs' }).click();
  await page.getByRole('menuitem', { name: 'Give it a rule…' }).click();
  await page.getByLabel('Its name fits').fill('rib ?');
  await page.getByRole('button', { name: 'Keep the rule' }).click();
  await expect(page.getByRole('button', { name: /^Ribs rule · 7/ })).toBeVisible();
  // Membership in the sentence, which says who goes out of sight.
  const plan = page.locator('[data-plan=collect]');
  await page.getByRole('switch', { name: 'Ribs in the working view', exact: true }).click();
  await room.key('Shift+e');
  await room.pick('drum');
  await room.key('c');
  await expect(plan).toContainText(/Put\s*Drum\s*into\s*Ribs/);
  await expect(hint(page)).toContainText('Drum goes out of sight in the working view.');
  await room.key('Enter');
  await expect(page.getByRole('button', { name: /^Ribs rule · 8/ })).toBeVisible();
  await room.key('c');
  await plan.getByRole('button', { name: 'Into or out of' }).click();
  await page.getByRole('menuitemradio', { name: 'out of' }).click();
  await expect(hint(page)).toContainText('Drum comes back in sight in the working view.');
  await plan.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('button', { name: /^Ribs rule · 7/ })).toBeVisible();
  await page.getByRole('switch', { name: 'Ribs in the working view', exact: true }).click();
  await room.pick('rib-1');
  await rename(room, 'Bow');
  await expect(page.getByRole('button', { name: /^Ribs rule · 6/ })).toBeVisible();
});

test('isolation shows only the picked, says so, and ends with a press', async ({ page }) => {
  const room = await Room.open(page);
  const seen = (id: string) =>
    page.evaluate((n) => {
      interface Pictures {
        pictures: { get(id: string): { seen: boolean; faded: boolean } };
      }
      const { seen: s, faded } = (window as unknown as { calmPivotStage: Pictures }).calmPivotStage.pictures.get(n);
      return [s, faded];
    }, id);
  await room.pick('telescope');
  await room.key('i');
  await expect(page.getByText('Isolated: Telescope')).toBeVisible();
  expect(await seen('pier')).toEqual([true, false]);
  expect(await seen('drum')).toEqual([false, false]);
  await room.key('Shift+i');
  expect(await seen('drum')).toEqual([true, true]);
  await room.pick('drum');
  await room.chapter('Why');
  await expect(page.getByRole('region', { name: 'Why it is seen' })).toContainText('others are isolated');
  await page.getByRole('button', { name: 'Show it too' }).click();
  expect(await seen('drum')).toEqual([true, false]);
  await page.getByRole('button', { name: 'Show everything' }).click();
  expect(await seen('sun-lamp')).toEqual([true, false]);
  // Isolation is each person's own: nothing was edited.
  expect((await (await page.request.get(`/api/scenes/${room.id}/steps`)).json()) as unknown[]).toEqual([]);
});

test('rows are dragged before, after and inside with a clear mark, and nothing moves', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  const world = (await room.evaluated('stool')).world;
  const row = (id: string) => page.locator(`[id="row-${id}"]`);
  await row('telescope').scrollIntoViewIfNeeded();
  await row('stool').dragTo(row('desk'), { targetPosition: { x: 60, y: 2 } });
  await room.saved();
  const tops = async () => (await room.nodes()).filter((n) => n.parent === null).map((n) => n.id);
  expect((await tops()).indexOf('stool')).toBe((await tops()).indexOf('desk') - 1);
  await row('stool').dragTo(row('desk'), { targetPosition: { x: 60, y: 13 } });
  await room.saved();
  expect((await room.node('stool')).parent).toBe('desk');
  expect(distance((await room.evaluated('stool')).world, world)).toBeLessThan(1e-9);
  // By keyboard, among its siblings.
  const inDesk = async () => (await room.nodes()).filter((n) => n.parent === 'desk').map((n) => n.id);
  const last = (await inDesk()).length - 1;
  expect((await inDesk()).indexOf('stool')).toBe(last);
  await room.pick('stool');
  await room.page.keyboard.press('Alt+ArrowUp');
  await room.saved();
  expect((await inDesk()).indexOf('stool')).toBe(last - 1);
});

test('switches are dragged across rows as one step, and Alt switches all others', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 1100 });
  const room = await Room.open(page);
  await room.pick('desk-leg-front-left');
  const eye = (name: string) => page.getByRole('switch', { name: `${name} in the working view`, exact: true });
  await room.still();
  await eye('Desk leg back left').hover();
  await eye('Desk leg front left').hover();
  const from = (await eye('Desk leg front left').boundingBox())!;
  const to = (await eye('Desk leg back left').boundingBox())!;
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(to.x + 10, to.y + 10, { steps: 8 });
  await page.mouse.up();
  await room.saved();
  for (const name of ['front left', 'front right', 'back left'])
    await expect(eye(`Desk leg ${name}`)).toHaveAttribute('aria-checked', 'false');
  await expect(eye('Desk leg back right')).toHaveAttribute('aria-checked', 'true');
  await room.key('Control+z');
  await expect(eye('Desk leg front right')).toHaveAttribute('aria-checked', 'true');
  await room.pick('telescope');
  await eye('Telescope').click({ modifiers: ['Alt'] });
  await room.saved();
  await expect(eye('Telescope')).toHaveAttribute('aria-checked', 'true');
  await expect(eye('Desk')).toHaveAttribute('aria-checked', 'false');
});

test('links are made and cut in the diagram, in step with the tree', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('desk');
  await room.pick('stool', true);
  await room.key('Shift+l');
  const links = page.getByRole('region', { name: 'Links' });
  const box = (id: string) => links.locator(`.react-flow__node[data-id="${id}"]`);
  await expect(box('stool')).toBeVisible();
  const world = (await room.evaluated('stool')).world;
  await box('desk').locator('.react-flow__handle-right').dragTo(box('stool').locator('.react-flow__handle-left'));
  await room.saved();
  expect((await room.node('stool')).parent).toBe('desk');
  expect(distance((await room.evaluated('stool')).world, world)).toBeLessThan(1e-9);
  await page.keyboard.press('Control+z');
  await room.saved();
  expect((await room.node('stool')).parent).toBe(null);
  await page.keyboard.press('Escape');
  await expect(links).toHaveCount(0);
});

test('objects are copied and pasted between scenes, and foreign text is refused', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const room = await Room.open(page);
  await room.pick('star-globe');
  const world = (await room.evaluated('star-globe')).world;
  await room.key('Control+c');
  await expect(hint(page)).toContainText('Copied');
  const other = await newScene(page);
  await other.key('Control+v');
  await other.saved();
  const nodes = await other.nodes();
  expect(nodes.map((n) => n.name)).toEqual(['Star globe', 'Globe foot', 'Meridian ring', 'Globe']);
  expect(distance((await other.evaluated(nodes[0]!.id)).world, world)).toBeLessThan(1e-9);
  await page.evaluate(() => navigator.clipboard.writeText('milk, bread, two lemons'));
  await other.key('Control+v');
  await expect(page.getByRole('alert')).toContainText('holds no objects of a scene');
  expect((await other.nodes()).length).toBe(4);
  await other.pick(nodes[0]!.id);
  await other.key('Control+x');
  await other.saved();
  expect(await other.nodes()).toEqual([]);
});

test('Alt while dragging a handle leaves a copy, in one step', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('drum');
  const before = (await room.evaluated('drum')).world;
  await page.keyboard.down('Alt');
  await room.drag('needle', 1, 0, -60);
  await page.keyboard.up('Alt');
  await room.saved();
  expect((await room.evaluated('drum')).world).toEqual(before);
  const copy = (await room.nodes()).find((n) => n.name === 'Drum 2')!;
  expect(copy.placement.position[1]).toBeGreaterThan(0.05);
  expect(await room.picked()).toEqual([copy.id]);
  await room.key('Control+z');
  await room.saved();
  expect((await room.nodes()).some((n) => n.name === 'Drum 2')).toBe(false);
});

test('many are renamed by a pattern, seen before it is done', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('desk-leg-front-left');
  await room.pick('desk-leg-front-right', true);
  await room.key('Control+k');
  await page.keyboard.type('rename many');
  await page.keyboard.press('Enter');
  await page.getByLabel('New name').fill('Leg');
  await page.getByLabel('Number from').fill('7');
  await expect(page.getByRole('list', { name: 'Names as they would become' })).toContainText(
    'Desk leg front left → Leg 07',
  );
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await room.node('desk-leg-front-right')).name).toBe('Leg 08');
});

test('pieces are joined and separated again, and the tree filter finds them', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('desk-leg-front-left');
  await room.pick('desk-leg-front-right', true);
  await room.run('join into the lead');
  await expect.poll(async () => (await room.nodes()).some((n) => n.id === 'desk-leg-front-left')).toBe(false);
  expect((await room.node('desk-leg-front-right')).geometry).toBeTruthy();
  await room.run('separate into pieces');
  await room.saved();
  await page.getByLabel('Text of the filter').fill('front right');
  await expect(page.getByRole('treeitem', { name: /^Desk leg front right/ })).toHaveCount(2);
  await expect(page.getByRole('treeitem', { name: /^Telescope/ })).toHaveCount(0);
});

test('a new object goes inside, beside or around each of the picked', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('book');
  await room.pick('chart', true);
  await room.add('Group', 'around');
  await room.saved();
  const made = await room.picked();
  expect(made.length).toBe(2);
  expect((await room.node('book')).parent).toBe(made[0]);
  expect((await room.node('chart')).parent).toBe(made[1]);
  expect((await room.node(made[0]!)).parent).toBe('desk-top');
  // The next goes to each of the new ones; Esc leaves it.
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Icoball', exact: true }).click();
  const plan = page.locator('[data-plan=add]');
  await expect(plan).toContainText(/Add an.*Icoball.*around.*each of.*2 objects/);
  await expect(hint(page)).toContainText('They ride on what is added; nothing moves.');
  await page.keyboard.press('Escape');
  await expect(plan).toHaveCount(0);
  expect(await room.picked()).toEqual(made);
  await room.add('Box', 'inside');
  await room.saved();
  expect((await room.nodes()).filter((n) => made.includes(n.parent ?? '') && n.name === 'Box').length).toBe(2);
  await room.key('Control+z');
  await room.saved();
  expect((await room.nodes()).filter((n) => made.includes(n.parent ?? '') && n.name === 'Box').length).toBe(0);
});

test('what another window has picked is marked until it leaves', async ({ page, browser }) => {
  const room = await Room.open(page);
  const other = await Room.enter(
    await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage(),
    room.id,
  );
  await other.pick('stool');
  await expect(page.getByRole('treeitem', { name: /^Stool, picked in another window/ })).toBeVisible();
  await other.page.context().close();
  await expect(page.getByRole('treeitem', { name: /^Stool, picked in another window/ })).toHaveCount(0);
});

test('what it takes of its parent is switched without a jump', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('book');
  const world = (await room.evaluated('book')).world;
  await page
    .getByRole('region', { name: 'What it takes of Desk top' })
    .getByRole('switch', { name: 'rotation' })
    .click();
  await room.saved();
  expect(distance((await room.evaluated('book')).world, world)).toBeLessThan(1e-9);
  await room.pick('desk');
  await fill(room, { 'Rotation Y': '20' });
  await room.saved();
  const now = (await room.evaluated('book')).world;
  expect(distance(now.slice(0, 12), world.slice(0, 12))).toBeLessThan(1e-9);
});
