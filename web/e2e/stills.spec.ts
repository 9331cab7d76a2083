import { expect, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { readFileSync } from 'node:fs';
import { Room, texturedRoom } from './room';
import { test } from './shared';

/** Lamps, the light of the scene and stills, as an artist uses them. */

interface Hooks {
  calmPivotCore: {
    revision(): number;
    lamps(): {
      id: string;
      type: string;
      intensity: number;
      color: string;
      on: boolean;
      own: string[];
      world: number[];
      temperature: number | null;
      size: number;
    }[];
    surroundings(): { style: string; exposure: number; strength: number; picture: string | null; own: string[] };
    stored(id: string): { camera?: Record<string, unknown>; light?: Record<string, unknown> };
  };
}

const lamp = (page: Page, id: string) =>
  page.evaluate((id) => (window as unknown as Hooks).calmPivotCore.lamps().find((l) => l.id === id)!, id);
const around = (page: Page) => page.evaluate(() => (window as unknown as Hooks).calmPivotCore.surroundings());
const drawer = async (page: Page, name: 'Lamps' | 'Stills') => {
  await page.getByRole('button', { name, exact: true }).click();
  await expect(page.locator(name === 'Lamps' ? '[data-lamps]' : '[data-stills]')).toBeVisible();
};

interface StillEntry {
  id: string;
  name: string;
  shot: string | null;
  revision: number;
  width: number;
  height: number;
  passes: number;
  parts: string[];
  madeOf: { metres?: [number, number] };
}
const stills = async (room: Room) =>
  (await (await room.request.get(`/api/scenes/${room.id}/stills`)).json()) as StillEntry[];

/** Makes a still by the panel. */
async function make(page: Page, act: (panel: ReturnType<Page['getByRole']>) => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'Make a still', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Make a still' });
  await act(panel);
  await panel.getByRole('button', { name: 'Make it' }).click();
}
const small = async (panel: ReturnType<Page['getByRole']>) => panel.getByLabel('Width, in pixels').fill('160');

test('the highlight of a lamp is put on the globe; a still, the camera moved, again, and the two compared', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const room = await Room.open(page);
  await room.pick('desk-glow');
  await page.getByRole('tab', { name: 'What' }).click();
  await page.getByRole('button', { name: 'Put its highlight…' }).click();
  await expect(page.locator('[data-hint]')).toContainText('Press where the highlight is to lie');
  const before = await lamp(page, 'desk-glow');
  const at = await room.at('globe');
  await page.mouse.click(at.x, at.y);
  await expect.poll(async () => (await lamp(page, 'desk-glow')).world).not.toEqual(before.world);
  await room.computesAsServer();
  await room.key('Control+z');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).world).toEqual(before.world);
  await room.key('Control+Shift+z');

  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'A camera' }).click();
    await small(panel);
    await expect(panel.locator('[data-says]')).toContainText(
      'Makes a quick still of Wide camera: 160 × 90 pixels, 1 pass',
    );
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  await room.pick('wide-camera');
  await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 0, edits: [{ do: 'move', nodes: ['wide-camera'], by: [1, 0, 0], space: { kind: 'own' } }] },
  });
  await room.run('Make the last still again');
  await expect(page.locator('[data-still]')).toHaveCount(2, { timeout: 60_000 });
  const [first, second] = await stills(room);
  expect(second!.revision).toBeGreaterThan(first!.revision);
  expect([second!.width, second!.height, second!.passes]).toEqual([160, 90, 1]);

  await page
    .getByRole('button', { name: /^Look at the still/ })
    .first()
    .click();
  const shown = page.getByRole('region', { name: 'Wide camera' });
  await expect(shown.locator('[data-two=beside] img')).toHaveCount(2);
  await shown.getByRole('radio', { name: 'Wipe' }).click();
  await shown.getByRole('slider').press('ArrowRight');
  await expect(shown.locator('[data-two=wipe] img').nth(1)).toHaveCSS('clip-path', 'inset(0px 0px 0px 51%)');
  await shown.getByRole('radio', { name: 'Difference' }).click();
  await expect(shown.locator('[data-two=difference] img').nth(1)).toHaveCSS('mix-blend-mode', 'difference');

  // They are there after a reload.
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible();
  await drawer(page, 'Stills');
  await expect(page.locator('[data-still]')).toHaveCount(2);
  await page
    .getByRole('button', { name: /^More of the still/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Remove it' }).click();
  await expect(page.locator('[data-still]')).toHaveCount(1);
});

