import { NodeIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect } from '@playwright/test';
import { Room, texturedRoom, type StoredNode } from './room';
import { test } from './shared';
import { texturedFile } from './textured';

test('a new scene: add a shape, size it, change it later, rename, put under, remove, undo', async ({ page }) => {
  await Room.open(page);
  await page.getByRole('button', { name: 'Test room' }).click();
  await page.getByRole('menuitem', { name: 'New scene…' }).click();
  await page.getByLabel('Name').fill('Attic');
  await page.getByRole('button', { name: 'Make' }).click();
  await expect(page.getByRole('button', { name: 'Attic' })).toBeVisible();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  const room = await Room.enter(page, new URL(page.url()).searchParams.get('scene')!);

  await room.add('Cylinder');
  await expect(page.locator('[data-hint]')).toContainText('Added Cylinder');
  await room.chapter('What');
  for (const [field, value] of [
    ['Radius', '0.3'],
    ['Height', '2'],
    ['Segments', '12'],
  ] as const) {
    await room.field(field).fill(value);
    await page.keyboard.press('Enter');
  }
  await room.saved();
  const cylinder = (await room.nodes()).find((n) => n.name === 'Cylinder')!;
  expect(cylinder.shape).toMatchObject({ type: 'cylinder', radius: 0.3, height: 2, segments: 12 });
  await room.field('Segments').fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('segments must lie within 3 to 512');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Column');
  await page.keyboard.press('Enter');
  await page.locator('[data-stage]').focus();
  await room.key('Shift+e');
  await room.add('Box');
  await page.getByRole('treeitem', { name: /^Column/ }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Put 1 under Column' }).click();
  await expect(page.locator('[data-plan="under"]')).toContainText(/Put\s*Box\s*under\s*Column/);
  await room.key('Enter');
  await room.saved();
  const box = (await room.nodes()).find((n) => n.name === 'Box')!;
  expect(box.parent).toBe(cylinder.id);

  await page.getByRole('treeitem', { name: /^Column/ }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.locator('[data-hint]')).toContainText('What rides on it goes too: 1 object.');
  await page.getByRole('button', { name: 'Make it' }).click();
  await room.saved();
  expect((await room.nodes()).map((n) => n.name)).toEqual(['Camera', 'Lamp']);
  await room.key('Control+z');
  await expect(page.getByRole('treeitem', { name: /^Column/ })).toBeVisible();
  await room.saved();
  expect((await room.nodes()).find((n) => n.id === box.id)!.parent).toBe(cylinder.id);
});

test('scenes are copied, renamed and removed from the menu', async ({ page }) => {
  await Room.open(page);
  const menu = async (now: string, item: string) => {
    await page.getByRole('button', { name: now, exact: true }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await menu('Test room', 'Copy…');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Test room copy' })).toBeVisible();
  await menu('Test room copy', 'Rename…');
  await page.getByLabel('New name').fill('Second room');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Second room' })).toBeVisible();
  await menu('Second room', 'Remove…');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Second room' })).toHaveCount(0);
});

test('a file is imported, edited and undone; a damaged one is refused', async ({ page }) => {
  await Room.open(page);
  const glb = await (await page.request.get('/api/scenes/orrery-room/export?format=glb')).body();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'Orrery.glb', mimeType: 'model/gltf-binary', buffer: glb });
  await expect(page.getByRole('button', { name: 'Orrery', exact: true })).toBeVisible({ timeout: 20_000 });
  const room = await Room.enter(page, new URL(page.url()).searchParams.get('scene')!);
  const drum = (await room.nodes()).find((n: StoredNode) => n.name === 'Drum')!;
  await room.pick(drum.id);
  await room.drag('needle', 1, 0, -50);
  await room.saved();
  expect((await room.node(drum.id)).placement.position[1]).toBeGreaterThan(0.05);
  await room.key('Control+z');
  await room.saved();
  await expect.poll(async () => (await room.node(drum.id)).placement.position[1]).toBe(0);
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'broken.glb', mimeType: 'model/gltf-binary', buffer: glb.subarray(0, 500) });
  await expect(page.getByRole('alert')).toContainText('damaged');
});

