import { writeMidi, type MidiEvent } from 'midi-file';
import { allDrawn, auditFaults, bringIn, expect, saved, test } from './page';

const FORMED =
  'X:1\nT:Reed Bed\nM:4/4\nL:1/4\nQ:1/4=96\nK:G\n"G"G A B d | "C"e2 d2 | "G"B A G A | "D"A4 | "G"G A B d | "C"e2 d2 | "G"B G "D"A F | "G"G4 |]\n';

test('the panel tells key, sets, phrases and form; a moved boundary stays', async ({ page }) => {
  const id = await bringIn(page, FORMED);
  await page.goto(`/tunes/${id}/tune`);
  await allDrawn(page);
  await page.getByRole('tab', { name: 'Made of' }).click();
  const drawer = page.getByRole('complementary');
  await expect(drawer.getByRole('region', { name: 'Key' })).toContainText('in G major');
  await expect(drawer.getByRole('region', { name: 'Made of' })).toContainText('G major: G A B C D E F♯');
  await expect(drawer.getByRole('region', { name: 'Phrases' })).toContainText('Form: A A′');
  await expect(drawer.getByRole('region', { name: 'Phrases' })).toContainText('phrase 1 with another ending');
  expect(await auditFaults(page)).toEqual([]);
  await drawer.getByRole('button', { name: 'Phrase 2 begins a note later' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Phrase 2 begins later' })).toBeEnabled();
  await saved(page);
  await page.reload();
  await allDrawn(page);
  await page.getByRole('tab', { name: 'Made of' }).click();
  await expect(drawer.getByRole('region', { name: 'Phrases' })).toContainText('bars 1–5');
});

test('a key that the notes speak against is offered for the tune', async ({ page }) => {
  const id = await bringIn(page, FORMED.replace('K:G\n', 'K:C\n').replaceAll('F |', '^F |'));
  await page.goto(`/tunes/${id}/tune`);
  await allDrawn(page);
  await page.getByRole('tab', { name: 'Made of' }).click();
  await page.getByRole('button', { name: 'Write it in G major' }).click();
  await expect(page.getByText('8 bars · 4/4 · G major')).toBeVisible();
});

test('the by-ear sheet hides the notes until asked, speaks the reader’s pitch, and prints as shown', async ({
  page,
}) => {
  const id = await bringIn(page, FORMED);
  await page.goto(`/tunes/${id}/by-ear`);
  await expect(page.getByText('Home note', { exact: true })).toBeVisible();
  await expect(page.getByRole('definition').first()).toHaveText('G (G major)');
  await expect(page.getByRole('img', { name: 'Notes of phrase 1' })).toBeHidden();
  await page.getByRole('button', { name: 'Show the notes' }).first().click();
  await expect(page.getByRole('img', { name: 'Notes of phrase 1' })).toBeVisible();
  await expect(page.getByText('Phrase 1 with another ending: only the last')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('combobox', { name: 'Reader' }).click();
  await page.getByRole('option', { name: 'Clarinet in B♭' }).click();
  await expect(page.getByRole('definition').first()).toHaveText('A (for you: A major · sounding: G major)');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print as shown' })).toBeHidden();
  const page404 = await page.request.get(`/tunes/${id}/by-ear?for=kazoo`);
  expect(page404.status()).toBe(404);
});

test('the warm-up is a page for the reader; every file of the tune can be taken away', async ({ page }) => {
  const id = await bringIn(page, FORMED);
  const file = (name: string) => page.request.get(`/api/tunes/${id}/files/${name}`);
  const warmUp = await file('warm-up.pdf?for=clarinet-bb');
  expect([warmUp.status(), warmUp.headers()['content-type'], (await warmUp.body()).subarray(0, 4).toString()]).toEqual([
    200,
    'application/pdf',
    '%PDF',
  ]);
  expect((await file('warm-up.pdf?for=kazoo')).status()).toBe(400);
  const [abc, midi, mxl] = [await file('tune.abc'), await file('tune.mid'), await file('tune.mxl')];
  expect((await abc.body()).toString()).toContain('T:Reed Bed');
  expect([(await midi.body()).subarray(0, 4).toString(), (await mxl.body()).subarray(0, 2).toString()]).toEqual([
    'MThd',
    'PK',
  ]);
});

/** A take with melody and bass on one track, and no word on meter or key. */
function take(): Buffer {
  const melody = [67, 69, 71, 74, 76, 74, 71, 69, 67, 67, 71, 74].map((number, k) => ({
    number,
    start: k,
    end: k + 1,
  }));
  const bass = [43, 43, 48, 43].map((number, k) => ({ number, start: 3 * k, end: 3 * k + 3 }));
  const points = [...melody, ...bass]
    .flatMap(({ number, start, end }) => [
      { at: start * 96, isOn: true, number },
      { at: end * 96, isOn: false, number },
    ])
    .toSorted((a, b) => a.at - b.at || Number(a.isOn) - Number(b.isOn));
  let now = 0;
  const events = points.map(({ at, isOn, number }): MidiEvent => {
    const deltaTime = at - now;
    now = at;
    return isOn
      ? { type: 'noteOn', deltaTime, channel: 0, noteNumber: number, velocity: 80 }
      : { type: 'noteOff', deltaTime, channel: 0, noteNumber: number, velocity: 64 };
  });
  return Buffer.from(
    writeMidi({
      header: { format: 0, numTracks: 1, ticksPerBeat: 96 },
      tracks: [[...events, { type: 'endOfTrack', deltaTime: 0, meta: true }]],
    }),
  );
}

test('a MIDI take shows what was guessed, and what is changed is what is saved', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  await page.locator('input[type="file"]').setInputFiles({ name: 'take.mid', mimeType: 'audio/midi', buffer: take() });
  const choices = page.getByRole('region', { name: 'What to take' });
  await expect(choices).toContainText('a guess');
  await choices.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: '3/4' }).click();
  await expect(choices).toContainText('set by you');
  await choices.getByRole('combobox', { name: 'Second part' }).click();
  await page.getByRole('option', { name: /lower notes/ }).click();
  await expect(page.getByRole('dialog').getByText('3/4 · 4 bars')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Save to the shelf' }).click();
  await page.waitForURL(/\/tunes\/\w+\/tune/);
  await allDrawn(page);
  await expect(page.getByText('Second part').first()).toBeVisible();
  await expect(page.getByRole('button', { name: /^Second part, bar 1: G2 dotted half note/ })).toBeVisible();
});

test('a tune is chosen from a book before it is saved', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  await page
    .getByLabel('Paste it here, or drop a file')
    .fill('X:1\nT:Sluice\nM:4/4\nL:1/4\nK:C\nCDEF|\n\nX:2\nT:Weir\nM:3/4\nL:1/4\nK:F\nFGA|B2c|\n');
  await page.getByRole('combobox', { name: 'Tune of the book' }).click();
  await page.getByRole('option', { name: 'Weir' }).click();
  await expect(page.getByRole('dialog').getByText('F major · 3/4 · 2 bars')).toBeVisible();
  await page.getByRole('button', { name: 'Save to the shelf' }).click();
  await page.waitForURL(/\/tunes\/\w+\/tune/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Weir');
});

test('choices that make no sense are refused', async ({ page }) => {
  for (const [query, message] of [
    ['meter=9', 'a meter like 4/4 or 6/8'],
    ['tempo=0', 'tempo'],
    ['line=99', 'it holds 1 lines'],
    ['colour=red', 'colour'],
  ] as const) {
    const answer = await page.request.post(`/api/tunes?${query}`, { data: FORMED });
    expect([query, [400, 422].includes(answer.status())]).toEqual([query, true]);
    expect(await answer.text()).toContain(message);
  }
});
