import { expect, type Locator, type Page } from '@playwright/test';
import { test } from './shared';
import { Room, texturedRoom } from './room';

interface Evaluated {
  id: string;
  world: number[];
  pivot: number[];
  axes: number[];
  placed?: number[];
  links?: { id: string; kind: string; turned: number; moved: number; warning?: string }[];
}

interface Bound {
  constraints?: { id: string; kind: string; weight: number; enabled: boolean }[];
}

const evaluated = async (room: Room, id: string) => (await room.evaluated(id)) as unknown as Evaluated;

const entriesOf = async (room: Room, id: string) => ((await room.node(id)) as unknown as Bound).constraints ?? [];

/** Edits by the API, as somebody else without a page would make them. */
async function edit(room: Room, ...edits: object[]): Promise<{ status: number; detail?: string }> {
  const base = ((await (await room.request.get(`/api/scenes/${room.id}`)).json()) as { revision: number }).revision;
  const answer = await room.request.post(`/api/scenes/${room.id}/edits`, { data: { base, edits } });
  return { status: answer.status(), ...((await answer.json()) as object) };
}

/** Where the page has a node's pivot. */
const shown = (page: Page, id: string) =>
  page.evaluate(
    (node) =>
      (
        window as unknown as { calmPivotCore: { node(id: string): { world: number[]; pivotInWorld: number[] } } }
      ).calmPivotCore.node(node),
    id,
  );

const unit = (v: number[]) => v.map((c) => c / Math.hypot(...v));

/** The direction of an own axis, and that to a target, in the world. */
async function looks(room: Room, id: string, target: string, axis: number): Promise<[number[], number[]]> {
  const [node, there] = [await evaluated(room, id), await evaluated(room, target)];
  return [node.axes.slice(3 * axis, 3 * axis + 3), unit(there.pivot.map((c, i) => c - node.pivot[i]!))];
}

function near(a: number[], b: number[], tolerance = 1e-6): void {
  a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThan(tolerance));
}

/** Adds a link by the sentence, with the target chosen by its name. */
async function add(page: Page, kind: RegExp, target: string): Promise<void> {
  await begin(page, kind);
  await chooseTarget(page, target);
  await make(page);
}

async function begin(page: Page, kind: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Add a link…' }).click();
  await page.getByRole('menuitem', { name: kind }).click();
  await expect(page.locator('[data-plan]')).toBeVisible();
}

async function chooseTarget(page: Page, target: string): Promise<void> {
  await page.locator('[data-plan]').getByRole('button', { name: 'Target' }).click();
  await page.getByRole('combobox', { name: 'Target' }).fill(target);
  await page.keyboard.press('Enter');
}

async function make(page: Page): Promise<void> {
  await page.locator('[data-plan] [data-make]').click();
  await expect(page.locator('[data-plan]')).toHaveCount(0);
}

const words = (entry: Locator) => entry.getByRole('button', { name: /: its words$/ });

