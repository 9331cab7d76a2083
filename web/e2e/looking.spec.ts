import { expect } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

const distance = (a: number[], b: number[]) => Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

test('one view or four, by key and by label; each keeps its own place, and a drag in one shows in all', async ({
  page,
}) => {
  const room = await Room.open(page);
  const labels = page.getByRole('toolbar', { name: /^View:/ });
  await expect(labels).toHaveCount(1);
  await room.key('Shift+Digit8');
  await expect(labels).toHaveCount(4);
  const before = await Promise.all([0, 1, 2, 3].map((i) => room.look(i)));

  // Orbiting in one leaves the others alone.
  await room.sweep(await room.viewAt(0), await room.viewAt(0, 60, 20), 'right');
  const after = await Promise.all([0, 1, 2, 3].map((i) => room.look(i)));
  expect(distance(after[0]!, before[0]!)).toBeGreaterThan(0.01);
  for (const i of [1, 2, 3]) expect(distance(after[i]!, before[i]!)).toBe(0);

  // A needle dragged in the front view moves the handles of every view.
  await room.pick('telescope');
  const place = async (view: number) =>
    JSON.stringify(await page.locator(`[data-view="${view}"] .handles .pivot circle`).first().boundingBox());
  await room.still();
  const pivots = await Promise.all([0, 1, 2, 3].map(place));
  const needle = page.locator('[data-view="2"] g[data-handle="needle"][data-axis="0"] path.hit');
  const grip = await needle.evaluate((p) => {
    const path = p as SVGPathElement;
    const { x, y } = path.getPointAtLength(path.getTotalLength() * 0.8).matrixTransform(path.getScreenCTM()!);
    return { x, y };
  });
  await room.sweep(grip, { x: grip.x + 40, y: grip.y });
  await room.saved();
  await room.still();
  const moved = await Promise.all([0, 1, 2].map(place));
  moved.forEach((at, i) => expect(at).not.toBe(pivots[i]));

  // A press on a label shows that view alone; again, all four.
  await page
    .getByRole('toolbar', { name: 'View: Front' })
    .getByRole('button', { name: /^Front/ })
    .click();
  await expect(labels).toHaveCount(1);
  await page.getByRole('button', { name: /^Front/ }).click();
  await expect(labels).toHaveCount(4);
});

test('a view glides to what it is to show, and stands there at once where motion is unwelcome', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('telescope');
  await room.still();
  /** Frames one thing and then all; how far the eye was from its end at each picture in between. */
  const ways = () =>
    page.evaluate(async () => {
      interface Stage {
        frame(ids: string[] | null, glide: boolean): void;
        viewWorld(): number[];
      }
      const stage = (window as unknown as { calmPivotStage: Stage }).calmPivotStage;
      const seen: number[][] = [];
      for (const ids of [['telescope'], null]) {
        stage.frame(ids, true);
        seen.push(stage.viewWorld());
        for (const end = performance.now() + 400; performance.now() < end;) {
          await new Promise((done) => requestAnimationFrame(done));
          seen.push(stage.viewWorld());
        }
      }
      return new Set(seen.map((w) => w.map((v) => v.toFixed(6)).join())).size;
    });
  expect(await ways()).toBe(2);
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  // From where all is shown to the thing and back: the two ends, and places between.
  expect(await ways()).toBeGreaterThan(3);
  const glided = await room.look();
  await page.emulateMedia({ reducedMotion: 'reduce' });
  expect(await ways()).toBe(2);
  expect(distance(await room.look(), glided)).toBeLessThan(1e-9);
});