test('a file with all kinds of textures is imported, opened, edited, reloaded and goes out whole', async ({ page }) => {
  await Room.open(page);
  await page.getByLabel('File to import').setInputFiles({
    name: 'crate.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(await texturedFile()),
  });
  await expect(page.locator('[data-hint]')).toHaveText(/^Imported crate\.glb: 4 objects\.$/);
  const id = new URL(page.url()).searchParams.get('scene')!;
  const room = await Room.enter(page, id);
  const crate = (await room.nodes()).find((n) => n.name === 'Crate' && n.parent === null)!;
  await room.pick(crate.id);
  await room.field('Position X').fill('2');
  await page.keyboard.press('Enter');
  await room.saved();
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible({ timeout: 30_000 });
  const channels = await page.evaluate((node) => {
    interface Stored {
      stored(id: string): { materials: string[] };
      materials(): { id: string; surface: { textures: { channel: string; strength?: number }[] } }[];
    }
    const core = (window as unknown as { calmPivotCore: Stored }).calmPivotCore;
    const surfaces = new Map(core.materials().map((m) => [m.id, m.surface]));
    return core.stored(node).materials.map((id) =>
      surfaces
        .get(id)!
        .textures.map((t) => t.channel)
        .sort(),
    );
  }, crate.id);
  expect(channels.map((c) => c.length)).toEqual([5, 1]);
  const out = await page.request.get(`/api/scenes/${id}/export`);
  const document = await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(await out.body()));
  const wood = document
    .getRoot()
    .listMaterials()
    .find((m) => m.getName() === 'Painted wood')!;
  const textures = [
    wood.getBaseColorTexture(),
    wood.getNormalTexture(),
    wood.getMetallicRoughnessTexture(),
    wood.getEmissiveTexture(),
    wood.getOcclusionTexture(),
  ];
  expect(textures.every((t) => (t?.getImage()?.length ?? 0) > 50)).toBe(true);
  expect([wood.getNormalScale(), wood.getOcclusionStrength()].map((v) => Math.round(v * 10))).toEqual([5, 8]);
});

test('a lamp and a camera are added from the menu, with what is left out as usual', async ({ page }) => {
  const room = await Room.open(page);
  const kinds = ['Point lamp', 'Spot lamp', 'Panel lamp', 'Directional lamp', 'Camera', 'Icoball', 'Group'];
  for (const what of kinds) await room.add(what);
  await room.saved();
  await expect(page.getByRole('alert')).toHaveCount(0);
  const added = (await room.nodes()).filter((n) => kinds.includes(n.name)) as {
    light?: { type: string; color: string; intensity: number };
    camera?: { fov: number };
  }[];
  expect(added).toHaveLength(7);
  const lamps = added.flatMap((n) => n.light ?? []);
  expect(lamps.map((l) => [l.type, l.intensity])).toEqual([
    ['point', 12],
    ['spot', 20],
    ['panel', 15],
    ['directional', 3],
  ]);
  expect(lamps.map((l) => l.color)).toEqual(lamps.map(() => '#FFFFFF'));
  expect(added.find((n) => n.camera)!.camera).toMatchObject({ fov: 38 });
});

test('a second window follows along, and concurrent edits of different nodes both stand', async ({ page, browser }) => {
  const room = await Room.open(page);
  const other = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  const second = await Room.enter(other, room.id);
  await second.pick('sun-lamp');
  await room.pick('sun-lamp');
  await room.field('Position X').fill('0.75');
  await page.keyboard.press('Enter');
  await expect(second.field('Position X')).toHaveValue('0.750');
  await second.pick('drum');
  await second.field('Position X').fill('0.2');
  await room.field('Position X').fill('0.5');
  await Promise.all([other.keyboard.press('Enter'), page.keyboard.press('Enter')]);
  await room.saved();
  await second.saved();
  await expect.poll(async () => (await room.node('drum')).placement.position[0]).toBe(0.2);
  expect((await room.node('sun-lamp')).placement.position[0]).toBe(0.5);
  await other.context().close();
});

test('out of reach: edits are kept here and sent when the server is back', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  await page.route('**/api/scenes/*/edits', (route) => route.abort());
  await room.field('Position X').fill('1.5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('banner')).toContainText('Server out of reach · 1 edit kept here');
  expect(await room.number('Position X')).toBe(1.5);
  await page.unroute('**/api/scenes/*/edits');
  await room.saved();
  expect((await room.node('sun-lamp')).placement.position[0]).toBe(1.5);
});

test('a full disk is said as what it is, and edits are kept until there is room', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  const detail = 'There is no room left on the server’s disk.';
  await page.route('**/api/scenes/*/edits', (route) =>
    route.fulfill({ status: 507, contentType: 'application/problem+json', json: { refusal: 'no-room', detail } }),
  );
  await page.route('**/healthz', (route) => route.fulfill({ status: 503, json: { status: 'no room' } }));
  await room.field('Position X').fill('1.5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('banner')).toContainText('No room on the server’s disk · 1 edit kept here, to be sent');
  await page.unroute('**/healthz');
  await page.unroute('**/api/scenes/*/edits');
  await room.saved();
  expect((await room.node('sun-lamp')).placement.position[0]).toBe(1.5);
});

