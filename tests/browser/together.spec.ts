import { auditFaults, bringIn, expect, saved, test } from './page';

const ROPE =
  'X:1\nT:Rope for Four\nC:Nobody\nM:4/4\nL:1/8\nQ:1/4=96\nK:G\nD2|"G"G3A B2AG|"C"E2c2 "D7"B2A2|"G"B3A G2D2|"D7"A6D2|"G"G3A B2AG|"C"E2c2 "Am"e2dc|"G"B2G2 "D7"A2F2|"G"G6|]\n';

test('a tune for a whole room: seated, changed for who is ill, printed, and put on the stand', async ({ page }) => {
  const id = await bringIn(page, ROPE);
  await page.goto(`/tunes/${id}/levels`);
  await page
    .getByRole('link', { name: 'Together' })
    .or(page.getByRole('button', { name: 'Together' }))
    .first()
    .click();
  const table = page.getByRole('table', { name: 'What everybody does in each section' });
  await expect(table).toBeVisible({ timeout: 60_000 });
  const score = page.getByRole('group', { name: 'Score' });
  await score.locator('svg .note').first().waitFor({ timeout: 60_000 });
  expect(await auditFaults(page)).toEqual([]);
  const rows = table.getByRole('row');
  const leads = table.getByRole('combobox').filter({ hasText: 'the tune' });
  const before = await leads.count();
  expect([await rows.count(), before]).toEqual([9, 2]);
  // Whoever leads the second half is ill: somebody else has it, and it is said.
  const ill = ((await leads.nth(1).getAttribute('aria-label')) ?? '').split(',')[0] ?? '';
  await page.getByRole('checkbox', { name: `${ill} is here today` }).uncheck();
  await expect(page.getByRole('status').filter({ hasText: /has the tune/ })).toBeVisible();
  await expect(leads).toHaveCount(before);
  const bar = score.getByRole('button', { name: /, bar 3: .* of / }).first();
  const name = ((await bar.getAttribute('aria-label')) ?? '').split(',')[0] ?? '';
  await bar.click();
  const drawer = page.getByRole('region', { name: `${name}, bar 3` });
  await drawer.getByRole('button', { name: /^a rest/ }).click();
  await expect(drawer.getByRole('button', { name: /^a rest/ })).toHaveAttribute('aria-pressed', 'true');
  await saved(page);
  await page.reload();
  await expect(page.getByRole('checkbox', { name: `${ill} is here today` })).not.toBeChecked({ timeout: 60_000 });
  const folder = `/api/tunes/${id}/groups/demo-1/together`;
  const file = async (what: string) => {
    const answer = await page.request.get(`${folder}/${what}`);
    return [answer.status(), (await answer.body()).subarray(0, 4).toString()];
  };
  expect(await file('score.pdf?paper=letter')).toEqual([200, '%PDF']);
  expect(await file('concert-score.musicxml')).toEqual([200, '<?xm']);
  expect(await file('all.musicxml.zip')).toEqual([200, 'PK\u0003\u0004']);
  expect(await file('demo1.pdf')).toEqual([200, '%PDF']);
  expect((await file('nobody.pdf'))[0]).toBe(404);
  await page.goto(`/tunes/${id}/stand?group=demo-1&player=demo1&together`);
  await expect(page.getByRole('checkbox', { name: 'the others of the group play their parts' })).toBeChecked();
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
});

test('it fits a narrow screen, and says what to do where no group is chosen', async ({ page }) => {
  const id = await bringIn(page, ROPE.replace('Rope for Four', 'Rope Apart'));
  await page.setViewportSize({ width: 1024, height: 768 });
  await page.goto(`/tunes/${id}/together`);
  await page.getByRole('group', { name: 'Score' }).locator('svg .note').first().waitFor({ timeout: 60_000 });
  for (const width of [1024, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  }
  expect(await auditFaults(page)).toEqual([]);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('combobox', { name: 'Group' }).first().click();
  await page.getByRole('option', { name: 'no group' }).click();
  await expect(page.getByRole('heading', { name: 'Who plays together?' })).toBeVisible();
});
