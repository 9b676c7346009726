import { readMusicXml } from '../core/formats/musicxml/readMusicXml';
import { writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { readAbc } from '../core/formats/abc/readAbc';
import { instrumentById } from '../core/instruments/catalogue';
import { LEVELS, toSounding } from '../core/instruments/instrument';
import { partFor } from '../core/levels/parts/partFor';
import { semitones } from '../core/pitch/pitch';
import { transpose } from '../core/pitch/transpose';
import { isNote, type Tune } from '../core/score/tune';
import { workingOutOf } from '../core/levels/levelPart';
import { Engraver } from './engraver';
import { partsPdf } from './pdf';
import { groupScore, scorePdf } from './scorePdf';
import { partScore } from './staves';

const read = readAbc(
  `X:1\nT:Three Oars\nM:3/4\nL:1/8\nQ:1/4=100\nK:G\n${'"G"G2A2B2|"C"c4B2|"D7"A2B2c2|"G"B6|'.repeat(5)}\n`,
);
const parts = ['flute', 'clarinet-bb', 'cello'].map((id, k) => {
  const instrument = instrumentById(id);
  if (!read.ok || !instrument) throw new Error(id);
  const { value } = partFor(read.value.tune, { level: LEVELS[k] ?? 'beginner', instrument });
  return { ...value, playerName: `Player ${k + 1}` };
});

test('a score has every part under the other, written or as it sounds, chords once, and letters where there are no sections', () => {
  const written = groupScore(parts, 'written');
  expect(written.staves.map(({ name, key }) => `${name}: ${key.tonic.step}`)).toEqual([
    'Player 1: G',
    'Player 2: A',
    'Player 3: G',
  ]);
  expect(
    groupScore(parts, 'concert').staves.map(({ key, toSounding }) => `${key.tonic.step}${toSounding ? '!' : ''}`),
  ).toEqual(['G', 'G', 'G']);
  expect(written.staves[0]?.bars.flatMap(({ section }) => section ?? [])).toEqual(['A', 'B', 'C']);
  expect(
    written.staves.slice(1).every(({ bars }) => bars.every(({ chords, section }) => chords.length === 0 && !section)),
  ).toBe(true);
  expect(new Set(written.staves.map(({ bars }) => bars.length)).size).toBe(1);
  // Other programs read it: a staff a part, as many bars each.
  const text = writeMusicXml(written);
  expect(text.match(/<score-part /g)?.length).toBe(3);
  expect(readMusicXml(text).ok).toBe(true);
});

test('the score and all parts in one file are pages that a printer takes', async () => {
  const engraver = await Engraver.start();
  const pages = (bytes: Uint8Array) =>
    Buffer.from(bytes)
      .toString('latin1')
      .match(/\/Type \/Page\b/g)?.length;
  expect(pages(await scorePdf(engraver, parts, 'written'))).toBe(1);
  expect(pages(await partsPdf(engraver, parts))).toBe(3);
});

test('a tablature has a string and a fret for every note, which sound it; other instruments have none', () => {
  const guitar = instrumentById('guitar');
  if (!read.ok || !guitar) throw new Error('guitar');
  const tabbed = (instrument: typeof guitar) =>
    partFor(read.value.tune, { level: 'intermediate', instrument, page: { tab: true } }).value;
  const [, tab] = partScore(tabbed(guitar)).staves;
  if (!tab?.tab) throw new Error('no tablature');
  const { strings, places } = tab.tab;
  const notes = tab.bars.flatMap(({ events }) => events.filter(isNote));
  const struck = notes.filter((_, k) => !notes[k - 1]?.tied);
  expect(struck.length).toBeGreaterThan(20);
  for (const { id, pitch } of struck) {
    const place = places.get(id);
    const open = strings[strings.length - (place?.string ?? 0)];
    expect(open && semitones(open) + (place?.fret ?? 0)).toBe(semitones(transpose(pitch, toSounding(guitar))));
  }
  expect(writeMusicXml(partScore(tabbed(guitar))).match(/<fret>/g)?.length).toBe(struck.length);
  expect(parts[0] && partScore(tabbed(parts[0].instrument)).staves).toHaveLength(1);
});

test('a page to be worked out has the part with its marks, an empty staff in the key of the recording, and the answer', () => {
  if (!read.ok) throw new Error('tune');
  const tune: Tune = { ...read.value.tune, recordingKey: { tonic: { step: 'E', alter: -1 }, mode: 'major' } };
  const recipes = { beginner: { instrument: 'clarinet-bb' } };
  const made = workingOutOf(tune, 'beginner', recipes);
  if (!made) throw new Error('nothing to work out');
  const [given, below] = partScore(made.question).staves;
  expect([given?.key.tonic, below?.key.tonic, made.answer.writtenKey.tonic]).toEqual([
    { step: 'A', alter: 0 },
    { step: 'F', alter: 0 },
    { step: 'F', alter: 0 },
  ]);
  expect([below?.bars.length, below?.blank?.size]).toEqual([given?.bars.length, given?.bars.length]);
  expect(below?.bars.every(({ events }) => events.every((event) => !isNote(event)))).toBe(true);
  // In the key of the recording there is nothing to work out.
  expect(workingOutOf({ ...tune, recordingKey: tune.key }, 'beginner', recipes)).toBeUndefined();
  expect(workingOutOf(read.value.tune, 'beginner', recipes)).toBeUndefined();
});