test('standard views, parallel, previous view, and back to the start', async ({ page }) => {
  const room = await Room.open(page);
  const start = await room.look();
  for (const [key, name, axis, sign] of [
    ['1', 'Front', 2, 1],
    ['2', 'Back', 2, -1],
    ['3', 'Right', 0, 1],
    ['4', 'Left', 0, -1],
    ['5', 'Top', 1, 1],
    ['6', 'Bottom', 1, -1],
  ] as const) {
    await room.key(`Shift+Digit${key}`);
    await expect(page.getByRole('toolbar', { name: `View: ${name}` })).toBeVisible();
    // The third column of the view's matrix leads toward the eye.
    expect((await room.look())[8 + axis]).toBeCloseTo(sign, 9);
  }
  await room.key('[');
  await expect(page.getByRole('toolbar', { name: 'View: Top' })).toBeVisible();
  await room.key(']');
  await expect(page.getByRole('toolbar', { name: 'View: Bottom' })).toBeVisible();
  await room.key('Shift+Digit7');
  await expect(page.getByRole('button', { name: /^Shading/ })).not.toContainText('parallel');
  await room.key('Shift+Digit9');
  expect(distance(await room.look(), start)).toBeLessThan(1e-9);
  await room.sweep(await room.viewAt(0, 0, -150), await room.viewAt(0, 90, -120), 'right');
  expect(distance(await room.look(), start)).toBeGreaterThan(0.1);
  await room.key('Home');
  expect(distance(await room.look(), start)).toBeLessThan(1e-9);
});

test('set one thing on another, and see from the front and from the side that they touch', async ({ page }) => {
  const made = await page.request.post('/api/scenes', { data: { name: 'Two boxes' } });
  const { id } = (await made.json()) as { id: string };
  const box = (name: string, y: number) => ({
    do: 'create',
    node: {
      id: name,
      name,
      kind: 'shape',
      shape: { type: 'box' },
      placement: { position: [0, y, 0], pivot: [0, -0.5, 0] },
    },
  });
  await page.request.post(`/api/scenes/${id}/edits`, {
    data: { base: 1, edits: [box('lower', 0), box('upper', 1.7)] },
  });
  const room = await Room.enter(page, id);
  await room.pick('upper');
  await room.field('Position Y').fill('1');
  await page.keyboard.press('Enter');
  await room.saved();
  for (const side of ['Shift+Digit1', 'Shift+Digit3']) {
    await room.key(side);
    await room.key('Shift+v');
    const [low, high] = [await room.at('lower'), await room.at('upper')];
    // Along the line between the two middles there is no gap: a pixel above their seam is one, a pixel below the other.
    const seam = (low.y + high.y) / 2;
    const under = (y: number) =>
      page.evaluate(
        ([px, py]) => {
          interface Stage {
            view: unknown;
            pick(view: unknown, x: number, y: number): { id: string } | null;
          }
          const stage = (window as unknown as { calmPivotStage: Stage }).calmPivotStage;
          const bounds = document.querySelector('[data-stage]')!.getBoundingClientRect();
          return stage.pick(stage.view, px! - bounds.x, py! - bounds.y)?.id ?? null;
        },
        [low.x, y],
      );
    expect(await under(seam - 1)).toBe('upper');
    expect(await under(seam + 1)).toBe('lower');
  }
});