test('a constraint is added, changed, weighed, baked and taken off in the list, with its undo', async ({ page }) => {
  const room = await Room.open(page);
  const before = await evaluated(room, 'sun-lamp');
  await room.pick('sun-lamp');
  await room.chapter('Why');

  // What it would do is said and shown before it is kept; nothing is left of it when it is not.
  const hint = page.locator('[data-hint]');
  await begin(page, /^Aim at/);
  await expect(hint).toContainText('Press the target');
  await chooseTarget(page, 'star gl');
  await expect(hint).toHaveText(/^This makes Sun lamp jump: by \d+(\.\d+)?°\.$/);
  await page.getByRole('button', { name: 'Leave it' }).click();
  near((await shown(page, 'sun-lamp')).world, before.world, 1e-9);
  await add(page, /^Aim at/, 'star gl');
  await room.saved();
  const entry = page.getByRole('listitem', { name: 'Aim at Star globe' });
  await expect(entry.getByLabel('Does now')).toHaveText(/^turns \d/);
  const id = (await entriesOf(room, 'sun-lamp'))[0]!.id;
  expect(id).toBe('aim');

  // Which axis, and up by nothing.
  await words(entry).click();
  await entry.getByLabel('Axis that aims').selectOption('-z');
  await entry.getByLabel('Up by').selectOption('least');
  await room.saved();
  const target = ((await room.node('sun-lamp')) as unknown as { constraints: { target: string }[] }).constraints[0]!
    .target;
  const [axis, to] = await looks(room, 'sun-lamp', target, 2);
  near(
    axis.map((c) => -c),
    to,
  );
  await room.computesAsServer();

  // A turn by hand is held, and says so beforehand; a weight is scrubbed by key.
  await room.key('r');
  await expect(page.locator('[data-hint]')).toContainText(
    'Aim at Star globe turns Sun lamp. A turn by hand shows when that is off.',
  );
  const ways = page.getByRole('group', { name: 'Ways out' });
  await ways.getByRole('button', { name: 'Switch it off' }).click();
  await expect(entry.getByRole('switch')).not.toBeChecked();
  await expect(ways).toBeHidden();
  await room.key('Control+z');
  await expect(entry.getByRole('switch')).toBeChecked();
  await entry.getByRole('slider').focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('PageDown');
  await room.saved();
  await expect.poll(async () => (await entriesOf(room, 'sun-lamp'))[0]!.weight).toBeCloseTo(0.6, 6);
  await entry.getByRole('switch').click();
  await room.saved();
  near((await evaluated(room, 'sun-lamp')).world, before.world, 1e-9);
  await entry.getByRole('switch').click();
  await room.saved();
  const half = await evaluated(room, 'sun-lamp');

  // Baked, nothing moves, and it is off the list.
  await page.getByRole('button', { name: 'All of them…' }).click();
  await page.getByRole('menuitem', { name: 'Bake', exact: true }).click();
  await room.saved();
  await expect(entry).toBeHidden();
  near((await evaluated(room, 'sun-lamp')).world, half.world, 1e-8);
  await room.key('Control+z');
  await expect(entry).toBeVisible();
  await entry.getByRole('button', { name: 'Take off Aim at Star globe' }).click();
  await expect(entry).toBeHidden();
  await room.saved();
  await room.key('Control+z');
  await room.saved();
  await page.reload();
  await page.waitForSelector('[role=tree]');
  await room.pick('sun-lamp');
  await expect(entry).toBeVisible();
  await room.computesAsServer();
});

