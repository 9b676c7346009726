import { unzipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { auditFaults, bringIn, allDrawn, expect, saved, SMALL_TUNE, test, waitsForScript } from './page';

const player = (name: string, instrument: string, level: string, more = {}) => ({
  id: name.toLowerCase(),
  name,
  instrument,
  level,
  ...more,
});

test('a group is changed where it stands: names, limits, order by keyboard, a table in and out; all of it kept', async ({
  page,
}) => {
  const made = await page.request.post('/api/groups', {
    data: { name: 'Cellar five', players: [player('Ansel', 'flute', 'beginner'), player('Bryn', 'viola', 'advanced')] },
  });
  const { id } = (await made.json()) as { id: string };
  const stored = async () =>
    (
      (await (await page.request.get('/api/groups')).json()) as {
        groups: {
          id: string;
          group: { name: string; players: { name: string; instrument: string; level: string; high?: object }[] };
        }[];
      }
    ).groups.find((one) => one.id === id)?.group;
  await page.goto('/groups');
  await page
    .getByRole('button', { name: /^Cellar five/ })
    .last()
    .click();
  await page.getByRole('textbox', { name: 'First name, player 1' }).fill('Anselm');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Highest note of Anselm' }).fill('H4');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '"H4" is no note' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Highest note of Anselm' }).fill('D5');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Instrument of Bryn' }).selectOption('tenor-banjo');
  await page.getByRole('button', { name: 'Move Anselm', exact: true }).focus();
  for (const key of ['Space', 'ArrowDown', 'Space']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(250);
  }
  await expect(page.getByRole('textbox', { name: 'First name, player 1' })).toHaveValue('Bryn');
  await expect
    .poll(async () =>
      (await stored())?.players.map(({ name, instrument, high }) => [name, instrument, high !== undefined]),
    )
    .toEqual([
      ['Bryn', 'tenor-banjo', false],
      ['Anselm', 'flute', true],
    ]);
  await page.getByLabel('CSV file').setInputFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,instrument,level\nCass,oboe,expert\n'),
  });
  await expect(page.getByRole('dialog')).toContainText('Line 2: the level "expert" is unknown');
  await page.keyboard.press('Escape');
  await page.getByLabel('CSV file').setInputFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,instrument,level\nCass,oboe,intermediate\n'),
  });
  await expect.poll(async () => (await stored())?.players.length).toBe(3);
  await page.getByRole('button', { name: 'Undo: add a player' }).click();
  await expect.poll(async () => (await stored())?.players.length).toBe(2);
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('button', { name: /^Cellar five/ }).last()).toBeVisible();
});

test('two people on one group: the later save asks, saves over, and goes on saving; a removed group takes no more', async ({
  page,
  context,
}) => {
  const made = await page.request.post('/api/groups', {
    data: { name: 'Quay four', players: [player('Ansel', 'flute', 'beginner')] },
  });
  const { id } = (await made.json()) as { id: string };
  const names = async () => {
    const { groups } = (await (await page.request.get('/api/groups')).json()) as {
      groups: { id: string; group: { players: { name: string }[] } }[];
    };
    return groups.find((one) => one.id === id)?.group.players.map(({ name }) => name);
  };
  const other = await context.newPage();
  waitsForScript(other);
  for (const one of [page, other]) {
    await one.goto('/groups');
    await one
      .getByRole('button', { name: /^Quay four/ })
      .last()
      .click();
  }
  const rename = async (one: Page, name: string) => {
    await one.getByRole('textbox', { name: 'First name, player 1' }).fill(name);
    await one.keyboard.press('Enter');
  };
  await rename(page, 'Anselm');
  await expect.poll(names).toEqual(['Anselm']);
  await rename(other, 'Anse');
  const sheet = other.getByRole('dialog', { name: 'Somebody else saved this group meanwhile' });
  await expect(sheet).toBeVisible();
  expect(await names()).toEqual(['Anselm']);
  await sheet.getByRole('button', { name: 'Save mine over it' }).click();
  await expect.poll(names).toEqual(['Anse']);
  // The version is the new one: what is changed afterwards is saved without another question.
  await rename(other, 'Ansgar');
  await expect.poll(names).toEqual(['Ansgar']);
  await page.request.delete(`/api/groups/${id}`);
  await rename(other, 'Nobody');
  await expect(other.getByText('This group was removed meanwhile.')).toBeVisible();
});

