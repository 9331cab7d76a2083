import { expect, type Page } from '@playwright/test';
import { test } from './shared';
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
  /^“.*” is locked\. Unlock it/,
  /^“.*” has no geometry\. Only shapes and meshes can be joined\.$/,
  /^Spreading needs at least three objects/,
  /^There is nothing below .* to come to rest on/,
  /^No two materials are alike/,
];

/** Everything that the page complains about. */
function complaints(page: Page): string[] {
  const all: string[] = [];
  page.on('console', (message) => message.type() === 'error' && all.push(message.text()));
  page.on('pageerror', (error) => all.push(String(error)));
  return all;
}

async function emptyRoom(page: Page): Promise<Room> {
  const made = await page.request.post('/api/scenes', { data: { name: 'Empty' } });
  const { id } = (await made.json()) as { id: string };
  return Room.enter(page, id);
}

/** The rooms, and how many objects are picked there: nothing, a thing with what carries it, one thing. */
const rooms: Record<string, { enter: (page: Page) => Promise<Room>; picked: number }> = {
  empty: { enter: emptyRoom, picked: 0 },
  demo: { enter: Room.open, picked: 2 },
  textured: { enter: async (page) => Room.enter(page, await texturedRoom(page.request)), picked: 1 },
};

/** Nothing here looks at the page: it is drawn as small as can be. */
const plain = (page: Page) => page.setViewportSize({ width: 560, height: 200 });

/** Picks some of the first objects, or nothing, without the pointer. */
const pickFirst = (page: Page, count: number) =>
  page.evaluate((n) => {
    interface Hooks {
      calmPivotPage(): { rows: { id: string; kind: string; locked: boolean }[] };
      calmPivotSession: { select(ids: string[]): void };
    }
    const w = window as unknown as Hooks;
    const rows = w.calmPivotPage().rows;
    const shapes = rows.filter((r) => !r.locked && (r.kind === 'shape' || r.kind === 'mesh'));
    w.calmPivotSession.select(
      (n === 1 ? shapes.slice(0, 1) : [...shapes.slice(0, n - 1), ...rows.slice(0, 1)]).map((r) => r.id).slice(0, n),
    );
  }, count);

/** What was done can be evaluated and goes out as a file. */
async function stillWhole({ page, id }: Room): Promise<void> {
  for (const what of ['evaluated', 'export', 'document'])
    expect((await page.request.get(`/api/scenes/${id}/${what}`)).status()).toBe(200);
}

