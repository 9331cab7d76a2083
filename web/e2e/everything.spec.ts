import { expect, test, type Page } from '@playwright/test';
import { Room, texturedRoom } from './room';

/** What came of running one thing. */
interface Came {
  what: string;
  /** A refusal that the sentence showed; null: none. */
  refused: string | null;
}

/** Refusals that fit: the artist is told what is missing, or why it cannot be. */
const fitting = [
  /^There is no step of yours/,
  /^The browser did not let the page/,
  /is a shape made from parameters, which is one piece\.$/,
  /^A mark follows objects/,
];

/** Everything that the page complains about. */
function complaints(page: Page): string[] {
  const all: string[] = [];
  // A refused undo is not one: the browser says so of every answer that is not a success.
  page.on('console', (message) => {
    if (message.type() === 'error' && !message.text().includes('status of 409')) all.push(message.text());
  });
  page.on('pageerror', (error) => all.push(String(error)));
  return all;
}

async function emptyRoom(page: Page): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'Empty' } });
  const { id } = (await made.json()) as { id: string };
  return Room.enter(page, id);
}

/** The rooms, and how many objects are picked in each round: with nothing, with one thing, with a thing and what carries it. */
const rooms: Record<string, { enter: (page: Page) => Promise<Room>; rounds: number[] }> = {
  empty: { enter: emptyRoom, rounds: [0] },
  demo: { enter: Room.open, rounds: [1, 2] },
  textured: { enter: async (page) => Room.enter(page, await texturedRoom(page.request)), rounds: [0, 1, 2] },
};

/** Picks some of the first objects, or nothing, without the pointer. */
const pickFirst = (page: Page, count: number) =>
  page.evaluate((n) => {
    interface Hooks {
      calmPivotPage(): { rows: { id: string; kind: string; locked: boolean }[] };
      calmPivotSession: { select(ids: string[]): void };
    }
    const w = window as unknown as Hooks;
    const rows = w.calmPivotPage().rows;
    const shapes = rows.filter((r) => r.kind === 'shape' || r.kind === 'mesh');
    w.calmPivotSession.select(
      (n === 1 ? shapes.slice(0, 1) : [...shapes.slice(0, n - 1), ...rows.slice(0, 1)]).map((r) => r.id).slice(0, n),
    );
  }, count);

/** Runs every command of the table; in between, Esc as often as it takes to be back. */
const runAll = (page: Page) =>
  page.evaluate(async () => {
    interface Command {
      id: string;
      says: string;
    }
    interface Hooks {
      calmPivotCommands: Command[];
      calmPivotRun(command: Command, stage: unknown): void;
      calmPivotStage: unknown;
      calmPivotPage(): { notice: { kind: string; text: string } | null; selection: string[] };
      calmPivotSession: { say(n: null): void; select(ids: string[]): void };
    }
    const w = window as unknown as Hooks;
    const came: { what: string; refused: string | null }[] = [];
    const picked = w.calmPivotPage().selection;
    const leave = w.calmPivotCommands.find((c) => c.id === 'leave')!;
    for (const command of w.calmPivotCommands) {
      w.calmPivotSession.say(null);
      w.calmPivotRun(command, w.calmPivotStage);
      await new Promise((done) => setTimeout(done, 30));
      const { notice } = w.calmPivotPage();
      came.push({ what: command.id, refused: notice?.kind === 'refusal' ? notice.text : null });
      for (let i = 0; i < 3; i++) w.calmPivotRun(leave, w.calmPivotStage);
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
      if (picked.length > 0) w.calmPivotSession.select(picked.filter((id) => (w as any).calmPivotPage().byId.has(id)));
    }
    return came;
  });

const unfit = (came: Came[]) => came.filter((c) => c.refused !== null && !fitting.some((f) => f.test(c.refused!)));

for (const [name, { enter, rounds }] of Object.entries(rooms)) {
  test(`every command of the table does its work or says what it lacks: ${name}`, async ({ page }) => {
    test.setTimeout(120_000);
    const said = complaints(page);
    await page.setViewportSize({ width: 760, height: 420 });
    const room = await enter(page);
    for (const count of rounds) {
      // Commands leave panels folded and colours changed, which are kept for the person.
      await page.waitForTimeout(400);
      await page.request.put('/api/me/settings', { data: {} });
      await Room.enter(page, room.id);
      await pickFirst(page, count);
      expect(unfit(await runAll(page))).toEqual([]);
    }
    await room.saved();
    expect(said).toEqual([]);
    const evaluated = await page.request.get(`/api/scenes/${room.id}/evaluated`);
    expect(evaluated.status()).toBe(200);
    const out = await page.request.get(`/api/scenes/${room.id}/export`);
    expect(out.status()).toBe(200);
  });
}
