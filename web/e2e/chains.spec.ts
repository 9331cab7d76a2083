import { expect, type Locator, type Page } from '@playwright/test';
import { faults } from './faults';
import { test } from './shared';
import { close, Room } from './room';

interface Link {
  id: string;
  kind: string;
  turned: number;
  moved: number;
  scaled: number;
}

interface Entry {
  id: string;
  kind: string;
  target?: string;
  weight: number;
  from?: number;
  to?: number;
}

interface Evaluated {
  pivot: number[];
  world: number[];
  axes: number[];
  links?: Link[];
}

const evaluated = async (room: Room, id: string) => (await room.evaluated(id)) as unknown as Evaluated;

const entriesOf = async (room: Room, id: string) =>
  ((await room.node(id)) as unknown as { constraints?: Entry[] }).constraints ?? [];

/** Edits by the API, as somebody else without a page would make them. */
async function edit(room: Room, ...edits: object[]): Promise<void> {
  const base = ((await (await room.request.get(`/api/scenes/${room.id}`)).json()) as { revision: number }).revision;
  const answer = await room.request.post(`/api/scenes/${room.id}/edits`, { data: { base, edits } });
  expect(answer.status(), await answer.text()).toBe(200);
}

const box = (id: string, name: string, position: number[], more: object = {}) => ({
  do: 'create',
  node: { id, name, kind: 'shape', shape: { type: 'box' }, placement: { position }, ...more },
});

/** A scene of its own, with a few things in it. */
async function scene(page: Page, ...edits: object[]): Promise<Room> {
  const made = (await (await page.request.post('/api/scenes', { data: { name: 'Rig' } })).json()) as { id: string };
  const answer = await page.request.post(`/api/scenes/${made.id}/edits`, { data: { base: 0, edits } });
  expect(answer.status(), await answer.text()).toBe(200);
  return Room.enter(page, made.id);
}

const hint = (page: Page) => page.locator('[data-hint]');
const plan = (page: Page) => page.locator('[data-plan]');
/** What the sentence says of what is prepared. */
const says = (page: Page, text: string) => expect(plan(page)).toContainText(text, { useInnerText: true });
const entry = (page: Page, title: string | RegExp) =>
  page.getByRole('list', { name: 'Constraints' }).getByRole('listitem', { name: title });

async function begin(page: Page, what: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Add a link…' }).click();
  await page.getByRole('menuitem', { name: what }).click();
  await expect(plan(page)).toBeVisible();
}

const unit = (v: number[]) => v.map((c) => c / Math.hypot(...v));

/** That an own axis points to another thing's pivot. */
async function faces(room: Room, id: string, target: string, axis: number, sign = 1): Promise<void> {
  const [node, there] = [await evaluated(room, id), await evaluated(room, target)];
  const way = unit(there.pivot.map((c, i) => c - node.pivot[i]!));
  node.axes.slice(3 * axis, 3 * axis + 3).forEach((c, i) => expect(c * sign).toBeCloseTo(way[i]!, 6));
}

/** That every figure of the chain is what the server says. */
async function figuresAsServer(page: Page, room: Room, id: string): Promise<void> {
  const { links = [], pivot } = await evaluated(room, id);
  const rows = page.getByRole('list', { name: 'Constraints' }).getByRole('listitem');
  await expect(rows).toHaveCount(links.length);
  for (const [i, link] of links.entries()) {
    const said = await rows.nth(i).getByLabel('Does now').innerText();
    const figure = (pattern: RegExp, otherwise: number) => Number(pattern.exec(said)?.[1] ?? otherwise);
    expect(figure(/turns ([\d.]+)°/, 0)).toBeCloseTo(link.turned, 1);
    expect(figure(/moves ([\d.]+) m/, 0)).toBeCloseTo(link.moved, 2);
    expect(figure(/size × ([\d.]+)/, 1)).toBeCloseTo(link.scaled, 2);
  }
  const stands = (await page.getByLabel('Where it stands').locator('span').last().innerText()).split(/\s+/).map(Number);
  stands.forEach((v, i) => expect(v).toBeCloseTo(pivot[i]!, 1));
}

