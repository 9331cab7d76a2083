import { expect, type Page } from '@playwright/test';
import { Room } from './room';
import { test } from './shared';

interface InShot {
  id: string;
  world: number[];
  pivot: number[];
  seen: { final: boolean; reasons: string[] };
}

const hint = (page: Page) => page.locator('[data-hint]');
const cards = (page: Page) => page.locator('[data-shot]');
const edge = (page: Page) => page.locator('[data-shot-edge]');

async function inShot(room: Room, shot: string | null): Promise<Map<string, InShot>> {
  const path = `/api/scenes/${room.id}/evaluated${shot === null ? '' : `?shot=${shot}`}`;
  const { nodes } = (await (await room.request.get(path)).json()) as { nodes: InShot[] };
  return new Map(nodes.map((n) => [n.id, n]));
}

interface Stored {
  revision: number;
  shots: { id: string; number: string; name: string; frames: number; camera?: string }[];
  cheats: { id: string; of: string; channel: string; value: unknown }[];
}

const stored = async (room: Room) => (await (await room.request.get(`/api/scenes/${room.id}`)).json()) as Stored;

async function edit(room: Room, edits: unknown[], within: object = {}): Promise<void> {
  const { revision } = await stored(room);
  const answer = await room.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: revision, edits, ...within },
  });
  expect(answer.status(), await answer.text()).toBe(200);
}

/** A shot through its camera, as its card shows it. */
const drawn = (page: Page, shot: string) =>
  page.evaluate(async (id) => {
    interface Hooks {
      calmPivotStage: { throughShot(shot: string, width: number, height: number): Promise<Blob> };
    }
    const { calmPivotStage } = window as unknown as Hooks;
    const image = await createImageBitmap(await calmPivotStage.throughShot(id, 199, 112));
    const canvas = new OffscreenCanvas(199, 112);
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0);
    return [...context.getImageData(0, 0, 199, 112).data];
  }, shot);

/** The share of numbers that differ by more than a little. */
const differing = (a: number[], b: number[]) => a.filter((v, i) => Math.abs(v - b[i]!) > 12).length / a.length;

test('three shots from views: one is arranged otherwise, one has its own, the first stays as it was', async ({
  page,
}) => {
  const room = await Room.open(page);
  await edit(
    room,
    (await stored(room)).shots.map(({ id }) => ({ do: 'removeShot', id })),
  );
  await page.getByRole('button', { name: /No shots yet/ }).click();
  await expect(cards(page)).toHaveCount(1);
  await expect(edge(page)).toContainText('010 Shot');
  for (const side of ['Shift+1', 'Shift+3']) {
    await room.key(side);
    await room.run('Make a shot of this view');
  }
  await expect(cards(page)).toHaveCount(3);
  await room.saved();
  const [first, second, third] = (await stored(room)).shots;
  expect([first!.number, second!.number, third!.number]).toEqual(['010', '020', '030']);
  const before = await inShot(room, first!.id);

  const pictures = [await drawn(page, first!.id), await drawn(page, second!.id), await drawn(page, third!.id)];

  // In the second the scaffold is left out.
  await cards(page).nth(1).click();
  await room.key('Shift+c');
  await expect(edge(page)).toHaveAttribute('data-shot-edge', 'narrow');
  await room.pick('scaffold-tower');
  await room.key('Delete');
  await expect(hint(page)).toContainText('Switched Scaffold tower off in 020 Shot 2; it stays in the scene.');
  await room.saved();
  expect((await inShot(room, second!.id)).get('scaffold-tower')!.seen.final).toBe(false);
  await room.pick('scaffold-tower');
  await room.chapter('Why');
  await expect(page.getByText('not in 020 Shot 2: it is switched off there')).toBeVisible();

  // In the third the globe stands elsewhere.
  await cards(page).nth(2).click();
  await expect(edge(page)).toContainText('edits count in every shot');
  await room.key('Shift+c');
  await room.pick('star-globe');
  await room.key('=');
  await page.keyboard.type('0.2');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toContainText('In 030 Shot 3 only: moved Star globe +0.2 m');
  await room.chapter('Where');
  await expect(page.locator('[data-cheated="position.x"]')).toBeVisible();
  await room.saved();
  const globe = (await stored(room)).cheats.filter((c) => c.channel !== 'seen');
  expect(globe.map((c) => c.of)).toEqual(['star-globe']);
  expect((await inShot(room, third!.id)).get('star-globe')!.pivot).not.toEqual(before.get('star-globe')!.pivot);
  await expect(page.locator(`[data-shot="${third!.id}"] [data-own]`)).toBeVisible();

  // The first is untouched, by numbers and by its picture.
  expect(await inShot(room, first!.id)).toEqual(before);
  expect((await inShot(room, null)).get('star-globe')).toEqual(before.get('star-globe'));
  expect(differing(pictures[0]!, await drawn(page, first!.id))).toBeLessThan(0.001);
  expect(differing(pictures[1]!, await drawn(page, second!.id))).toBeGreaterThan(0.002);
  expect(differing(pictures[2]!, await drawn(page, third!.id))).toBeGreaterThan(0.0005);
  await cards(page).nth(0).dblclick();
  await expect(page.getByRole('toolbar', { name: /^View: Shot camera/ })).toBeVisible();

  // Undone and done again, each by itself.
  await room.key('Control+z');
  await room.saved();
  expect((await stored(room)).cheats.filter((c) => c.channel !== 'seen')).toEqual([]);
  await room.key('Control+Shift+z');
  await room.saved();
  expect((await stored(room)).cheats.filter((c) => c.channel !== 'seen')).toEqual(globe);

  // Made so everywhere, while the others keep what they showed.
  await cards(page).nth(2).click();
  await room.pick('star-globe');
  await room.run('Make it so in the scene, while the other shots keep');
  await room.saved();
  expect((await inShot(room, null)).get('star-globe')!.pivot).toEqual(
    (await inShot(room, third!.id)).get('star-globe')!.pivot,
  );
  expect((await inShot(room, first!.id)).get('star-globe')!.world).toEqual(before.get('star-globe')!.world);
  expect((await stored(room)).cheats.filter((c) => c.id.startsWith(`${third!.id}/`))).toEqual([]);

  // In another order the numbers stay; renumbered is a step of its own.
  await cards(page).nth(2).focus();
  await page.keyboard.press('Control+ArrowLeft');
  await room.saved();
  expect((await stored(room)).shots.map((s) => s.number)).toEqual(['010', '030', '020']);
  await room.run('Renumber the shots');
  await room.saved();
  expect((await stored(room)).shots.map((s) => [s.id, s.number])).toEqual([
    [first!.id, '010'],
    [third!.id, '020'],
    [second!.id, '030'],
  ]);

  // After a reload the shot is still the current one, and edits count in every shot.
  await cards(page).nth(1).click();
  await page.waitForTimeout(900);
  await page.reload();
  await expect(edge(page)).toContainText('020 Shot 3');
  await expect(edge(page)).toHaveAttribute('data-shot-edge', 'wide');
});