test('a refusal of the server returns the page to the truth without losing the view', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-lamp');
  // Somebody else writes the node, and the page is not told in time.
  await page.route('**/api/scenes/*/edits', async (route) => {
    const body = route.request().postDataJSON() as { base: number };
    const theirs = { do: 'move', nodes: ['sun-lamp'], by: [0, 1, 0], space: { kind: 'world' } };
    await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base: 1_000_000, edits: [theirs] } });
    await route.continue({ postData: JSON.stringify({ ...body, base: 0 }) });
  });
  const look = () =>
    page.evaluate(() =>
      JSON.stringify((window as unknown as { calmPivotStage: { eye: { look: unknown } } }).calmPivotStage.eye.look),
    );
  const before = await look();
  await room.field('Position X').fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('changed meanwhile');
  await expect(room.field('Position X')).toHaveValue('0.000');
  await room.computesAsServer();
  expect(await look()).toBe(before);
});

test('each line of the tree says what is stored of its object, and of no other', async ({ page }) => {
  const made = await page.request.post('/api/scenes', { data: { name: 'Lines' } });
  const { id } = (await made.json()) as { id: string };
  const names = [
    'plain',
    'off',
    'unpictured',
    'locked',
    'wire',
    'boxed',
    'closed',
    'coloured',
    'member',
    'one',
    'other',
  ];
  const node = (name: string) => ({
    id: name,
    name,
    kind: name === 'closed' || name === 'coloured' ? 'group' : 'shape',
  });
  const edits = [
    ...names.slice(0, -1).map((name) => ({ do: 'create', node: node(name) })),
    { do: 'see', nodes: ['off'], working: false },
    { do: 'see', nodes: ['unpictured'], final: false },
    { do: 'draw', nodes: ['wire'], as: 'wire' },
    { do: 'draw', nodes: ['boxed'], as: 'box' },
    { do: 'label', nodes: ['closed'], closed: true },
    { do: 'label', nodes: ['coloured'], color: '#6A3D8F', note: 'Look here' },
    { do: 'collection', id: 'smart', name: 'smart', nodes: [] },
    { do: 'setRule', collection: 'smart', rule: { name: 'Rod*' } },
    { do: 'collection', id: 'set', name: 'set', nodes: ['member'] },
    { do: 'duplicate', nodes: ['one'], count: 1, sharing: true, ids: [['other']] },
    { do: 'lock', nodes: ['locked'], on: true },
  ];
  const answer = await page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1, edits } });
  expect(answer.ok(), await answer.text()).toBe(true);
  await Room.enter(page, id);
  const rows = await page.evaluate(() =>
    (window as unknown as { calmPivotCore: { outline(): Record<string, unknown>[] } }).calmPivotCore
      .outline()
      .map(({ slot: _slot, geometry: _geometry, parent: _parent, ...row }) => row),
  );
  const usual = {
    kind: 'shape',
    working: true,
    final: true,
    locked: false,
    drawn: 'full',
    closed: false,
    smart: false,
    noted: false,
    shares: null,
    color: null,
    collections: [],
  };
  const shares = rows.find((r) => r['id'] === 'one')!['shares'];
  expect(shares).toBeTruthy();
  const said: Record<string, object> = {
    plain: {},
    off: { working: false },
    unpictured: { final: false },
    locked: { locked: true },
    wire: { drawn: 'wire' },
    boxed: { drawn: 'box' },
    closed: { kind: 'group', closed: true },
    coloured: { kind: 'group', color: '#6A3D8F', noted: true },
    member: { collections: ['set'] },
    one: { shares },
    other: { shares },
    smart: { kind: 'collection', smart: true },
    set: { kind: 'collection' },
  };
  for (const [name, differs] of Object.entries(said))
    expect(rows.find((r) => r['id'] === name)).toMatchObject({ ...usual, ...differs, id: name });
});

test('what a former scene was drawn with is let go when another is opened', async ({ page }) => {
  const textured = await texturedRoom(page.request);
  const room = await Room.open(page);
  const held = () =>
    page.evaluate(() => {
      const w = window as unknown as {
        calmPivotStage: { renderer: { info: { memory: { geometries: number; textures: number } } }; draw(): void };
        calmPivotSession: { geometry: Map<string, unknown> };
      };
      w.calmPivotStage.draw();
      const { geometries, textures } = w.calmPivotStage.renderer.info.memory;
      return { geometries, textures, stored: w.calmPivotSession.geometry.size };
    });
  const visit = async (id: string) => {
    await page.evaluate(
      (id) =>
        (window as unknown as { calmPivotSession: { open(id: string): Promise<void> } }).calmPivotSession.open(id),
      id,
    );
    await page.waitForTimeout(1500);
    return held();
  };
  const first = await visit(textured);
  expect(first.stored).toBeGreaterThan(0);
  const demo = await visit(room.id);
  expect(demo.stored).toBe(0);
  for (let i = 0; i < 3; i++) {
    const again = await visit(textured);
    expect(again.stored).toBe(first.stored);
    expect(again.geometries).toBeLessThanOrEqual(first.geometries + 2);
    expect((await visit(room.id)).geometries).toBeLessThanOrEqual(demo.geometries + 2);
  }
});