test('pan and tilt from three parts in six presses, nothing guessed; the pivot of the base is checked first', async ({
  page,
}) => {
  const room = await scene(
    page,
    box('plate', 'Plate', [0, 0, 0]),
    { do: 'movePivot', nodes: ['plate'], to: { own: [0.12, 0, 0] } },
    {
      ...box('barrel', 'Barrel', [0, 1, 0]),
      node: {
        id: 'barrel',
        name: 'Barrel',
        kind: 'shape',
        shape: { type: 'cylinder', radius: 0.15, height: 2 },
        placement: { position: [0, 1, 0], rotation: [90, 0, 0], pivot: [0, -0.4, 0] },
      },
    },
    box('moon', 'Moon', [3, 2.5, 1.5]),
  );
  const plate = await evaluated(room, 'plate');
  await room.chapter('Why');

  // Two presses pick, two begin it, one is the target.
  await room.pick('barrel');
  await room.pick('plate', true);
  await begin(page, /^Pan and tilt/);
  await says(page, 'Plate turns, Barrel tips to face');
  await expect(hint(page)).toContainText('Press the target');
  const at = await room.at('moon');
  await page.mouse.click(at.x, at.y);
  await expect(plan(page).getByRole('button', { name: 'Target' })).toHaveText('Moon');
  await expect(hint(page)).toContainText(
    'The pivot of Plate lies 0.12 m from its middle, so it would not turn in place. Mend it?',
  );
  await expect(hint(page)).toContainText('This makes 2 objects jump');
  await page.getByRole('button', { name: /^Pivot of the base/ }).click();
  // What is pointed at shows what it would do; the menu stays under the pointer though less is said then.
  const menu = page.getByRole('menu');
  const before = await menu.boundingBox();
  await page.getByRole('menuitemradio', { name: 'pivot mended' }).hover();
  await expect(hint(page)).not.toContainText('Mend it?');
  expect(await menu.boundingBox()).toEqual(before);
  await page.getByRole('menuitemradio', { name: 'pivot mended' }).click();
  await expect(menu).toHaveCount(0);
  await expect(hint(page)).not.toContainText('Mend it?');
  await page.keyboard.press('Enter');
  await expect(plan(page)).toHaveCount(0);
  await room.saved();
  await faces(room, 'barrel', 'moon', 1);
  const turned = await evaluated(room, 'plate');
  close(turned.axes.slice(3, 6), plate.axes.slice(3, 6), 6);
  expect((await entriesOf(room, 'barrel')).map((e) => e.kind)).toEqual(['rideOn', 'swivel']);
  await figuresAsServer(page, room, 'plate');
  await room.computesAsServer();

  // Dragged, the target is followed, and the figures of the part are true all the way. One step takes all back.
  await room.pick('moon');
  await room.key('v');
  await room.drag('needle', 0, 60, 0);
  await room.saved();
  await faces(room, 'barrel', 'moon', 1);
  await room.key('Control+z');
  await room.key('Control+z');
  await room.saved();
  expect(await entriesOf(room, 'plate')).toEqual([]);
  expect((await evaluated(room, 'plate')).world).toEqual(plate.world);
});

test('a steady camera, by keys alone: it looks at what it follows, upright; Esc leaves at each stage', async ({
  page,
}) => {
  const room = await scene(
    page,
    {
      do: 'create',
      node: { id: 'eye', name: 'Eye', kind: 'camera', placement: { position: [4, 2, 5], rotation: [10, -80, 7] } },
    },
    box('cart', 'Cart', [0, 0.5, 0]),
  );
  await room.pick('eye');
  const before = await evaluated(room, 'eye');
  const start = async () => {
    await room.run('Look at something, and keep looking');
    await expect(hint(page)).toContainText('Press the target');
  };
  // Before the target, and after it.
  await start();
  await room.key('Escape');
  await expect(plan(page)).toHaveCount(0);
  await start();
  await room.run('Cart');
  await expect(hint(page)).toContainText('This makes Eye jump');
  await says(page, 'with its −Z up by the world');
  await room.key('Escape');
  await expect(plan(page)).toHaveCount(0);
  await expect(page.locator('g.thread')).toHaveCount(0);
  expect(await entriesOf(room, 'eye')).toEqual([]);

  await start();
  await room.run('Cart');
  await expect(hint(page)).toContainText('This makes Eye jump');
  await room.key('Enter');
  await room.saved();
  await faces(room, 'eye', 'cart', 2, -1);
  expect((await evaluated(room, 'eye')).axes[1]).toBeCloseTo(0, 9);
  expect((await evaluated(room, 'eye')).pivot).toEqual(before.pivot);
  // It goes along, too.
  await room.chapter('Why');
  await begin(page, /^Follow/);
  await room.run('Cart');
  await expect(hint(page)).toHaveText(/^Enter makes it, Esc leaves it/);
  await room.key('Enter');
  await room.saved();
  await edit(room, { do: 'move', nodes: ['cart'], by: [2, 0, -3], space: { kind: 'world' } });
  await expect
    .poll(async () => {
      const { pivot } = await evaluated(room, 'eye');
      return Math.max(...pivot.map((v, i) => Math.abs(v - before.pivot[i]! - [2, 0, -3][i]!)));
    })
    .toBeLessThan(1e-6);
  await faces(room, 'eye', 'cart', 2, -1);
  await expect(entry(page, 'Follow Cart')).toBeVisible();
  await figuresAsServer(page, room, 'eye');
});