test('every kind can be added and pressed in the list, in the demo and in an imported file', async ({ page }) => {
  for (const room of [await Room.open(page), null]) {
    const here = room ?? (await Room.enter(page, await texturedRoom(page.request)));
    const nodes = (await here.nodes()) as unknown as {
      id: string;
      kind: string;
      name: string;
      parent: string | null;
    }[];
    const part = nodes.find((n) => n.kind === 'shape' || n.kind === 'mesh')!;
    const other = { name: 'Aim here', id: 'aim-here' };
    expect(
      (
        await edit(here, {
          do: 'create',
          node: {
            id: other.id,
            name: other.name,
            kind: 'shape',
            shape: { type: 'ball' },
            placement: { position: [3, 2, -4] },
          },
        })
      ).status,
    ).toBe(200);
    await here.pick(part.id);
    await here.chapter('Why');
    for (const kind of [/^Aim at/, /^Swivel to/, /^Follow/, /^Match rotation/, /^Match scale/, /^Ride on/, /^Stay on/])
      await add(page, kind, other.name);
    await begin(page, /^Limit/);
    await make(page);
    await here.saved();
    const list = page.getByRole('list', { name: 'Constraints' });
    await expect(list.getByRole('listitem')).toHaveCount(8);
    const one = (title: RegExp) => list.getByRole('listitem', { name: title });
    for (const title of [/^Swivel/, /^Follow/, /^Match scale/, /^Limit/, /^Stay/]) await words(one(title)).click();
    await one(/^Swivel/)
      .getByLabel('Hinge')
      .selectOption('x');
    await one(/^Swivel/)
      .getByRole('button', { name: 'Set From' })
      .click();
    await one(/^Follow/)
      .getByRole('button', { name: 'Y', exact: true })
      .click();
    await one(/^Follow/)
      .getByLabel('Frame')
      .selectOption('parent');
    await one(/^Match scale/)
      .getByLabel('Offset X')
      .fill('2');
    await one(/^Match scale/)
      .getByLabel('Offset X')
      .press('Enter');
    await one(/^Limit/)
      .getByLabel('At most Y')
      .fill('1');
    await one(/^Limit/)
      .getByLabel('At most Y')
      .press('Enter');
    await one(/^Stay/).getByLabel('Axis along the normal').selectOption('+y');
    await one(/^Stay/).getByLabel('Where on it').selectOption('along');
    await one(/^Ride/)
      .getByRole('button', { name: /^More for/ })
      .click();
    await page.getByRole('menuitem', { name: 'Earlier' }).click();
    await here.saved();
    // What places goes before what looks from there.
    expect((await entriesOf(here, part.id)).map((e) => e.kind).join(' ')).toBe(
      'rideOn follow stayOnSurface limit aim swivel matchRotation matchScale',
    );
    expect((await evaluated(here, part.id)).links).toHaveLength(8);
    await here.computesAsServer();
    const all = await here.evaluated(part.id);
    expect(all.world.every(Number.isFinite)).toBe(true);
  }
});

test('pan and tilt keep to a star that is dragged across the sky, at every pointer move', async ({ page }) => {
  const room = await Room.open(page);
  const made = await edit(
    room,
    {
      do: 'create',
      node: { id: 'base', name: 'Pan', kind: 'shape', shape: { type: 'box' }, placement: { position: [0, 0, 2] } },
    },
    {
      do: 'create',
      under: 'base',
      node: {
        id: 'tilt',
        name: 'Tilt',
        kind: 'shape',
        shape: { type: 'cylinder' },
        placement: { position: [0, 1, 0] },
      },
    },
    {
      do: 'create',
      node: {
        id: 'star',
        name: 'Star',
        kind: 'shape',
        shape: { type: 'ball', radius: 0.2 },
        placement: { position: [2, 2, 3] },
      },
    },
    {
      do: 'constrain',
      nodes: ['base'],
      constraint: { kind: 'swivel', target: 'star', hinge: [0, 1, 0], facing: '+z' },
    },
    {
      do: 'constrain',
      nodes: ['tilt'],
      constraint: { kind: 'swivel', target: 'star', hinge: [1, 0, 0], facing: '+z' },
    },
  );
  expect(made.status, made.detail).toBe(200);
  await expect.poll(async () => (await shown(page, 'star')) !== null).toBe(true);
  await room.pick('star');
  await room.key('v');
  const facing = async () => {
    const [tube, star] = [await shown(page, 'tilt'), await shown(page, 'star')];
    near(unit(tube.world.slice(8, 11)), unit(star.pivotInWorld.map((c, i) => c - tube.pivotInWorld[i]!)));
  };
  await facing();
  const start = (await shown(page, 'star')).pivotInWorld;
  await room.drag('needle', 0, 70, 10, async () => {
    expect((await shown(page, 'star')).pivotInWorld).not.toEqual(start);
    await facing();
    await page.keyboard.press('Escape');
    await facing();
    expect((await shown(page, 'star')).pivotInWorld).toEqual(start);
  });
  await room.drag('needle', 1, 0, -60, facing);
  await room.saved();
  const [axis, to] = await looks(room, 'tilt', 'star', 2);
  near(axis, to);
  await room.key('Control+z');
  await room.saved();
  await facing();
  await room.computesAsServer();
});

