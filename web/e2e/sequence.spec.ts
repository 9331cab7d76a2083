import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { expect, type Page } from '@playwright/test';
import { Room, texturedRoom } from './room';
import { test } from './shared';

interface Stored {
  revision: number;
  shots: { id: string; number: string; name: string; frames: number; camera?: string; note?: string }[];
  cheats: { id: string; shot: string; of: string; channel: string; value: unknown }[];
  collections: { id: string; name: string }[];
  nodes: { id: string; name: string; kind: string; camera?: { fov: number } }[];
}

const stored = async (room: Room) => (await (await room.request.get(`/api/scenes/${room.id}`)).json()) as Stored;
const cards = (page: Page) => page.locator('[data-shot]');
const hint = (page: Page) => page.locator('[data-hint]');

/** Runs a command of the table. */
const run = (page: Page, id: string) =>
  page.evaluate((command) => {
    interface Hooks {
      calmPivotCommands: { id: string }[];
      calmPivotRun(command: { id: string }, stage: unknown): void;
      calmPivotStage: unknown;
    }
    const { calmPivotCommands, calmPivotRun, calmPivotStage } = window as unknown as Hooks;
    calmPivotRun(
      calmPivotCommands.find((c) => c.id === command)!,
      calmPivotStage,
    );
  }, id);

/** What the page knows. */
const state = <T>(page: Page, read: string): Promise<T> =>
  page.evaluate(
    (path) =>
      path
        .split('.')
        .reduce<unknown>(
          (at, key) => (at as Record<string, unknown>)[key],
          (window as unknown as { calmPivotPage(): unknown }).calmPivotPage(),
        ),
    read,
  ) as Promise<T>;

async function edit(room: Room, edits: unknown[], within: object = {}): Promise<void> {
  const { revision } = await stored(room);
  const answer = await room.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: revision, edits, ...within },
  });
  expect(answer.status(), await answer.text()).toBe(200);
}

/** The shots of the demo by their names. */
async function byName(room: Room): Promise<Record<string, string>> {
  return Object.fromEntries((await stored(room)).shots.map((s) => [s.name, s.id]));
}

async function download(page: Page, act: () => Promise<void>): Promise<{ name: string; bytes: Buffer }> {
  const [file] = await Promise.all([page.waitForEvent('download', { timeout: 60_000 }), act()]);
  return { name: file.suggestedFilename(), bytes: await readFile((await file.path())!) };
}

test('the cards of a copy show the pictures that were kept, and none is drawn again', async ({ page }) => {
  const drawn: string[] = [];
  page.on('request', (r) => r.method() === 'PUT' && /\/shots\/[^/]+\/picture$/.test(r.url()) && drawn.push(r.url()));
  await Room.open(page);
  await expect(cards(page)).toHaveCount(5);
  await expect(cards(page).locator('img')).toHaveCount(5);
  // They have to be what is shown now, so that none waits to be drawn.
  for (const card of await cards(page).all())
    await expect(card).not.toHaveAttribute('title', /older than what it shows/);
  expect(drawn).toEqual([]);
});