test('an eye and its brow: a weight is scrubbed, the kind is changed, the order dragged, and it is baked', async ({
  page,
}) => {
  const room = await scene(
    page,
    box('eye', 'Eye', [0, 1, 0]),
    box('brow', 'Brow', [0, 2, 0]),
    box('star', 'Star', [3, 2, 2]),
    box('fly', 'Fly', [-2, 3, 4]),
    { do: 'constrain', nodes: ['eye'], constraint: { kind: 'aim', target: 'star', axis: '+z' } },
    { do: 'constrain', nodes: ['brow'], constraint: { kind: 'aim', target: 'star', axis: '+z' } },
    { do: 'constrain', nodes: ['brow'], constraint: { kind: 'aim', target: 'fly', axis: '+z' } },
  );
  await room.pick('brow');
  await room.chapter('Why');
  const fly = entry(page, 'Aim at Fly');
  // Scrubbed by the pointer: while it goes on, the figures are those of the weight that is tried.
  const thumb = (await fly.getByRole('slider').boundingBox())!;
  const said = fly.getByLabel('Does now');
  const full = await said.innerText();
  await page.mouse.move(thumb.x + thumb.width / 2, thumb.y + thumb.height / 2);
  await page.mouse.down();
  await page.mouse.move(thumb.x - 40, thumb.y + thumb.height / 2, { steps: 4 });
  await expect(said).not.toHaveText(full);
  await page.mouse.up();
  await room.saved();
  const { weight } = (await entriesOf(room, 'brow'))[1]!;
  expect(weight).toBeGreaterThan(0.2);
  expect(weight).toBeLessThan(0.9);
  await figuresAsServer(page, room, 'brow');

  // What a link makes of the pose is shown while the pointer rests on it, and gone when it leaves.
  const shadows = () =>
    page.evaluate(
      () =>
        (window as unknown as { calmPivotStore: { getState(): { shadows: unknown[] } } }).calmPivotStore.getState()
          .shadows.length,
    );
  await fly.getByRole('button', { name: /: its words$/ }).hover();
  await expect.poll(shadows).toBeGreaterThan(0);
  await page.mouse.move(500, 300);
  await expect.poll(shadows).toBe(0);

  // Another kind keeps the target; the order is dragged, and changed by key.
  await fly.getByRole('button', { name: /: its words$/ }).click();
  await fly.getByLabel('Kind').selectOption('swivel');
  const swivel = entry(page, 'Swivel to Fly');
  await expect(swivel).toBeVisible();
  await room.saved();
  expect((await entriesOf(room, 'brow'))[1]).toMatchObject({ kind: 'swivel', target: 'fly', weight, facing: '+z' });
  const [from, to] = [
    (await swivel.getByRole('button', { name: /^Order of/ }).boundingBox())!,
    (await entry(page, 'Aim at Star').boundingBox())!,
  ];
  await page.mouse.move(from.x + 8, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(to.x + 30, to.y + 8, { steps: 4 });
  await page.mouse.up();
  await room.saved();
  expect((await entriesOf(room, 'brow')).map((e) => e.kind)).toEqual(['swivel', 'aim']);
  await swivel.getByRole('button', { name: /^Order of/ }).focus();
  await page.keyboard.press('ArrowDown');
  await room.saved();
  expect((await entriesOf(room, 'brow')).map((e) => e.kind)).toEqual(['aim', 'swivel']);
  await figuresAsServer(page, room, 'brow');

  // Baked up to the first, nothing moves.
  const stood = await evaluated(room, 'brow');
  await entry(page, 'Aim at Star')
    .getByRole('button', { name: /^More for/ })
    .click();
  await page.getByRole('menuitem', { name: 'Bake up to here', exact: true }).click();
  await room.saved();
  expect((await entriesOf(room, 'brow')).map((e) => e.kind)).toEqual(['swivel']);
  (await evaluated(room, 'brow')).world.forEach((v, i) => expect(v).toBeCloseTo(stood.world[i]!, 8));
  for (let i = 0; i < 5; i++) await room.key('Control+z');
  await room.saved();
  expect((await entriesOf(room, 'brow')).map((e) => [e.kind, e.weight])).toEqual([
    ['aim', 1],
    ['aim', 1],
  ]);
  await page.reload();
  await page.waitForSelector('[role=tree]');
  await room.pick('brow');
  await figuresAsServer(page, room, 'brow');
  for (const part of ['[aria-label="Chain"]', '[aria-label="Constraints"]'])
    expect(await faults(page, part)).toEqual([]);
});

test('links go to a ring of eight, each with a target of its own, in one step', async ({ page }) => {
  const rigs = Array.from({ length: 8 }, (_, i) => {
    const angle = (i * Math.PI) / 4;
    const rig = {
      do: 'create',
      node: {
        id: `rig${i}`,
        name: `Rig ${i}`,
        kind: 'group',
        placement: { position: [4 * Math.sin(angle), 0, 4 * Math.cos(angle)], rotation: [0, i * 45, 0] },
      },
    };
    return [
      rig,
      { ...box(`lamp${i}`, 'Lamp', [0, 1, 0]), under: `rig${i}` },
      { ...box(`knob${i}`, 'Knob', [0.4, 0.2, 2]), under: `rig${i}` },
    ];
  }).flat();
  const room = await scene(page, ...rigs, {
    do: 'constrain',
    nodes: ['lamp0'],
    constraint: { kind: 'aim', target: 'knob0', axis: '+z' },
  });
  for (let i = 1; i < 8; i++) await room.pick(`lamp${i}`, i > 1);
  await room.pick('lamp0', true);
  await room.run("Give these the lead's links");
  await says(page, 'Give 7 objects the constraints of Lamp');
  await expect(hint(page)).toContainText('This makes 7 objects jump');
  await page.keyboard.press('Enter');
  await room.saved();
  for (let i = 1; i < 8; i++) {
    expect((await entriesOf(room, `lamp${i}`)).map((e) => e.target)).toEqual([`knob${i}`]);
    await faces(room, `lamp${i}`, `knob${i}`, 2);
  }
  await room.computesAsServer();
  await room.key('Control+z');
  await room.saved();
  expect(await entriesOf(room, 'lamp3')).toEqual([]);
});

test('on the stage: threads, the letter of the axis, a pressed face, the arc of a hinge, a target out of sight', async ({
  page,
}) => {
  const room = await scene(
    page,
    box('tube', 'Tube', [0, 1, 0]),
    box('star', 'Star', [2, 2, 1]),
    box('far', 'Far', [0, 1, 400]),
  );
  await room.pick('tube');
  await room.chapter('Why');
  await begin(page, /^Aim at/);
  // Before anything is said, all own axes are lettered on the object; a choice that is hovered is lettered by itself.
  await expect(page.locator('g.aim-axis')).toHaveCount(3);
  await room.run('Far');
  const letters = () => page.locator('g.aim-axis text').allTextContents();
  await expect.poll(letters).toEqual(['+Z']);
  await page.getByRole('button', { name: /^Axis:/ }).click();
  await page.getByRole('menuitemradio', { name: '−X' }).hover();
  await expect.poll(letters).toEqual(['−X']);
  await expect(hint(page)).toContainText('This makes Tube jump: by 90');
  await page.getByRole('menuitem', { name: 'Press a face of it…' }).click();
  await expect(hint(page)).toHaveText('Press the face that is to aim. Esc leaves.');
  const at = await room.at('tube');
  await page.mouse.click(at.x, at.y);
  await says(page, 'with its pressed face');
  const before = await evaluated(room, 'tube');
  await room.key('Enter');
  await room.saved();
  await faces(room, 'tube', 'far', 2);
  expect((await evaluated(room, 'tube')).pivot).toEqual(before.pivot);
  await expect(page.locator('g.thread')).toHaveCount(1);

  // A turn by hand that is held lights the thread that holds it.
  await room.key('r');
  await expect(page.locator('g.thread.held')).toHaveCount(1);
  await room.key('Control+z');
  await room.saved();

  // The limits of a hinge are dragged on its arc; Esc puts them back, keys move them, too.
  await edit(room, {
    do: 'constrain',
    nodes: ['tube'],
    constraint: { kind: 'swivel', target: 'star', hinge: [0, 1, 0], facing: '+z', from: -40, to: 30 },
  });
  const grip = page.getByRole('button', { name: /^At most/ });
  await expect(grip).toBeVisible();
  const limits = async () => {
    const [{ from, to }] = (await entriesOf(room, 'tube')) as [Entry];
    return [from, to];
  };
  const c = (await grip.locator('.sign').boundingBox())!;
  const pull = async (end: () => Promise<void>) => {
    await page.mouse.move(c.x + c.width / 2, c.y + c.height / 2);
    await page.mouse.down();
    await page.mouse.move(c.x + 30, c.y - 22, { steps: 5 });
    await end();
    await page.mouse.up();
  };
  await pull(() => page.keyboard.press('Escape'));
  await room.saved();
  expect(await limits()).toEqual([-40, 30]);
  await pull(() => Promise.resolve());
  await room.saved();
  const [, to] = await limits();
  expect(to).not.toBe(30);
  await grip.focus();
  await page.keyboard.press('ArrowUp');
  await room.saved();
  expect((await limits())[1]).toBeCloseTo(to! + 1, 9);

  // All threads are those of the whole scene, also with nothing picked.
  await room.key('Escape');
  await page.evaluate(() =>
    (window as unknown as { calmPivotSession: { select(ids: string[]): void } }).calmPivotSession.select([]),
  );
  await expect(page.locator('g.thread')).toHaveCount(0);
  await room.run('All threads');
  await expect(page.locator('g.thread')).toHaveCount(1);
  await room.computesAsServer();
});

test('turned once nothing lasts; a controller is made ahead and drives', async ({ page }) => {
  const room = await scene(page, box('part', 'Part', [0, 1, 0]), box('star', 'Star', [3, 4, 1]));
  await room.pick('part');
  await room.run('Turn to something, once');
  const star = await room.at('star');
  await page.mouse.click(star.x, star.y);
  await expect(hint(page)).toHaveText(/^Enter makes it, Esc leaves it/);
  await room.key('Enter');
  await room.saved();
  expect(await entriesOf(room, 'part')).toEqual([]);
  const { axes, pivot } = await evaluated(room, 'part');
  const way = unit((await evaluated(room, 'star')).pivot.map((v, i) => v - pivot[i]!));
  expect(
    Math.max(...[0, 3, 6].map((k) => Math.abs(axes.slice(k, k + 3).reduce((s, v, i) => s + v * way[i]!, 0)))),
  ).toBeCloseTo(1, 9);

  await room.run('Drive with a controller');
  await says(page, 'Make a controller ahead that Part aims at');
  await room.key('Enter');
  await room.saved();
  const knob = (await room.nodes()).find((n) => n.name === 'Part controller')!;
  await faces(room, 'part', knob.id, 2);
  expect(await room.picked()).toEqual([knob.id]);
  await room.key('Control+z');
  await room.saved();
  expect((await room.nodes()).map((n) => n.name)).toEqual(['Part', 'Star']);
});

test('constraints in the diagram: made from target to part, changed, cut; loops are refused', async ({ page }) => {
  const room = await scene(
    page,
    { do: 'create', node: { id: 'mount', name: 'Mount', kind: 'group' } },
    { ...box('cannon', 'Cannon', [0, 1, 0]), under: 'mount' },
    box('sun', 'Sun', [2, 2, 1]),
    box('bird', 'Bird', [-2, 3, 1]),
  );
  await room.pick('cannon');
  await room.key('Shift+l');
  const diagram = page.locator('[data-links]');
  await page.getByRole('button', { name: 'Whole scene' }).click();
  const node = (name: string) => diagram.locator('.react-flow__node', { hasText: name });
  const knot = (name: string, id: string) => node(name).locator(`[data-handleid="${id}"]`);
  const draw = async (from: Locator, to: Locator | { x: number; y: number }) => {
    const a = (await from.boundingBox())!;
    const b = 'boundingBox' in to ? (await to.boundingBox())! : { ...to, width: 0, height: 0 };
    await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 8 });
    await page.mouse.up();
  };
  await draw(knot('Sun', 'by'), knot('Cannon', 'goes'));
  await says(page, 'Aim Cannon at');
  await page.locator('[data-make]').click();
  await room.saved();
  expect(await entriesOf(room, 'cannon')).toMatchObject([{ kind: 'aim', target: 'sun' }]);
  await expect(diagram.locator('.react-flow__edge.tie')).toHaveCount(1);
  await expect(diagram.getByText('Aim at')).toBeVisible();

  await draw(knot('Cannon', 'by'), knot('Sun', 'goes'));
  await expect(hint(page)).toContainText('would go round in a circle');
  await room.key('Escape');

  // Double press cuts; undo mends, in step with the chain.
  const middle = await diagram
    .locator('.react-flow__edge.tie path')
    .first()
    .evaluate((element) => {
      const path = element as SVGPathElement;
      const { x, y } = path.getPointAtLength(path.getTotalLength() * 0.4).matrixTransform(path.getScreenCTM()!);
      return { x, y };
    });
  await page.mouse.dblclick(middle.x, middle.y);
  await room.saved();
  expect(await entriesOf(room, 'cannon')).toEqual([]);
  await expect(diagram.locator('.react-flow__edge.tie')).toHaveCount(0);
  await room.key('Control+z');
  await expect(diagram.locator('.react-flow__edge.tie')).toHaveCount(1);
});