test('in every shot, what has its own is left alone and says so', async ({ page }) => {
  const room = await Room.open(page);
  await page.locator('[data-shot="shot-05"]').click();
  await room.pick('moon');
  await room.key('s');
  await expect(hint(page)).toContainText('has a scale X of its own in 05 Moon');
  await page.getByRole('button', { name: 'Edit the cheat' }).click();
  await expect(edge(page)).toHaveAttribute('data-shot-edge', 'narrow');
  await room.key('=');
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toContainText('In 05 Moon only: scaled Moon');
  await room.saved();
  const own = (await stored(room)).cheats.filter((c) => c.of === 'moon');
  expect(own.map((c) => c.channel).toSorted()).toEqual(['scale.x', 'scale.y', 'scale.z']);

  // Where it stands is not its own: that goes everywhere, and takes the corner of nothing.
  await room.key('Shift+c');
  await room.key('m');
  await room.key('=');
  await page.keyboard.type('0.1');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toContainText(', in every shot.');
  await room.saved();
  expect((await stored(room)).cheats.filter((c) => c.of === 'moon')).toEqual(own);

  // A press on a corner takes one back.
  await room.chapter('Where');
  await page.locator('[data-cheated="scale.x"]').click();
  await room.saved();
  expect((await stored(room)).cheats.filter((c) => c.of === 'moon')).toHaveLength(2);
  await room.key('Control+z');
  await room.saved();
  expect((await stored(room)).cheats.filter((c) => c.of === 'moon')).toEqual(own);

  // With no shot current the scene's is scaled; the shot keeps its own, and can be carried along.
  await page.getByRole('button', { name: 'All no shot' }).click();
  await room.key('s');
  await room.key('=');
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await expect(hint(page)).toContainText('05 Moon keeps its own.');
  await page.getByRole('button', { name: 'Carry it along' }).click();
  await expect(hint(page)).toContainText('Carried Moon along in 05 Moon.');
  await room.saved();
  const carried = (await stored(room)).cheats.find((c) => c.id === 'shot-05/moon/scale.x')!.value as number;
  expect(carried).toBeCloseTo((own.find((c) => c.channel === 'scale.x')!.value as number) + 2, 9);
});

test('what is the same in every shot is offered in every shot; parents are changed and nothing jumps', async ({
  page,
}) => {
  const room = await Room.open(page);
  const shots = [null, 'shot-01', 'shot-04'];
  const before = await Promise.all(shots.map((s) => inShot(room, s)));
  await page.locator('[data-shot="shot-04"]').click();
  await room.key('Shift+c');
  await room.pick('desk-lamp');
  await room.key('Shift+u');
  await expect(page.getByRole('alert')).toContainText('are the same in every shot');
  await page.getByRole('button', { name: 'Do it in every shot' }).click();
  await expect(hint(page)).toContainText('in every shot.');
  await room.saved();
  const after = await Promise.all(shots.map((s) => inShot(room, s)));
  shots.forEach((_, i) => {
    for (const [id, { world }] of before[i]!)
      world.forEach((v, at) => expect(after[i]!.get(id)!.world[at], `${id} in ${shots[i]}`).toBeCloseTo(v, 9));
  });
  await expect(edge(page)).toHaveAttribute('data-shot-edge', 'narrow');
  await room.key('Control+z');
  await room.saved();
  expect((await inShot(room, 'shot-04')).get('desk-lamp')).toEqual(before[2]!.get('desk-lamp'));
});

