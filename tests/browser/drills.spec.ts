import { auditFaults, expect, saved, test } from './page';

test('a drill is a sentence: its words change the music at three levels, and undo brings it back', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New drill' }).click();
  await page.getByRole('dialog', { name: 'New drill' }).getByRole('button', { name: 'Save to the shelf' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Thirds in major' })).toBeVisible();
  const cells = page.getByRole('button', { name: /^Beginner, / });
  await expect(cells).toHaveCount(3);
  await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole('combobox', { name: 'Set' }).click();
  await page.getByRole('option', { name: 'dorian', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Thirds in dorian' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Beginner, .* dorian/ })).toHaveCount(3);
  await page.getByRole('combobox', { name: 'Keys' }).click();
  await page.getByRole('option', { name: 'in the keys', exact: true }).click();
  await expect(cells).toHaveCount(3);
  await page.getByRole('textbox', { name: 'Concert tonics' }).fill('C H');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'concert tonics' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Concert tonics' }).fill('B♭');
  await page.keyboard.press('Enter');
  await expect(cells).toHaveCount(1);
  await saved(page);
  await page.getByRole('button', { name: 'Undo: Keys chosen' }).click();
  await expect(cells).toHaveCount(3);
  expect(await auditFaults(page)).toEqual([]);
  // Keys are weighed in a step of their own: those chosen there are the drill's for every level.
  await page.getByRole('link', { name: 'Keys' }).click();
  await page.getByRole('button', { name: 'Take these keys' }).click();
  await expect(page.getByRole('list', { name: 'Keys in their order' }).getByRole('listitem')).toHaveCount(4);
  await page.getByRole('button', { name: 'G♭', exact: true }).click();
  await expect(page.getByRole('button', { name: 'G♭ earlier' })).toBeVisible();
  await page.getByRole('button', { name: 'G♭ earlier' }).click();
  await expect(page.getByRole('button', { name: /^Advanced, / })).toHaveCount(5);
  expect(await auditFaults(page)).toEqual([]);
});

test('a ladder goes by steps, a level by its own limits, and both come on paper and in a book', async ({ page }) => {
  await page.goto('/tunes/six-rungs/drills');
  await expect(page.getByRole('heading', { name: '1. Scale' })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('A ladder of 6 steps:')).toBeVisible();
  await page.getByRole('link', { name: 'Levels' }).click();
  await page.getByRole('button', { name: 'Advanced', exact: true }).first().click();
  await page.getByRole('combobox', { name: 'Advanced: keys' }).click();
  await page.getByRole('option', { name: 'the first key', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Advanced, / })).toHaveCount(6);
  expect(await auditFaults(page)).toEqual([]);
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  for (const [address, start] of [
    ['/api/tunes/six-rungs/files/beginner.pdf?names=covered', '%PDF'],
    ['/api/tunes/round-the-harbour/files/beginner.pdf?keys=all', '%PDF'],
    ['/api/drills/book.pdf?ids=six-rungs,one-shape-seven-frets&level=beginner&instrument=flute', '%PDF'],
    ['/api/tunes/six-rungs/files/advanced.musicxml', '<?xml'],
  ] as const) {
    const answer = await page.request.get(address);
    expect([answer.status(), (await answer.text()).slice(0, start.length)]).toEqual([200, start]);
  }
  const refused = await page.request.get('/api/drills/book.pdf?ids=&level=beginner');
  expect(refused.status()).toBe(400);
});

test('a tune gives drills of its own, and a pattern of the shelf is taken by a press', async ({ page }) => {
  await page.goto('/tunes/kelp-on-the-slipway/drills');
  await page
    .getByRole('listitem')
    .filter({ hasText: 'The chords of Kelp on the Slipway' })
    .getByRole('button', { name: 'Make this drill' })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'The chords of Kelp on the Slipway' })).toBeVisible();
  await expect(page.getByText('over Kelp on the Slipway')).toBeVisible();
  await page.getByRole('button', { name: /^triads$/i }).click();
  await expect(page.getByRole('combobox', { name: 'Pattern' })).toHaveText('Triads');
  await page.getByRole('tab', { name: 'Variants' }).click();
  await page.getByRole('checkbox', { name: 'quarters, over an octave, up', exact: true }).check();
  await page.getByRole('checkbox', { name: 'quarters, over two octaves, down', exact: true }).check();
  await page.getByRole('button', { name: 'Make them the 2 steps' }).click();
  await expect(page.getByText('A ladder of 2 steps:')).toBeVisible();
  await saved(page);
  const { origin, pathname } = new URL(page.url());
  const removed = await page.request.delete(`/api${pathname.replace(/\/drills$/, '')}`, { headers: { origin } });
  expect(removed.ok()).toBe(true);
});
