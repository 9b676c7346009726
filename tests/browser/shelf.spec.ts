import { auditFaults, bringIn, expect, saved, SMALL_TUNE, test } from './page';

test('the demo tunes stand on the shelf with key, meter, bars and levels; search finds one', async ({ page }) => {
  await page.goto('/?search=net+loft');
  const row = page.getByRole('listitem').filter({ hasText: "The Gannet's Turn" });
  await expect(row).toContainText('E minor');
  await expect(row).toContainText('6/8 · 18 bars');
  await expect(row).toContainText('Made: beginner, intermediate, advanced');
  // Pictures of openings are fetched as they come into view.
  await row.scrollIntoViewIfNeeded();
  await expect(row.getByRole('img')).toHaveJSProperty('complete', true);
  expect(await auditFaults(page)).toEqual([]);
  await page.keyboard.press('/');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('kelp on');
  await expect(page.getByRole('list', { name: 'Tunes' }).getByRole('listitem')).toHaveCount(1);
});

test('a pasted tune is seen before it is saved, with what was not understood', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  const sheet = page.getByRole('dialog', { name: 'Bring in a tune' });
  await sheet.getByLabel('Paste it here, or drop a file').fill(SMALL_TUNE.replace('g2 |', '[Gg]2 |'));
  await expect(sheet.getByText('Nobody · G major · 4/4 · 4 bars')).toBeVisible();
  await expect(
    sheet.getByText('line 8, column 51, bar 3: Several notes stand together ([Gg]); the top one was taken'),
  ).toBeVisible();
  await expect(sheet.locator('svg .note').first()).toBeAttached();
  expect(await auditFaults(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Save to the shelf' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sluice Gate' })).toBeVisible();
});

test('who closes a sheet is back where they were, whether a button opened it or a key', async ({ page }) => {
  await page.goto('/');
  for (const name of ['Bring in a tune', 'New tune']) {
    const button = page.getByRole('button', { name });
    await button.press('Enter');
    await expect(page.getByRole('dialog', { name })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(button).toBeFocused();
  }
  const search = page.getByLabel('Search title, composer or key');
  await page.getByRole('button', { name: 'New drill' }).focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'New drill' })).toBeFocused();
  await expect(search).not.toBeFocused();
});

test('a file is picked, and what cannot be read is said at its place', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  const sheet = page.getByRole('dialog', { name: 'Bring in a tune' });
  const pick = async (name: string, text: string | Buffer) => {
    await page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  };
  await pick('long.abc', 'X:1\nM:3/4\nL:1/4\nK:C\nCDE|CDEF|\n');
  await expect(sheet.getByRole('alert')).toContainText('line 5, bar 2: The bar holds 4 quarters; 3/4 has room for 3');
  await expect(sheet.getByRole('button', { name: 'Save to the shelf' })).toBeDisabled();
  await pick('bomb.xml', '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "b">]><x/>');
  await expect(sheet.getByRole('alert')).toContainText('declares XML entities');
  await pick('big.abc', Buffer.alloc(20 * 1024 * 1024, 'A'));
  await expect(sheet.getByRole('alert')).toContainText('The file has 20.0 MB; at most 4 MB are read.');
  await pick('good.abc', SMALL_TUNE);
  await expect(sheet.getByText('Sluice Gate')).toBeVisible();
});

