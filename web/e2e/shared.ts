import { test as base, type BrowserContext, type Page } from '@playwright/test';
import { keepAlive, prepared, rested } from './living';

interface Story {
  /** The story is about opening, reloading, leaving or failing, or changes the page itself: it has a page of its own. */
  ownPage: boolean;
}

interface Worker {
  shared: BrowserContext;
  living: { page: Page | null };
}

/**
 * The stories of a worker share one browser context, so that the page's files and the compiled core stay in its cache, and one
 * living page, whose scene is changed. Each begins as a new person, nothing allowed, nothing kept, and the page as it begins.
 */
export const test = base.extend<Story, Worker>({
  ownPage: [false, { option: true }],
  shared: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, deviceScaleFactor, actionTimeout } = project.use;
      const context = await browser.newContext({
        // Fewer pictures are drawn; what glides and fades is asked of stories of its own.
        reducedMotion: 'reduce',
        ...(baseURL === undefined ? {} : { baseURL }),
        ...(viewport === undefined ? {} : { viewport }),
        ...(deviceScaleFactor === undefined ? {} : { deviceScaleFactor }),
      });
      context.setDefaultTimeout(actionTimeout ?? 0);
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  living: [async ({ shared }, use) => use({ page: await prepared(shared) }), { scope: 'worker', timeout: 180_000 }],
  context: async ({ shared, living }, use) => {
    await shared.clearCookies();
    await shared.clearPermissions();
    await use(shared);
    for (const page of shared.pages()) if (page !== living.page) await page.close();
  },
  page: async ({ context, living, ownPage, viewport, baseURL }, use, info) => {
    const page = ownPage ? await context.newPage() : (living.page ?? (await prepared(context)));
    const browser = await context.newCDPSession(page);
    await browser.send('Storage.clearDataForOrigin', {
      origin: new URL(baseURL!).origin,
      storageTypes: 'local_storage,indexeddb',
    });
    await browser.detach();
    if (ownPage) {
      await use(page);
      return;
    }
    living.page = page;
    keepAlive(page);
    await use(page);
    if (info.status === info.expectedStatus && (await rested(page, viewport!))) return;
    living.page = null;
    await page.close();
  },
});