test('through the camera of a shot: aids, exactly the picture, and the view goes along with the shot', async ({
  page,
}) => {
  const room = await Room.open(page);
  await cards(page).nth(2).dblclick();
  await expect(page.locator('[data-camera-words]')).toHaveText(/used by 03 Dome/);
  await page.getByRole('button', { name: 'Picture' }).click();
  for (const name of ['Thirds', 'Middle', 'Safe areas', 'Horizon'])
    await page.getByRole('menuitemcheckbox', { name }).click();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-aid-lines]')).toHaveAttribute('d', /M.*M.*M.*M.*M.*M/);
  await expect(page.locator('[data-camera-frame]').getByText('titles')).toBeVisible();

  // The picture ends above the sentence, so that nothing of it is covered.
  const [frame, sentence] = [
    await page.locator('[data-camera-frame] rect').last().boundingBox(),
    await page.locator('[aria-label="Sentence"]').boundingBox(),
  ];
  expect(frame!.y + frame!.height).toBeLessThan(sentence!.y);

  // Exactly the picture: no handles, nothing outside; Leave and back again.
  await room.pick('globe');
  await page.getByRole('button', { name: 'Picture' }).click();
  await page.getByRole('menuitemcheckbox', { name: /Exactly the picture/ }).click();
  await expect(page.locator('svg.handles').first()).toBeHidden();
  await expect(page.locator('[data-camera-words]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Back to arranging' }).click();
  await expect(page.locator('[data-camera-words]')).toHaveText(/Globe .* m away, .* m deep/);

  // Another shot: the view goes along.
  await cards(page).nth(3).click();
  await expect(page.locator('[data-camera-words]')).toHaveText(/used by 04 Desk/);
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
  await expect(page.locator('[data-camera-words]')).toHaveCount(0);
  await cards(page).nth(1).click();
  await expect(page.locator('[data-camera-words]')).toHaveCount(0);
  await room.computesAsServer((await byName(room))['Orrery']);
});

test('the camera is levelled, turned, given to one shot alone, and keeps the size of a thing', async ({ page }) => {
  const room = await Room.open(page);
  const shots = await byName(room);
  const camera = (await stored(room)).shots.find((s) => s.id === shots['Desk'])!.camera!;
  await edit(room, [
    { do: 'setShot', id: shots['Moon'], camera },
    { do: 'rotate', nodes: [camera], by: 9, axis: 'z', space: { kind: 'own' }, about: { kind: 'own' } },
  ]);
  await cards(page).nth(3).dblclick();
  await expect(page.locator('[data-camera-words]')).toHaveText(/used by 04 Desk, 05 Moon · tipped 9\.0°/);
  await page.getByRole('button', { name: 'Level', exact: true }).click();
  await expect(page.locator('[data-camera-words]')).not.toHaveText(/tipped/);
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-camera-words]')).toHaveText(/tipped 9\.0°/);

  // Its own: the other shot keeps the former one.
  await page.getByRole('button', { name: 'Give this shot its own' }).click();
  await expect(page.locator('[data-camera-words]')).toHaveText(/used by 04 Desk ·.* tipped/);
  await expect
    .poll(async () => (await stored(room)).shots.find((s) => s.id === shots['Desk'])!.camera)
    .not.toBe(camera);
  const own = (await stored(room)).shots.find((s) => s.id === shots['Desk'])!.camera!;
  expect((await stored(room)).shots.find((s) => s.id === shots['Moon'])!.camera).toBe(camera);

  // A thing keeps its size: depth' = depth · tan(fov / 2) / tan(fov' / 2).
  await room.pick('globe');
  await page.getByRole('button', { name: 'Turn to Globe' }).click();
  await expect(hint(page)).toContainText(/Turned .* to Globe/);
  const about = () =>
    page.evaluate((id) => {
      interface Core {
        throughCamera(camera: string, lead: string): { depth: number };
        commonCamera(ids: string[]): { fov: number };
      }
      const { calmPivotCore } = window as unknown as { calmPivotCore: Core };
      return { depth: calmPivotCore.throughCamera(id, 'globe').depth, fov: calmPivotCore.commonCamera([id]).fov };
    }, own);
  const before = await about();
  await page.getByRole('button', { name: /Keep a size/ }).click();
  const angle = page.getByRole('dialog').getByLabel('Angle of view').last();
  await angle.fill('20');
  await angle.press('Enter');
  const slope = (fov: number) => Math.tan((fov * Math.PI) / 360);
  await expect.poll(async () => (await about()).fov).toBe(20);
  expect((await about()).depth).toBeCloseTo((before.depth * slope(before.fov)) / slope(20), 9);
  const distance = page.getByRole('dialog').getByLabel('Distance').last();
  await distance.fill('3');
  await distance.press('Enter');
  await expect.poll(async () => (await about()).depth).toBeCloseTo(3, 9);
  expect(slope((await about()).fov) * 3).toBeCloseTo(before.depth * slope(before.fov), 9);

  // Too near is refused, and nothing has changed.
  await distance.fill('0.0001');
  await distance.press('Enter');
  await expect(hint(page)).toContainText(/nearer than its near plane|needs an angle/);
  expect((await about()).depth).toBeCloseTo(3, 9);
  await page.getByRole('button', { name: 'Done' }).click();
  await room.computesAsServer(shots['Desk']);
});