test('the telescope keeps to a marker over the pole without rolling; a lamp looks at what the orrery carries round', async ({
  page,
}) => {
  const room = await Room.open(page);
  await edit(
    room,
    { do: 'create', node: { id: 'scope', name: 'Scope', kind: 'group', placement: { position: [0, 1, 3] } } },
    { do: 'mark', name: 'Sky mark', id: 'sky', at: { point: [0, 1, -3] } },
    {
      do: 'constrain',
      nodes: ['scope'],
      constraint: { kind: 'aim', target: 'sky', axis: '-z', upAxis: '+y', up: 'least' },
    },
    {
      do: 'create',
      node: {
        id: 'spot',
        name: 'Keeper',
        kind: 'light',
        light: { type: 'spot', intensity: 20 },
        placement: { position: [3, 3, 3] },
      },
    },
    { do: 'constrain', nodes: ['spot'], constraint: { kind: 'aim', target: 'venus' } },
  );
  let last = (await evaluated(room, 'scope')).axes;
  for (let degrees = 15; degrees <= 165; degrees += 15) {
    const angle = (degrees * Math.PI) / 180;
    await edit(room, {
      do: 'place',
      node: 'sky',
      placement: { position: [0, 1 + 6 * Math.sin(angle), 3 - 6 * Math.cos(angle)] },
    });
    const { axes } = await evaluated(room, 'scope');
    // No axis turns further than the star has gone.
    for (let i = 0; i < 9; i += 3)
      expect(axes.slice(i, i + 3).reduce((sum, c, k) => sum + c * last[i + k]!, 0)).toBeGreaterThan(
        Math.cos((15.01 * Math.PI) / 180),
      );
    last = axes;
  }
  for (const turn of [40, 80, 150]) {
    await edit(room, {
      do: 'rotate',
      nodes: ['venus-arm'],
      by: turn,
      axis: 'y',
      space: { kind: 'world' },
      about: { kind: 'own' },
    });
    const [axis, to] = await looks(room, 'spot', 'venus', 2);
    near(
      axis.map((c) => -c),
      to,
    );
  }
  await expect
    .poll(async () => {
      const [spot, venus] = [await shown(page, 'spot'), await shown(page, 'venus')];
      const to = unit(venus.pivotInWorld.map((c, i) => c - spot.pivotInWorld[i]!));
      return Math.max(...unit(spot.world.slice(8, 11)).map((c, i) => Math.abs(c + to[i]!)));
    })
    .toBeLessThan(1e-6);
  await room.computesAsServer();
});

test('two windows: loops are refused by name, a target that goes takes the constraint with it, undo brings both back', async ({
  page,
}) => {
  const room = await Room.open(page);
  await edit(room, {
    do: 'constrain',
    nodes: ['sun-lamp'],
    constraint: { kind: 'follow', target: 'venus-arm', axes: 'y' },
  });
  await room.pick('venus-arm');
  await room.chapter('Why');
  await begin(page, /^Aim at/);
  await chooseTarget(page, 'sun lamp');
  await expect(page.locator('[data-hint]')).toContainText('would go round in a circle');
  await page.locator('[data-make]').click();
  await expect(page.locator('[data-hint]')).toContainText('would go round in a circle');
  await expect(page.locator('[data-plan]')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();

  // Somebody else moves the target while this page drags what follows it.
  await room.pick('sun-lamp');
  await room.drag('needle', 0, 40, 0, async () => {
    await edit(room, { do: 'move', nodes: ['venus-arm'], by: [0, 0.2, 0], space: { kind: 'world' } });
    await expect
      .poll(
        async () =>
          (await shown(page, 'sun-lamp')).pivotInWorld[1]! - (await shown(page, 'venus-arm')).pivotInWorld[1]!,
      )
      .not.toBe(0);
  });
  await room.saved();
  await room.computesAsServer();

  await room.pick('venus-arm');
  await room.key('Delete');
  await expect(page.locator('[data-hint]')).toContainText('Sun lamp follows it no more');
  await page.keyboard.press('Enter');
  await room.saved();
  expect(await entriesOf(room, 'sun-lamp')).toEqual([]);
  await room.key('Control+z');
  await room.saved();
  expect(await entriesOf(room, 'sun-lamp')).toHaveLength(1);
  await room.computesAsServer();
});

test('a controller is in lines, in no picture and in no exported mesh', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('drum');
  await room.run('Make controllers of the picked shapes');
  await room.saved();
  expect((await evaluated(room, 'drum')) as unknown as { seen: object }).toMatchObject({
    seen: { working: true, final: false },
  });
  await room.chapter('Why');
  await expect(page.getByText('hidden in the final picture: it is a controller')).toBeVisible();
  const file = (await (await room.request.get(`/api/scenes/${room.id}/export?format=gltf`)).json()) as {
    nodes: { name: string; mesh?: number }[];
  };
  expect(file.nodes.find((n) => n.name === 'Drum')!.mesh).toBeUndefined();

  // What is written of constraints is a pose, and the answer says so.
  await edit(room, { do: 'constrain', nodes: ['sun-lamp'], constraint: { kind: 'aim', target: 'venus' } });
  const again = await room.request.get(`/api/scenes/${room.id}/export?format=glb`);
  expect(again.headers()['calm-pivot-note']).toContain('written as the poses');
});