test('clear ground is clear, final switches hold, and depth and mask lie beside', async ({ page }) => {
  test.setTimeout(90_000);
  const room = await Room.open(page);
  const image = async (part: string) => {
    const [still] = (await stills(room)).slice(-1);
    const bytes = await (await room.request.get(`/api/scenes/${room.id}/stills/${still!.id}/${part}`)).body();
    return decode(bytes);
  };
  const edits = [
    {
      do: 'create',
      node: {
        id: 'side',
        name: 'Side camera',
        kind: 'camera',
        placement: { position: [0, 50, 10] },
        camera: { fov: 30, aspect: 1 },
      },
    },
    {
      do: 'create',
      node: {
        id: 'one',
        name: 'One',
        kind: 'shape',
        shape: { type: 'box', size: [1, 1, 1] },
        placement: { position: [-1, 50, 0] },
      },
    },
    {
      do: 'create',
      node: {
        id: 'two',
        name: 'Two',
        kind: 'shape',
        shape: { type: 'box', size: [1, 1, 1] },
        placement: { position: [1, 50, 0] },
      },
    },
    { do: 'see', nodes: ['two'], final: false },
  ];
  await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base: 0, edits } });
  await room.pick('side');
  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'A camera' }).click();
    await panel.getByLabel('Width, in pixels').fill('64');
    await panel.getByLabel('transparent where nothing is').check();
    await panel.getByLabel('its depth beside it').check();
    await panel.getByLabel('a mask of its objects beside it').check();
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  expect((await stills(room))[0]!.parts).toEqual(['depth', 'mask', 'picture', 'small']);
  // A metre aside at ten metres, of 5.36 that are seen: 12 pixels beside the middle.
  const place = (x: number) => 32 * 64 + 32 + x;
  const picture = await image('picture');
  expect([picture.width, picture.height]).toEqual([64, 64]);
  expect([picture.data[4 * place(-12) + 3], picture.data[4 * place(12) + 3], picture.data[3]]).toEqual([255, 0, 0]);
  const mask = await image('mask');
  expect([mask.data[4 * place(-12) + 3], mask.data[4 * place(12) + 3]]).toEqual([255, 0]);
  const { metres } = (await stills(room))[0]!.madeOf;
  expect(metres![0]).toBeCloseTo(9.5, 2);
  const depth = await image('depth');
  expect([depth.depth, depth.channels]).toEqual([16, 1]);
  expect([depth.data[place(-12)]! > 0, depth.data[place(12)], depth.data[0]]).toEqual([true, 0, 0]);
});

test('a fine still is stopped and kept, or dropped, while arranging goes on; a part of it is made', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const room = await Room.open(page);
  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'This view' }).click();
    await panel.getByRole('radio', { name: 'Fine' }).click();
    await panel.getByRole('spinbutton', { name: 'Passes' }).fill('2000');
    await small(panel);
  });
  const making = page.locator('[data-making]');
  await expect(making).toContainText(/[2-9]\d* of 2000 passes · .* left/, { timeout: 60_000 });
  // Arranging goes on beside it, and is undone; the still shows what was there.
  await room.pick('globe');
  await room.key('m');
  await room.key('ArrowRight');
  await room.key('Control+z');
  await making.getByRole('button', { name: 'Keep this' }).click();
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  expect((await stills(room))[0]!.passes).toBeGreaterThan(1);
  expect((await stills(room))[0]!.passes).toBeLessThan(2000);

  await make(page, async (panel) => {
    await expect(panel.getByRole('radio', { name: 'Fine' })).toBeChecked();
  });
  await making.getByRole('button', { name: 'Drop it' }).click();
  await expect(making).toHaveCount(0, { timeout: 60_000 });
  expect(await stills(room)).toHaveLength(1);

  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'Quick' }).click();
    await panel.getByLabel('wide of the part, in hundredths').fill('50');
    await panel.getByLabel('high of the part, in hundredths').fill('25');
  });
  await expect(page.locator('[data-still]')).toHaveCount(2, { timeout: 60_000 });
  const [whole, part] = await stills(room);
  expect(Math.abs(part!.width - whole!.width / 2)).toBeLessThan(2);
  expect(Math.abs(part!.height - whole!.height / 4)).toBeLessThan(2);
});