test('look through a camera, come back; steering moves the camera and nothing else does', async ({ page }) => {
  const room = await Room.open(page);
  const free = await room.look();
  const camera = (await room.evaluated('wide-camera')).world;
  await room.key('Shift+Digit0');
  await expect(page.getByRole('toolbar', { name: 'View: Wide camera' })).toBeVisible();
  expect(distance((await room.look()).slice(12, 15), camera.slice(12, 15))).toBeLessThan(1e-9);
  await room.key('Shift+Digit9');
  expect(distance(await room.look(), free)).toBeLessThan(1e-9);

  // Navigating leaves the camera where it stands, and says so.
  await room.key('Shift+Digit0');
  await room.sweep(await room.viewAt(0, 0, -150), await room.viewAt(0, 60, -150), 'right');
  await expect(page.locator('[data-hint]')).toContainText('it stays where it is');
  expect((await room.evaluated('wide-camera')).world).toEqual(camera);
  await room.key('Shift+Digit9');
  expect(distance(await room.look(), free)).toBeLessThan(1e-9);

  // Steering, asked for in words, moves it as one step that can be taken back.
  await room.key('Shift+Digit0');
  await page.getByRole('button', { name: 'Steer the camera' }).click();
  await room.sweep(await room.viewAt(0, 0, -150), await room.viewAt(0, 60, -150), 'right');
  await room.saved();
  const steered = (await room.evaluated('wide-camera')).world;
  expect(distance(steered, camera)).toBeGreaterThan(0.01);
  expect(distance(steered.slice(12, 15), (await room.look()).slice(12, 15))).toBeLessThan(1e-6);
  await expect(page.locator('[data-hint]')).toContainText('Steered Wide camera');
  await page.getByRole('button', { name: 'Stop steering' }).click();
  await room.key('Control+z');
  await room.saved();
  expect(distance((await room.evaluated('wide-camera')).world, camera)).toBeLessThan(1e-9);
  expect(distance((await room.look()).slice(12, 15), camera.slice(12, 15))).toBeLessThan(1e-9);
});

test('every shading draws, edges let one pick what lies behind, and facets are an edit', async ({ page }) => {
  const said: string[] = [];
  page.on('console', (m) => m.type() === 'error' && said.push(m.text()));
  const room = await Room.open(page);
  const colours = async () =>
    new Set(
      await page
        .locator('[data-stage]')
        .screenshot()
        .then((png) => png.toString('base64').slice(2000, 2600)),
    ).size;
  for (const word of ['coloured', 'by its lamps', 'wire over clay', 'see-through', 'wire', 'clay']) {
    await page.getByRole('button', { name: /^Shading/ }).click();
    await page.getByRole('menuitem', { name: word, exact: false }).first().click();
    await expect(page.getByRole('button', { name: `Shading: ${word}` })).toBeVisible();
    await room.still();
    expect(await colours()).toBeGreaterThan(20);
  }
  expect(said).toEqual([]);
  await room.pick('globe');
  await room.key('Control+k');
  await page.keyboard.type('facets');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await room.node('globe')).normals).toEqual({ how: 'facets', angle: 40 });
  await room.key('Control+z');
  await room.saved();
  expect((await room.node('globe')).normals).toBeUndefined();
});

test('from millimetres to kilometres, and in a scene with nothing in it', async ({ page }) => {
  const made = await page.request.post('/api/scenes', { data: { name: 'Far apart' } });
  const { id } = (await made.json()) as { id: string };
  const room = await Room.enter(page, id);
  await room.key('Shift+v');
  await room.key('e');
  await room.key('Shift+Digit8');
  await room.key('Shift+Digit8');
  await room.sweep(await room.viewAt(0), await room.viewAt(0, 40, 40));
  expect(await room.picked()).toEqual([]);
  const box = (name: string, x: number, size: number) => ({
    do: 'create',
    node: {
      id: name,
      name,
      kind: 'shape',
      shape: { type: 'box', size: [size, size, size] },
      placement: { position: [x, 0, 0] },
    },
  });
  await page.request.post(`/api/scenes/${id}/edits`, {
    data: {
      base: 1,
      edits: [
        box('speck', 0, 0.002),
        box('tower', 3000, 400),
        box('flat', 0.5, 0.5),
        { do: 'create', node: { id: 'nothing', name: 'nothing', kind: 'group', placement: { position: [0, 3, 0] } } },
      ],
    },
  });
  await expect(page.locator('[id="row-tower"]')).toBeVisible();
  for (const thing of ['speck', 'tower', 'speck', 'nothing']) {
    await room.pick(thing);
    await room.key('v');
    const look = await room.look();
    expect(look.every(Number.isFinite)).toBe(true);
    if (thing === 'nothing') continue;
    const at = await room.at(thing);
    await page.mouse.click(at.x, at.y - 3);
    expect(await room.picked()).toEqual([thing]);
  }
});
