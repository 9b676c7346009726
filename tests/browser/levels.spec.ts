import type { Page } from '@playwright/test';
import { allDrawn, auditFaults, bringIn, expect, saved, SMALL_TUNE, test } from './page';

interface Stored {
  readonly embellish?: { readonly density?: number; readonly seed?: number; readonly devices?: readonly string[] };
  readonly bars?: { readonly chosen?: Readonly<Record<string, { kind: string }>> };
  readonly page?: {
    readonly aids?: Readonly<Record<string, string>>;
    readonly barAids?: Readonly<Record<string, readonly string[]>>;
  };
  readonly rhythm?: { readonly words?: readonly string[] };
}

const stored = async (page: Page, id: string, level: string) =>
  (
    (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
      work: { recipes: Record<string, Stored | undefined> };
    }
  ).work.recipes[level];
/** The drawer has three tabs; a picked bar opens its own. */
const tab = (page: Page, name: string | RegExp) => page.getByRole('tab', { name }).click();
const choose = async (page: Page, label: string, option: string) => {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
};

test('the melody is set in a sentence: how densely, with what, another variation, and undone by name', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('button', { name: 'Advanced', exact: true }).click();
  await choose(page, 'Advanced: how densely', 'wherever it can');
  await expect.poll(async () => (await stored(page, id, 'advanced'))?.embellish?.density).toBe(60);
  const bars = page.locator('[data-lane="advanced"]');
  const texts = () => bars.evaluateAll((all) => all.map((bar) => bar.getAttribute('aria-label')).join('\n'));
  await allDrawn(page);
  const before = await texts();
  await page.getByRole('button', { name: 'Another variation' }).click();
  await expect.poll(texts).not.toBe(before);
  await page.getByRole('button', { name: /^Advanced: ways to embellish/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'grace notes' }).click();
  await page.keyboard.press('Escape');
  await expect
    .poll(async () => (await stored(page, id, 'advanced'))?.embellish?.devices?.includes('grace'))
    .toBe(false);
  await choose(page, 'Advanced: melody', 'as written');
  await expect(page.getByText('Keeps every note of the tune.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo: Advanced: melody as written' }).click();
  await expect(page.getByRole('button', { name: 'Another variation' })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
});

test('a bar opens in its versions; the one that is chosen stays through another key and variation, until it is undone', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('button', { name: /^Advanced, bar 2:/ }).focus();
  await page.keyboard.press('Enter');
  const versions = page.getByRole('region', { name: 'Versions of bar 2' });
  await expect(versions.getByRole('button', { name: /^as the level has it/ })).toHaveAttribute('aria-pressed', 'true');
  expect(await versions.locator('svg').count()).toBeGreaterThan(5);
  expect(await auditFaults(page)).toEqual([]);
  await versions.getByRole('button', { name: 'rest', exact: true }).click();
  await expect
    .poll(async () => Object.values((await stored(page, id, 'advanced'))?.bars?.chosen ?? {}))
    .toEqual([{ kind: 'rest' }]);
  await choose(page, 'Advanced: concert key', 'A major');
  await tab(page, 'Recipe');
  await page.getByRole('button', { name: 'Another variation' }).click();
  await saved(page);
  await expect(page.getByRole('button', { name: /^Advanced, bar 2: .*rest/ })).toBeVisible();
  await tab(page, 'Bar 2');
  await expect(page.getByText('this bar rests')).toBeVisible();
  await page.getByRole('button', { name: 'undo that' }).click();
  await expect.poll(async () => (await stored(page, id, 'advanced'))?.bars).toBeUndefined();
});

test('aids are wished for in a sentence and stand in the file', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await choose(page, 'Beginner: under the notes', 'note names');
  await choose(page, 'Beginner: words under the notes', 'in the first half');
  await expect
    .poll(async () => (await stored(page, id, 'beginner'))?.page?.aids)
    .toMatchObject({ names: 'first-half', counts: 'stays' });
  const file = await (await page.request.get(`/api/tunes/${id}/files/beginner.musicxml`)).text();
  const bars = file.split('<measure ').slice(1);
  expect(bars.map((bar) => /<text>[A-G]/.test(bar))).toEqual([true, true, false, false]);
});

