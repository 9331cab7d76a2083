import type { BrowserContext, Page } from '@playwright/test';

/** What the page tells the stories of itself. */
interface Session {
  rest(): Promise<void>;
  renew(scene: string): Promise<void>;
}

interface Hooks {
  calmPivotSession?: Session;
  calmPivotPage(): { shots: { id: string }[] };
  calmPivotStage: { throughShot(shot: string, width: number, height: number): Promise<Blob | null> };
}

/** Pages that go from story to story. */
const all = new WeakSet<Page>();

/** A page that has drawn all that a picture of a shot needs: in software its shaders take many seconds, which no story is to wait for. */
export async function prepared(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await page.goto('/?scene=orrery-room');
  await page.getByRole('tree').waitFor({ timeout: 120_000 });
  await page.evaluate(async () => {
    const { calmPivotStage: stage, calmPivotSession: session, calmPivotPage: page } = window as unknown as Hooks;
    // Each has lamps of its own, and by their number shaders of its own.
    for (const { id } of page().shots) await stage.throughShot(id, 64, 48);
    await session?.rest();
  });
  return page;
}

export function keepAlive(page: Page): void {
  all.add(page);
}

/** Enters a scene in a page that lives on, as a reload with its link would; false: it has to be loaded. */
export async function renewed(page: Page, scene: string): Promise<boolean> {
  if (!all.has(page)) return false;
  return page.evaluate(async (id) => {
    const { calmPivotSession: session } = window as unknown as Hooks;
    await session?.renew(id);
    return session !== undefined;
  }, scene);
}

/**
 * Puts a page back for the next story: what the test listened to and stood in for, what its hands held, how large it was, and what the page
 * itself holds. Tells whether that could be done.
 */
export async function rested(page: Page, viewport: { width: number; height: number }): Promise<boolean> {
  if (page.isClosed()) return false;
  page.removeAllListeners();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  for (const key of ['Shift', 'Control', 'Alt', 'Meta']) await page.keyboard.up(key);
  for (const button of ['left', 'right', 'middle'] as const) await page.mouse.up({ button });
  const resting = page.evaluate(async () => {
    await (window as unknown as Hooks).calmPivotSession?.rest();
  });
  const late = new Promise<false>((done) => setTimeout(() => done(false), 10_000));
  const isDone = await Promise.race([resting.then(() => true), late]).catch(() => false);
  if (!isDone) return false;
  await page.setViewportSize(viewport);
  await page.emulateMedia({ media: null, colorScheme: null, reducedMotion: 'reduce' });
  await page.mouse.move(0, 0);
  return true;
}
