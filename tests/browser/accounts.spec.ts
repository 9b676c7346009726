import { firstStudioProgram, type StudioProgram } from './studioProgram';
import { allDrawn, auditFaults, expect, test } from './page';

const PASSWORD = 'kelp and lantern 7';
let house: StudioProgram;
test.beforeAll(async () => {
  house = await firstStudioProgram();
});
test.afterAll(() => house.stop());

/** A browser of somebody's own; the others of these tests say that they come from another address. */
const OWN = { extraHTTPHeaders: {} };

test('a studio is set up, a guest is invited and reads; nothing of it stays in the browser', async ({ browser }) => {
  test.slow();
  const context = await browser.newContext({ ...OWN });
  const page = await context.newPage();
  await page.goto(`${house.origin}/pupils`);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await page.goto(house.welcome);
  await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  await page.getByLabel('Mail address').fill('maren@loft.example');
  await page.getByLabel('Your name, as colleagues see it').fill('Maren Holt');
  await page.getByLabel('Password').fill(PASSWORD);
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('link', { name: /your account, Maren Holt, owner/ })).toBeVisible();

  await page.goto(`${house.origin}/people`);
  await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  await page.getByLabel('Mail address').fill('gwen@loft.example');
  await page.getByLabel('Role of the invited').click();
  await page.getByRole('option', { name: /^guest/ }).click();
  await page.getByRole('button', { name: 'Invite', exact: true }).click();
  const address = await page.getByLabel('Address to hand on').inputValue();
  await page.keyboard.press('Escape');
  await expect(page.getByText('gwen@loft.example').first()).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await page.goto(`${house.origin}/account`);
  expect(await auditFaults(page)).toEqual([]);

  // The guest, on a computer of their own: reads, and is told that nothing they change is kept.
  const guests = await browser.newContext({ ...OWN });
  const guest = await guests.newPage();
  await guest.goto(address);
  await guest.locator('html[data-ready]').waitFor({ state: 'attached' });
  await guest.getByLabel('Your name, as colleagues see it').fill('Gwen');
  await guest.getByLabel('Password').fill(PASSWORD);
  await guest.getByRole('button', { name: 'Come in' }).click();
  await expect(guest.getByRole('link', { name: 'Shelf', exact: true })).toBeVisible();
  await expect(guest.getByRole('link', { name: 'Pupils' })).toHaveCount(0);
  await guest.goto(`${house.origin}/pupils`);
  await expect(guest.getByRole('heading', { name: 'Not for you here' })).toBeVisible();
  await guest.goto(`${house.origin}/tunes/lamps-on-the-mole/tune`);
  await guest.locator('html[data-ready]').waitFor({ state: 'attached' });
  await expect(guest.getByText('You are a guest here: you can read and print.')).toBeVisible();
  await guest.evaluate(() => localStorage.setItem('reed-practice/x', 'y'));
  await guest.goto(`${house.origin}/account`);
  await guest.locator('html[data-ready]').waitFor({ state: 'attached' });
  await guest.getByRole('button', { name: 'Sign out here' }).click();
  await expect(guest.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  expect(await guest.evaluate(async () => [localStorage.length, (await caches.keys()).length])).toEqual([0, 0]);
  await guest.goBack();
  await expect(guest.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await guests.close();

  // A pupil at home, on a telephone.
  await page.goto(`${house.origin}/pupils`);
  await page.locator('a[href^="/pupils/"]').first().click();
  await page.getByRole('tab', { name: 'About' }).click();
  await page.getByRole('button', { name: /^Make a .*link …$/ }).click();
  const link = (await page.locator('[data-print-alone] .font-mono').textContent()) ?? '';
  const phones = await browser.newContext({ ...OWN, viewport: { width: 390, height: 844 } });
  const phone = await phones.newPage();
  const sent: string[] = [];
  phone.on('request', (request) => request.method() === 'POST' && sent.push(request.url()));
  await phone.goto(link);
  await phone.locator('html[data-ready]').waitFor({ state: 'attached' });
  await expect(phone.getByText('Saved for offline use.')).toBeVisible();
  expect(await auditFaults(phone)).toEqual([]);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await phone
    .getByRole('link', { name: /^On the stand: / })
    .first()
    .click();
  await allDrawn(phone);
  await expect(phone.locator('main svg .note').first()).toBeVisible({ timeout: 60_000 });
  expect(await auditFaults(phone)).toEqual([]);
  await phone.getByRole('link', { name: 'My week' }).click();
  await expect(phone.getByRole('heading', { name: /, this week$/ })).toBeVisible();
  await phones.setOffline(true);
  await phone.reload();
  const tick = phone.getByRole('button', { name: /^Practised: / }).first();
  await expect(tick).toBeVisible();
  await phone.locator('html[data-ready]').waitFor({ state: 'attached' });
  await tick.click();
  await expect(phone.getByText(/^One entry waits on this device/)).toBeVisible();
  await phones.setOffline(false);
  await expect(phone.getByText(/waits on this device/)).toHaveCount(0, { timeout: 30_000 });
  expect(sent.length).toBeGreaterThan(0);
  // The link is ended while it is open: what is played then stays on the device.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'End the link' }).click();
  await expect(page.getByText('The link has ended.', { exact: true })).toBeVisible();
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'This link has ended' })).toBeVisible();
  expect(await auditFaults(phone)).toEqual([]);
  await phones.close();
  await context.close();
});