test('the graphics card is taken away in the middle of a still, and it goes on', async ({ page }) => {
  test.setTimeout(90_000);
  const room = await Room.open(page);
  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'This view' }).click();
    await panel.getByRole('radio', { name: 'Fine' }).click();
    await panel.getByRole('spinbutton', { name: 'Passes' }).fill('12');
    await small(panel);
  });
  await expect(page.locator('[data-making]')).toContainText(/[2-9]\d* of 12 passes/, { timeout: 60_000 });
  await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-stage] canvas, canvas')!;
    const lose = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    lose.loseContext();
    setTimeout(() => lose.restoreContext(), 300);
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  expect((await stills(room))[0]!.passes).toBe(12);
});

test('the camera of the shot goes while its still is made: it is kept all the same', async ({ page }) => {
  test.setTimeout(90_000);
  const room = await Room.open(page);
  await page.locator('[data-shot=shot-03]').click();
  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'The current shot' }).click();
    await panel.getByRole('radio', { name: 'Fine' }).click();
    await panel.getByRole('spinbutton', { name: 'Passes' }).fill('12');
    await small(panel);
  });
  await expect(page.locator('[data-making]')).toContainText(/[1-9]\d* of 12 passes/, { timeout: 60_000 });
  await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: {
      base: 0,
      edits: [
        { do: 'removeShot', id: 'shot-03' },
        { do: 'remove', nodes: ['dome-camera'] },
      ],
    },
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByText(/Made a still of/)).toBeVisible();
});

test('lamps are switched, dimmed, lit alone and for all; exposure and surroundings, in the scene and in a shot', async ({
  page,
}) => {
  test.setTimeout(90_000);
  const room = await Room.open(page);
  await drawer(page, 'Lamps');
  await expect(page.locator('[data-lamp]')).toHaveCount(3);
  const glow = page.locator('[data-lamp=desk-glow]');
  await glow.getByRole('button', { name: 'Desk glow is on' }).click();
  await expect.poll(async () => (await lamp(page, 'desk-glow')).on).toBe(false);
  await glow.getByRole('button', { name: 'Desk glow is off' }).click();
  await expect.poll(async () => (await lamp(page, 'desk-glow')).on).toBe(true);

  // A colour that another lamp shines in; its own temperature goes.
  const { color: warm } = await lamp(page, 'sun-glow');
  await glow.getByRole('button', { name: 'Colour of Desk glow' }).click();
  await page.getByRole('group', { name: 'Colours of the scene' }).getByRole('button', { name: warm }).click();
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).color).toBe(warm);
  expect((await lamp(page, 'desk-glow')).temperature).toBeNull();
  await room.key('Control+z');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).temperature).toBe(2800);

  const strength = (await lamp(page, 'desk-glow')).intensity;
  await glow.getByRole('slider', { name: 'Strength of Desk glow' }).press('ArrowRight');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).intensity).toBeGreaterThan(strength);
  await room.key('Control+z');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).intensity).toBe(strength);
  await page.getByRole('slider', { name: 'All lamps together' }).press('ArrowRight');
  await expect.poll(async () => (await lamp(page, 'sun-glow')).intensity).toBeCloseTo(2.2 * 2 ** 0.1, 6);
  await room.key('Control+z');

  await page.getByRole('button', { name: 'View', exact: true }).click();
  await glow.getByRole('button', { name: 'Desk glow alone' }).click();
  await expect(glow.getByRole('button', { name: 'Desk glow alone' })).toHaveAttribute('aria-pressed', 'true');
  await glow.getByRole('button', { name: 'Desk glow alone' }).click();

  await page.getByRole('slider', { name: 'Exposure, in stops' }).press('ArrowRight');
  await expect.poll(async () => (await around(page)).exposure).toBeCloseTo(0.5, 6);
  await room.key('Control+z');
  await page.getByRole('button', { name: 'Meter' }).click();
  await expect.poll(async () => (await around(page)).exposure).not.toBe(0.4);
  await room.key('Control+z');

  // In one shot only.
  await page.getByRole('button', { name: 'Shots', exact: true }).click();
  await page.locator('[data-shot=shot-03]').click();
  await room.key('Shift+c');
  await drawer(page, 'Lamps');
  await page.getByRole('button', { name: 'Surroundings' }).click();
  const panel = page.getByRole('region', { name: 'Surroundings' });
  await panel.getByRole('radio', { name: 'Even' }).click();
  await expect.poll(async () => (await around(page)).own).toEqual(['surroundings']);
  await panel.getByRole('button', { name: /take back surroundings/ }).click();
  await expect.poll(async () => (await around(page)).own).toEqual([]);
  await room.computesAsServer('shot-03');
});

