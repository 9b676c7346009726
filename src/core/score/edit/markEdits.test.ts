import { tuneOf } from '../../../../tests/given';
import { isNote, type Note, type Tune } from '../tune';
import { setLyric, setPhraseMark, toggleMark, type NoteMark } from './markEdits';

const TUNE = tuneOf('C2 D2 z2 F2 | G8 |]');
const HERE = { bar: 0, at: 0 };
const notes = (tune: Tune) => tune.bars.flatMap(({ events }) => events.filter(isNote));
const ids = notes(TUNE).map(({ id }) => id);
const rest = TUNE.bars[0]?.events.find((event) => !isNote(event))?.id ?? '';
const done = (result: ReturnType<typeof toggleMark>) => {
  if (!result.ok) throw new Error(result.problem.text);
  return result.value;
};
const after = (result: ReturnType<typeof toggleMark>) => notes(done(result).tune);

describe('a mark', () => {
  test.each<[NoteMark, (note: Note) => unknown, string, string]>([
    [{ kind: 'articulation', value: 'staccato' }, ({ articulations }) => articulations, 'Staccato', 'No staccato'],
    [{ kind: 'ornament', value: 'mordent' }, ({ ornaments }) => ornaments, 'Mordent', 'No mordent'],
    [{ kind: 'dynamic', value: 'mf' }, ({ dynamic }) => dynamic, 'Mf', 'No mf'],
    [{ kind: 'fermata' }, ({ fermata }) => fermata, 'Fermata', 'No fermata'],
    [{ kind: 'grace' }, ({ graces }) => graces, 'Grace note', 'No grace note'],
  ])('%j is put on and, where all have it, taken off again', (mark, read, on, off) => {
    const put = done(toggleMark(TUNE, ids.slice(0, 2), mark, HERE));
    expect(put.name).toBe(on);
    expect(notes(put.tune).map((note) => read(note) !== undefined)).toEqual([true, true, false, false]);
    const taken = done(toggleMark(put.tune, ids.slice(0, 2), mark, HERE));
    expect(taken.name).toBe(off);
    expect(taken.tune).toEqual(TUNE);
  });

  test('goes to those of the chosen that have it not yet', () => {
    const mark: NoteMark = { kind: 'articulation', value: 'accent' };
    const one = done(toggleMark(TUNE, ids.slice(0, 1), mark, HERE)).tune;
    expect(after(toggleMark(one, ids, mark, HERE)).map(({ articulations }) => articulations)).toEqual(
      ids.map(() => ['accent']),
    );
  });

  test('stays beside another one of its kind, and is the only one taken off', () => {
    const accented = done(toggleMark(TUNE, ids.slice(0, 1), { kind: 'articulation', value: 'accent' }, HERE)).tune;
    const both = done(toggleMark(accented, ids.slice(0, 1), { kind: 'articulation', value: 'staccato' }, HERE)).tune;
    expect(notes(both)[0]?.articulations).toEqual(['accent', 'staccato']);
    expect(
      after(toggleMark(both, ids.slice(0, 1), { kind: 'articulation', value: 'accent' }, HERE))[0]?.articulations,
    ).toEqual(['staccato']);
  });

  test('of loudness takes the place of another one', () => {
    const loud = done(toggleMark(TUNE, ids.slice(0, 1), { kind: 'dynamic', value: 'f' }, HERE)).tune;
    expect(after(toggleMark(loud, ids.slice(0, 1), { kind: 'dynamic', value: 'p' }, HERE))[0]?.dynamic).toBe('p');
  });

  test('a grace note is a step above its note, as the key has it', () => {
    const inE = tuneOf('D2 E2 F2 G2 |]', 'M:4/4\nL:1/8\nK:E');
    const [first] = notes(inE);
    const [graced] = notes(done(toggleMark(inE, [first?.id ?? ''], { kind: 'grace' }, HERE)).tune);
    expect(graced?.graces?.map(({ pitch }) => pitch)).toEqual([{ step: 'E', alter: 0, octave: 4 }]);
    const [, , third] = notes(inE);
    const again = notes(done(toggleMark(inE, [third?.id ?? ''], { kind: 'grace' }, HERE)).tune);
    expect(again[2]?.graces?.[0]?.pitch).toEqual({ step: 'G', alter: 1, octave: 4 });
  });

  test('is refused on a rest, and where there is nothing', () => {
    expect(toggleMark(TUNE, [rest], { kind: 'fermata' }, HERE)).toMatchObject({
      ok: false,
      problem: { text: 'There is no note here to carry it.' },
    });
    expect(toggleMark(TUNE, [], { kind: 'grace' }, HERE).ok).toBe(false);
  });
});

describe('words under a note', () => {
  const lyrics = (typed: string, verse = 1, tune = TUNE) =>
    after(setLyric(tune, ids[0] ?? '', verse, typed, HERE))[0]?.lyrics;

  test.each([
    ['low', [{ verse: 1, text: 'low' }]],
    [' wa- ', [{ verse: 1, text: 'wa', hyphen: true }]],
    ['sea_', [{ verse: 1, text: 'sea', extend: true }]],
    ['half-moon', [{ verse: 1, text: 'half-moon' }]],
    ['', undefined],
    ['-', undefined],
  ])('“%s”', (typed, written) => expect(lyrics(typed)).toEqual(written));

  test('verses stand in their order, and an empty text takes its own verse away alone', () => {
    const second = done(setLyric(TUNE, ids[0] ?? '', 2, 'two', HERE)).tune;
    expect(lyrics('one', 1, second)).toEqual([
      { verse: 1, text: 'one' },
      { verse: 2, text: 'two' },
    ]);
    const both = done(setLyric(second, ids[0] ?? '', 1, 'one', HERE)).tune;
    expect(lyrics('', 2, both)).toEqual([{ verse: 1, text: 'one' }]);
  });

  test('no more than eighty letters are kept, and none of them alone a half', () => {
    const [lyric] = lyrics('🎵'.repeat(100)) ?? [];
    expect([...(lyric?.text ?? '')].length).toBeLessThanOrEqual(80);
    // Half a letter cannot be written in an address.
    expect(() => encodeURIComponent(lyric?.text ?? '')).not.toThrow();
  });

  test('are refused under a rest', () => {
    expect(setLyric(TUNE, rest, 1, 'la', HERE)).toMatchObject({
      ok: false,
      problem: { text: 'Words go under notes; put the caret on one.' },
    });
  });
});

test('where a phrase begins is said by hand, or left to be found again', () => {
  const begins = done(setPhraseMark(TUNE, ids[2] ?? '', 'begins', HERE));
  expect([begins.name, notes(begins.tune)[2]?.phrase]).toEqual(['Phrase begins here', 'begins']);
  const found = done(setPhraseMark(begins.tune, ids[2] ?? '', undefined, HERE));
  expect([found.name, found.tune]).toEqual(['Phrase as found', TUNE]);
  expect(done(setPhraseMark(TUNE, ids[2] ?? '', 'goes-on', HERE)).name).toBe('Phrase goes on here');
  expect(setPhraseMark(TUNE, rest, 'begins', HERE).ok).toBe(false);
});
