import { auditFaults, expect, saved, test } from './page';

test('the road map shows a level’s pools; a picked chord opens in the drawer; striking a note is undone', async ({
  page,
}) => {
  await page.goto('/tunes/slip-rope-blues/improvise');
  const map = page.getByRole('region', { name: 'Beginner: notes to improvise with' });
  await expect(map.getByText('G minor pentatonic rests on')).toBeVisible();
  await expect(map.locator('[data-chord="beginner-1"]')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await map.locator('[data-chord="beginner-1"]').click();
  await expect(page.getByRole('tab', { name: 'Bar 2' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByText('F over C7: let it fall to E')).toBeVisible();
  // By the keyboard to the next chord and back.
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('tab', { name: 'Bar 3' })).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: 'F, 11, rubs: strike it here' }).click();
  await expect(page.getByText('F over C7: let it fall to E')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('F over C7: let it fall to E')).toBeVisible();
});

test('pools are ticked, the style is set, the reading of a chord is corrected, and all of it is saved', async ({
  page,
}) => {
  await page.goto('/tunes/lantern-for-the-last-boat/improvise');
  await page.getByRole('group', { name: 'Shown' }).getByRole('button', { name: 'Intermediate' }).click();
  await page.getByRole('checkbox', { name: 'guide tones' }).check();
  await page.getByRole('combobox', { name: 'Style' }).click();
  await page.getByRole('option', { name: 'jazz' }).click();
  await page.locator('[data-chord="intermediate-8"]').click();
  await page.getByRole('combobox', { name: 'Key from here' }).click();
  await page.getByRole('option', { name: /^C major/ }).click();
  await saved(page);
  await page.reload();
  await page.getByRole('group', { name: 'Shown' }).getByRole('button', { name: 'Intermediate' }).click();
  await expect(page.getByRole('checkbox', { name: 'guide tones' })).toBeChecked();
  await expect(page.getByRole('combobox', { name: 'Style' })).toHaveText('jazz');
});

test('three levels stand under one another, and the sheets come as files', async ({ page }) => {
  await page.goto('/tunes/the-other-side-of-the-sluice/improvise');
  await page.getByRole('button', { name: 'All three' }).click();
  for (const level of ['Beginner', 'Intermediate', 'Advanced'])
    await expect(
      page
        .getByRole('region', { name: `${level}: notes to improvise with` })
        .locator('svg')
        .first(),
    ).toBeVisible({
      timeout: 20_000,
    });
  for (const [file, start] of [
    ['advanced.pools.pdf', '%PDF'],
    ['beginner.pools.pdf?names=covered', '%PDF'],
    ['intermediate.pools.musicxml', '<?xml'],
    ['beginner.sets.pdf?set=dorian&extent=1', '%PDF'],
  ] as const) {
    const answer = await page.request.get(`/api/tunes/the-other-side-of-the-sluice/files/${file}`);
    expect([file, answer.status(), (await answer.body()).subarray(0, start.length).toString()]).toEqual([
      file,
      200,
      start,
    ]);
  }
  const opened = (await (await page.request.get('/api/sets?set=dorian')).json()) as {
    tunes: { id: string; missing: number }[];
  };
  expect(opened.tunes.find(({ id }) => id === 'slack-water')?.missing).toBe(0);
});