test('a lamp becomes a panel with a temperature, and turns to a point that is pressed', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('desk-glow');
  await page.getByRole('tab', { name: 'What' }).click();
  await page.getByRole('radio', { name: 'Panel' }).click();
  await expect.poll(async () => (await lamp(page, 'desk-glow')).type).toBe('panel');
  await page.getByLabel('A temperature of the trade').selectOption('5600');
  await expect.poll(async () => (await lamp(page, 'desk-glow')).temperature).toBe(5600);
  await page.getByRole('button', { name: 'Turn to…' }).click();
  const at = await room.at('globe');
  await page.mouse.click(at.x, at.y);
  await expect(page.locator('[data-hint]')).not.toContainText('Press the point');
  // Its ray passes the middle of the globe at less than the globe's radius.
  const { world: m } = await lamp(page, 'desk-glow');
  const middle = await page.evaluate(() => {
    const { low, high } = (
      window as unknown as { calmPivotCore: { boundsOf(ids: string[]): { low: number[]; high: number[] } } }
    ).calmPivotCore.boundsOf(['globe']);
    return low.map((v, i) => (v + high[i]!) / 2);
  });
  const way = [0, 1, 2].map((i) => middle[i]! - m[12 + i]!);
  const along = -(way[0]! * m[8]! + way[1]! * m[9]! + way[2]! * m[10]!);
  expect(along).toBeGreaterThan(0);
  expect(Math.hypot(...way) ** 2 - along ** 2).toBeLessThan(0.2 ** 2);
  await page.getByLabel('casts shadows').uncheck();
  await expect(page.getByLabel('casts shadows')).not.toBeChecked();
  await room.computesAsServer();
});

test('a camera takes a lens of the trade, a shift, an aperture and something to be sharp at', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('wide-camera');
  await page.getByRole('tab', { name: 'What' }).click();
  const camera = () => page.evaluate(() => (window as unknown as Hooks).calmPivotCore.stored('wide-camera').camera!);
  await page.getByLabel('A lens of the trade').selectOption('85');
  await expect.poll(async () => (await camera())['fov']).toBeCloseTo((2 * Math.atan(20.25 / 170) * 180) / Math.PI, 6);
  await page.getByLabel('A picture size of the trade').selectOption('1080×1080');
  await expect.poll(async () => [(await camera())['pixels'], (await camera())['aspect']]).toEqual([1080, 1]);
  await page.getByRole('textbox', { name: 'Shift up' }).fill('0.25');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await camera())['shiftY']).toBe(0.25);
  await page.getByRole('textbox', { name: 'Aperture' }).fill('2.8');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'On…' }).click();
  const at = await room.at('globe');
  await page.mouse.click(at.x, at.y);
  await expect(page.getByText('Sharp at Globe', { exact: false }).last()).toBeVisible();
  expect((await camera())['focusOn']).toBeTruthy();
  await room.computesAsServer();
});

