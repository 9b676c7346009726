import { PDFDocument } from 'pdf-lib';
import { execFileSync } from 'node:child_process';
import { packPdf, packsPdf, type PackCover } from './packPdf';
import { collect, drawText, finish, newDocument } from './sheet';

const cover: PackCover = {
  name: 'Cai',
  under: 'Flute · beginner · from 2 December',
  level: 'beginner',
  goals: ['Harbour Steps: bars 5 to 8 at 72 (3 days)'],
  note: 'Sing it first.',
  caution: 'Rest often.',
  paper: 'a4',
};

/** A sheet of so many pages. */
function sheet(words: string, pages: number): Promise<Uint8Array> {
  const document = newDocument(words, undefined, 'a4');
  const bytes = collect(document);
  for (let k = 0; k < pages; k += 1) {
    document.addPage({ size: [595.28, 841.89], margin: 0 });
    drawText(document, `${words} ${k + 1}`, 50, 100, 400, { font: 'sans', size: 12 });
  }
  finish(document);
  return bytes;
}

/** The words on each page. */
function pagesOf(pdf: Uint8Array): readonly string[] {
  const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf }).toString();
  return text.split('\f').slice(0, -1);
}

const chapters = async (count = 1) =>
  (
    await Promise.all(
      Array.from({ length: count }, async (_, k) => [
        { title: `Tune ${k + 1}`, words: 'Part', pdf: await sheet('part', 2) },
        { title: `Tune ${k + 1}`, words: 'Example solo', pdf: await sheet('solo', 1) },
      ]),
    )
  ).flat();

test('the cover says on which page each sheet begins, and every page says which it is', async () => {
  const made = await packPdf(cover, await chapters());
  const [front = '', ...rest] = pagesOf(made);
  expect(front).toMatch(/Cai[^]*Sing it first[^]*bars 5 to 8[^]*Tune 1[^]*Part *2[^]*Example solo *4[^]*Rest often/);
  expect(rest.map((text) => text.replace(/\s+/g, ' ').trim())).toEqual([
    'Cai · 2 of 4 part 1',
    'Cai · 3 of 4 part 2',
    'Cai · 4 of 4 solo 1',
  ]);
  expect(Buffer.from(await packPdf(cover, await chapters())).equals(Buffer.from(made))).toBe(true);
});

test('contents that fill more than a page are counted with it', async () => {
  const pages = pagesOf(await packPdf(cover, await chapters(20)));
  const begins = pages.findIndex((text) => text.includes('part 1'));
  expect(begins).toBeGreaterThan(1);
  expect(pages[0]).toMatch(new RegExp(`Part *${begins + 1}\\n`));
});

test('packs one after another begin on a front side', async () => {
  const [odd, even] = [await sheet('odd', 3), await sheet('even', 2)];
  const pages = pagesOf(await packsPdf('Band', [odd, even, odd])).map((text) => text.trim());
  expect(pages).toEqual(['odd 1', 'odd 2', 'odd 3', '', 'even 1', 'even 2', 'odd 1', 'odd 2', 'odd 3']);
  const [first] = (await PDFDocument.load(odd)).getPages();
  expect(first?.getWidth()).toBeCloseTo(595.28);
});