test('only what the frame sees: picked, collected, and the rest off in this shot', async ({ page }) => {
  const room = await Room.open(page);
  const shots = await byName(room);
  await run(page, 'frame.pick');
  await expect(hint(page)).toContainText('Look through a camera');
  await cards(page).nth(3).click();
  await run(page, 'frame.pickAll');
  const all = await state<string[]>(page, 'selection');
  expect(all.length).toBeGreaterThan(5);
  await run(page, 'frame.pick');
  const before = await state<string[]>(page, 'selection');
  expect(before.every((id) => all.includes(id))).toBe(true);
  expect(before).toContain('globe');

  await run(page, 'frame.collect');
  await expect.poll(async () => (await stored(room)).collections.map((c) => c.name)).toContain('Seen in 04 Desk');
  await run(page, 'frame.only');
  await expect
    .poll(
      async () => (await stored(room)).cheats.filter((c) => c.channel === 'seen' && c.shot === shots['Desk']).length,
    )
    .toBeGreaterThan(0);
  await run(page, 'frame.pickAll');
  expect((await state<string[]>(page, 'selection')).toSorted()).toEqual(all.toSorted());
  await run(page, 'frame.only');
  await expect(hint(page)).toContainText('Nothing is on in this shot');
  await page.keyboard.press('Control+z');
  await expect
    .poll(
      async () =>
        (await stored(room)).cheats.filter((c) => c.channel === 'seen' && c.shot === shots['Desk'] && c.value === false)
          .length,
    )
    .toBe(0);
  await room.computesAsServer(shots['Desk']);
});

test('the table is swept, stepped by keys, and undone; what it says is what shots show', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('globe');
  await room.pick('desk', true);
  await run(page, 'shot.seen');
  const table = page.locator('[data-seen-table]');
  await expect(table).toBeVisible();
  const cells = async () => {
    const rows = await page.evaluate(() => {
      interface Core {
        seenTable(ids: string[]): { rows: { id: string; cells: string }[] };
      }
      return (window as unknown as { calmPivotCore: Core }).calmPivotCore.seenTable(['globe', 'desk']).rows;
    });
    return Object.fromEntries(rows.map((r) => [r.id, r.cells]));
  };
  // Names to the left, titles above, then cells of 30 by 26 pixels.
  const at = async (row: number, column: number) => {
    const box = (await table.boundingBox())!;
    return { x: box.x + 216 + (column + 0.5) * 30, y: box.y + 76 + (row + 0.5) * 26 };
  };
  const before = await cells();
  const [from, to] = [await at(3, 1), await at(4, 3)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, to.y, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await page.mouse.up();
  const ids = Object.keys(before).slice(3);
  await expect.poll(cells).toEqual({ ...before, [ids[0]!]: '.---.', [ids[1]!]: '.---.' });
  await expect
    .poll(async () => (await stored(room)).cheats.filter((c) => ids.includes(c.of) && c.value === false).length)
    .toBe(6);

  // By keys alone: two cells of the first row, on; then one by one.
  await table.focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('+');
  const first = Object.keys(before)[0]!;
  await expect.poll(async () => (await cells())[first]).toBe(`++${before[first]!.slice(2)}`);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press(' ');
  await expect.poll(async () => (await cells())[first]!.slice(0, 2)).toBe('+.');
  await expect(page.locator('[aria-label="Seen by shot"] header')).toContainText(/in 02 Orrery: as in the scene/);

  // A whole row, and back by undo.
  await page.getByRole('rowheader').nth(2).getByRole('button').click();
  await expect.poll(async () => Object.values(await cells())[2]).toBe('-----');
  await page.locator('[aria-label="Seen by shot"]').press('Escape');
  await expect(table).toHaveCount(0);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(cells).toEqual(before);
  await room.computesAsServer();
});