test('two hundred lamps: the view says what it leaves out, and a still shows all', async ({ page }) => {
  test.setTimeout(120_000);
  const id = await texturedRoom(page.request);
  const edits = Array.from({ length: 200 }, (_, i) => ({
    do: 'create',
    node: {
      name: `Lamp ${i}`,
      kind: 'light',
      placement: { position: [(i % 20) - 10, 3, Math.floor(i / 20) - 5] },
      light: { type: i % 3 === 0 ? 'point' : 'spot', intensity: 0.5, shadow: i % 40 === 0 },
    },
  }));
  const done = await page.request.post(`/api/scenes/${id}/edits`, { data: { base: 1, edits } });
  expect(done.status(), await done.text()).toBe(200);
  const room = await Room.enter(page, id);
  await drawer(page, 'Lamps');
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await expect(page.getByText(/The view leaves out 18\d lamps/)).toBeVisible({ timeout: 30_000 });
  await drawer(page, 'Stills');
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'This view' }).click();
    await small(panel);
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 90_000 });
  expect(room.id).toBe(id);
});

test('where nothing can be made the panel says why; a wrong width is put right', async ({ page }) => {
  await Room.open(page);
  await drawer(page, 'Stills');
  await page.getByRole('button', { name: 'Make a still', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Make a still' });
  await expect(panel.getByRole('radio', { name: 'This view' })).toBeChecked();
  await panel.getByRole('radio', { name: 'The current shot' }).click();
  await expect(panel.locator('[data-says]')).toContainText('No shot is current');
  await expect(panel.getByRole('button', { name: 'Make it' })).toBeDisabled();
  await panel.getByRole('radio', { name: 'This view' }).click();
  await panel.getByLabel('Width, in pixels').fill('99999');
  await expect(panel.getByLabel('Width, in pixels')).toHaveValue('8192');
  // Key by key: what is too small at first may become larger, and is put right when the field is left.
  await panel.getByRole('radio', { name: 'Fine' }).click();
  const passes = panel.getByRole('spinbutton', { name: 'Passes' });
  const type = async (text: string) => {
    await passes.focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    for (const key of text) await page.keyboard.press(key);
  };
  await type('128');
  await expect(panel.locator('[data-says]')).toContainText('128 passes');
  await type('1');
  await page.keyboard.press('Tab');
  await expect(passes).toHaveValue('2');
  await type('');
  await page.keyboard.press('Tab');
  await expect(passes).toHaveValue('2');
});

test('a picture goes all the way round, is seen behind, and stays with the scene', async ({ page }) => {
  const room = await Room.open(page);
  const picture = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [128, 64];
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#ff0000';
    context.fillRect(0, 0, 128, 64);
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    return [...new Uint8Array(await blob!.arrayBuffer())];
  });
  await drawer(page, 'Lamps');
  await page.getByRole('button', { name: 'Surroundings' }).click();
  const panel = page.getByRole('region', { name: 'Surroundings' });
  await panel.getByRole('radio', { name: 'Picture' }).click();
  await panel
    .getByLabel('Picture of the surroundings, from a file')
    .setInputFiles({ name: 'Red.png', mimeType: 'image/png', buffer: Buffer.from(picture) });
  await expect(panel.getByLabel('Picture of the surroundings', { exact: true })).toHaveValue(/^[0-9a-f]{16,}$/);
  await panel.getByRole('textbox', { name: 'Strength' }).fill('1');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await around(page)).strength).toBe(1);
  await page.waitForTimeout(500);
  // A still of the empty sky is as red as the picture.
  const edits = [
    {
      do: 'create',
      node: {
        id: 'up',
        name: 'Up',
        kind: 'camera',
        placement: { position: [0, 60, 0], rotation: [60, 0, 0] },
        camera: { aspect: 1 },
      },
    },
    { do: 'setSurroundings', exposure: 0 },
  ];
  await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base: 0, edits } });
  await room.pick('up');
  await drawer(page, 'Stills');
  await make(page, async (maker) => {
    await maker.getByRole('radio', { name: 'A camera' }).click();
    await maker.getByLabel('Width, in pixels').fill('32');
    await maker.getByRole('radio', { name: 'None' }).click();
  });
  await expect(page.locator('[data-still]')).toHaveCount(1, { timeout: 60_000 });
  const middle = async () => {
    const still = (await stills(room)).at(-1)!;
    const { data, channels } = decode(
      await (await room.request.get(`/api/scenes/${room.id}/stills/${still.id}`)).body(),
    );
    const at = (16 * 32 + 16) * channels;
    return Array.from(data.slice(at, at + 3), (v) => (v > 250 ? 1 : v < 5 ? 0 : v));
  };
  expect(await middle()).toEqual([1, 0, 0]);
  // A shot keeps it while the scene, and the view that is lit meanwhile, have another: its stills are red in every pass.
  const { picture: red } = await around(page);
  const blue = { do: 'setSurroundings', style: 'even', color: '#0000FF', strength: 1 };
  const shot = { do: 'shot', shot: { id: 'red', number: '900', name: 'Red', camera: 'up' } };
  const own = { shot: 'red', scope: 'shot', edits: [{ do: 'setSurroundings', style: 'picture', picture: red }] };
  for (const data of [{ edits: [blue, shot] }, own]) {
    const base = await page.evaluate(() => (window as unknown as Hooks).calmPivotCore.revision());
    const kept = await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base, ...data } });
    expect(kept.ok(), await kept.text()).toBe(true);
    await expect.poll(async () => (await around(page)).style).toBe('even');
  }
  await room.key('Shift+h');
  await room.still();
  const passed = await page.evaluate(async () => {
    const { calmPivotStage: stage } = window as unknown as {
      calmPivotStage: {
        draw(): void;
        still(plan: object, going: object, progress: () => void): Promise<{ picture: Blob }>;
      };
    };
    const plan = { shot: 'red', camera: null, view: null, width: 32, height: 32, part: null, passes: 6 };
    const { picture } = await stage.still(
      { ...plan, transparent: false, tone: 'none', depth: false, mask: false },
      { stop: false, gone: false },
      () => stage.draw(),
    );
    const canvas = new OffscreenCanvas(32, 32).getContext('2d')!;
    canvas.drawImage(await createImageBitmap(picture), 0, 0);
    return Array.from(canvas.getImageData(16, 16, 1, 1).data.slice(0, 3));
  });
  expect([passed[0]! > 250, passed[1]! < 5, passed[2]! < 5]).toEqual([true, true, true]);
  // What a file has no place for is said, and not lost here.
  const file = await room.request.get(`/api/scenes/${room.id}/export?format=glb`);
  expect(file.headers()['calm-pivot-note']).toContain('The picture of the surroundings stays here');
});