test('the API refuses what is too large, broken or from elsewhere, and saves nothing of it', async ({
  page,
  baseURL,
}) => {
  const count = async () => {
    let [tunes, query] = [0, ''];
    for (;;) {
      const answer = (await (await page.request.get(`/api/tunes?${query}`)).json()) as {
        readonly tunes: readonly unknown[];
        readonly next?: { readonly title: string; readonly id: string };
      };
      tunes += answer.tunes.length;
      if (!answer.next) return tunes;
      query = new URLSearchParams({ afterTitle: answer.next.title, afterId: answer.next.id }).toString();
    }
  };
  const before = await count();
  const large = await page.request.post('/api/tunes', { data: Buffer.alloc(20 * 1024 * 1024, 'A') });
  const broken = await page.request.post('/api/tunes', { data: 'X:1\nM:4/4\nL:1/4\nK:C\nCDEFG|\n' });
  const foreign = await page.request.post('/api/tunes', {
    data: SMALL_TUNE,
    headers: { origin: 'http://elsewhere.invalid' },
  });
  const rebound = await page.request.get('/', { headers: { host: 'elsewhere.invalid' } }).catch(() => undefined);
  const badSave = await page.request.put('/api/tunes/lamps-on-the-mole', {
    data: { version: 1, work: { tune: {}, recipes: {} } },
  });
  expect([large.status(), broken.status(), foreign.status(), badSave.status()]).toEqual([413, 422, 403, 422]);
  expect(((await broken.json()) as { messages: string[] }).messages).toEqual([
    'line 5, bar 1: The bar holds 5 quarters; 4/4 has room for 4',
  ]);
  if (rebound) expect(rebound.status()).toBe(421);
  for (const path of [
    '/tunes/nothing/levels',
    '/tunes/lamps-on-the-mole/nowhere',
    '/api/tunes/nothing/files/beginner.pdf',
  ])
    expect((await page.request.get(path)).status()).toBe(404);
  expect(await count()).toBe(before);
  const policy = (await page.request.get(baseURL ?? '/')).headers()['content-security-policy'] ?? '';
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic' 'wasm-unsafe-eval';/);
});

test('a removed tune can be restored', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE.replace('Sluice Gate', 'Ebb and Back'));
  await page.goto('/?search=ebb');
  await page.getByRole('button', { name: 'Remove Ebb and Back' }).click();
  await expect(page.getByText('Nothing on the shelf is called “ebb”.')).toBeVisible();
  expect((await page.request.get(`/api/tunes/${id}`)).status()).toBe(404);
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('link', { name: 'Ebb and Back' })).toBeVisible();
});

test('a tune is begun from nothing: its head is asked for, and the caret stands in its first bar', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New tune' }).click();
  const sheet = page.getByRole('dialog', { name: 'New tune' });
  await sheet.getByRole('textbox', { name: 'Title' }).fill('From Nothing');
  await sheet.getByRole('combobox', { name: 'Meter' }).click();
  await page.getByRole('option', { name: '3/4' }).click();
  await sheet.getByRole('combobox', { name: 'Pickup' }).press('Enter');
  await expect(page.getByRole('option', { name: 'a dotted half' })).toHaveCount(0);
  // A list is gone through by its keys.
  for (const name of ['none', 'an eighth', 'a quarter']) {
    await expect(page.getByRole('option', { name, exact: true })).toBeFocused();
    await page.keyboard.press(name === 'a quarter' ? 'Enter' : 'ArrowDown');
  }
  await expect(sheet.getByRole('combobox', { name: 'Pickup' })).toHaveText('a quarter');
  await sheet.getByRole('textbox', { name: 'Bars' }).fill('0');
  await expect(sheet.getByText('Write a number from 1 to')).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Save to the shelf' })).toBeDisabled();
  await sheet.getByRole('textbox', { name: 'Bars' }).fill('4');
  expect(await auditFaults(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Save to the shelf' }).click();
  await expect(page.locator('[data-caret]')).toBeVisible({ timeout: 30_000 });
  await page.keyboard.type('g');
  await saved(page);
  const id = /tunes\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  const { work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
    work: { tune: { title: string; bars: { events: { kind: string; length: number }[] }[] } };
  };
  expect([
    work.tune.title,
    work.tune.bars.length,
    work.tune.bars[0]?.events.map(({ kind, length }) => [kind, length / 10_080]),
  ]).toEqual(['From Nothing', 5, [['note', 1]]]);
});

test('a progression becomes a tune of chords over empty bars; what is no chord is said at its bar', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New progression' }).click();
  const sheet = page.getByRole('dialog', { name: 'New progression' });
  const chords = sheet.getByRole('textbox', { name: /^Chords/ });
  await chords.fill('Am7 | Hx | Gmaj7');
  await expect(sheet.getByText(/"Hx"/)).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Save to the shelf' })).toBeDisabled();
  await chords.fill('Am7 D7 | Gmaj7 | %');
  await expect(sheet.getByText('3 bars')).toBeVisible();
  expect(await auditFaults(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Save to the shelf' }).click();
  await page.waitForURL(/\/tunes\/[^/]+\/improvise/);
  // Am7 D7 Gmaj7 speaks for G, and nobody said otherwise.
  await expect(page.getByText('3 bars · 4/4 · G major')).toBeVisible();
});
