import { allDrawn, auditFaults, expect, test } from './page';

test('a pack is made page by page, handed out by a link, and played from at home without a network', async ({
  page,
  browser,
}) => {
  test.slow();
  await page.goto('/pupils/demo-juno');
  await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'To take home' }).click();
  const sheet = page.getByRole('dialog', { name: 'To take home: Juno' });
  await expect(sheet.getByRole('region', { name: 'In this pack' })).toContainText('Part');
  await sheet.getByLabel('A line for the cover').fill('Breathe low.');
  expect(await auditFaults(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Make the pages' }).click();
  const pages = sheet.getByRole('link', { name: 'Open the pages' });
  await expect(pages).toBeFocused({ timeout: 90_000 });
  const paper = await page.request.get((await pages.getAttribute('href')) ?? '');
  expect([paper.status(), (await paper.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-']);
  await sheet.getByRole('button', { name: 'Make a link …' }).click();
  const address = (await page.getByText(/\/h\/[\w-]{22}$/).textContent()) ?? '';
  await expect(page.getByRole('img', { name: 'The link for Juno, to be scanned' })).toBeVisible();

  const phones = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await phones.newPage();
  await phone.goto(address);
  await phone.locator('html[data-ready]').waitFor({ state: 'attached' });
  await expect(phone.getByText('Breathe low.')).toBeVisible();
  await expect(phone.getByText(/^Saved for offline use/)).toBeVisible();
  expect(await auditFaults(phone)).toEqual([]);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await phone
    .getByRole('link', { name: / on the stand$/ })
    .first()
    .click();
  await allDrawn(phone);
  await expect(phone.locator('main svg .note').first()).toBeVisible({ timeout: 60_000 });
  await phones.setOffline(true);
  await phone.reload();
  await expect(phone.locator('main svg .note').first()).toBeVisible({ timeout: 60_000 });
  await phones.setOffline(false);

  // Back at the teacher's: the choice is kept for next time, and the link is ended.
  await page.reload();
  await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'To take home' }).click();
  await expect(sheet).toContainText('Chosen as last time');
  await expect(sheet.getByLabel('A line for the cover')).toHaveValue('Breathe low.');
  await sheet
    .getByRole('button', { name: /^End the link from/ })
    .first()
    .click();
  await expect(page.getByText('The link has ended.', { exact: true })).toBeVisible();
  await phone.goto(address);
  await expect(phone.getByRole('heading', { name: 'This link has ended' })).toBeVisible();
  await phones.close();
});
