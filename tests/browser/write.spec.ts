import type { Page } from '@playwright/test';
import { allDrawn, auditFaults, bringIn, expect, saved, SMALL_TUNE, test } from './page';

interface Event {
  readonly kind: string;
  readonly length: number;
  readonly tied?: true;
  readonly pitch?: { readonly step: string; readonly alter: number; readonly octave: number };
  readonly optional?: true;
  readonly phrase?: string;
  readonly lyrics?: readonly unknown[];
}
interface StoredTune {
  readonly bars: readonly {
    readonly events: readonly Event[];
    readonly chords: readonly { readonly at: number }[];
    readonly section?: string;
  }[];
}

/** The tune as the server has it, bar by bar: `G4:1` is a quarter. */
async function stored(
  page: Page,
  id: string,
): Promise<{ readonly line: readonly string[]; readonly tune: StoredTune }> {
  await saved(page);
  const { work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as { work: { tune: StoredTune } };
  const name = ({ pitch, length, tied }: Event) =>
    `${pitch ? `${pitch.step}${{ 1: '#', '-1': 'b' }[pitch.alter] ?? ''}${pitch.octave}` : 'z'}:${length / 10_080}${tied ? '~' : ''}`;
  return { line: work.tune.bars.map(({ events }) => events.map(name).join(' ')), tune: work.tune };
}

async function startWriting(page: Page, abc = SMALL_TUNE): Promise<string> {
  const id = await bringIn(page, abc);
  await page.goto(`/tunes/${id}/tune`);
  await allDrawn(page);
  await page.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(page.locator('[data-caret]')).toBeVisible({ timeout: 30_000 });
  return id;
}

const surface = (page: Page) => page.getByRole('application', { name: 'The tune, being written' });

test('a tune is written by keys alone: letters, lengths, ties over the barline, raising, marks, undo by name', async ({
  page,
}) => {
  const id = await startWriting(page);
  await expect(surface(page)).toBeFocused();
  for (const key of ['a', '-', 'b', '+', '+', 'c', 'Shift+ArrowUp']) await page.keyboard.press(key);
  await expect(page.locator('#writing-place')).toContainText('bar 2, beat 1.5');
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  for (const key of ['s', 'o', 'ArrowDown']) await page.keyboard.press(key);
  const { line, tune } = await stored(page, id);
  expect(line.slice(0, 2)).toEqual(['G4:0.5 A4:0.5~ A4:1~ A4:0.5 C#5:0.5~ C#5:1~', expect.stringMatching(/^C#5:0.5 /)]);
  expect(tune.bars[0]?.events.map(({ optional }) => optional === true)).toEqual([true, true, true, true, false, false]);
  await page.getByRole('button', { name: 'Undo: Move 2 notes a step down' }).click();
  expect((await stored(page, id)).line[0]).toBe('A4:0.5 B4:0.5~ B4:1~ B4:0.5 C#5:0.5~ C#5:1~');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Write', exact: true })).toBeVisible();
});

test('what cannot be done is said, and the caret says what comes next', async ({ page }) => {
  const id = await startWriting(page);
  const before = (await stored(page, id)).line;
  await page.keyboard.press('t');
  await expect(page.getByRole('contentinfo').getByRole('alert')).toContainText(
    'A tie needs the same pitch right after it',
  );
  for (const key of ['End', '+', '+']) await page.keyboard.press(key);
  await expect(page.locator('#writing-place')).toHaveText('next whole note in a new bar, at the end');
  expect((await stored(page, id)).line).toEqual(before);
  await page.keyboard.press('g');
  const after = await stored(page, id);
  expect([after.line.length, after.line[4]]).toEqual([before.length + 1, 'G4:4']);
});

test('a note is picked by the mouse and dragged; the drag is one step of the history', async ({ page }) => {
  const id = await startWriting(page);
  const head = await page.locator('g.note[id="tune:n1"] .notehead').boundingBox();
  if (!head) throw new Error('no first note');
  await page.mouse.move(head.x + head.width / 2, head.y + head.height / 2);
  await page.mouse.down();
  for (let y = 1; y <= 16; y += 1) await page.mouse.move(head.x + head.width / 2, head.y + head.height / 2 - y * 0.9);
  await page.mouse.up();
  const { line } = await stored(page, id);
  expect(line[0]?.split(' ')[0]).toMatch(/^(A|B|C|D)\d:1$/);
  await page.getByRole('button', { name: /^Undo: Move a note/ }).click();
  expect((await stored(page, id)).line[0]?.split(' ')[0]).toBe('G4:1');
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeVisible();
});

test('bars are repeated, put in and taken out; a stretch is cut and pasted', async ({ page }) => {
  const id = await startWriting(page);
  const [first, second] = (await stored(page, id)).line;
  for (const key of ['r', 'i']) await page.keyboard.press(key);
  expect((await stored(page, id)).line.slice(0, 4)).toEqual([first, 'z:4', first, second]);
  await page.keyboard.press('Shift+Backspace');
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  for (const key of ['Control+x', 'End', 'Control+v']) await page.keyboard.press(key);
  const { line } = await stored(page, id);
  expect([line[0], line[1], line.at(-1)]).toEqual([first?.replace('G4:1', 'z:1'), first, 'G4:1 z:1 z:2']);
});

test('words, marks, a section and a chord are set in small fields at the caret', async ({ page }) => {
  const id = await startWriting(page);
  await page.keyboard.press('w');
  await page.getByRole('textbox', { name: 'Syllable' }).fill('sing');
  await page.keyboard.press('-');
  await page.keyboard.type('ing');
  await page.keyboard.press('Enter');
  await expect(surface(page)).toBeFocused();
  await page.keyboard.press('Home');
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'tenuto' }).click();
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'Section' }).fill('Verse');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('h');
  await page.getByRole('combobox', { name: 'Chord symbol' }).fill('Hm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be read' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Chord symbol' }).fill('am7');
  await page.keyboard.press('Enter');
  const { tune } = await stored(page, id);
  expect([tune.bars[0]?.section, tune.bars[0]?.chords.map(({ at }) => at / 10_080)]).toEqual(['Verse', [0, 1]]);
  expect(tune.bars[0]?.events.slice(0, 2)).toMatchObject([
    { articulations: ['tenuto'], lyrics: [{ verse: 1, text: 'sing', hyphen: true }] },
    { lyrics: [{ verse: 1, text: 'ing' }] },
  ]);
});

test('a repeat, a meter and a tempo are set in the field of the bar', async ({ page }) => {
  const id = await startWriting(page);
  await page.keyboard.press('Control+ArrowRight');
  await page.keyboard.press('k');
  await page.getByRole('button', { name: 'repeat', exact: true }).click();
  await page.getByLabel('Tempo from here').fill('9');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'From 20 to 400' })).toBeVisible();
  await page.getByLabel('Tempo from here').fill('66');
  await page.keyboard.press('Enter');
  expect((await stored(page, id)).tune.bars[1]).toMatchObject({
    repeatStart: true,
    repeatEnd: 2,
    tempos: [{ at: 0, tempo: { perMinute: 66 } }],
  });
  await page.getByLabel('Meter from here').selectOption('3/4');
  await expect(page.getByRole('contentinfo').getByRole('alert')).toContainText('would fall inside a bar');
  await page.getByRole('button', { name: 'repeat', exact: true }).click();
  await page.getByLabel('Meter from here').selectOption('3/4');
  expect((await stored(page, id)).tune.bars[1]).toMatchObject({ meter: { count: 3, unit: 4 } });
  await page.keyboard.press('Escape');
  await expect(surface(page)).toBeFocused();
});

