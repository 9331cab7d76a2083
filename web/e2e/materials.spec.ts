import { expect, type Page } from '@playwright/test';
import { Room, texturedRoom } from './room';
import { test } from './shared';

interface Stored {
  stored(id: string): { material?: string; materials?: string[]; surface?: unknown } & Record<string, unknown>;
  materials(): {
    id: string;
    name: string;
    surface: { color: string; lies: Record<string, unknown> | null };
    users: number;
  }[];
}

const core = (page: Page) => ({
  stored: (id: string) =>
    page.evaluate((node) => (window as unknown as { calmPivotCore: Stored }).calmPivotCore.stored(node), id),
  materials: () => page.evaluate(() => (window as unknown as { calmPivotCore: Stored }).calmPivotCore.materials()),
});

const drawer = async (page: Page) => {
  await page.getByRole('button', { name: 'Materials', exact: true }).click();
  await expect(page.locator('[data-materials]')).toBeVisible();
};

/** A picture of boards, made in the page. */
async function boards(page: Page, width = 1600, height = 900, name = 'Boards.jpg'): Promise<unknown> {
  return page.evaluateHandle(
    async ([w, h, called]) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [w as number, h as number];
      const context = canvas.getContext('2d')!;
      for (let i = 0; i < 12; i++) {
        context.fillStyle = `hsl(${20 + i} 45% ${35 + (i % 4) * 6}%)`;
        context.fillRect(0, (i * canvas.height) / 12, canvas.width, canvas.height / 12 - 2);
      }
      const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.9));
      const data = new DataTransfer();
      data.items.add(new File([blob!], called as string, { type: 'image/jpeg' }));
      return data;
    },
    [width, height, name] as const,
  );
}

async function dropOn(page: Page, room: Room, id: string, data: unknown): Promise<void> {
  const at = await room.at(id);
  const stage = page.locator('[data-stage]');
  const place = { dataTransfer: data, clientX: at.x, clientY: at.y };
  await stage.dispatchEvent('dragover', place as never);
  await stage.dispatchEvent('drop', place as never);
}

test('one drop makes wood of five boards, cropped and reduced, a metre a metre; undone and done again', async ({
  page,
}) => {
  const room = await Room.open(page);
  const treads = [1, 2, 3, 4, 5].map((i) => `tread-${i}`);
  for (const [i, tread] of treads.entries()) await room.pick(tread, i > 0);
  await room.key('v');
  await room.still();
  await dropOn(page, room, 'tread-3', await boards(page));
  const dialog = page.getByRole('region', { name: 'Bring in Boards.jpg' });
  await expect(dialog).toBeVisible();
  await expect(dialog.locator('[data-size]')).toContainText('1600 × 900');
  await dialog.getByRole('radio', { name: 'Square' }).click();
  await dialog.getByRole('radio', { name: '256' }).click();
  await expect(dialog.locator('[data-size]')).toContainText('→ 256 × 256');
  await dialog.getByRole('button', { name: 'Turn by a quarter' }).click();
  await dialog.getByLabel('Metres a picture').fill('0.5');
  await dialog.getByRole('button', { name: 'Make a material of it' }).click();
  await expect(dialog).toBeHidden();
  const made = (await core(page).materials()).find((m) => m.name === 'Boards')!;
  expect(made.users).toBe(5);
  expect(made.surface.lies).toMatchObject({ how: 'box', metres: 0.5, aspect: 1, true: true });
  for (const tread of treads) expect((await core(page).stored(tread)).material).toBe(made.id);

  // Half a metre a picture, whatever the scale: on the tread, a metre wide, it comes twice; three times as wide, six times.
  const across = () =>
    page.evaluate(() => {
      interface Drawn {
        entries: { part: { geometry: { getAttribute(name: string): { array: Float32Array } } } }[];
      }
      const { pictures } = (window as unknown as { calmPivotStage: { pictures: { get(id: string): Drawn } } })
        .calmPivotStage;
      const { array } = pictures.get('tread-3').entries[0]!.part.geometry.getAttribute('uv');
      const us = [...array].filter((_, i) => i % 2 === 0);
      return Math.max(...us) - Math.min(...us);
    });
  await expect.poll(across).toBeCloseTo(2, 5);
  await page.evaluate(() => (window as unknown as { calmPivotSession: { keep(edit: object): void } }).calmPivotSession.keep({ do: 'place', node: 'tread-3', placement: { scale: [3, 1, 1] } })); // prettier-ignore
  await expect.poll(across).toBeCloseTo(6, 5);
  await room.saved();
  const stored = (await (await page.request.get(`/api/scenes/${room.id}/pictures`)).json()) as { width: number }[];
  expect(stored.map((p) => p.width)).toEqual([256]);

  await room.key('Control+z');
  await expect.poll(across).toBeCloseTo(2, 5);
  await room.key('Control+z');
  await expect.poll(async () => (await core(page).materials()).some((m) => m.name === 'Boards')).toBe(false);
  await room.key('Control+Shift+z');
  await expect.poll(async () => (await core(page).stored('tread-1')).material).toBe(made.id);
  await room.saved();
  await room.computesAsServer();
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible();
  expect((await core(page).stored('tread-5')).material).toBe(made.id);
});