test('two shots are compared, either takes what the other has, and ghosts show where it stands', async ({ page }) => {
  const room = await Room.open(page);
  const shots = await byName(room);
  await edit(room, [{ do: 'move', nodes: ['globe'], by: [0.5, 0, 0], space: { kind: 'world' } }], {
    shot: shots['Room'],
    scope: 'shot',
  });
  await cards(page).nth(0).click();
  await run(page, 'shot.compare');
  const panel = page.getByRole('region', { name: 'Compare' });
  await expect(page.locator('[data-compared]')).toContainText('1 thing is otherwise in 01 Room than in the scene');
  await panel.getByLabel('the other as ghosts').check();
  await expect.poll(() => state<unknown[]>(page, 'shadows').then((s) => s.length)).toBeGreaterThan(0);
  await panel.getByLabel('The second shot').selectOption({ label: '03 Dome' });
  await expect(page.locator('[data-compared]')).toContainText('The shot itself and');
  await expect(panel.locator('[data-differs="frames"]')).toContainText(/6 s · 144.*4 s · 96/);

  // The second takes one value of the first.
  const places = await panel.locator('[data-differs^="position"]').count();
  const row = panel.locator('[data-differs^="position"]').first();
  await row.getByRole('button', { name: /^03 Dome takes/ }).click();
  await expect(panel.locator('[data-differs^="position"]')).toHaveCount(places - 1);
  await expect
    .poll(async () => (await stored(room)).cheats.filter((c) => c.shot === shots['Dome'] && c.of === 'globe').length)
    .toBe(1);

  // The first takes everything: nothing is left but the names.
  await panel.getByRole('button', { name: '01 Room as 03 Dome' }).click();
  await expect(page.locator('[data-compared]')).toContainText('are the same but for their names');
  await room.saved();
  const [one, three] = await Promise.all(
    [shots['Room'], shots['Dome']].map(async (shot) =>
      (await room.request.get(`/api/scenes/${room.id}/evaluated?shot=${shot}`)).json(),
    ),
  );
  expect(one.nodes.map((n: { world: number[] }) => n.world)).toEqual(
    three.nodes.map((n: { world: number[] }) => n.world),
  );

  // Removed meanwhile by somebody else: a sentence, and another choice.
  await edit(room, [{ do: 'removeShot', id: shots['Dome'] }]);
  await expect(page.locator('[data-compared]')).toContainText('is not in the scene any more');
  await panel.getByLabel('The second shot').selectOption({ label: '02 Orrery' });
  await expect(page.locator('[data-compared]')).toContainText('otherwise in 01 Room');
  await panel.press('Escape');
  await expect(panel).toHaveCount(0);
  await expect.poll(() => state<unknown[]>(page, 'shadows')).toEqual([]);
});