test('with a second window: a lamp is dimmed while its colour changes there, stills are made in both, and leaving while one is made is asked about', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  const room = await Room.open(page);
  const context = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const other = await Room.enter(await context.newPage(), room.id);
  await drawer(page, 'Lamps');
  const slider = page.getByRole('slider', { name: 'Strength of Desk glow' });
  const thumb = (await slider.boundingBox())!;
  await page.mouse.move(thumb.x + thumb.width / 2, thumb.y + thumb.height / 2);
  await page.mouse.down();
  await page.mouse.move(thumb.x + thumb.width / 2 + 12, thumb.y + thumb.height / 2, { steps: 4 });
  // The lamp gets a colour, another one goes, and the surroundings change, all in the middle of the drag.
  const base = await page.evaluate(() => (window as unknown as Hooks).calmPivotCore.revision());
  const theirs = [
    { do: 'setLight', nodes: ['desk-glow'], color: '#80C0FF' },
    { do: 'remove', nodes: ['sun-glow'] },
    { do: 'setSurroundings', exposure: 1 },
  ];
  const kept = await page.request.post(`/api/scenes/${room.id}/edits`, { data: { base, edits: theirs } });
  expect(kept.ok(), await kept.text()).toBe(true);
  await expect(page.locator('[data-lamp]')).toHaveCount(2);
  await page.mouse.up();
  await room.saved();
  const dimmed = await lamp(page, 'desk-glow');
  expect(dimmed.color === '#80C0FF' && dimmed.intensity > 1.5, JSON.stringify(dimmed)).toBe(true);
  await expect.poll(async () => (await lamp(other.page, 'desk-glow')).intensity).toBe(dimmed.intensity);
  await room.computesAsServer();
  await room.key('Control+z');
  await expect.poll(async () => (await lamp(other.page, 'desk-glow')).intensity).toBeCloseTo(1.4, 6);
  expect((await lamp(page, 'desk-glow')).color).toBe('#80C0FF');

  // A still in each; the lists of both show both.
  for (const { page: one } of [room, other]) {
    await drawer(one, 'Stills');
    await make(one, async (panel) => {
      await panel.getByRole('radio', { name: 'This view' }).click();
      await small(panel);
    });
    await expect(one.locator('[data-making]')).toHaveCount(0, { timeout: 60_000 });
  }
  await expect(page.locator('[data-still]')).toHaveCount(2);
  await expect(other.page.locator('[data-still]')).toHaveCount(2);

  // Leaving while one is made is asked about; what was there by then is lost, the scene is not.
  await make(page, async (panel) => {
    await panel.getByRole('radio', { name: 'This view' }).click();
    await panel.getByRole('radio', { name: 'Fine' }).click();
    await panel.getByRole('spinbutton', { name: 'Passes' }).fill('2000');
    await small(panel);
  });
  await expect(page.locator('[data-making]')).toContainText(/[2-9]\d* of 2000/, { timeout: 60_000 });
  const asked = page.waitForEvent('dialog');
  void page.reload().catch(() => undefined);
  const question = await asked;
  expect(question.type()).toBe('beforeunload');
  await question.accept();
  await expect(page.getByRole('tree')).toBeVisible({ timeout: 30_000 });
  await drawer(page, 'Stills');
  await expect(page.locator('[data-still]')).toHaveCount(2);
  await context.close();
});

