import { expect, test } from '@playwright/test';
import { Room } from './room';

/** Lamps and cameras: their fields, several at once, their handles on the stage, and a camera from the view. */
interface Lens {
  id: string;
  light?: { type: string; color: string; intensity: number; range?: number; innerCone?: number; outerCone?: number };
  camera?: { projection: string; fov: number; height: number; near: number; far: number; aspect?: number };
}

const lens = async (room: Room, id: string) => (await room.node(id)) as unknown as Lens;

async function type(room: Room, label: string, text: string): Promise<void> {
  await room.field(label).fill(text);
  await room.page.keyboard.press('Enter');
}

test('a lamp is changed by its fields, undone, done again, and is the same after a reload', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('sun-glow');
  await room.chapter('What');
  const before = (await lens(room, 'sun-glow')).light!;
  await type(room, 'Intensity', '40');
  await expect(page.locator('[data-hint]')).toContainText('Changed the light of Sun glow: intensity 40 cd');
  await type(room, 'Intensity', '*2');
  await type(room, 'Range', '3');
  await page.getByRole('radio', { name: 'Spot' }).click();
  await type(room, 'Outer cone', '30');
  await type(room, 'Inner cone', '12');
  await type(room, 'Colour of the lamp, figures', 'fc8');
  await room.saved();
  expect((await lens(room, 'sun-glow')).light).toEqual({
    type: 'spot',
    color: '#FFCC88',
    size: 0.3,
    intensity: 80,
    range: 3,
    innerCone: 12,
    outerCone: 30,
  });
  await type(room, 'Intensity', '-4');
  await expect(page.getByRole('alert')).toContainText('“Sun glow” needs an intensity');
  await page.keyboard.press('Escape');
  await type(room, 'Colour of the lamp, figures', 'blue');
  await expect(page.getByRole('alert')).toContainText('colour');
  await page.getByRole('button', { name: 'Without end' }).click();
  await room.saved();
  expect((await lens(room, 'sun-glow')).light!.range).toBeUndefined();
  for (let i = 0; i < 8; i++) {
    await room.key('Control+z');
    await room.saved();
  }
  expect((await lens(room, 'sun-glow')).light).toEqual(before);
  await room.key('Control+Shift+z');
  await room.saved();
  await page.reload();
  await page.waitForSelector('[role=tree]');
  await room.pick('sun-glow');
  // The chapter that was open last is open again.
  await expect(room.field('Intensity')).toHaveValue('40.000');
});

test('several lamps: what differs is mixed, numbers set all or change each, and another window hears of it', async ({
  page,
  browser,
}) => {
  const room = await Room.open(page);
  const other = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  const second = await Room.enter(other, room.id);
  await second.pick('desk-glow');
  await second.chapter('What');
  await room.pick('sun-glow');
  await room.pick('desk-glow', true);
  await room.chapter('What');
  const [a, b] = [(await lens(room, 'sun-glow')).light!, (await lens(room, 'desk-glow')).light!];
  await expect(page.getByRole('region', { name: 'Lamp' })).toContainText('of 2 lamps');
  await expect(room.field('Intensity')).toHaveAttribute('placeholder', 'mixed');
  await type(room, 'Intensity', '*3');
  await room.saved();
  expect((await lens(room, 'sun-glow')).light!.intensity).toBeCloseTo(3 * a.intensity, 9);
  expect((await lens(room, 'desk-glow')).light!.intensity).toBeCloseTo(3 * b.intensity, 9);
  await type(room, 'Range', '2');
  await room.saved();
  expect([(await lens(room, 'sun-glow')).light!.range, (await lens(room, 'desk-glow')).light!.range]).toEqual([2, 2]);
  await expect(second.field('Range')).toHaveValue('2.000');
  await second.computesAsServer();
});

test('a camera is changed by its fields, and what cannot be is refused by name', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('wide-camera');
  await room.chapter('What');
  await type(room, 'Angle of view', '24');
  await type(room, 'Far', '50');
  await room.saved();
  expect((await lens(room, 'wide-camera')).camera).toMatchObject({ fov: 24, far: 50 });
  await type(room, 'Near', '60');
  await expect(page.getByRole('alert')).toContainText('“Wide camera” needs');
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: 'Parallel' }).click();
  await type(room, 'Height', '2.5');
  await type(room, 'Width : height', '4/3');
  await room.saved();
  const { camera } = await lens(room, 'wide-camera');
  expect(camera).toMatchObject({ projection: 'parallel', height: 2.5 });
  expect(camera!.aspect).toBeCloseTo(4 / 3, 9);
  await page.getByRole('button', { name: '16 : 9' }).click();
  await room.saved();
  expect((await lens(room, 'wide-camera')).camera!.aspect).toBeUndefined();
});