test('all shots run through for their lengths, to the frame; one without camera says so', async ({
  browser,
  baseURL,
}) => {
  // A clock of one's own belongs to a whole context.
  const context = await browser.newContext({ baseURL: baseURL!, viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const room = await Room.open(page);
  const shots = await byName(room);
  await edit(room, [{ do: 'setShot', id: shots['Orrery'], camera: '' }]);
  await expect(cards(page).nth(1)).toContainText('no camera');
  await page.clock.install();
  await page.clock.pauseAt(Date.now() + 60_000);
  await page.locator('[data-stage]').press('Shift+Space');
  const show = page.locator('[data-running]');
  await expect(show).toHaveAttribute('data-running', shots['Room']!);
  const frame = async () => Number(await show.getAttribute('data-frame'));
  await page.clock.runFor(2000);
  expect(Math.abs((await frame()) - 48)).toBeLessThanOrEqual(1);
  await page.clock.runFor(4000);
  expect(Math.abs((await frame()) - 144)).toBeLessThanOrEqual(1);
  await page.clock.runFor(1000);
  await expect(show).toHaveAttribute('data-running', shots['Orrery']!);
  await expect(show).toContainText('It has no camera yet');
  await expect(show.locator('[data-code]')).toHaveText(/^00:00:0[67]:\d\d$/);

  // Space rests, arrows step, the end is the end; with loop it begins again.
  await page.keyboard.press(' ');
  const rested = await frame();
  await page.clock.runFor(3000);
  expect(await frame()).toBe(rested);
  await page.keyboard.press('ArrowRight');
  await expect(show).toHaveAttribute('data-running', shots['Dome']!);
  await expect(show.locator('[data-drawn]')).toHaveAttribute('data-drawn', shots['Dome']!);
  await page.keyboard.press('End');
  await expect(show).toHaveAttribute('data-running', shots['Moon']!);
  await page.keyboard.press(' ');
  await page.clock.runFor(6000);
  expect(await frame()).toBe(527);
  await page.keyboard.press('l');
  await page.keyboard.press(' ');
  await page.clock.runFor(23_000);
  expect(Math.abs((await frame()) - 24)).toBeLessThanOrEqual(2);
  await page.keyboard.press('Enter');
  await expect(show).toHaveCount(0);
  expect(await state(page, 'shot')).toBe(shots['Room']);
  await context.close();
});

test('lists of shots go out and come in, said beforehand; what is none changes nothing', async ({ page }) => {
  const room = await Room.open(page);
  const table = await download(page, () => run(page, 'shot.csv'));
  expect(table.name).toMatch(/shots\.csv$/);
  expect(table.bytes.toString()).toContain('03,Dome,96,24,241,00:00:10:01,Dome camera,Up to the open shutter.');
  const timeline = await download(page, () => run(page, 'shot.otio'));
  expect(JSON.parse(timeline.bytes.toString())['OTIO_SCHEMA']).toBe('Timeline.1');

  const bring = (name: string, text: string) =>
    page.locator('[data-shot-list]').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await bring('same.otio', timeline.bytes.toString());
  const panel = page.getByRole('region', { name: /The shots of/ });
  await expect(panel).toContainText('Every shot of this list is in the scene already');
  await expect(panel.getByRole('button', { name: 'Take them in' })).toBeDisabled();
  await panel.getByRole('button', { name: 'Leave all as it is' }).click();

  await bring('new.csv', 'name,frames,fps,camera\nDome,5s,25,Nobody\nDusk,48,24,Dome camera\n');
  await expect(panel).toContainText('1 made, 1 changed, 0 as they are; 4 others stay');
  await expect(panel).toContainText('frames 96 → 120');
  await expect(panel).toContainText('No camera of the scene is called “Nobody”');
  await expect(panel).toContainText('were told in the scene’s 24 frames a second'.replace('’', "'"));
  await panel.getByRole('button', { name: 'Take them in' }).click();
  await expect
    .poll(async () => (await stored(room)).shots.map((s) => `${s.name} ${s.frames}`))
    .toEqual(['Room 144', 'Orrery 96', 'Dome 120', 'Dusk 48', 'Desk 72', 'Moon 120']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await stored(room)).shots.length).toBe(5);

  // What is switched off in a timeline is taken by choice; where it begins is where the scene begins then.
  const track = JSON.parse(timeline.bytes.toString()) as {
    global_start_time: { value: number };
    tracks: { children: { children: { name: string; enabled: boolean }[] }[] };
  };
  track.global_start_time.value = 1001;
  Object.assign(track.tracks.children[0]!.children[4]!, { name: 'Comet', enabled: false });
  await bring('off.otio', JSON.stringify(track));
  await expect(panel).toContainText('0 made, 0 changed, 4 as they are; 1 other stays in the scene.');
  await expect(panel).toContainText('The first frame becomes 1001.');
  await expect(panel).toContainText('1 shot that is switched off in the list is passed over.');
  await panel.getByLabel('Take what is switched off in the list, too').check();
  await expect(panel).toContainText('1 made, 0 changed, 4 as they are');
  await panel.getByRole('button', { name: 'Take them in' }).click();
  await expect.poll(async () => (await stored(room)).shots.map((s) => s.name)).toContain('Comet');
  await room.computesAsServer();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await stored(room)).shots.length).toBe(5);

  await bring('damaged.otio', timeline.bytes.toString().slice(0, 900));
  await expect(hint(page)).toContainText('Nothing was changed');
  await bring('other.csv', 'a,b\n1,2\n');
  await expect(hint(page)).toContainText('its first line names no column “name”');
  await expect(panel).toHaveCount(0);
});