test('the pictures of two shots are wiped over each other', async ({ page }) => {
  const room = await Room.open(page);
  await room.run('Compare');
  const panel = page.getByRole('region', { name: 'Compare' });
  await panel.getByLabel('The first shot').selectOption('shot-01');
  await panel.getByLabel('The second shot, or the scene').selectOption('shot-02');
  await panel.getByRole('button', { name: 'Their pictures' }).click();
  await expect(panel.locator('[data-two=beside] img')).toHaveCount(2, { timeout: 30_000 });
  await panel.getByRole('radio', { name: 'Wipe' }).click();
  await panel.getByRole('slider').press('ArrowLeft');
  await expect(panel.locator('[data-two=wipe] img').nth(1)).toHaveCSS('clip-path', 'inset(0px 0px 0px 49%)');
});

test('the stills of all shots go out in one file; where a shot has none, one is made first', async ({ page }) => {
  const room = await Room.open(page);
  const edits = ['shot-02', 'shot-03', 'shot-05'].map((id) => ({ do: 'removeShot', id }));
  const { revision } = (await (await room.request.get(`/api/scenes/${room.id}`)).json()) as { revision: number };
  const answer = await room.request.post(`/api/scenes/${room.id}/edits`, { data: { base: revision, edits } });
  expect(answer.status(), await answer.text()).toBe(200);
  await expect(page.locator('[data-shots]').getByText('05 Moon')).toHaveCount(0);
  const [given] = await Promise.all([
    page.waitForEvent('download', { timeout: 90_000 }),
    room.run('Download the stills of all shots'),
  ]);
  expect(given.suggestedFilename()).toMatch(/ stills\.zip$/);
  const files = unzipSync(new Uint8Array(readFileSync(await given.path())));
  const made = await stills(room);
  expect(made.map((s) => s.shot)).toEqual(['shot-01', 'shot-04']);
  expect(Object.keys(files)).toEqual(made.map((s) => `${s.name}.png`));
  for (const [name, bytes] of Object.entries(files)) {
    const { width, height } = decode(bytes);
    const still = made.find((s) => `${s.name}.png` === name)!;
    expect([width, height]).toEqual([still.width, still.height]);
  }
});
