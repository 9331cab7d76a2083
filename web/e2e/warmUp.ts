import { chromium, type FullConfig } from '@playwright/test';

/** For how long pictures of the demo are waited for: some ten times as long as they take. */
const longest = 120_000;

/**
 * Opens the demo until the pictures of its shots are kept. Copies take them over; else every story that begins on one would
 * draw them again, in software.
 */
export default async function warmUp({ projects }: FullConfig): Promise<void> {
  const { baseURL, viewport, deviceScaleFactor, launchOptions } = projects[0]!.use;
  const browser = await chromium.launch(launchOptions);
  const page = await browser.newPage({
    baseURL: baseURL!,
    viewport: viewport!,
    deviceScaleFactor: deviceScaleFactor!,
  });
  const kept = async () =>
    ((await (await page.request.get('/api/scenes/orrery-room/shots/pictures')).json()) as unknown[]).length;
  const wanted = (
    (await (await page.request.get('/api/scenes/orrery-room')).json()) as { shots: { camera: string | null }[] }
  ).shots.filter((shot) => shot.camera !== null).length;
  if ((await kept()) < wanted) {
    await page.goto('/?scene=orrery-room');
    for (const end = Date.now() + longest; (await kept()) < wanted && Date.now() < end;) await page.waitForTimeout(500);
  }
  const isWarm = (await kept()) >= wanted;
  await browser.close();
  // Every story on a copy of the demo would draw them: that is to be seen, not borne.
  if (!isWarm) throw new Error(`The pictures of the demo's shots were not kept within ${longest / 1000} s.`);
}