test('what a level does is saved under a name, used by another tune, and removed', async ({ page }) => {
  const name = `Loft ${Date.now() % 100_000}`;
  const [first, second] = [await bringIn(page, SMALL_TUNE), await bringIn(page, SMALL_TUNE)];
  await page.goto(`/tunes/${first}/levels`);
  await allDrawn(page);
  await choose(page, 'Beginner: shortest note', 'half');
  await page.getByRole('button', { name: 'Save recipe' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Give it a name first' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Name of the recipe' }).fill(name);
  await page.getByRole('button', { name: 'Save recipe' }).click();
  await expect(page.getByRole('combobox', { name: 'Beginner: recipe' })).toHaveText(name);
  await page.goto(`/tunes/${second}/levels`);
  await allDrawn(page);
  await page.getByRole('combobox', { name: 'Beginner: recipe' }).click();
  await page.getByRole('option', { name: new RegExp(`^${name}`) }).click();
  await expect
    .poll(async () => (await stored(page, second, 'beginner')) as unknown)
    .toMatchObject({ rhythm: { shortest: 'half' } });
  await page.getByRole('button', { name: 'remove it from the saved recipes' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the recipe' })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
});

test('an easier part under the tune says what it needs, and is a page and a file', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('combobox', { name: 'Beginner: instrument' }).selectOption('viola');
  await tab(page, 'Hand out');
  await choose(page, 'Beginner: pace of the easier part', 'two notes a bar');
  await expect(page.getByText(/notes are needed: [CGDA]( [CGDA])*\. They sit well/)).toBeVisible();
  await saved(page);
  const file = await (await page.request.get(`/api/tunes/${id}/files/beginner.under.musicxml?pace=half`)).text();
  expect((file.match(/<note/g) ?? []).length).toBe(8);
  expect((await page.request.get(`/api/tunes/${id}/files/beginner.under.pdf`)).headers()['content-type']).toBe(
    'application/pdf',
  );
  expect((await page.request.get(`/api/tunes/${id}/files/beginner.under.doc`)).status()).toBe(404);
  expect(await auditFaults(page)).toEqual([]);
});

test('a group gets its parts in one go: who reads what, who needs checking, files for all and for one', async ({
  page,
}) => {
  const made = await page.request.post('/api/groups', {
    data: {
      name: 'Loft two',
      players: [
        {
          id: 'mio',
          name: 'Mio',
          instrument: 'recorder-descant',
          level: 'beginner',
          known: ['G', 'A', 'B'].map((step) => ({ step, alter: 0, octave: 4 })),
          aids: ['names'],
        },
        { id: 'rask', name: 'Rask', instrument: 'horn-f', level: 'advanced' },
      ],
    },
  });
  const { id: group } = (await made.json()) as { id: string };
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await page.evaluate(([tune, chosen]) => localStorage.setItem(`reed-hook/group/${tune}`, chosen ?? ''), [id, group]);
  await page.reload();
  await allDrawn(page);
  await tab(page, 'Hand out');
  await page.getByRole('button', { name: 'Parts for Loft two' }).click();
  await expect(
    page.getByRole('row', { name: /Mio Beginner Descant recorder G major .* other notes than the tune/ }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /Rask Advanced Horn in F D major \(sounds G major\)/ })).toBeVisible();
  await expect(page.getByText(/not with the first: 100 against/)).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  const all = await page.request.get(`/api/tunes/${id}/groups/${group}/all.musicxml.zip`);
  const names = (await all.body()).toString('latin1');
  expect([
    all.status(),
    names.includes('01-mio-recorder-descant.musicxml'),
    names.includes('02-rask-horn-f.musicxml'),
  ]).toEqual([200, true, true]);
  const one = await page.request.get(`/api/tunes/${id}/groups/${group}/mio.pdf`);
  expect([one.status(), one.headers()['content-type'], (await one.body()).subarray(0, 5).toString()]).toEqual([
    200,
    'application/pdf',
    '%PDF-',
  ]);
  // For the teacher: everybody's part in one PDF, and a score with a staff for each.
  const whole = await page.request.get(`/api/tunes/${id}/groups/${group}/all.pdf`);
  expect([whole.status(), (await whole.body()).toString('latin1').match(/\/Type \/Page\b/g)?.length]).toEqual([200, 2]);
  const score = await page.request.get(`/api/tunes/${id}/groups/${group}/concert-score.musicxml`);
  expect([score.status(), (await score.text()).match(/<score-part /g)?.length]).toEqual([200, 2]);
  expect((await page.request.get(`/api/tunes/${id}/groups/${group}/score.pdf`)).headers()['content-type']).toBe(
    'application/pdf',
  );
  expect([
    (await page.request.get(`/api/tunes/${id}/groups/${group}/nobody.pdf`)).status(),
    (await page.request.get(`/api/tunes/${id}/groups/none/all.pdf.zip`)).status(),
  ]).toEqual([404, 404]);
});

