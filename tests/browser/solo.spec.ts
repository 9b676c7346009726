import { auditFaults, expect, saved, test } from './page';

test('a level has takes of a solo; one is kept, stands between melody and melody, and comes on paper', async ({
  page,
}) => {
  await page.goto('/tunes/slip-rope-blues/solo');
  const take = page.getByRole('region', { name: 'Take 2' });
  await expect(take.locator('svg .note').first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('list', { name: 'Phrases' }).getByRole('listitem')).toHaveCount(6);
  expect(await auditFaults(page)).toEqual([]);
  await take.getByRole('button', { name: 'Keep take 2' }).click();
  await expect(take.getByText('kept: it stands between melody and melody')).toBeVisible();
  await page.getByRole('tab', { name: 'Paper' }).click();
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
    timeout: 40_000,
  });
  await page.getByRole('tab', { name: 'Words' }).click();
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
    timeout: 40_000,
  });
});

test('a plan is the teacher’s: phrases are kept, put in another order, changed note by note; takes vary the rest', async ({
  page,
}) => {
  await page.goto('/tunes/slip-rope-blues/solo');
  const phrases = page.getByRole('list', { name: 'Phrases' });
  await expect(phrases.getByRole('listitem')).toHaveCount(6, { timeout: 20_000 });
  await page.getByRole('button', { name: 'Keep phrase 1 as it is' }).click();
  await expect(phrases.getByText('kept', { exact: true })).toBeVisible();
  await page.getByRole('combobox', { name: 'What phrase 3 does' }).click();
  await page.getByRole('option', { name: 'rest', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'What phrase 3 does' })).toBeFocused();
  await page.getByRole('button', { name: 'Move phrase 3' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/over droppable area phrase 3/)).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText(/over droppable area phrase 4/)).toBeAttached();
  await page.keyboard.press('Space');
  await expect(page.getByRole('combobox', { name: 'What phrase 4 does' })).toHaveText('rest');
  const notes = page.getByRole('list', { name: 'Notes of phrase 1' }).getByRole('listitem');
  const before = await notes.first().innerText();
  await notes
    .first()
    .getByRole('button', { name: /^Raise note 1/ })
    .click();
  await expect(notes.first()).not.toHaveText(before);
  await expect(phrases.getByText('your own notes')).toBeVisible();
  // What somebody wrote is not composed over by one press.
  await page.getByRole('button', { name: 'Let phrase 1 be composed anew' }).click();
  await expect(page.getByRole('alert').getByText('holds notes of your own')).toBeVisible();
  await page.getByRole('button', { name: 'Keep my notes' }).click();
  await expect(phrases.getByText('your own notes')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('tab', { name: 'Devices' }).click();
  await page.getByRole('textbox', { name: 'Bar of the target' }).fill('5');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByText('bar 5: the third')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await saved(page);
  for (const wanted of ['syllables', 'rhythm', 'call', 'own']) {
    const sent = await page.request.get(`/api/tunes/slip-rope-blues/files/beginner.solo.pdf?page=${wanted}`);
    expect([wanted, (await sent.text()).slice(0, 4)]).toEqual([wanted, '%PDF']);
  }
  expect((await page.request.get('/api/tunes/slip-rope-blues/files/beginner.solo.pdf?page=none')).status()).toBe(400);
  for (let k = 0; k < 5; k += 1) await page.keyboard.press('Control+z');
  await saved(page);
});

test('licks are found by their chords, put into a solo, lifted from one, and opened', async ({ page }) => {
  await page.goto('/tunes/the-other-side-of-the-sluice/solo');
  await page.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'Advanced' }).click();
  await page.getByRole('tab', { name: 'Licks' }).click();
  const licks = page.getByRole('list', { name: 'Licks' });
  await expect(licks.getByRole('listitem')).toHaveCount(12, { timeout: 20_000 });
  await page.getByRole('button', { name: '2 licks' }).click();
  await page.getByRole('tab', { name: 'Plan' }).click();
  const lent = page.getByRole('list', { name: 'Phrases' }).getByText(/^the lick /);
  await expect(lent).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(lent).toHaveCount(0);
  await page.getByRole('tab', { name: 'Licks' }).click();
  await licks
    .getByRole('listitem')
    .first()
    .getByRole('button', { name: /^bar \d+$/ })
    .first()
    .click();
  await page.getByRole('tab', { name: 'Plan' }).click();
  await expect(page.getByRole('list', { name: 'Phrases' }).getByText(/^the lick /)).toHaveCount(1);
  await page.getByRole('button', { name: 'Keep as a lick …' }).click();
  const sheet = page.getByRole('dialog', { name: 'Keep as a lick' });
  await sheet.getByRole('textbox', { name: 'Name' }).fill('Lifted in a test');
  expect(await auditFaults(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Save to the licks' }).click();
  await expect(page.getByText('Lifted in a test is among the licks', { exact: true })).toBeVisible();
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  await page.goto('/?kind=lick');
  await page.getByRole('link', { name: 'Lifted in a test' }).click();
  await expect(page.getByRole('region', { name: 'What it fits' })).toBeVisible({ timeout: 20_000 });
  await page.getByRole('checkbox', { name: 'Juno' }).check();
  await saved(page);
  expect(await auditFaults(page)).toEqual([]);
  await page.goto('/tunes/slip-rope-blues/solo');
  await page.getByRole('button', { name: 'Read the tune as a solo' }).click();
  const lines = page.getByRole('region', { name: 'Lines worth keeping' });
  await lines
    .getByRole('button', { name: /^Keep bars? / })
    .first()
    .click();
  await expect(page.getByRole('dialog', { name: 'Keep as a lick' })).toBeVisible();
});