test('from an empty scene: nothing to aim at, then something, which somebody else takes away while it is chosen', async ({
  page,
}) => {
  const made = (await (await page.request.post('/api/scenes', { data: { name: 'Empty' } })).json()) as { id: string };
  const room = await Room.enter(page, made.id);
  await edit(room, { do: 'create', node: { id: 'part', name: 'Part', kind: 'shape', shape: { type: 'box' } } });
  await expect.poll(async () => (await shown(page, 'part')) !== null).toBe(true);
  await room.pick('part');
  await room.chapter('Why');
  const target = page.locator('[data-plan]').getByRole('button', { name: 'Target' });
  await begin(page, /^Aim at/);
  await target.click();
  await expect(page.getByText('Nothing is called so.')).toBeVisible();
  await page.keyboard.press('Escape');
  await room.key('Escape');
  await expect(page.locator('[data-plan]')).toHaveCount(0);

  const at = { placement: { position: [2, 3, 4] } };
  await edit(
    room,
    { do: 'create', node: { id: 'star', name: 'Star', kind: 'group', ...at } },
    { do: 'create', node: { id: 'pole', name: 'Pole', kind: 'group', placement: { position: [0, 9, 0] } } },
  );
  await expect.poll(async () => (await shown(page, 'star')) !== null).toBe(true);
  await begin(page, /^Aim at/);
  await chooseTarget(page, 'star');
  await expect(page.locator('[data-hint]')).toContainText('This makes Part jump');
  await edit(room, { do: 'remove', nodes: ['star'] });
  await expect(page.locator('[data-hint]')).toContainText('The target was removed meanwhile. Press another.');
  await expect(page.locator('[data-make]')).toBeDisabled();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await edit(room, { do: 'create', node: { id: 'star', name: 'Star', kind: 'group', ...at } });
  await expect.poll(async () => (await shown(page, 'star')) !== null).toBe(true);

  // Left in the middle, nothing of it is kept.
  await begin(page, /^Aim at/);
  await chooseTarget(page, 'star');
  await page.reload();
  await page.waitForSelector('[role=tree]');
  await room.pick('part');
  expect(await entriesOf(room, 'part')).toEqual([]);

  // An up object is asked for before it counts.
  await add(page, /^Aim at/, 'star');
  await words(page.getByRole('listitem', { name: 'Aim at Star' })).click();
  await page.getByLabel('Up by').selectOption('toward');
  await room.saved();
  await page.getByRole('button', { name: 'Up object' }).click();
  await page.getByRole('combobox', { name: 'Up object' }).fill('pole');
  await page.keyboard.press('Enter');
  await room.saved();
  expect((await entriesOf(room, 'part'))[0]).toMatchObject({ up: { toward: 'pole' } });
  await room.computesAsServer();
});