test('a card is dragged onto an object, a row takes it too, and what is only passed over stays as it is', async ({
  page,
}) => {
  const room = await Room.open(page);
  await drawer(page);
  const brass = (await core(page).materials()).find((m) => m.name === 'Brass')!.id;
  const before = await core(page).stored('sun-lamp');
  const stage = page.locator('[data-stage]');
  const at = await room.at('sun-lamp');
  const card = page.locator(`[data-material="${brass}"]`);
  await card.scrollIntoViewIfNeeded();
  const data = await page.evaluateHandle(() => new DataTransfer());
  await card.dispatchEvent('dragstart', { dataTransfer: data });
  const place = { dataTransfer: data, clientX: at.x, clientY: at.y };
  await stage.dispatchEvent('dragover', place as never);
  await expect(page.getByText('Let go: Sun lamp is made of Brass.')).toBeVisible();
  // Not yet: it is only shown.
  expect(await core(page).stored('sun-lamp')).toEqual(before);
  await stage.dispatchEvent('dragleave', place as never);
  await card.dispatchEvent('dragend', { dataTransfer: data });
  expect(await core(page).stored('sun-lamp')).toEqual(before);

  await card.dispatchEvent('dragstart', { dataTransfer: data });
  await stage.dispatchEvent('dragover', place as never);
  await stage.dispatchEvent('drop', place as never);
  await expect.poll(async () => (await core(page).stored('sun-lamp')).material).toBe(brass);

  await room.reveal('observatory');
  await room.pick('floor');
  await page.keyboard.press('Escape');
  const row = page.locator('#row-floor');
  await card.dispatchEvent('dragstart', { dataTransfer: data });
  await row.dispatchEvent('drop', { dataTransfer: data });
  await card.dispatchEvent('dragend', { dataTransfer: data });
  await expect.poll(async () => (await core(page).stored('floor')).material).toBe(brass);
  await room.key('Control+z');
  await room.key('Control+z');
  await expect.poll(() => core(page).stored('sun-lamp')).toEqual(before);
  await room.saved();
  await room.computesAsServer();
});

