import { expect } from '@playwright/test';
import { test } from './shared';
import { Room } from './room';

test('what a field shows it takes, in every chapter, and nothing changes by it', async ({ page }) => {
  const room = await Room.open(page);
  const limit = { kind: 'limit', of: 'position', low: [null, 0, null], high: [1, null, null] };
  await page.request.post(`/api/scenes/${room.id}/edits`, {
    data: { base: 1_000_000, edits: [{ do: 'constrain', nodes: ['drum'], constraint: limit }] },
  });
  const panel = page.getByRole('complementary', { name: 'Picked object' });
  let fields = 0;
  for (const id of ['drum', 'orrery-camera', 'desk-glow', 'daylight', 'globe', 'orrery']) {
    await room.pick(id);
    const stored = await room.node(id);
    for (const chapter of ['Where', 'What', 'Why'] as const) {
      await room.chapter(chapter);
      for (const field of await panel.locator('input.field:enabled').all()) {
        const [label, shown] = [await field.getAttribute('aria-label'), await field.inputValue()];
        if (shown === '' || /name|note/i.test(label ?? '')) continue;
        await field.fill(shown);
        await field.press('Enter');
        await expect(page.locator('[data-hint][role="alert"]'), `${id} ${label}: ${shown}`).toHaveCount(0);
        await expect(field, `${id} ${label}`).toHaveValue(shown);
        fields++;
      }
    }
    expect((await room.node(id)).placement).toEqual(stored.placement);
  }
  expect(fields).toBeGreaterThan(60);
});

test('sizes of pictures, proportions, commas, fractions and nothing are understood where they belong', async ({
  page,
}) => {
  const room = await Room.open(page);
  await room.pick('orrery-camera');
  await room.chapter('What');
  const camera = async () => (await room.node('orrery-camera')) as unknown as { camera: Record<string, number> };
  const type = async (label: string, text: string) => {
    await room.field(label).fill(text);
    await room.field(label).press('Enter');
    await room.saved();
    await expect(page.locator('[data-hint][role="alert"]')).toHaveCount(0);
  };
  await type('Picture', '800x600');
  await expect(room.field('Picture')).toHaveValue('800 × 600');
  await type('Picture', '640 × 360');
  await expect(room.field('Picture')).toHaveValue('640 × 360');
  await type('Width : height', '4:3');
  await expect(room.field('Picture')).toHaveValue('640 × 480');
  await type('Near', '0,6');
  expect((await camera()).camera['near']).toBeCloseTo(0.6, 12);
  await type('Near', '1/2');
  expect((await camera()).camera['near']).toBeCloseTo(0.5, 12);
  await type('Near', '60cm');
  expect((await camera()).camera['near']).toBeCloseTo(0.6, 12);
  await type('Near', '');
  await expect(room.field('Near')).toHaveValue('as needed');
  await type('Far', 'as needed');
  await expect(room.field('Far')).toHaveValue('as needed');
});
