import { existsSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readAbc } from '../core/formats/abc/readAbc';
import { partOfLevel } from '../core/levels/levelPart';
import { Engraver } from './engraver';
import { partPdf } from './pdf';
import { isPlainLatin, textFontFiles, textRuns } from './textFonts';

const words = (text: string) => textRuns(text, 'serif').map(({ font, text: run }) => [font.replace('serif:', ''), run]);

test('each stretch of a text is set in a font that has it', () => {
  expect(words('Łódź in G♯')).toEqual([
    ['latin-ext', 'Ł'],
    ['latin', 'ód'],
    ['latin-ext', 'ź'],
    ['latin', ' in G'],
    ['music', '\uE262'],
  ]);
  expect(words('Песня')).toEqual([['cyrillic', 'Песня']]);
  expect(words('海の歌')).toEqual([['japanese', '海の歌']]);
  expect(words('大海')).toEqual([['chinese', '大海']]);
  expect(words('바다')).toEqual([['korean', '바다']]);
  // What joins and chooses is not drawn; a mark stays with its letter.
  expect(words('🎺\uFE0F!')).toEqual([
    ['emoji', '🎺'],
    ['latin', '!'],
  ]);
  expect(words('e\u0301a')).toEqual([['latin', 'e\u0301a']]);
});

test('what is written from right to left stands in its place, its brackets turned, its figures not', () => {
  // "sea (old) 12" in Hebrew: read from the right, so the figure stands leftmost.
  const runs = words('ים (ישן) 12');
  expect(runs[0]).toEqual(['latin', '12']);
  expect(runs.at(-1)).toEqual(['hebrew', 'ים']);
  expect(runs.map(([, text]) => text).join('|')).toBe('12| (|ישן|) |ים');
  // Inside a line of Latin, only the Hebrew words are turned round, by their font.
  expect(words('Song ים two')).toEqual([
    ['latin', 'Song '],
    ['hebrew', 'ים'],
    ['latin', ' two'],
  ]);
});

test('plain text needs no look', () => {
  expect(['Ñandú – “x”', 'Łódź', 'ים', '♭'].map(isPlainLatin)).toEqual([true, false, false, false]);
});

test('the fonts of every script are there, and a page in each can be read back', async () => {
  for (const { path } of textFontFiles()) expect(existsSync(path)).toBe(true);
  const folder = mkdtempSync(join(tmpdir(), 'scripts-'));
  const engraver = await Engraver.start();
  const titles = ['שיר', 'أغنية', 'Песня', 'Τραγούδι', '海の歌', '大海', '바다의', 'Łódź'];
  try {
    for (const title of titles) {
      const read = readAbc(`X:1\nT:${title}\nM:4/4\nL:1/4\nK:G\nGABc|d4|]\nw:${title}\n`);
      if (!read.ok) throw new Error('the tune of this test is broken');
      const file = join(folder, 'page.pdf');
      writeFileSync(file, await partPdf(engraver, partOfLevel(read.value.tune, 'advanced', {}).value));
      const text = execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' }).normalize('NFKC');
      // Once as the title and once under the first note.
      expect([title, text.split(title.normalize('NFKC')).length - 1]).toEqual([title, 2]);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
