import { allDrawn, auditFaults, bringIn, expect, SMALL_TUNE, test } from './page';

test('a lane is heard from the picked bar, its notes light up as they sound, and it stops', async ({ page }) => {
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await allDrawn(page);
  await page.locator('[data-lane="beginner"][data-bar="2"]').click();
  const tempo = page.getByLabel('Playing tempo, beats a minute');
  await expect(tempo).toHaveValue('60');
  await tempo.fill('999');
  await tempo.press('Enter');
  await expect(page.getByRole('region', { name: 'Listen' }).getByRole('alert')).toContainText(
    'beats a minute go from 20 to 400',
  );
  // Eight frames and more a note: one that a busy machine drops skips none.
  await tempo.fill('120');
  await tempo.press('Enter');
  const seen = page.evaluate(
    () =>
      new Promise<string[]>((done) => {
        const ids = new Set<string>();
        const look = setInterval(() => {
          document.querySelectorAll('.sounding').forEach(({ id }) => ids.add(id));
          if (ids.size >= 6) {
            clearInterval(look);
            done([...ids]);
          }
        }, 15);
      }),
  );
  await page.getByRole('button', { name: 'Play', exact: true }).press('l');
  const ids = await seen;
  const written = await page.locator('g.note[id^="beginner:"]').evaluateAll((notes) => notes.map(({ id }) => id));
  // The picked bar's notes and those after it, in their order, of this lane alone.
  const first = written.indexOf(ids[0] ?? '');
  expect(ids.slice(0, 4)).toEqual(written.slice(first, first + 4));
  expect(ids.every((id) => id.startsWith('beginner:'))).toBe(true);
  await expect(page.getByRole('region', { name: 'Listen' })).toContainText(/bar \d/);
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.locator('.sounding')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('a bar is looped, with all levels that are in one key', async ({ page }) => {
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await allDrawn(page);
  await page.locator('[data-lane="advanced"][data-bar="3"]').click();
  await page.getByLabel('How far').click();
  await page.getByRole('option', { name: 'this bar, looped' }).click();
  await page.getByLabel('What is heard').click();
  await page.getByRole('option', { name: 'all three levels' }).click();
  await page.getByLabel('Playing tempo, beats a minute').fill('400');
  await page.getByRole('button', { name: 'count-in' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Listen' }).getByRole('alert')).toContainText(
    'is not heard with the others',
  );
  // Longer than the bar lasts: still there, still lit.
  await expect(page.locator('.sounding').first()).toBeAttached();
  await page.waitForTimeout(2500);
  await expect(page.getByRole('region', { name: 'Listen' })).toContainText('bar 3');
  await expect(page.locator('.sounding').first()).toBeAttached();
  await page.keyboard.press('l');
  await expect(page.locator('.sounding')).toHaveCount(0);
});

test('another tempo and another version of a bar are heard at once, and a stretch goes on where it began', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('button', { name: /^Beginner, bar 2:/ }).click();
  await page.getByLabel('How far').click();
  await page.getByRole('option', { name: 'this bar, looped' }).click();
  await page.getByRole('button', { name: 'count-in' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const note = page.locator('g.note.sounding[id^="beginner:"]').first();
  const rest = page.locator('g.mRest.sounding[id^="beginner:"], g.rest.sounding[id^="beginner:"]').first();
  await expect(note).toBeAttached();
  await page.getByLabel('Playing tempo, beats a minute').fill('100');
  await page.getByLabel('Playing tempo, beats a minute').press('Enter');
  await page
    .getByRole('region', { name: 'Versions of bar 2' })
    .getByRole('button', { name: 'rest', exact: true })
    .click();
  await expect(rest).toBeAttached();
  await expect(page.getByRole('region', { name: 'Listen' })).toContainText('bar 2');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(note).toBeAttached();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.locator('.sounding')).toHaveCount(0);
});

test('where there are no sounds, the bench says so and works on', async ({ page }) => {
  await page
    .context()
    .route('**/api/sounds', (route) =>
      route.fulfill({ status: 404, json: { messages: ['No sound bank is installed here.'] } }),
    );
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Listen' }).getByRole('alert')).toHaveText(
    'No sound bank is installed here.',
  );
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});
