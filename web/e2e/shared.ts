import { test as base, type BrowserContext } from '@playwright/test';

/**
 * The tests share one browser context, so that the page's files and the compiled core stay in its cache. Each test begins
 * as a new person with a page of its own, nothing allowed and nothing kept.
 */
export const test = base.extend<object, { shared: BrowserContext }>({
  shared: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, deviceScaleFactor, actionTimeout } = project.use;
      const context = await browser.newContext({
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
  context: async ({ shared }, use) => {
    await shared.clearCookies();
    await shared.clearPermissions();
    await use(shared);
    for (const page of shared.pages()) await page.close();
  },
  page: async ({ context, baseURL }, use) => {
    const page = await context.newPage();
    const browser = await context.newCDPSession(page);
    await browser.send('Storage.clearDataForOrigin', {
      origin: new URL(baseURL!).origin,
      storageTypes: 'local_storage,indexeddb',
    });
    await browser.detach();
    await use(page);
  },
});
