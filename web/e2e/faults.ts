import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What cannot be used without seeing it, of the page or a part of it. What passes is not listed: that would take most of the time. */
export async function faults(page: Page, within = 'html', rules = {}): Promise<string[]> {
  // The page has no frames, so that nothing has to be put together in another one.
  const looking = new AxeBuilder({ page }).setLegacyMode().include(within);
  const { violations } = await looking.options({ rules, resultTypes: ['violations'] }).analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
}