test('what aims looks at a place that is pressed on its target, and at the pivot again', async ({ page }) => {
  const room = await Room.open(page);
  await page.evaluate(() => {
    const { calmPivotSession: session } = window as unknown as { calmPivotSession: { keep(edit: unknown): boolean } };
    session.keep({ do: 'constrain', nodes: ['telescope'], constraint: { kind: 'aim', target: 'globe' } });
  });
  await room.saved();
  await room.pick('telescope');
  await page.getByRole('tab', { name: 'Why' }).click();
  await page.getByRole('button', { name: 'Aim at Globe: its words' }).click();
  await page.getByRole('button', { name: 'Press a place' }).click();
  await expect(page.locator('[data-hint]')).toContainText('Press the place to look at');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Press a place' })).toHaveAttribute('aria-pressed', 'false');
  // Something else is picked: nobody waits for a place any more.
  await page.getByRole('button', { name: 'Press a place' }).click();
  await room.pick('drum');
  await expect(page.locator('[data-hint]')).not.toContainText('Press the place to look at');
  await room.pick('telescope');
  await page.getByRole('button', { name: 'Press a place' }).click();
  const { x, y } = await room.at('globe');
  await page.mouse.click(x, y - 12);
  const placed = page.getByRole('button', { name: 'Aim at a place on Globe: its words' });
  await expect(placed).toBeVisible();
  await room.computesAsServer();
  await room.key('Control+z');
  await expect(placed).toHaveCount(0);
  await room.key('Control+Shift+z');
  await expect(placed).toBeVisible();

  // Its pivot goes elsewhere: it goes on looking at that place.
  const look = () =>
    page.evaluate(() =>
      (window as unknown as { calmPivotCore: { ownAxesOf(id: string): number[][] } }).calmPivotCore.ownAxesOf(
        'telescope',
      ),
    );
  const before = await look();
  await page.evaluate(() => {
    const { calmPivotSession: session } = window as unknown as { calmPivotSession: { keep(edit: unknown): boolean } };
    session.keep({ do: 'movePivot', nodes: ['globe'], to: { own: [0.3, 0.5, -0.2] } });
  });
  await room.saved();
  (await look()).forEach((axis, i) => axis.forEach((v, k) => expect(v).toBeCloseTo(before[i]![k]!, 9)));
  await page.getByRole('button', { name: 'Its pivot' }).click();
  await expect(page.getByRole('button', { name: 'Aim at Globe: its words' })).toBeVisible();
  await room.computesAsServer();

  // Of a group it is a place in the group, whatever of it is pressed.
  await page.evaluate(() => {
    const { calmPivotSession: session } = window as unknown as { calmPivotSession: { keep(edit: unknown): boolean } };
    session.keep({ do: 'group', nodes: ['globe', 'drum'], name: 'Pair', id: 'pair' });
    session.keep({ do: 'setConstraint', of: [{ node: 'telescope', id: 'aim' }], target: 'pair' });
  });
  await page.getByRole('button', { name: 'Press a place' }).click();
  await page.mouse.click(x, y - 12);
  await expect(page.locator('[data-hint]')).toHaveText('Telescope: Aim at Pair at a place on it.');
  await expect(page.getByRole('button', { name: 'Aim at a place on Pair: its words' })).toBeVisible();
  await room.saved();

  // Somebody else takes the entry away: nothing is asked any more.
  await page.getByRole('button', { name: 'Another place' }).click();
  await expect(page.locator('[data-hint]')).toContainText('Press the place to look at');
  const { revision } = (await (await page.request.get(`/api/scenes/${room.id}`)).json()) as { revision: number };
  const edits = [{ do: 'unconstrain', of: [{ node: 'telescope', id: 'aim' }] }];
  const taken = await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base: revision, edits } });
  expect(taken.ok()).toBe(true);
  await expect(page.locator('[data-hint]')).not.toContainText('Press the place to look at');
  await room.computesAsServer();
});