test('keys: the grid is walked with arrows, Enter re-keys all lanes at once, and one step takes it back', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/keys`);
  await allDrawn(page);
  await page.getByRole('combobox', { name: 'Group' }).click();
  await page.getByRole('option', { name: 'Thursday room' }).click();
  const grid = page.getByRole('grid', { name: 'Keys for each player' });
  await grid.getByRole('gridcell', { name: /^Pell, G major sounding/ }).focus();
  await expect(page.getByText(/^Pell, if G major sounds: /)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(grid.getByRole('gridcell', { name: /^Pell, C major sounding: reads D/ })).toBeFocused();
  await page.keyboard.press('Enter');
  const lane = page.locator('[data-lane="advanced"][data-bar="0"]');
  await expect(page.getByRole('contentinfo')).toBeVisible();
  await expect
    .poll(
      async () =>
        (
          (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
            work: { recipes: Record<string, { keyAndTempo?: { key?: { tonic: { step: string } } } }> };
          }
        ).work.recipes,
    )
    .toMatchObject({
      beginner: { keyAndTempo: { key: { tonic: { step: 'C' } } } },
      advanced: { keyAndTempo: { key: { tonic: { step: 'C' } } } },
    });
  await expect(lane).toHaveAttribute('aria-label', /for a fifth-year player \(\d\.\d of 10\)/);
  await expect(page.getByText('Please play in C major (concert pitch)').first()).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  await page.getByRole('button', { name: 'Undo: All levels: C major' }).click();
  await saved(page);
  expect(
    ((await (await page.request.get(`/api/tunes/${id}`)).json()) as { work: { recipes: object } }).work.recipes,
  ).toEqual({});
});

interface StoredRecipe {
  readonly custom?: { readonly name: string };
  readonly page?: { readonly pins?: Readonly<Record<string, string>> };
  readonly instrument: string;
}

test('a custom instrument is made from one of the catalogue, refused with its reasons, and played on the bench', async ({
  page,
}) => {
  // A name of its own each time, so that a second try finds only its own.
  const fiddle = `Fiddle, low tuning ${Date.now() % 100_000}`;
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto('/instruments/violin');
  expect(await page.locator('.finger-diagram svg').count()).toBeGreaterThan(40);
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make a custom one from it' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill(fiddle);
  await page.getByRole('textbox', { name: 'Open strings as written' }).fill('F3 C4 G4');
  await page.getByRole('textbox', { name: 'Beginner' }).fill('D4 B7');
  await page.getByRole('button', { name: 'Save instrument' }).click();
  await expect(page.getByRole('alert')).toContainText('the beginner range must lie within the intermediate one');
  await page.getByRole('textbox', { name: 'Beginner' }).fill('D4 B5');
  await page.getByRole('button', { name: 'Save instrument' }).click();
  await expect(page.getByRole('heading', { name: fiddle })).toBeVisible();
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('combobox', { name: 'Beginner: instrument' }).selectOption({ label: fiddle });
  await saved(page);
  await expect.poll(async () => (await recipeOf(page, id))?.custom?.name).toBe(fiddle);
  await page.goto('/instruments');
  await page.getByRole('link', { name: fiddle }).last().click();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('heading', { name: 'Instruments' })).toBeVisible();
  await expect(page.getByRole('link', { name: fiddle })).toHaveCount(0);
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('link', { name: fiddle })).toHaveCount(1);
});

test('a pinned finger is kept and stands in the file; a plucked string offers the shape exercise', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  await allDrawn(page);
  await page.getByRole('combobox', { name: 'Beginner: instrument' }).selectOption('guitar');
  await page.getByRole('button', { name: /^Beginner, bar 1:/ }).click();
  await page.getByRole('list', { name: 'Fingers in bar 1' }).getByRole('combobox').first().selectOption({ index: 2 });
  await expect.poll(async () => Object.keys((await recipeOf(page, id))?.page?.pins ?? {}).length).toBe(1);
  const file = await page.request.get(`/api/tunes/${id}/files/beginner.musicxml`);
  expect(await file.text()).toMatch(/<technical><fingering placement="above">[1-6]-\d+<\/fingering>/);
  await page.getByRole('tab', { name: 'Recipe' }).click();
  await page.getByRole('button', { name: 'same shape, next fret' }).click();
  await expect(page.getByRole('heading', { name: 'Same shape, next fret' })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
});

test("the page of everybody's written key says who reads what", async ({ page }) => {
  await page.goto('/instruments/keys?key=Eb');
  await expect(page.getByRole('row', { name: /Alto saxophone C major/ })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
});

async function recipeOf(page: Page, id: string): Promise<StoredRecipe | undefined> {
  const { work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
    work: { recipes: { beginner?: StoredRecipe } };
  };
  return work.recipes.beginner;
}

test('a beginner begins in a key that is in reach, and goes back with one press; all levels play together with another', async ({
  page,
}) => {
  const id = await bringIn(
    page,
    "X:1\nT:Far Up the Mast\nM:4/4\nL:1/8\nQ:1/4=100\nK:B\nB2 c2 d2 e2|f2 g2 a2 b2|c'4 b4|B8|]\n",
  );
  await page.goto(`/tunes/${id}/keys`);
  await allDrawn(page);
  const back = page.getByRole('button', { name: /^Moved to .+ Recordings in B major do not fit\. Go back/ });
  await expect(back).toBeVisible();
  await back.click();
  await expect(back).toBeHidden();
  await page.getByRole('button', { name: 'Play together' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'instead of' })).toBeVisible();
  await expect(page.getByText(/^All three levels, in /)).toBeVisible();
  await page.getByRole('button', { name: 'Each level its own' }).click();
  await expect(page.getByText(/^All three levels, in /)).toBeHidden();
});

test('everybody gets sound files in one go, a folder a player; how far it has come is told, and it can be given up', async ({
  page,
}) => {
  const made = await page.request.post('/api/groups', {
    data: { name: 'Takers home', players: [player('Nell', 'flute', 'beginner')] },
  });
  const { id } = (await made.json()) as { readonly id: string };
  const address = `/api/tunes/slip-rope-blues/groups/${id}/all.mp3.zip`;
  const sent = await page.request.get(address, { timeout: 80_000 });
  expect([sent.status(), sent.headers()['x-reed-files']]).toEqual([200, '4']);
  const files = unzipSync(await sent.body());
  expect(Object.keys(files)).toEqual(
    ['1-slowly', '2-at-tempo', '3-backing-alone', '4-click-alone'].map((name) => `01-nell-flute/${name}.mp3`),
  );
  const [slowly = 0, atTempo = 0] = Object.values(files).map(({ length }) => length);
  expect(slowly).toBeGreaterThan(atTempo);
  await page.goto(`/tunes/slip-rope-blues/group/${id}`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'All as sound' }).click();
  expect((await download).suggestedFilename()).toMatch(/takers-home\.sounds\.zip$/);
  // A larger group takes longer: it is given up.
  const [larger] = (
    (await (await page.request.get('/api/groups')).json()) as {
      groups: { id: string; group: { players: unknown[] } }[];
    }
  ).groups
    .filter((one) => one.id.startsWith('demo-'))
    .toSorted((a, b) => b.group.players.length - a.group.players.length);
  await page.goto(`/tunes/kelp-on-the-slipway/group/${larger?.id}`);
  await page.getByRole('button', { name: 'All as sound' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^0 of \d+ sound files|^1 of/ })).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'Stop making sound files' }).click();
  await expect(page.getByRole('button', { name: 'All as sound' })).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
});