test('a bar is written by hand in place, heard of by the server, and stays in another key', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('button', { name: /^Intermediate, bar 3:/ }).click();
  await page.getByRole('button', { name: 'Write this bar by hand' }).click();
  const sheet = page.getByRole('dialog', { name: 'Bar 3, written by hand' });
  await expect(sheet.locator('[data-caret]')).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Use in bar 3' })).toBeDisabled();
  expect(await auditFaults(page)).toEqual([]);
  // A clarinet reads: quarters E F, a rest, G; the fifth note would open another bar.
  await page.keyboard.type('efzg');
  await expect(sheet.locator('g.note')).toHaveCount(3);
  await page.keyboard.type('a');
  await expect(sheet.getByRole('alert')).toContainText('This editor is for one bar');
  await page.keyboard.press('Control+z');
  await sheet.getByRole('button', { name: 'Use in bar 3' }).click();
  const letters = async () =>
    (await page.locator('[data-lane="intermediate"][data-bar="2"]').getAttribute('aria-label'))
      ?.replace(/^[^:]*: /, '')
      .split('.')[0]
      ?.split(', ')
      .map((event) => event[0])
      .join('');
  await expect.poll(letters).toBe('EFrG');
  await expect
    .poll(async () =>
      Object.values((await stored(page, id, 'intermediate'))?.bars?.chosen ?? {}).map(({ kind }) => kind),
    )
    .toEqual(['own']);
  // A fourth higher it is the same bar.
  await choose(page, 'Intermediate: concert key', 'C major');
  await expect.poll(letters).toBe('ABrC');
  await saved(page);
  await page.reload();
  await allDrawn(page);
  expect(await letters()).toBe('ABrC');
});

test('a phrase is set at once, an alternative is printed, and two variations are compared', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('button', { name: /^Advanced, bar 1:/ }).click();
  const versions = page.getByRole('region', { name: 'Versions of bar 1' });
  await versions.getByRole('combobox', { name: 'What a choice applies to' }).click();
  await page.getByRole('option', { name: /^its phrase/ }).click();
  await versions.getByRole('button', { name: 'Alternative: simpler', exact: true }).click();
  await expect(versions.getByText(/Simpler is the alternative/)).toBeVisible();
  await choose(page, 'Advanced: where alternatives are printed', 'the second time through');
  await versions.getByRole('button', { name: 'Play it twice' }).click();
  await saved(page);
  const file = await (await page.request.get(`/api/tunes/${id}/files/advanced.musicxml`)).text();
  expect([file.includes('First time'), file.includes('Second time'), file.split('<measure ').length - 1]).toEqual([
    true,
    true,
    8,
  ]);
  await page.getByRole('tab', { name: 'Recipe' }).click();
  await page.getByRole('button', { name: 'Compare variations' }).click();
  const sheet = page.getByRole('dialog', { name: 'Advanced: two variations' });
  await expect(sheet.locator('[aria-busy="true"]')).toHaveCount(0);
  const [left, right] = [
    sheet.getByRole('region', { name: /^Left/ }),
    sheet.getByRole('region', { name: /^Right: variation 1/ }),
  ];
  expect(await left.locator('svg').first().innerHTML()).not.toBe(await right.locator('svg').first().innerHTML());
  expect(await auditFaults(page)).toEqual([]);
  await right.getByRole('button', { name: 'Use this one' }).click();
  await expect.poll(async () => (await stored(page, id, 'advanced'))?.embellish?.seed).toBe(1);
});

test('rhythms of a beat are ticked; a bar has help and an alternative of its own, both seen on its lane', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  const lane = page.locator('[data-row="0"]');
  const staves = await lane.locator('g.measure').first().locator('g.staff').count();
  await page.getByRole('button', { name: /^Beginner: rhythms in a beat/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'two eighths' }).click();
  expect(await auditFaults(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.getByText('this 1 rhythm')).toBeVisible();
  await expect.poll(async () => (await stored(page, id, 'beginner'))?.rhythm?.words).toEqual(['two-eighths']);
  await page.getByRole('button', { name: /^Beginner, bar 2:/ }).click();
  await page.getByRole('button', { name: /^Help in bar 2/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'note names' }).click();
  await page.keyboard.press('Escape');
  await expect(lane.locator('g.verse').first()).toBeAttached();
  const versions = page.getByRole('region', { name: 'Versions of bar 2' });
  await versions.getByRole('button', { name: 'Alternative: rest', exact: true }).click();
  // A small staff over the second bar, and none over the first.
  await expect(lane.locator('g.measure').nth(1).locator('g.staff')).toHaveCount(staves + 1);
  await expect(lane.locator('g.measure').first().locator('g.staff')).toHaveCount(staves);
  await saved(page);
  const help = (await stored(page, id, 'beginner'))?.page?.barAids ?? {};
  expect(Object.values(help).map((aids) => aids.includes('names'))).toEqual([true]);
  const file = await (await page.request.get(`/api/tunes/${id}/files/beginner.musicxml`)).text();
  expect(file).toContain('<staff-type>ossia</staff-type>');
});

