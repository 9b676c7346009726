import { readAbc } from '../core/formats/abc/readAbc';
import { readHarmony, printHarmony } from '../core/formats/musicxml/harmonyField';
import { readTune } from '../core/formats/readTune';
import { writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { tuneStaff } from '../core/formats/musicxml/scoreFile';
import { writeStemless } from '../core/formats/musicxml/writeStemless';
import { LEVELS } from '../core/instruments/instrument';
import { poolsOfLevel } from '../core/levels/levelPools';
import type { Work } from '../core/work/work';
import { withRecipe } from '../core/work/work';
import { parseKey } from '../core/pitch/key';
import { printPitch } from '../core/pitch/pitch';
import { chordPlace } from '../core/pools/wishes';
import { Engraver } from './engraver';
import { poolSheetPdf, setsPdf } from './poolPdf';
import { drawPoolRows, rowsOfColumns } from './poolRows';
import { poolScore, quietHeads } from './poolSheet';
import { scaleSheetPdf } from './scaleSheet';
import { instrument } from '../../tests/given';

const work = ((): Work => {
  const read = readAbc(
    'X:1\nT:Round the post\nM:4/4\nL:1/4\nK:Eb\n|:"Fm7"F A "Bb7"B d|"Ebmaj7"e4:|"Cm7"c d e g|"F7"f a g f|"Bb7"d4|"Eb"e4|]\n',
  );
  if (!read.ok) throw new Error('abc');
  return {
    tune: read.value.tune,
    recipes: {
      beginner: { instrument: 'alto-sax' },
      intermediate: { instrument: 'violin' },
      advanced: { instrument: 'trombone' },
    },
  };
})();
/** The library wakes once in a process. */
const started = Engraver.start();
const keyOf = (text: string) => {
  const key = parseKey(text);
  if (!key.ok) throw new Error(text);
  return key.value;
};

test('heads stand by their role in written pitch, a measure for each chord', () => {
  const { pools, instrument, tune } = poolsOfLevel(work, 'beginner');
  const score = poolScore({ pools, instrument, level: 'beginner', bars: tune.bars, title: 'x' });
  // A concert E flat pentatonic is read in C by an alto saxophone.
  expect(
    score.columns[0]?.staves[0]?.map(({ pitch, head, words }) => `${printPitch(pitch)} ${head} ${words.join(' ')}`),
  ).toEqual(['C5 filled C ♭7', 'D5 filled D 1', 'E5 open E 9', 'G5 open G 11', 'A5 filled A 5']);
  expect(
    score.columns.map(({ line, repeatStart, repeatEnd, number }) => [
      line,
      repeatStart ?? false,
      repeatEnd ?? false,
      number,
    ]),
  ).toEqual([
    ['none', true, false, '1'],
    ['plain', false, false, undefined],
    ['plain', false, true, '2'],
    ['plain', false, false, '3'],
    ['plain', false, false, '4'],
    ['plain', false, false, '5'],
    ['final', false, false, '6'],
  ]);
  const xml = writeStemless(score);
  expect(xml).toContain('<transpose><diatonic>-5</diatonic><chromatic>-9</chromatic></transpose>');
  expect(xml.match(/<note/g)?.length).toBe(score.columns.flatMap(({ staves }) => staves.flat()).length * 2);
});

test('rows hold four bars where their heads have room, and a section begins one', () => {
  const { pools, instrument, tune } = poolsOfLevel(work, 'advanced');
  const { columns } = poolScore({ pools, instrument, level: 'advanced', bars: tune.bars, title: 'x' });
  expect(rowsOfColumns(columns, { width: 1200, staffSpace: 6 })).toEqual([
    { from: 0, to: 5 },
    { from: 5, to: 7 },
  ]);
  const sectioned = columns.map((column, k) => (k === 3 ? { ...column, section: 'B' } : column));
  expect(rowsOfColumns(sectioned, { width: 1200, staffSpace: 6 })[0]).toEqual({ from: 0, to: 3 });
});

test('what was decided for a chord and what is read by hand stand, in another key too', () => {
  const bar = work.tune.bars[2]?.id ?? '';
  const decided = withRecipe(work, 'advanced', {
    improvise: { chords: { [chordPlace(bar, 0)]: { set: 'melodic minor' } } },
    keyAndTempo: { key: keyOf('D') },
  });
  const read = {
    ...decided,
    tune: { ...decided.tune, harmony: { style: 'dance' as const, readings: [{ bar, at: 0, key: keyOf('Bb') }] } },
  };
  const { pools } = poolsOfLevel(read, 'advanced');
  expect(pools.form.style).toBe('dance');
  expect(pools.chords.map(({ reading }) => reading.numeral)).toEqual([
    'ii7',
    'V7',
    'Imaj7',
    'ii7',
    'V7',
    'V7/IV',
    'IV',
  ]);
  expect(pools.chords[3]?.pools[0]?.name).toBe('B melodic minor');
  // The readings go through a file of ours.
  const again = readTune(new TextEncoder().encode(writeMusicXml(tuneStaff(read.tune))), 'a.musicxml');
  expect(again.ok && again.value.tune.harmony?.style).toBe('dance');
  expect(again.ok && again.value.tune.harmony?.readings?.[0]?.key).toEqual(keyOf('Bb'));
  expect(readHarmony(printHarmony(read.tune), read.tune.bars)).toEqual(read.tune.harmony);
  expect(readHarmony('style polka; 99:0 key C; 0:0 function king', read.tune.bars)).toBeUndefined();
});

test('a pool sheet is drawn and printed at every level, the same bytes each time', async () => {
  const engraver = await started;
  for (const level of LEVELS) {
    const made = poolsOfLevel(work, level);
    const first = await poolSheetPdf(engraver, { made, title: 'Round the post' });
    expect(
      Buffer.compare(Buffer.from(first), Buffer.from(await poolSheetPdf(engraver, { made, title: 'Round the post' }))),
    ).toBe(0);
    const score = poolScore({
      pools: made.pools,
      instrument: made.instrument,
      level,
      bars: made.tune.bars,
      title: level,
    });
    const rows = drawPoolRows(engraver, score, { width: 900, staffSpace: 7, seed: 5 }, quietHeads(made.pools));
    expect(rows.reduce((sum, { geometry }) => sum + geometry.bars.length, 0)).toBe(score.columns.length);
    const heads = score.columns.flatMap(({ staves }) => staves.flat()).length;
    expect(rows.reduce((sum, { svg }) => sum + (svg.match(/class="note[ "]/g)?.length ?? 0), 0)).toBe(heads);
  }
  const page = await setsPdf(engraver, {
    name: 'minor pentatonic',
    from: { step: 'D', alter: 0 },
    instrument: poolsOfLevel(work, 'beginner').instrument,
    level: 'beginner',
    extent: '1',
  });
  expect(Buffer.from(page).subarray(0, 5).toString()).toBe('%PDF-');
}, 60_000);

test('a sheet a scale: one for one tonic, a booklet for more', async () => {
  const engraver = await started;
  const pages = (bytes: Uint8Array) =>
    Buffer.from(bytes)
      .toString('latin1')
      .match(/\/Type \/Page\b/g)?.length;
  const tonics = [keyOf('C').tonic, keyOf('Bb').tonic];
  const sheet = { set: 'melodic minor', instrument: instrument('flute'), level: 'intermediate', extent: '1' } as const;
  expect(pages(await scaleSheetPdf(engraver, { ...sheet, tonics }))).toBe(2);
  expect(pages(await scaleSheetPdf(engraver, { ...sheet, tonics: tonics.slice(0, 1) }))).toBe(1);
});