test('chords are typed into the row over the bars, taken from other bars, or pasted as a progression', async ({
  page,
}) => {
  const id = await startWriting(page);
  await page.getByRole('button', { name: 'Chords over the bars' }).click();
  const over = (bar: number) => page.getByRole('combobox', { name: `Chords of bar ${bar}` });
  await over(2).fill('em A7');
  await over(2).press('Enter');
  await expect(over(3)).toBeFocused();
  await over(3).fill('=1-2');
  await over(3).press('Enter');
  await expect(over(4)).toHaveValue('Em A7');
  await over(1).fill('Gx');
  await over(1).press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'the chord symbol "Gx" cannot be read' })).toBeVisible();
  await over(1).press('Escape');
  await over(3).evaluate((input) => {
    const data = new DataTransfer();
    data.setData('text', 'Bm7 | E7 | A | %');
    input.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(over(6)).toHaveValue('A');
  expect((await stored(page, id)).line).toHaveLength(6);
});

test('keys on the screen and the simulated keyboard write through the same door', async ({ page }) => {
  const id = await startWriting(page);
  await page.getByRole('button', { name: 'keys: a keyboard' }).click();
  await page.getByRole('button', { name: 'F♯4' }).click();
  await page.getByRole('combobox', { name: 'Keyboard' }).click();
  await page.getByRole('option', { name: 'Simulated: five notes up and down' }).click();
  await expect(page.locator('#writing-place')).toContainText('bar 3, beat 3', { timeout: 15_000 });
  expect((await stored(page, id)).line.slice(0, 3)).toEqual([
    'F#4:1 C4:1 D4:1 E4:1',
    'F4:1 G4:1 F4:1 E4:1',
    expect.stringMatching(/^D4:1 C4:1 /),
  ]);
});

test('the text and the music follow one another; while the text is broken the last good music stays', async ({
  page,
}) => {
  const id = await startWriting(page);
  await page.getByRole('tab', { name: 'As text' }).click();
  const text = page.getByRole('textbox', { name: 'The tune as ABC text' });
  await expect(text).toContainText('T:Sluice Gate');
  await surface(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('e');
  await expect(text).toContainText('"G"E2');
  await text.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('q |');
  await expect(page.locator('.cm-lintRange-error')).toBeVisible();
  await expect(page.getByText('One place cannot be read (underlined).')).toBeVisible();
  const before = (await stored(page, id)).line;
  for (let k = 0; k < 3; k += 1) await page.keyboard.press('Backspace');
  await page.keyboard.type('c8 |]');
  await expect(page.getByText('The music follows the text')).toBeVisible();
  await expect.poll(async () => (await stored(page, id)).line.length).toBe(before.length + 1);
  expect(await auditFaults(page)).toEqual([]);
});

test('the writing tools pass the audit at 1024 wide, and printing leaves them away', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await startWriting(page);
  await page.getByRole('button', { name: 'keys: a keyboard' }).click();
  await page.getByRole('button', { name: 'Chords over the bars' }).click();
  expect(await auditFaults(page)).toEqual([]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('toolbar', { name: 'Writing' })).toBeHidden();
});