test('a material is edited live: its colour as the picker moves, its numbers; who else has it is said, a copy is one’s own', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('tread-1');
  await page.getByRole('tab', { name: 'What' }).click();
  const panel = page.getByRole('region', { name: 'Material' });
  await expect(panel.getByText(/more have it/)).toBeVisible();
  const plaster = (await core(page).stored('tread-1')).material!;
  await panel.getByRole('button', { name: 'Colour of the material', exact: true }).click();
  const plane = page.getByRole('slider', { name: 'Color' });
  await expect(plane).toBeVisible();
  const area = (await plane.boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.5, area.y + area.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.9, area.y + area.height * 0.2, { steps: 5 });
  // Shown on everything that has it, and not kept yet.
  const shown = () =>
    page.evaluate((id) => {
      interface Look {
        material: string;
      }
      const { pictures } = (window as unknown as { calmPivotStage: { pictures: { materials: { surface(kind: string, look: object): { color: { getHexString(): string } } } } } }).calmPivotStage; // prettier-ignore
      const look: Look & object = { material: id, tint: null, vertexColors: false, tangents: false } as never;
      return pictures.materials.surface('clay', look).color.getHexString();
    }, plaster);
  await expect.poll(shown).not.toBe('d6cab4');
  expect((await room.node('tread-1')).material).toBe(plaster);
  await page.mouse.up();
  await page.keyboard.press('Escape');
  await room.saved();
  const changed = (await core(page).materials()).find((m) => m.id === plaster)!;
  expect(changed.surface.color).not.toBe('#D6CAB4');
  await room.key('Control+z');
  await expect
    .poll(async () => (await core(page).materials()).find((m) => m.id === plaster)!.surface.color)
    .toBe('#D6CAB4');

  await panel.getByLabel('Roughness', { exact: true }).fill('0.2');
  await panel.getByLabel('Roughness', { exact: true }).press('Enter');
  await panel.getByLabel('Roughness', { exact: true }).fill('7');
  await panel.getByLabel('Roughness', { exact: true }).press('Enter');
  await expect(page.getByText('lie between 0 and 1')).toBeVisible();
  await panel.getByRole('button', { name: 'Own copy' }).click();
  await expect(panel.getByText('Nothing else has it')).toBeVisible();
  const own = (await core(page).stored('tread-1')).material!;
  expect(own).not.toBe(plaster);
  expect((await core(page).stored('tread-2')).material).toBe(plaster);
  await room.saved();
  await room.computesAsServer();
});

test('one takes the material of another by pressing it, and two windows see each other’s colours', async ({
  page,
  context,
}) => {
  const room = await Room.open(page);
  const other = await context.newPage();
  const there = await Room.enter(other, room.id);
  await room.pick('floor');
  await room.run('Take the material of an object');
  await expect(page.getByText('Press the object whose material is taken')).toBeVisible();
  const at = await room.at('sun-lamp');
  await page.mouse.click(at.x, at.y);
  const sun = (await core(page).stored('sun-lamp')).material!;
  await expect.poll(async () => (await core(page).stored('floor')).material).toBe(sun);
  await expect.poll(async () => (await core(other).stored('floor')).material).toBe(sun);
  await there.pick('floor');
  await other.getByRole('tab', { name: 'What' }).click();
  const figures = other.getByRole('region', { name: 'Material' }).getByLabel('Colour of the material, figures');
  await figures.fill('#12AB34');
  await figures.press('Enter');
  await expect
    .poll(async () => (await core(page).materials()).find((m) => m.id === sun)!.surface.color)
    .toBe('#12AB34');
  // Removed by the one while the other has it picked.
  await page.evaluate((id) => (window as unknown as { calmPivotSession: { keep(edit: object): void } }).calmPivotSession.keep({ do: 'removeMaterial', material: id }), sun); // prettier-ignore
  await expect.poll(async () => (await core(other).stored('floor')).material ?? null).toBe(null);
  await expect(other.getByText('Made of nothing in particular')).toBeVisible();
  await there.computesAsServer();
  await other.close();
});

test('in one shot only a thing is made of something else, and the scene’s comes back', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await page.locator('[data-shot="shot-02"]').click();
  await room.key('Shift+c');
  const brass = (await core(page).materials()).find((m) => m.name === 'Brass')!.id;
  const glass = (await room.node('globe')).material;
  await page.evaluate((id) => (window as unknown as { calmPivotSession: { keep(edit: object): void } }).calmPivotSession.keep({ do: 'assign', nodes: ['globe'], material: id }), brass); // prettier-ignore
  await room.saved();
  expect((await core(page).stored('globe')).material).toBe(brass);
  expect((await room.node('globe')).material).toBe(glass);
  await page.getByRole('tab', { name: 'What' }).click();
  await expect(page.getByRole('region', { name: 'Material' }).getByRole('button', { name: /Brass/ })).toBeVisible();
  await room.computesAsServer('shot-02');
  await page.locator('[data-shot="shot-03"]').click();
  await expect.poll(async () => (await core(page).stored('globe')).material).toBe(glass);
});

