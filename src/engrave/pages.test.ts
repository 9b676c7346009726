import { FOR_ENGRAVER } from '../core/formats/musicxml/target';
import { readAbc } from '../core/formats/abc/readAbc';
import { writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { instrumentById } from '../core/instruments/catalogue';
import { partFor, type Part } from '../core/levels/parts/partFor';
import type { Tune } from '../core/score/tune';
import { Engraver } from './engraver';
import { openingPicture } from './opening';
import { partPdf } from './pdf';
import { partScore, playerLine, tuneLane } from './staves';
import { cutSystems } from './systems';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nK:D'): Tune => {
  const read = readAbc(`X:1\nT:Page <&> turner\nC:Nobody\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const part = (tune: Tune, id = 'horn-f'): Part => {
  const instrument = instrumentById(id);
  if (!instrument) throw new Error(id);
  return partFor(tune, { level: 'advanced', instrument }).value;
};
/** Pages of a PDF: its page objects are not compressed. */
const pagesOf = (pdf: Uint8Array) =>
  [
    ...Buffer.from(pdf)
      .toString('latin1')
      .matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g),
  ].map(([, width, height]) => `${Math.round(Number(width))}×${Math.round(Number(height))}`);

let engraver: Engraver;
beforeAll(async () => {
  engraver = await Engraver.start();
});

test('a short part is one page, A4 or Letter, and the same part gives the same bytes', async () => {
  const short = part(tuneOf('"D"D2 F2 A2 d2 | "G"B4 A4 | "A7"c2 e2 g2 e2 | "D"d8 |]'));
  const first = await partPdf(engraver, short);
  expect(pagesOf(first)).toEqual(['595×842']);
  expect(pagesOf(await partPdf(engraver, short, 'letter'))).toEqual(['612×792']);
  expect(Buffer.compare(Buffer.from(first), Buffer.from(await partPdf(engraver, short)))).toBe(0);
});

test('a long part goes over several pages and loses no bar', async () => {
  const long = tuneOf(Array.from({ length: 30 }, () => 'D2 F2 A2 d2 | B4 A4 | c2 e2 g2 e2 | d6 z2 |').join('\n'));
  const staff = partScore(part(long)).staves[0];
  if (!staff) throw new Error('no staff');
  const lineStarts = new Set(Array.from({ length: 29 }, (_, k) => 4 * (k + 1)));
  const picture = cutSystems(
    engraver.systems(writeMusicXml({ title: '', staves: [staff] }, { target: FOR_ENGRAVER, lineStarts }), {
      width: 500,
      staffSpace: 5.4,
    }),
  );
  expect(picture.systems).toHaveLength(30);
  const bars = picture.systems.flatMap(({ markup }) => [...markup.matchAll(/id="P1:(b\d+)"/g)].map(([, id]) => id));
  expect(bars).toEqual(long.bars.map(({ id }) => id));
  picture.systems
    .slice(1)
    .forEach(({ top }, index) => expect(top).toBeGreaterThan(picture.systems[index]?.bottom ?? Infinity));
  expect(pagesOf(await partPdf(engraver, part(long))).length).toBe(4);
});

test('the player line says both keys, and one where they are the same', () => {
  const tune = tuneOf('D8 |');
  expect(playerLine(part(tune))).toBe('Horn in F · Advanced · for you: A major · sounding: D major');
  expect(playerLine(part(tune, 'violin'))).toBe('Violin · Advanced · D major');
});

test('shapes cut out for paper carry their stroke, and text its weight', () => {
  const lane = tuneLane('P1', tuneOf('P:A\nD2 F2 A2 d2 | B4 A4 |'));
  const { systems, definitions } = cutSystems(
    engraver.systems(writeMusicXml({ title: '', staves: [lane] }, { target: FOR_ENGRAVER }), {
      width: 500,
      staffSpace: 5,
    }),
  );
  const markup = systems[0]?.markup ?? '';
  expect(markup).not.toMatch(/<path (?![^>]*stroke=)/);
  expect(markup).toMatch(/class="reh"[^>]*font-weight="bold"/);
  expect(definitions).not.toContain('stroke="black"');
});

test('a tie over the end of a row is drawn on both sides of it', () => {
  const lane = tuneLane('tune', tuneOf('D2 F2 A4- | A8 | (B4 A4) | D8 |'));
  const row = (from: number, to: number) =>
    engraver.row({ staves: [lane], line: { from, to }, width: 500, staffSpace: 7, seed: from + 1 }).svg;
  const ties = (svg: string) => svg.match(/class="tie"/g)?.length ?? 0;
  expect([ties(row(0, 1)), ties(row(1, 2)), ties(row(2, 4))]).toEqual([1, 1, 0]);
  expect(ties(row(0, 2))).toBe(1);
});

test('so is a slur', () => {
  const lane = tuneLane('tune', tuneOf('D2 F2 (A4 | d4 f4 | e4 d4) | (D4 E4) |'));
  const slurs = (from: number, to: number) =>
    engraver
      .row({ staves: [lane], line: { from, to }, width: 500, staffSpace: 7, seed: from + 1 })
      .svg.match(/<path class="slur"/g)?.length ?? 0;
  expect([slurs(0, 1), slurs(0, 2), slurs(2, 3), slurs(3, 4), slurs(0, 4)]).toEqual([1, 1, 1, 0, 0]);
});

test('a row fills its width; one that is too short for it keeps its size and ends early', () => {
  const lane = tuneLane('tune', tuneOf('D2 F2 A2 d2 | B4 A4 | c2 e2 g2 e2 | d8 |'));
  const row = (from: number, to: number, width: number) =>
    engraver.row({ staves: [lane], line: { from, to }, width, staffSpace: 7, seed: 1 }).geometry;
  const full = row(0, 4, 700);
  const end = (geometry: typeof full) => (geometry.bars.at(-1)?.x ?? 0) + (geometry.bars.at(-1)?.width ?? 0);
  expect(Math.abs(end(full) / full.width - 1)).toBeLessThan(0.02);
  const short = row(3, 4, 700);
  expect(end(short) / short.width).toBeLessThan(0.8);
  expect(
    Math.abs(
      (full.staves[0]?.bottom ?? 0) -
        (full.staves[0]?.top ?? 0) -
        (short.staves[0]?.bottom ?? 0) +
        (short.staves[0]?.top ?? 0),
    ),
  ).toBeLessThan(2);
});

test('the opening on the shelf stands alone: no style, no font, no repeat without its end', () => {
  const picture = openingPicture(engraver, tuneOf('|: "D"D2 F2 A2 d2 | B4 A4 :| c2 e2 g2 e2 | d8 |]'));
  expect(picture).toMatch(/^<svg [^>]*viewBox=/);
  expect(picture).not.toMatch(/<style|font-family|<text[^>]*>[^<]*D/);
});