test('limits are set in sentences: what cannot be is said, what can is kept and in the file', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  const low = page.getByRole('textbox', { name: 'Beginner: lowest note' });
  await low.fill('Q9');
  await low.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '"Q9" is no note' })).toBeVisible();
  await low.fill('G6');
  await low.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'is not below the highest' })).toBeVisible();
  await low.fill('G4');
  await low.press('Enter');
  await choose(page, 'Beginner: largest leap', 'up to a third');
  await choose(page, 'Beginner: articulation', 'slurred by the half bar');
  await choose(page, 'Beginner: form', 'with room for a solo in between');
  await expect
    .poll(async () => (await stored(page, id, 'beginner')) as unknown)
    .toMatchObject({
      limits: { range: { low: { step: 'G', octave: 4 } }, leap: 2 },
      articulation: { style: 'smooth' },
      form: { plays: 'solo' },
    });
  const file = await (await page.request.get(`/api/tunes/${id}/files/beginner.musicxml`)).text();
  expect([
    file.split('<measure ').length - 1,
    file.includes('<rehearsal>Solo</rehearsal>'),
    file.includes('<slur type="start"'),
  ]).toEqual([12, true, true]);
  await page.getByRole('button', { name: 'see it written out' }).click();
  await expect(page.getByRole('dialog', { name: 'Beginner, all the way through' }).locator('g.measure')).toHaveCount(
    12,
  );
  expect(await auditFaults(page)).toEqual([]);
  await page.keyboard.press('Escape');
  expect(await auditFaults(page)).toEqual([]);
});

test('string players get chords on two strings, with their grips and as a page', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await tab(page, 'Hand out');
  await expect(page.getByRole('region', { name: 'Chords on two strings' })).toBeHidden();
  await page.getByRole('combobox', { name: 'Beginner: instrument' }).selectOption('violin');
  const chords = page.getByRole('region', { name: 'Chords on two strings' });
  await expect(chords.getByRole('listitem').first()).toContainText(/^G G3 /);
  await choose(page, 'Beginner: rhythm of the chords', 'long and two short');
  await saved(page);
  const file = await (await page.request.get(`/api/tunes/${id}/files/beginner.chords.musicxml?rhythm=shuffle`)).text();
  expect((file.match(/<chord\/>/g) ?? []).length).toBe(24);
  expect((await page.request.get(`/api/tunes/${id}/files/beginner.chords.pdf`)).headers()['content-type']).toBe(
    'application/pdf',
  );
  expect((await page.request.get(`/api/tunes/${id}/files/advanced.chords.pdf`)).status()).toBe(404);
});

test('the studio’s recipes are used for a whole group at once', async ({ page }) => {
  const recipe = {
    schema: 2,
    id: `recipe-loft${Date.now()}`,
    name: `Loft halves ${Date.now() % 100_000}`,
    level: 'beginner',
    wishes: { rhythm: { shortest: 'half' }, form: { leaveOut: 'rests' } },
  };
  expect((await page.request.put(`/api/recipes/${recipe.id}`, { data: recipe })).ok()).toBe(true);
  const made = await page.request.post('/api/groups', {
    data: { name: 'Loft three', players: [{ id: 'mio', name: 'Mio', instrument: 'flute', level: 'beginner' }] },
  });
  const { id: group } = (await made.json()) as { id: string };
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/group/${group}`);
  await choose(page, 'Beginner: recipe for the group', recipe.name);
  await page.getByRole('button', { name: 'Use it for the group' }).click();
  await expect
    .poll(async () => (await stored(page, id, 'beginner')) as unknown)
    .toMatchObject({ rhythm: { shortest: 'half' }, form: { leaveOut: 'rests' } });
  await expect(page.getByRole('button', { name: 'Use it for the group' })).toBeDisabled();
  await page.request.delete(`/api/recipes/${recipe.id}`);
});