test('a picture that is dropped on the drawer is only kept, and one that is pasted is for what is picked', async ({
  page,
}) => {
  const room = await Room.open(page);
  await drawer(page);
  const before = (await core(page).materials()).length;
  await page
    .getByRole('group', { name: 'Materials' })
    .dispatchEvent('drop', { dataTransfer: await boards(page, 300, 200, 'Kept.jpg') } as never);
  await page.getByRole('region', { name: 'Bring in Kept.jpg' }).getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Kept “Kept.jpg” for materials: 300 × 200 pixels.')).toBeVisible();
  expect(await core(page).materials()).toHaveLength(before);

  await room.pick('floor');
  await page.evaluate((data) => document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data as DataTransfer })), await boards(page, 200, 100, 'Pasted.jpg') as never); // prettier-ignore
  const dialog = page.getByRole('region', { name: 'Bring in Pasted.jpg' });
  await dialog.getByLabel('Metres a picture').fill('');
  await dialog.getByRole('button', { name: 'Make a material of it' }).click();
  await expect.poll(async () => (await core(page).materials()).find((m) => m.name === 'Pasted')?.users).toBe(1);
  // Empty: by the thing's own coordinates.
  expect((await core(page).materials()).find((m) => m.name === 'Pasted')!.surface.lies).toBe(null);

  // What was kept is there for the next material.
  await page.getByRole('tab', { name: 'What' }).click();
  const panel = page.getByRole('region', { name: 'Material' });
  await panel.getByRole('button', { name: 'Add a picture' }).click();
  await page.getByRole('menuitem', { name: 'for glow' }).press('ArrowRight');
  await page.getByRole('menuitem', { name: 'Kept.jpg' }).click();
  await expect(panel.getByText('Glow · Kept.jpg')).toBeVisible();
  await panel.getByRole('button', { name: 'Take off the picture of glow' }).click();
  await expect(panel.getByText('Glow · Kept.jpg')).toBeHidden();
  await panel.getByLabel('Lies').selectOption('flat');
  await panel.getByLabel('From').selectOption('front');
  await panel.getByLabel('Metres a picture').fill('25cm');
  await panel.getByLabel('Metres a picture').press('Enter');
  await expect.poll(async () => (await core(page).materials()).find((m) => m.name === 'Pasted')!.surface.lies).toMatchObject({ how: 'flat', from: 'front', metres: 0.25 }); // prettier-ignore
  await room.saved();
  await room.computesAsServer();
});

test('bad pictures are refused in a sentence, and nothing is kept', async ({ page }) => {
  const room = await Room.open(page);
  await drawer(page);
  const list = page.getByRole('group', { name: 'Materials' });
  const bring = async (bytes: number[], name: string, type: string) => {
    const data = await page.evaluateHandle(
      ([b, n, t]) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([new Uint8Array(b as number[])], n as string, { type: t as string }));
        return transfer;
      },
      [bytes, name, type] as const,
    );
    await list.dispatchEvent('drop', { dataTransfer: data });
  };
  const png = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52];
  await bring([], 'Empty.png', 'image/png');
  await expect(page.getByText('The picture is empty')).toBeVisible();
  await bring([...png, 0, 0, 0x75, 0x30, 0, 0, 0x75, 0x30, 8, 6, 0, 0, 0], 'Huge.png', 'image/png');
  await expect(page.getByText('30000 × 30000 pixels')).toBeVisible();
  await bring([...png, 0, 0, 0, 40, 0, 0, 0, 40, 8, 6, 0, 0, 0], 'Cut.png', 'image/png');
  await expect(page.getByText('damaged or cut short')).toBeVisible();
  await bring([60, 115, 118, 103, 62], 'Lie.png', 'image/png');
  await expect(page.getByText('This is no picture that can be read')).toBeVisible();
  expect(await (await page.request.get(`/api/scenes/${room.id}/pictures`)).json()).toEqual([]);
});