/** Opens every menu of the page, or those of a name, again and again and presses each of its lines once, but for those that go elsewhere. */
const pressAll = (page: Page, picked: number, only = '') =>
  page.evaluate(
    async ([count, only]) => {
      interface Hooks {
        calmPivotPage(): {
          notice: { kind: string; text: string } | null;
          selection: string[];
          scene: { id: string };
          rows: { id: string }[];
          plan: unknown;
        };
        calmPivotSession: { say(n: null): void; select(ids: string[]): void };
        calmPivotCommands: { id: string }[];
        calmPivotRun(command: unknown, stage: unknown): void;
        calmPivotStage: unknown;
      }
      const w = window as unknown as Hooks;
      const leave = w.calmPivotCommands.find((c) => c.id === 'leave');
      const came: { what: string; refused: string | null }[] = [];
      const rest = (ms: number) => new Promise((done) => setTimeout(done, ms));
      const first = w.calmPivotPage().selection;
      const triggers = () =>
        [...document.querySelectorAll<HTMLElement>('button[aria-haspopup="menu"]')].filter(
          (b) => !b.matches(':disabled') && (b.getAttribute('aria-label') ?? '').startsWith(only),
        );
      const elsewhere = /^Restore the demo|Remove…|glTF 2\.0/;
      for (let t = 0; t < triggers().length; t++) {
        let misses = 0;
        for (let line = 0; line < 60; line++) {
          // What a line began may have put its menu away, until it was left again.
          let trigger = triggers()[t];
          for (let i = 0; i < 60 && !trigger; i++) {
            await rest(15);
            trigger = triggers()[t];
          }
          if (!trigger) break;
          const name = trigger.getAttribute('aria-label') ?? trigger.textContent!.trim();
          const menu = () => document.querySelector('[role="menu"]');
          // A menu that still closes takes the press that would open the next; one that opens late would be closed by a second press.
          for (let i = 0; i < 400 && menu(); i++) await rest(15);
          for (let again = 1; again < 8 && !menu(); again++) {
            trigger.dispatchEvent(new PointerEvent('pointerdown', { button: 0, bubbles: true, pointerType: 'mouse' }));
            // Longer each time, so that a slow one does open; most that do not have not heard of the press.
            for (let i = 0; i < 30 * again && !menu(); i++) await rest(15);
          }
          if (!menu() && trigger.isConnected) came.push({ what: name, refused: 'did not open' });
          await rest(15);
          const lines = [...document.querySelectorAll<HTMLElement>('[role="menu"] [role^="menuitem"]')].filter(
            (l) => !l.closest('a[download]') && l.getAttribute('aria-haspopup') === null,
          );
          const pressed = lines[line];
          // What the line before began can still close the menu as it opens.
          if (!pressed && misses++ < 4) {
            line--;
            await rest(100);
            continue;
          }
          // The scenes themselves are opened by tests of their own.
          if (
            pressed &&
            !elsewhere.test(pressed.textContent!) &&
            !(pressed.closest('[role="menu"]')!.textContent!.startsWith('Used last') && pressed.title !== '')
          ) {
            w.calmPivotSession.say(null);
            const scene = w.calmPivotPage().scene.id;
            if (!pressed.matches('[data-disabled]')) pressed.click();
            await rest(30);
            const { notice } = w.calmPivotPage();
            came.push({
              what: `${name}: ${pressed.textContent}`,
              refused: notice?.kind === 'refusal' ? notice.text : null,
            });
            if (w.calmPivotPage().scene.id !== scene)
              return [...came, { what: `${name}: ${pressed.textContent}`, refused: 'went elsewhere' }];
          }
          // Stills are made to their end in stories of their own: in software they take minutes.
          [...document.querySelectorAll<HTMLElement>('[data-making] button')]
            .find((b) => b.textContent?.includes('Drop it'))
            ?.click();
          const last = line >= lines.length - 1;
          (document.activeElement ?? document.body).dispatchEvent(
            new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }),
          );
          document
            .querySelector('[role="menu"]')
            ?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
          await rest(10);
          for (let i = 0; i < 3; i++) w.calmPivotRun(leave, w.calmPivotStage);
          const there = new Set(w.calmPivotPage().rows.map((r) => r.id));
          if (count > 0) w.calmPivotSession.select(first.filter((id) => there.has(id)));
          if (last) break;
        }
      }
      return came;
    },
    [picked, only] as const,
  );

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
    // Restoring the demo goes elsewhere; tests of its own do it.
    for (const command of w.calmPivotCommands.filter((c) => c.id !== 'scene.demo')) {
      w.calmPivotSession.say(null);
      w.calmPivotRun(command, w.calmPivotStage);
      // What is locked could not be tried any further.
      if (command.id === 'lock') w.calmPivotRun(command, w.calmPivotStage);
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

for (const [name, { enter, picked }] of Object.entries(rooms)) {
  test(`every command of the table does its work or says what it lacks: ${name}`, async ({ page }) => {
    test.setTimeout(180_000);
    const said = complaints(page);
    const room = await enter(page);
    await plain(page);
    await pickFirst(page, picked);
    expect(unfit(await runAll(page))).toEqual([]);
    await room.saved();
    expect(said).toEqual([]);
    await stillWhole(room);
  });

  test(`every line of every menu does its work or says what it lacks: ${name}`, async ({ page }) => {
    test.setTimeout(180_000);
    const said = complaints(page);
    const room = await enter(page);
    await plain(page);
    await pickFirst(page, picked);
    const came = await pressAll(page, picked);
    expect(came.length).toBeGreaterThan(picked > 0 ? 60 : 25);
    expect(unfit(came)).toEqual([]);
    await room.saved();
    expect(said).toEqual([]);
    await stillWhole(room);
  });

  test(`every line of the menus of the drawers does its work or says what it lacks: ${name}`, async ({ page }) => {
    test.setTimeout(180_000);
    const said = complaints(page);
    const room = await enter(page);
    // Without shots that drawer is a line, which names the others.
    const drawers = ['Materials', 'Lamps', 'Stills'];
    for (const drawer of name === 'demo' ? ['Shots', ...drawers] : drawers) {
      await pickFirst(page, picked);
      await page.getByRole('button', { name: drawer, exact: true }).click();
      const came = await pressAll(page, picked, `All ${drawer.toLowerCase()}`);
      expect(came.length, JSON.stringify(came)).toBeGreaterThan(3);
      expect(unfit(came)).toEqual([]);
      // What was begun last is dropped, too.
      const making = page.locator('[data-making]');
      for (const end = Date.now() + 90_000; (await making.count()) > 0 && Date.now() < end;)
        await making
          .getByRole('button', { name: 'Drop it' })
          .click({ timeout: 5000 })
          .catch(() => undefined);
      await expect(making).toHaveCount(0);
    }
    await room.saved();
    expect(said).toEqual([]);
    await stillWhole(room);
  });
}
