import type { Page } from '@playwright/test';
import { allDrawn, auditFaults, expect, test } from './page';

const TABLET = { width: 820, height: 1180 };
const PHONE = { width: 390, height: 844 };

/** No page may be wider than the screen: what does not fit is laid out anew, not pushed aside. */
const width = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth);

test('on a tablet upright the lanes have the whole width, the drawer comes from below and the rail lies at the foot', async ({
  page,
}) => {
  await page.setViewportSize(TABLET);
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await allDrawn(page);
  const music = await page.locator('[data-lane="beginner"][data-bar="1"]').boundingBox();
  const rail = await page.getByRole('navigation', { name: 'Rooms' }).boundingBox();
  expect([(music?.width ?? 0) > 100, (rail?.y ?? 0) > 1_000, (rail?.width ?? 0) >= 800]).toEqual([true, true, true]);
  await expect(page.getByRole('combobox', { name: 'Beginner: instrument' })).toBeHidden();
  await page.locator('[data-lane="beginner"][data-bar="2"]').click();
  await page.getByRole('complementary').getByRole('button', { name: 'Levels' }).click();
  await page.getByRole('tab', { name: 'Recipe' }).click();
  const choice = page.getByRole('combobox', { name: 'Beginner: instrument' });
  await expect(choice).toBeVisible();
  expect(((await choice.boundingBox())?.y ?? 0) > 300).toBe(true);
  expect([await width(page), await auditFaults(page)]).toEqual([TABLET.width, []]);
});

test('on a phone the shelf, the levels, the groups and listening work; none is wider than the screen', async ({
  page,
}) => {
  await page.setViewportSize(PHONE);
  for (const path of ['/', '/groups', '/instruments', '/instruments/violin', '/tunes/lamps-on-the-mole/levels']) {
    await page.goto(path);
    await allDrawn(page);
    expect([path, await width(page), await auditFaults(page)]).toEqual([path, PHONE.width, []]);
  }
  const music = await page.locator('[data-lane="tune"][data-bar="1"]').boundingBox();
  expect((music?.width ?? 0) > 60).toBe(true);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.locator('.sounding').first()).toBeAttached();
  await page.getByRole('button', { name: 'Stop' }).click();
});