test('lengths, notes and cameras of shots; what is no length is refused; a camera that goes is said', async ({
  page,
}) => {
  const room = await Room.open(page);
  await page.locator('[data-shot="shot-03"]').click();
  await room.chapter('Why');
  const length = page.getByLabel('Length of the shot');
  for (const [typed, shown] of [
    ['4s', '4 s · 96'],
    ['2:12', '2.5 s · 60'],
    ['30', '1.25 s · 30'],
  ] as const) {
    await length.fill(typed);
    await page.keyboard.press('Enter');
    await expect(length).toHaveValue(shown);
  }
  for (const typed of ['0', '10000000', '2:99', 'soon']) {
    await length.fill(typed);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('is no length');
    await page.keyboard.press('Escape');
  }
  await room.saved();
  expect((await stored(room)).shots[2]!.frames).toBe(30);
  await page.getByLabel('Frames a second').fill('30');
  await page.keyboard.press('Enter');
  await expect(length).toHaveValue('1 s · 30');

  await edit(room, [{ do: 'remove', nodes: ['dome-camera'] }]);
  await expect(page.getByText('Its camera is not in the scene any more.')).toBeVisible();
  await page.getByLabel('Camera of the shot').selectOption({ label: 'Wide camera' });
  await room.saved();
  expect((await stored(room)).shots[2]!.camera).toBe('wide-camera');
});

test('seen in: three states a shot; the oblong switch follows the scope', async ({ page }) => {
  const room = await Room.open(page);
  await room.pick('stool');
  await room.chapter('Why');
  const line = page.getByRole('radiogroup', { name: 'In 02 Orrery' });
  await line.getByRole('radio', { name: 'off' }).click();
  await expect(hint(page)).toContainText('Switched Stool off in 02 Orrery; it stays in the scene.');
  await room.saved();
  expect((await inShot(room, 'shot-02')).get('stool')!.seen.final).toBe(false);
  expect((await inShot(room, 'shot-01')).get('stool')!.seen.final).toBe(true);
  await line.getByRole('radio', { name: 'as in the scene' }).click();
  await room.saved();
  expect((await inShot(room, 'shot-02')).get('stool')!.seen.final).toBe(true);

  await page.locator('[data-shot="shot-02"]').click();
  await room.key('Shift+c');
  const row = page.locator('[id="row-stool"]');
  await row.getByRole('switch', { name: 'Stool in 02 Orrery' }).click();
  await expect(row.locator('[data-own]')).toBeVisible();
  await room.saved();
  expect((await inShot(room, 'shot-02')).get('stool')!.seen.final).toBe(false);
  expect((await inShot(room, 'shot-01')).get('stool')!.seen.final).toBe(true);
  await expect(row).toHaveAttribute('aria-label', /hidden/);
  await room.run('Leave out what the shot leaves out, or show it');
  await expect(row).not.toHaveAttribute('aria-label', /hidden/);
});

test('two windows: what one does to a shot the other sees, and nobody is in the way', async ({ page, browser }) => {
  const room = await Room.open(page);
  const other = await (await browser.newContext()).newPage();
  const there = await Room.enter(other, room.id);
  await page.locator('[data-shot="shot-02"]').click();
  await other.locator('[data-shot="shot-02"]').click();
  await room.key('Shift+c');
  await there.key('Shift+c');
  await room.pick('drum');
  await there.pick('drum');
  await room.key('=');
  await page.keyboard.type('0.3');
  await there.key('s');
  await there.key('=');
  await other.keyboard.type('2');
  await page.keyboard.press('Enter');
  await other.keyboard.press('Enter');
  await room.saved();
  await there.saved();
  const channels = (await stored(room)).cheats.filter((c) => c.of === 'drum').map((c) => c.channel);
  expect(channels).toContain('position.x');
  expect(channels).toContain('scale.x');
  await room.chapter('Where');
  await there.chapter('Where');
  for (const window of [page, other]) {
    await expect(window.locator('[data-cheated="position.x"]')).toBeVisible();
    await expect(window.locator('[data-cheated="scale.x"]')).toBeVisible();
  }
  await room.computesAsServer('shot-02');
  await there.computesAsServer('shot-02');

  // One removes the shot that the other arranges.
  await room.run('Remove the shot');
  await expect(edge(page)).toHaveCount(0);
  await expect(edge(other)).toHaveCount(0);
  await room.computesAsServer();
  await there.computesAsServer();
  await room.key('Control+z');
  await expect(cards(other)).toHaveCount(5);
  await other.context().close();
});