test('two windows: what one drags, the other sees follow while it goes on, and nothing of it counts until it is kept', async ({
  page,
  context,
}) => {
  const room = await scene(page, box('tube', 'Tube', [0, 1, 0]), box('star', 'Star', [1.5, 1.5, 1]), {
    do: 'constrain',
    nodes: ['tube'],
    constraint: { kind: 'aim', target: 'star', axis: '+z' },
  });
  const other = await Room.enter(await context.newPage(), room.id);
  const world = (at: Room, id: string) =>
    at.page.evaluate(
      (node) =>
        (window as unknown as { calmPivotCore: { node(id: string): { world: number[] } } }).calmPivotCore.node(node)
          .world,
      id,
    );
  const [start, tube] = [await world(other, 'star'), await world(other, 'tube')];
  await page.bringToFront();
  await room.pick('star');
  await room.drag('needle', 0, 60, 0, async () => {
    await expect.poll(() => world(other, 'star')).not.toEqual(start);
    expect(await world(other, 'tube')).not.toEqual(tube);
    expect((await evaluated(room, 'star')).world).toEqual(start);
    // Put back here, it is back there.
    await page.keyboard.press('Escape');
    await expect.poll(() => world(other, 'star')).toEqual(start);
    expect(await world(other, 'tube')).toEqual(tube);
  });
  await room.drag('needle', 0, 80, 0);
  await room.saved();
  await expect.poll(() => world(other, 'star')).toEqual((await evaluated(room, 'star')).world);
  await other.computesAsServer();

  // Who drags himself is not disturbed by what the other tries.
  await other.page.bringToFront();
  await other.pick('tube');
  await other.key('v');
  await other.drag('needle', 1, 0, -40, async () => {
    const mine = await world(other, 'tube');
    await room.request.get(`/api/scenes/${room.id}`);
    expect(await world(other, 'tube')).toEqual(mine);
  });
  await other.saved();
  await room.computesAsServer();
  await other.computesAsServer();
});
