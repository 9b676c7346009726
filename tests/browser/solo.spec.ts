import { auditFaults, expect, saved, test } from './page';

test('a level has takes of a solo; one is kept, stands between melody and melody, and comes on paper', async ({
  page,
}) => {
  await page.goto('/tunes/slip-rope-blues/solo');
  const take = page.getByRole('region', { name: 'Take 2' });
  await expect(take.locator('svg .note').first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('region', { name: 'Plan' }).getByRole('listitem')).toHaveCount(6);
  expect(await auditFaults(page)).toEqual([]);
  await take.getByRole('button', { name: 'Keep take 2' }).click();
  await expect(take.getByText('kept: it stands between melody and melody')).toBeVisible();
  await page.getByRole('combobox', { name: 'Beginner: form' }).click();
  await page.getByRole('option', { name: 'melody, solo, melody' }).click();
  await saved(page);
  const read = async (file: string) => (await page.request.get(`/api/tunes/slip-rope-blues/files/${file}`)).text();
  const [part, solo] = [await read('beginner.musicxml'), await read('beginner.solo.musicxml')];
  const pitches = (xml: string) =>
    [...xml.matchAll(/<step>(.)<\/step>(?:<alter>(-?\d)<\/alter>)?<octave>(\d)<\/octave>/g)].map((match) =>
      match.slice(1).join(''),
    );
  // The solo's notes stand inside the part's, between two times the melody.
  expect(pitches(part).join(' ')).toContain(pitches(solo).join(' '));
  expect((await read('beginner.solo.pdf?analysis')).slice(0, 4)).toBe('%PDF');
  for (const file of ['beginner.mp3?tempo=200', 'beginner.solo.mp3', 'beginner.backing.mp3?tempo=200']) {
    const sound = await page.request.get(`/api/tunes/slip-rope-blues/files/${file}`);
    expect([sound.status(), sound.headers()['content-type'], (await sound.body())[0]]).toEqual([
      200,
      'audio/mpeg',
      0xff,
    ]);
  }
  expect((await page.request.get('/api/tunes/slip-rope-blues/files/beginner.mp3?tempo=9')).status()).toBe(400);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await saved(page);
  await expect(page.getByRole('button', { name: 'Keep take 2' })).toBeVisible();
});

test('each level has solos of its own; other takes are others', async ({ page }) => {
  await page.goto('/tunes/the-other-side-of-the-sluice/solo');
  await page.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'Advanced' }).click();
  await expect(page.getByRole('region', { name: 'Take 1' }).locator('svg .note').first()).toBeVisible({
    timeout: 20_000,
  });
  await expect(
    page
      .getByRole('region', { name: 'Leaning notes' })
      .getByText(/leads by step into|close in on/)
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Read the tune as a solo' }).click();
  await expect(
    page.getByRole('region', { name: 'The tune, read as a solo' }).locator('svg .note').first(),
  ).toBeVisible();
  await expect(page.getByRole('region', { name: 'Plan' }).getByRole('listitem')).toHaveCount(10);
  await page.getByRole('button', { name: 'Back to the takes' }).click();
  await page.getByRole('button', { name: 'Other takes' }).click();
  await expect(page.getByRole('region', { name: 'Take 4' }).locator('svg .note').first()).toBeVisible({
    timeout: 20_000,
  });
});