test('cone, range and angle of view are dragged on the stage; Esc puts them back', async ({ page }) => {
  const room = await Room.open(page);
  const made = { id: 'spot', name: 'Spot', kind: 'light', placement: { position: [0, 2.5, 2], rotation: [-60, 0, 0] } };
  await room.request.post(`/api/scenes/${room.id}/edits`, {
    data: {
      base: 1,
      edits: [{ do: 'create', node: { ...made, light: { type: 'spot', innerCone: 10, outerCone: 25, range: 2 } } }],
    },
  });
  await room.pick('spot');
  await page.evaluate(() =>
    (window as unknown as { calmPivotStage: { frame(ids: string[], glide: boolean): void } }).calmPivotStage.frame(
      ['spot'],
      false,
    ),
  );
  await room.still();
  const grip = async (part: string) => {
    const box = (await page.locator(`g[data-lens="${part}"] .hit-area`).first().boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const middle = await page.locator('.handles .pivot circle').first().boundingBox();
  const centre = { x: middle!.x + middle!.width / 2, y: middle!.y + middle!.height / 2 };
  const pull = async (part: string, far: number, end: 'release' | 'escape') => {
    const from = await grip(part);
    const [dx, dy] = [from.x - centre.x, from.y - centre.y];
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    for (let i = 1; i <= 4; i++) await page.mouse.move(from.x + (dy * far * i) / 4, from.y - (dx * far * i) / 4);
    if (end === 'escape') await page.keyboard.press('Escape');
    await page.mouse.up();
  };
  await pull('outerCone', 0.3, 'escape');
  expect((await lens(room, 'spot')).light!.outerCone).toBe(25);
  await pull('outerCone', -0.25, 'release');
  await expect(page.locator('[data-hint]')).toContainText('Changed the light of Spot: outer cone');
  await room.saved();
  const wide = (await lens(room, 'spot')).light!;
  expect(Math.abs(wide.outerCone! - 25)).toBeGreaterThan(4);
  // In steps of five degrees, as the sentence has it for turning.
  expect(wide.outerCone! % 5).toBeCloseTo(0, 6);
  expect([wide.range, wide.intensity]).toEqual([2, 100]);
  await room.key('Control+z');
  await room.saved();
  expect((await lens(room, 'spot')).light!.outerCone).toBe(25);

  // By keys, too.
  await page.locator('g[data-lens="range"]').focus();
  await page.keyboard.press('ArrowUp');
  await room.saved();
  expect((await lens(room, 'spot')).light!.range).toBeCloseTo(2.1, 9);

  await room.pick('orrery-camera');
  await room.still();
  await expect(page.locator('g[data-lens="fov"]')).toHaveCount(1);
  await page.locator('g[data-lens="fov"]').focus();
  const { fov } = (await lens(room, 'orrery-camera')).camera!;
  await page.keyboard.press('Shift+ArrowDown');
  await room.saved();
  expect((await lens(room, 'orrery-camera')).camera!.fov).toBeCloseTo(fov - 10, 9);
  // Somebody locks it: nothing is there to take hold of.
  await room.run('Lock or unlock');
  await expect(page.locator('g[data-lens]')).toHaveCount(0);
});

test('a camera is made from the view, sees what the view sees, and goes with one undo', async ({ page }) => {
  const room = await Room.open(page);
  const view = await page.evaluate(() =>
    (window as unknown as { calmPivotStage: { viewWorld(): number[] } }).calmPivotStage.viewWorld(),
  );
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Camera from this view' }).click();
  await room.saved();
  const [id] = await room.picked();
  const { world } = await room.evaluated(id!);
  world.forEach((v, i) => expect(v).toBeCloseTo(view[i]!, 6));
  expect((await lens(room, id!)).camera!.fov).toBeCloseTo(36, 6);
  await room.key('Control+z');
  await room.saved();
  expect((await room.nodes()).some((n) => n.id === id)).toBe(false);
});
