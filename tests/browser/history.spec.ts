import { readFile } from 'node:fs/promises';
import { allDrawn, auditFaults, bringIn, expect, saved, SMALL_TUNE, test } from './page';

test('a tune goes back to an earlier version: looked at, compared bar by bar, restored, and undone', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/tune`);
  await allDrawn(page);
  const title = page.getByLabel('Title');
  await title.fill('Sluice Gate, faster');
  await title.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'History: versions of this tune' }).click();
  const history = page.getByRole('region', { name: 'History' });
  await expect(history.getByRole('listitem')).toHaveCount(2);
  await expect(history.getByRole('listitem').first()).toContainText('now');
  await history.getByRole('button', { name: /brought in/ }).click();
  expect(await auditFaults(page)).toEqual([]);

  await history.getByRole('button', { name: 'Look' }).click();
  const look = page.getByRole('dialog', { name: 'Sluice Gate, version 1' });
  await expect(look.getByRole('img', { name: 'Version 1: bars 1 to 4 of the page' })).toBeVisible();
  await expect(look.locator('svg .note').first()).toBeAttached();
  await page.keyboard.press('Escape');

  await history.getByRole('button', { name: 'Compare with now' }).click();
  const compare = page.getByRole('dialog', { name: 'Version 1 and now' });
  await expect(compare).toContainText('title: Sluice Gate → Sluice Gate, faster');
  await compare.getByRole('button', { name: 'Restore version 1' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sluice Gate', exact: true })).toBeVisible();
  await saved(page);
  await expect(history.getByRole('listitem')).toHaveCount(3);
  await expect(history.getByRole('listitem').first()).toContainText('version 1 restored');
  await page.getByRole('button', { name: 'Undo: version 1 restored' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sluice Gate, faster' })).toBeVisible();
});

test('a version is named and keeps its name; the refused side of a conflict stands there too', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  const { version, work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
    version: number;
    work: { tune: { title: string } };
  };
  const put = (title: string) =>
    page.request.put(`/api/tunes/${id}`, {
      data: { version, what: 'Title', work: { ...work, tune: { ...work.tune, title } } },
    });
  expect([(await put('First come')).status(), (await put('Too late')).status()]).toEqual([200, 409]);
  await page.goto(`/tunes/${id}/tune`);
  await page.getByRole('button', { name: 'History: versions of this tune' }).click();
  const history = page.getByRole('region', { name: 'History' });
  await history.getByRole('button', { name: /not taken, since somebody else had saved: Title/ }).click();
  await history.getByRole('button', { name: 'Look' }).click();
  await expect(page.getByRole('dialog', { name: /^Too late/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await history.getByRole('button', { name: /brought in/ }).click();
  await history.getByLabel('Name, to keep it').fill('As it came');
  await history.getByLabel('Name, to keep it').press('Enter');
  await expect(history.getByText('As it came')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'History: versions of this tune' }).click();
  await expect(history.getByText('As it came')).toBeVisible();
});

test('what was removed is restored from the bin, or deleted for good after a question', async ({ page }) => {
  const [kept, gone] = [
    await bringIn(page, SMALL_TUNE.replace('Sluice Gate', 'Comes Back')),
    await bringIn(page, SMALL_TUNE.replace('Sluice Gate', 'Goes For Good')),
  ];
  for (const id of [kept, gone]) await page.request.delete(`/api/tunes/${id}`);
  await page.goto('/studio');
  const bin = page.getByRole('region', { name: 'Bin' });
  await expect(bin.getByRole('listitem').filter({ hasText: 'Comes Back' })).toContainText('30 more days');
  expect(await auditFaults(page)).toEqual([]);
  await bin.getByRole('button', { name: 'Restore Comes Back' }).click();
  await expect(bin.getByText('Comes Back')).toHaveCount(0);
  await bin.getByRole('button', { name: 'Delete Goes For Good' }).click();
  await bin.getByRole('button', { name: 'Keep' }).click();
  await bin.getByRole('button', { name: 'Delete Goes For Good' }).click();
  await bin.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(bin.getByText('Goes For Good')).toHaveCount(0);
  expect([
    (await page.request.get(`/api/tunes/${kept}`)).status(),
    (await page.request.post(`/api/tunes/${gone}/restore`)).status(),
  ]).toEqual([200, 404]);
});

test('everything is exported as one archive and brought back from the shelf, nothing twice', async ({ page }) => {
  const name = `Rope Ferry ${Date.now()}`;
  const id = await bringIn(page, SMALL_TUNE.replace('Sluice Gate', name));
  await page.goto('/studio');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export everything' }).click(),
  ]);
  const file = await download.path();
  await page.request.delete(`/api/tunes/${id}`);
  await page.request.delete(`/api/bin/tune/${id}`);
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  const sheet = page.getByRole('dialog', { name: 'Bring in a tune' });
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'studio.zip', mimeType: 'application/zip', buffer: await readFile(file) });
  await sheet.getByRole('button', { name: 'Bring it back' }).click();
  await expect(sheet).toContainText(/Came back: \d+ tunes?/);
  await expect(sheet).toContainText('were there already, and left as they are.');
  await page.goto(`/?search=${encodeURIComponent(name)}`);
  await expect(page.getByRole('link', { name })).toHaveCount(1);
});

test('a pupil’s name goes from all groups', async ({ page }) => {
  const name = `Pim ${Date.now()}`;
  const player = { id: 'p1', name, instrument: 'flute', level: 'beginner' };
  await page.request.post('/api/groups', { data: { name: 'Tide', players: [player] } });
  await page.goto('/studio');
  await page.getByLabel('The name to delete').fill(name.toUpperCase());
  await page.getByRole('button', { name: 'Delete everywhere' }).click();
  await expect(page.getByText('The name was taken from one player.')).toBeVisible();
  expect(await (await page.request.get('/api/groups')).text()).not.toContain(name);
});