test('a part of a mesh of several lights up and takes what is dropped on it', async ({ page }) => {
  const id = await texturedRoom(page.request);
  const room = await Room.enter(page, id);
  const mesh = await page.evaluate(() => {
    interface Row {
      id: string;
      kind: string;
    }
    const { rows } = (
      window as unknown as { calmPivotStore: { getState(): { rows: Row[] } } }
    ).calmPivotStore.getState();
    const all = (window as unknown as { calmPivotCore: Stored }).calmPivotCore;
    return rows.find((r) => r.kind === 'mesh' && (all.stored(r.id).materials?.length ?? 0) > 1)!.id;
  });
  await room.pick(mesh);
  await page.getByRole('tab', { name: 'What' }).click();
  const panel = page.getByRole('region', { name: 'Material' });
  await panel.getByRole('radio', { name: '2' }).click();
  const before = (await core(page).stored(mesh)).materials!;
  await panel.getByRole('button', { name: /^Material:/ }).click();
  await page.getByRole('menuitem', { name: 'New material' }).click();
  await expect.poll(async () => (await core(page).stored(mesh)).materials![1]).not.toBe(before[1]);
  expect((await core(page).stored(mesh)).materials![0]).toBe(before[0]);
  await room.saved();
  await room.computesAsServer();
});

test('the stage comes back by itself when the graphics card was taken away', async ({ page }) => {
  const room = await Room.open(page);
  await room.still();
  const picture = () => page.locator('[data-stage] canvas').screenshot();
  const before = await picture();
  await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-stage] canvas')!;
    const loss = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    loss.loseContext();
    setTimeout(() => loss.restoreContext(), 300);
  });
  await expect(page.getByText('The stage comes back by itself')).toBeVisible();
  await expect(page.getByText('The stage comes back by itself')).toBeHidden();
  await expect.poll(async () => (await picture()).equals(before)).toBe(true);
});

test('copied objects bring their pictures along into another scene, in the text or from where they were copied', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const from = await texturedRoom(page.request);
  const room = await Room.enter(page, from);
  const [top, ...others] = await room.nodes();
  const count = 1 + others.filter((n) => n.parent === top!.id).length;
  const images = async (id: string) => {
    const scene = (await (await page.request.get(`/api/scenes/${id}`)).json()) as {
      materials: { textures?: { image: string }[] }[];
    };
    return scene.materials.flatMap((m) => (m.textures ?? []).map((t) => t.image)).sort();
  };
  const pictures = await images(from);
  expect(pictures.length).toBeGreaterThan(0);
  await room.pick(top!.id);
  await room.key('Control+c');
  await expect(page.locator('[data-hint]')).toContainText('Copied');
  const clipboard = () =>
    page.evaluate(async () => JSON.parse(await navigator.clipboard.readText()) as Record<string, unknown>);
  await expect
    .poll(async () => Object.keys((await clipboard())['pictures'] ?? {}).sort())
    .toEqual([...new Set(pictures)]);
  const whole = await clipboard();
  const put = (text: object) => page.evaluate((t) => navigator.clipboard.writeText(t), JSON.stringify(text));
  const { pictures: _gone, ...bare } = whole;
  for (const text of [{ ...whole, from: 'nowhere' }, bare]) {
    const other = await emptyRoom(page);
    await put(text);
    await other.key('Control+v');
    await expect.poll(async () => (await other.nodes()).length).toBe(count);
    await other.saved();
    expect(await images(other.id)).toEqual(pictures);
    for (const image of pictures)
      expect((await page.request.get(`/api/scenes/${other.id}/pictures/${image}`)).status()).toBe(200);
    await other.key('Control+z');
    await other.saved();
    expect(await other.nodes()).toEqual([]);
  }

  const last = await emptyRoom(page);
  await put({ ...bare, from: 'nowhere' });
  await last.key('Control+v');
  await expect(page.getByRole('alert')).toContainText('is not in the copied text');
  expect(await last.nodes()).toEqual([]);
});

async function emptyRoom(page: Page): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'Elsewhere' } });
  return Room.enter(page, ((await made.json()) as { id: string }).id);
}
