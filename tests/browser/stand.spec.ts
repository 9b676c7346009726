import { auditFaults, expect, test } from './page';

test('a part stands large, is turned, cut into chunks, and worked up by good rounds', async ({ page }) => {
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await page.getByRole('button', { name: 'Rehearse' }).click();
  await page.waitForURL(/\/stand\?/);
  await expect(page).toHaveTitle(/Rehearse: Lamps on the Mole/);
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 20_000 });
  expect(await auditFaults(page)).toEqual([]);
  for (let k = 0; k < 3; k += 1) await page.getByRole('button', { name: 'Larger notes' }).click();
  await expect(page.getByText(/^1 of [2-9]/)).toBeVisible();
  await page.keyboard.press('PageDown');
  await expect(page.getByText(/^2 of /)).toBeVisible();
  await page.keyboard.press('PageUp');
  const chunks = page.getByRole('list', { name: 'Chunks' });
  await chunks.getByRole('button', { name: /^2 bars/ }).click();
  await expect(page.getByRole('combobox', { name: 'What is practised' })).toHaveText('one chunk, round and round');
  await page.getByRole('textbox', { name: 'Tempo at the start' }).fill('50');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Good rounds before the next step' }).fill('2');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Good', exact: true }).click();
  await expect(page.getByText('1 of 2 good rounds at 50; then 54.')).toBeVisible();
  await page.getByRole('button', { name: 'Good', exact: true }).click();
  await expect(page.getByText('0 of 2 good rounds at 54; then 58.')).toBeVisible();
  await page.getByRole('combobox', { name: 'What is practised' }).click();
  await page.getByRole('option', { name: 'chunks joined, from the front' }).click();
  for (const name of ['Chunk 2', 'Chunk 1+2']) {
    await page.getByRole('button', { name: 'Next', exact: true }).click();
    await expect(page.getByText(name, { exact: false }).first()).toBeVisible();
  }
  await page.getByRole('combobox', { name: 'The line' }).click();
  await page.getByRole('option', { name: 'plays it, then waits for your answer' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.getByRole('combobox', { name: 'What is shown' }).click();
  await page.getByRole('option', { name: 'every second bar' }).click();
  expect(await auditFaults(page)).toEqual([]);
});

test('a stand that was opened once opens again without a network, with its music', async ({ page, context }) => {
  await page.goto('/tunes/kelp-on-the-slipway/stand?level=advanced');
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('kept for without a network')).toBeVisible({ timeout: 30_000 });
  await context.setOffline(true);
  await page.reload();
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Kelp on the Slipway');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: /sound|network/ })).toHaveCount(0);
  await context.setOffline(false);
});
