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
  // The next day it goes on where it stopped.
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'What is practised' })).toHaveText('chunks joined, from the front');
  await expect(page.getByText('Chunk 1+2').first()).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Tempo at the start' })).toHaveValue('50');
});

test('a stand that was opened once opens again without a network, with its music', async ({ page, context }) => {
  await page.goto('/tunes/kelp-on-the-slipway/stand?level=advanced');
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Saved for offline use')).toBeVisible({ timeout: 30_000 });
  await expect
    .poll(() => page.evaluate(async () => (await caches.match('/hearing-worklet.js')) !== undefined))
    .toBe(true);
  await context.setOffline(true);
  await page.reload();
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Kelp on the Slipway');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: /sound|network/ })).toHaveCount(0);
  await context.setOffline(false);
});

test('by ear the notes come last; others play along; an empty chorus stands with its notes', async ({ page }) => {
  await page.goto('/tunes/lamps-on-the-mole/stand?level=beginner');
  const note = page.locator('main svg .note').first();
  await expect(note).toBeVisible({ timeout: 30_000 });
  const choose = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label }).click();
    await page.getByRole('option', { name: option }).click();
  };
  await choose('What is shown', 'the notes last: by ear');
  const card = page.getByRole('region', { name: 'By ear' });
  await expect(card.getByRole('heading', { name: 'Find the home note' })).toBeVisible();
  await expect(note).toBeHidden();
  await card.getByRole('button', { name: 'Tell me its name' }).click();
  await expect(card.getByRole('button', { name: 'It is G' })).toBeVisible();
  await card.getByRole('button', { name: 'Hear the home note' }).click();
  await expect(card.getByRole('button', { name: 'Stop' })).toBeVisible();
  await card.getByRole('button', { name: 'I have it' }).click();
  await card.getByRole('button', { name: 'I have it' }).click();
  await expect(card.getByRole('heading', { name: 'Phrase 1' })).toBeVisible();
  await expect(card.getByRole('img', { name: /^The shape of the phrase: \d+ notes/ })).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'The line' })).toHaveText('plays it, then waits for your answer');
  expect(await auditFaults(page)).toEqual([]);
  await card.getByRole('button', { name: 'Show its notes' }).click();
  await expect(note).toBeVisible();
  await card.getByRole('button', { name: 'I have it' }).click();
  await expect(note).toBeHidden();
  await choose('What is shown', 'everything');
  await expect(note).toBeVisible();
  await choose('Aids', 'no aids or names');
  await page.getByRole('button', { name: 'Before you play: four steps' }).click();
  const before = page.getByRole('region', { name: 'Before you play' });
  await expect(before.getByRole('heading', { name: 'Say the names' })).toBeVisible();
  await expect(page.locator('main svg .verse').first()).toContainText(/[A-G]/);
  await before.getByRole('button', { name: 'Next' }).click();
  await expect(before.getByRole('heading', { name: 'Clap the rhythm' })).toBeVisible();
  await before.getByRole('button', { name: 'Close these steps' }).click();
  await expect(before).toHaveCount(0);
  await choose('What is practised', 'once through, with its repeats');
  await choose('Eighths', 'swung');
  await page.getByText('Who plays along, and how loud each is').click();
  await page.getByRole('checkbox', { name: 'the advanced part' }).check();
  await page.getByRole('slider', { name: 'Advanced: loudness' }).fill('40');
  for (let k = 0; k < 4; k += 1) await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: /sound/ })).toHaveCount(0);
  expect(await auditFaults(page)).toEqual([]);
  await page.goto('/tunes/slip-rope-blues/improvise');
  await page.getByRole('button', { name: 'Rehearse' }).click();
  await page.waitForURL(/what=pool/);
  await expect(page.getByText(/Your notes: /)).toBeVisible({ timeout: 30_000 });
  await expect(page.locator('main svg .measure').first()).toBeVisible();
  await expect(page.locator('main svg .rest').first()).toBeHidden();
});