test('pictures, the contact sheet and one shot go out as files', async ({ page }) => {
  const room = await Room.open(page);
  await run(page, 'shot.sheet');
  await expect(page.locator('[data-sheet-shot]')).toHaveCount(5);
  await expect(page.locator('[data-sheet-shot] img')).toHaveCount(5, { timeout: 90_000 });
  const sheet = await download(page, () => page.getByRole('button', { name: 'Save as one PNG' }).click());
  expect(sheet.bytes.subarray(1, 4).toString()).toBe('PNG');
  expect(sheet.bytes.readUInt32BE(16)).toBeGreaterThan(900);
  const all = await download(page, () => page.getByRole('button', { name: 'All pictures as .zip' }).click());
  const files = unzipSync(new Uint8Array(all.bytes));
  expect(Object.keys(files).toSorted()).toEqual([
    '01 Room.png',
    '02 Orrery.png',
    '03 Dome.png',
    '04 Desk.png',
    '05 Moon.png',
  ]);
  for (const file of Object.values(files)) {
    expect(Buffer.from(file).readUInt32BE(16)).toBe(1280);
    expect(file.length).toBeGreaterThan(10_000);
  }
  await page.keyboard.press('Escape');
  await cards(page).nth(3).click();
  const one = await download(page, () => run(page, 'shot.file'));
  expect(one.name).toContain('04 Desk.glb');
  const { json } = glb(one.bytes);
  expect(json.nodes.map((n) => n.name)).toContain('Globe');
  expect(json.cameras).toHaveLength(1);
  await room.computesAsServer((await byName(room))['Desk']);
});

function glb(bytes: Buffer): { json: { nodes: { name: string }[]; cameras: unknown[] } } {
  const length = bytes.readUInt32LE(12);
  return { json: JSON.parse(bytes.subarray(20, 20 + length).toString()) };
}

test('on an imported file without shots, and after shots of views: everything is said or done', async ({ page }) => {
  const room = await Room.enter(page, await texturedRoom(page.request));
  for (const id of [
    'shot.run',
    'shot.seen',
    'shot.compare',
    'shot.sheet',
    'shot.csv',
    'shot.pictures',
    'frame.only',
    'shot.file',
  ]) {
    await run(page, id);
    await expect(hint(page)).toContainText(/no shots yet|No shot is current/);
  }
  await run(page, 'shot.new');
  await expect(cards(page)).toHaveCount(1);
  for (const id of ['shot.seen', 'shot.compare', 'shot.sheet', 'frame.pick', 'frame.only', 'camera.exact'])
    await run(page, id);
  await run(page, 'shot.run');
  await expect(page.locator('[data-running]')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-running]')).toHaveCount(0);

  // From the menu, which takes the focus back: the keys still reach what was opened.
  for (const word of ['Run through the shots', 'Seen by shot: the table']) {
    await page.getByRole('button', { name: 'All shots', exact: true }).click();
    await page.getByRole('menuitem', { name: word }).click();
    const opened = page.locator('[data-running], [data-seen-table]');
    await expect(opened).toHaveCount(1);
    await page.waitForTimeout(200);
    await page.keyboard.press('Escape');
    await expect(opened).toHaveCount(0);
  }
  await page.reload();
  await expect(page.getByRole('tree')).toBeVisible();
  await expect(cards(page)).toHaveCount(1);
  await room.computesAsServer((await stored(room)).shots[0]!.id);
});
