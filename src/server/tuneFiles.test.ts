import { tuneOf } from '../../tests/given';
import type { Work } from '../core/levels/recipe/work';
import { fileType, makeTuneFile, type FileWishes } from './tuneFiles';

const WORK: Work = { tune: { ...tuneOf('"C"C2 E2 G4 | "G"B2 d2 "C"c4 |]'), title: 'Low Water' }, recipes: {} };
const wishes = (name: string, more: Partial<FileWishes> = {}): FileWishes => ({
  name,
  paper: 'a4',
  instrument: 'flute',
  notes: 3,
  ...more,
});
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
    expect(textOf(await makeTuneFile(WORK, wishes('warm-up.pdf', { instrument: 'oboe' })))).toMatch(/^%PDF/);
    expect(await makeTuneFile(WORK, wishes('warm-up.pdf', { instrument: 'no-such' }))).toBeUndefined();
  });

  test('a solo with its degrees is another file than the line alone', async () => {
    const solo = async (more: Partial<FileWishes>) =>
      textOf(await makeTuneFile(WORK, wishes('advanced.solo.musicxml', more)));
    const [plain, analysed] = [await solo({}), await solo({ soloAs: 'analysis' })];
    expect(plain).not.toMatch(/<lyric/);
    expect(analysed).toMatch(/<lyric/);
  });
});
