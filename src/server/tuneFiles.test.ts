import { tuneOf } from '../../tests/given';
import type { Work } from '../core/work/work';
import { FILE_NAMES, fileType, fileWishes, makeTuneFile, type FileWishes } from './tuneFiles';

const WORK: Work = { tune: { ...tuneOf('"C"C2 E2 G4 | "G"B2 d2 "C"c4 |]'), title: 'Low Water' }, recipes: {} };
/** The wishes of an address. */
const wishes = (name: string, query = ''): FileWishes => {
  const checked = fileWishes(name, new URLSearchParams(query));
  if (!checked.ok) throw new Error(checked.problem.join('; '));
  return checked.value;
};
const textOf = (file: string | Uint8Array | undefined) =>
  typeof file === 'string' ? file : Buffer.from(file ?? []).toString('latin1');

describe('names of files', () => {
  test.each([
    ['beginner.pdf', 'application/pdf'],
    ['advanced.under.musicxml', 'application/vnd.recordare.musicxml+xml; charset=utf-8'],
    ['intermediate.solo.pdf', 'application/pdf'],
    ['beginner.sets.pdf', 'application/pdf'],
    ['tune.mxl', 'application/vnd.recordare.musicxml'],
    ['tune.reed.json', 'application/json; charset=utf-8'],
    ['opening.svg', 'image/svg+xml; charset=utf-8'],
    ['advanced.backing.mp3', 'audio/mpeg'],
  ])('%s is of type %s', (name, type) => expect(fileType(name)).toBe(type));

  test.each([
    '',
    'expert.pdf',
    'beginner.exe',
    'tune.pdf',
    '../tune.abc',
    'beginner.pdf.pdf',
    'beginner.sets.musicxml',
    'BEGINNER.PDF',
    'tune.abc\n',
  ])('“%s” is no file of a tune', (name) => expect(fileType(name)).toBeUndefined());
});

describe('what an address wishes', () => {
  test('only what the file uses, with what is usual; anything else makes no other file', () => {
    expect(wishes('beginner.under.musicxml', 'pace=half&rhythm=xyz&paper=letter&junk=1')).toEqual({
      name: 'beginner.under.musicxml',
      query: { notes: '3', pace: 'half' },
    });
    expect(wishes('tune.abc', 'pace=1&tempo=2&paper=a0')).toEqual(wishes('tune.abc'));
    expect(wishes('beginner.pdf', 'paper=a4')).toEqual(wishes('beginner.pdf'));
  });

  test.each([
    ['beginner.pdf', 'paper=a0', 'paper: "a0" is not one of a4, letter'],
    ['beginner.under.pdf', 'pace=allegro', 'pace: "allegro" is not one of bar, half, beat'],
    [
      'advanced.chords.pdf',
      `rhythm=${'x'.repeat(99)}`,
      `rhythm: "${'x'.repeat(40)}" is not one of long, shuffle, quick`,
    ],
    ['beginner.mp3', 'tempo=9.5', 'tempo: a tempo is a whole number from 20 to 400'],
    ['beginner.sets.pdf', 'extent=3', 'extent: "3" is not one of 1, 2, full'],
    ['beginner.solo.pdf', 'page=none', 'page: "none" is not one of syllables, rhythm, call, early, own'],
    ['warm-up.pdf', 'for=kazoo', 'for: "kazoo" is not an instrument of the catalogue'],
  ])('%s?%s is refused: %s', (name, query, message) => {
    const checked = fileWishes(name, new URLSearchParams(query));
    expect(checked).toEqual({ ok: false, problem: [message] });
  });

  test('every name that is told has a type', () => {
    const names = FILE_NAMES.map((name) => name.replace('LEVEL', 'advanced'));
    expect([names.length > 20, names.filter((name) => fileType(name) === undefined)]).toEqual([true, []]);
  });
});

describe('what is made of a tune', () => {
  test.each([
    ['tune.abc', /^X:1\nT:Low Water\n/],
    ['tune.musicxml', /<work-title>Low Water<\/work-title>/],
    ['tune.mid', /^MThd/],
    ['tune.mxl', /^PK/],
    ['tune.reed.json', /"title": ?"Low Water"/],
    ['beginner.musicxml', /<transpose>|<part-name>/],
    ['opening.svg', /^<svg/],
  ])('%s', async (name, beginning) => expect(textOf(await makeTuneFile(WORK, wishes(name)))).toMatch(beginning));

  test('parts of a level are of its instrument', async () => {
    const part = await makeTuneFile(
      { ...WORK, recipes: { advanced: { instrument: 'violin' } } },
      wishes('advanced.musicxml'),
    );
    expect(textOf(part)).toMatch(/violin/i);
  });

  test('chords on two strings are for who has strings', async () => {
    const chords = (id: string) =>
      makeTuneFile({ ...WORK, recipes: { beginner: { instrument: id } } }, wishes('beginner.chords.musicxml'));
    expect(await chords('flute')).toBeUndefined();
    expect(textOf(await chords('violin'))).toMatch(/<chord\/>/);
  });

  test('a warm-up is for an instrument of the catalogue, or for nobody', async () => {
    expect(textOf(await makeTuneFile(WORK, wishes('warm-up.pdf', 'for=oboe')))).toMatch(/^%PDF/);
    expect(fileWishes('warm-up.pdf', new URLSearchParams('for=no-such')).ok).toBe(false);
  });

  test('a solo with its degrees is another file than the line alone', async () => {
    const solo = async (query: string) => textOf(await makeTuneFile(WORK, wishes('advanced.solo.musicxml', query)));
    const [plain, analysed] = [await solo(''), await solo('analysis')];
    expect(plain).not.toMatch(/<lyric/);
    expect(analysed).toMatch(/<lyric/);
  });
});
