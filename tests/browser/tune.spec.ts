import { allDrawn, auditFaults, bringIn, expect, saved, SMALL_TUNE, test } from './page';

test('rights, source and composer are kept, and an open rights question is said next to it', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/tune`);
  await expect(page.getByText('Arranging what others own may need permission where you live.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Rights' }).click();
  await page.getByRole('option', { name: 'Public domain' }).click();
  await expect(page.getByText('Arranging what others own')).toBeHidden();
  await page.getByLabel('Where it came from').fill('the lock-keeper');
  await page.getByLabel('Where it came from').press('Tab');
  await page.getByLabel('Composer').fill('thrown away');
  await page.getByLabel('Composer').press('Escape');
  await saved(page);
  const { work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
    work: { tune: { rights: string; source: string; composer: string } };
  };
  expect([work.tune.rights, work.tune.source, work.tune.composer]).toEqual([
    'public-domain',
    'the lock-keeper',
    'Nobody',
  ]);
});

test('a meter that would cut a repeat is refused next to the field, and nothing is changed', async ({ page }) => {
  await page.goto(`/tunes/${await bringIn(page, SMALL_TUNE.replace('A4 |', 'A4 :|'))}/tune`);
  await page.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: '3/4', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'In 3/4 the repeat or section mark at bar 2 would fall inside a bar.' }),
  ).toBeVisible();
  await expect(page.getByText('4 bars · 4/4')).toBeVisible();
});

test('a new tempo of the tune is taken by the levels that have none of their own', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/tune`);
  await page.getByLabel('a minute', { exact: true }).fill('140');
  await page.getByLabel('a minute', { exact: true }).press('Enter');
  await page.getByRole('link', { name: 'Levels' }).click();
  await expect(page.getByRole('textbox', { name: 'Beginner: beats a minute' })).toHaveValue('92');
  await page.getByRole('button', { name: 'Undo: Tempo 140' }).click();
  await expect(page.getByRole('textbox', { name: 'Beginner: beats a minute' })).toHaveValue('64');
});

test('the help sheet passes the audit and closes with Escape; printing leaves the tools away', async ({ page }) => {
  await page.goto('/tunes/lamps-on-the-mole/levels');
  await allDrawn(page);
  await page.getByRole('button', { name: 'Help: keys' }).click();
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('a teacher or a clinician decides');
  expect(await auditFaults(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('complementary')).toBeHidden();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
});

test('a part opens for printing once everything is saved', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  await page.goto(`/tunes/${id}/levels`);
  const waiting = page.context().waitForEvent('request', (request) => request.url().includes('/files/beginner.pdf'));
  await page.getByRole('tab', { name: 'Hand out' }).click();
  await page.getByRole('button', { name: 'Print', exact: true }).click();
  expect((await waiting).url()).toContain('paper=a4');
  const part = await page.request.get(`/api/tunes/${id}/files/beginner.pdf?paper=letter`);
  expect([part.status(), part.headers()['content-type'], part.headers()['content-disposition']]).toEqual([
    200,
    'application/pdf',
    'inline; filename="sluice-gate.beginner.pdf"',
  ]);
  expect((await page.request.get(`/api/tunes/${id}/files/beginner.pdf?paper=a0`)).status()).toBe(400);
});
