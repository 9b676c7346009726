import { instrument, key, tuneOf } from '../../../../tests/given';
import { customInstrument } from '../../instruments/customInstrument';
import { LEVELS } from '../../instruments/instrument';
import { printKey } from '../../pitch/key';
import { printPitch, semitones } from '../../pitch/pitch';
import { isNote, type Bar, type Note } from '../../score/tune';
import type { SoloNote } from '../../solos/soloNote';
import { withPlanEdit } from '../../solos/planEdit';
import { placeId } from '../../solos/wishes';
import {
  analysed,
  analysedTune,
  deviceWords,
  FIRST_TAKE,
  givenFrom,
  inSoloSpace,
  keptTake,
  landings,
  notesOfPhrase,
  phraseWords,
  soloOf,
  type SoloPart,
} from './soloPart';

const TUNE = tuneOf(
  '"Dm7"D2 F2 A4 | "G7"B4 G4 | "Cmaj7"c8 | "A7"^c4 A4 | "Dm7"d2 F2 A4 | "G7"G8 | "Cmaj7"E8 | "C6"C8 |]',
);
const made = (
  level: (typeof LEVELS)[number],
  recipe: Partial<Parameters<typeof soloOf>[1]> = {},
  seed = FIRST_TAKE,
): SoloPart => {
  const solo = soloOf(TUNE, { instrument: 'trumpet-bb', ...recipe }, level, instrument('trumpet-bb'), seed);
  if (!solo) throw new Error('no solo');
  return solo;
};
const struck = (bars: readonly Bar[]) => {
  let isTied = false;
  return bars.flatMap(({ events }) =>
    events.filter((event): event is Note => {
      const goesOn = isTied;
      isTied = isNote(event) && event.tied === true;
      return isNote(event) && !goesOn;
    }),
  );
};

test('two custom instruments that differ in one thing alone, like their transposition, get a solo each', () => {
  const custom = (more: object) =>
    customInstrument({ id: 'own-a', name: 'Long horn', base: 'trumpet-bb', ...more }) ?? instrument('trumpet-bb');
  const [inBb, inEb] = [custom({}), custom({ transposition: { diatonic: 5, chromatic: 9 } })];
  const solo = (played: typeof inBb) => soloOf(TUNE, { instrument: 'own-a' }, 'beginner', played);
  const [first, second] = [solo(inBb), solo(inEb)];
  expect([first?.part.instrument, second?.part.instrument]).toEqual([inBb, inEb]);
  expect(first && second && printKey(first.part.concertKey) === printKey(second.part.concertKey)).toBe(true);
  expect(second?.part.writtenKey).not.toEqual(first?.part.writtenKey);
  // The same one is composed once.
  expect(solo(inBb)).toBe(first);
});

describe('a solo of a level', () => {
  test.each(LEVELS)('is one object for one wish, and another for another take: %s', (level) => {
    expect(made(level)).toBe(made(level));
    expect(made(level, {}, 2)).not.toBe(made(level));
    expect(made(level).isProposed).toBe(false);
  });

  test('stands in the level’s key, in the pitch of its instrument', () => {
    const { part } = made('intermediate', { keyAndTempo: { key: key('Eb') } });
    expect([printKey(part.concertKey), printKey(part.writtenKey)]).toEqual(['Eb', 'F']);
  });

  test('says that its chords were proposed where the tune has none', () => {
    const plain = tuneOf('C2 E2 G4 | F2 A2 c4 | G2 B2 d4 | c8 |]');
    const solo = soloOf(plain, { instrument: 'flute' }, 'beginner', instrument('flute'));
    expect(solo?.isProposed).toBe(true);
  });
});

describe('under a solo that is looked into', () => {
  test('every struck note has the degree of its chord, leaning ones in brackets, and phrases have their numbers', () => {
    const solo = made('advanced');
    const { bars } = analysed(solo);
    const words = struck(bars).map(({ lyrics }) => lyrics?.[0]?.text ?? '');
    expect(words).toEqual(
      solo.solo.notes.map(({ degree, role }) => (role === 'rub' || role === 'outside' ? `(${degree})` : degree)),
    );
    const numbers = bars.flatMap(({ section }) => (section === undefined ? [] : [Number(section)]));
    expect(numbers).toEqual(numbers.toSorted((a, b) => a - b));
    expect(numbers[0]).toBe(1);
  });

  test('a tune that is a solo itself is read the same way, its pickup left alone; without chords it is no solo', () => {
    const read = analysedTune(tuneOf('G2 | "C"E2 G2 c4 | "G7"B2 d2 f4 | "C"e8 |]'));
    expect(read?.tune.bars[0]?.events.some((event) => isNote(event) && event.lyrics)).toBe(false);
    expect(struck(read?.tune.bars.slice(1) ?? []).map(({ lyrics }) => lyrics?.[0]?.text)).toEqual([
      '3',
      '5',
      '1',
      '3',
      '5',
      '♭7',
      '3',
    ]);
    expect(analysedTune(tuneOf('C8 | D8 |]'))).toBeUndefined();
  });
});

describe('what is said of single notes', () => {
  const note = (more: Partial<SoloNote>): SoloNote => ({
    at: 0,
    length: 10_080,
    pitch: { step: 'E', alter: 0, octave: 4 },
    concert: { step: 'D', alter: 0, octave: 4 },
    chord: 0,
    degree: '1',
    role: 'home',
    ...more,
  });
  const BARS = [0, 1, 2].map((k) => ({ start: k * 40_320 })) as unknown as Parameters<typeof landings>[0]['bars'];

  test('where a new chord is met on its third or seventh, with the bar', () => {
    const notes = [
      note({ degree: '5' }),
      note({ at: 40_320, chord: 1, degree: '3' }),
      note({ at: 80_640, chord: 2, degree: '♭7', pitch: { step: 'B', alter: -1, octave: 4 } }),
    ];
    expect(landings({ notes, bars: BARS })).toEqual([
      { bar: 2, text: 'E, the third' },
      { bar: 3, text: 'B♭, the seventh' },
    ]);
  });

  test('neither the first note nor one on the same chord lands, nor a ninth, an eleventh or a thirteenth', () => {
    const notes = [
      note({ degree: '3' }),
      note({ at: 20_160, degree: '♭7' }),
      note({ at: 40_320, chord: 1, degree: '13' }),
      note({ at: 80_640, chord: 2, degree: '3', role: 'colour' }),
    ];
    expect(landings({ notes, bars: BARS })).toEqual([]);
  });

  test('what a note does, and where it goes', () => {
    const goal = note({ at: 40_320, pitch: { step: 'G', alter: 0, octave: 4 } });
    const told = (first: Partial<SoloNote>, second: Partial<SoloNote> = {}) =>
      deviceWords({ notes: [note(first), ...(second.device ? [note(second)] : []), goal], bars: BARS }).map(
        ({ text }) => text,
      );
    expect(told({ device: 'approach', role: 'outside' })).toEqual(['E leads by step into G']);
    expect(told({ device: 'enclosure' }, { device: 'enclosure', at: 20_160 })).toEqual([
      'E is one of two that close in on G',
      'E is one of two that close in on G',
    ]);
    expect(told({ device: 'blue', role: 'rub' })).toEqual(['E is a blue note']);
    expect(told({ role: 'rub' })).toEqual(['E rubs and is left by a leap: let it go on by step']);
    expect(told({})).toEqual([]);
  });

  test('phrases in words', () => {
    expect([
      phraseWords({ kind: 'idea' }),
      phraseWords({ kind: 'varied', of: 0 }),
      phraseWords({ kind: 'moved', of: 2 }),
    ]).toEqual(['idea', 'another ending (1)', 'moved with the chord (3)']);
  });
});

describe('a phrase that is kept', () => {
  test('comes back as it was when the plan stays, whatever take is asked for', () => {
    const first = made('intermediate');
    const given = { p1: givenFrom(first, TUNE, 0) };
    const plan = first.solo.phrases.map(({ start, end, kind, of }, place) => ({
      id: placeId(place),
      bars: first.solo.bars.filter((bar) => bar.start >= start && bar.start < end).length,
      kind,
      ...(of !== undefined && { of: placeId(of) }),
    }));
    const again = made('intermediate', { solo: { plan, given } }, 7);
    const said = (solo: SoloPart) =>
      notesOfPhrase(solo.solo, 0).map(({ at, length, pitch }) => `${at}:${length}:${printPitch(pitch)}`);
    expect(said(again)).toEqual(said(first));
  });

  test('is held in concert pitch of the tune’s own key, so that it follows the level into another', () => {
    const low = made('intermediate', { keyAndTempo: { key: key('Bb') } });
    const given = givenFrom(low, TUNE, 0);
    const sounding = notesOfPhrase(low.solo, 0).map(({ concert }) => semitones(concert));
    const moved = given.notes.map(({ pitch }) => semitones(pitch));
    expect(new Set(moved.map((height, k) => height - (sounding[k] ?? 0))).size).toBe(1);
  });

  test('that there is not is empty', () => expect(givenFrom(made('beginner'), TUNE, 99)).toEqual({ notes: [] }));

  test('every note of a solo is in one phrase and no more', () => {
    const { solo } = made('advanced');
    const all = solo.phrases.flatMap((_, index) => notesOfPhrase(solo, index));
    expect(all.length).toBe(solo.notes.length);
    expect(new Set(all).size).toBe(all.length);
  });
});

test('in the place that a form keeps free, the solo’s events have names of their own and the pickup rests', () => {
  const rest = (id: string): Bar => ({ id, events: [{ kind: 'rest', id: `${id}r`, length: 40_320 }], chords: [] });
  const solo = made('beginner').part.bars;
  const pickup = tuneOf('G2 | C8 | D8 |]');
  const space = [rest('p'), rest('b1'), rest('b2')];
  const filled = inSoloSpace(space, solo, pickup);
  expect(filled[0]).toBe(space[0]);
  expect(filled[1]?.events.map(({ id }) => id)).toEqual(solo[0]?.events.map(({ id }) => `${id}.solo`));
  expect(filled.map(({ id }) => id)).toEqual(['p', 'b1', 'b2']);
});

test('a take that is kept is kept: another plan for one phrase leaves every other note where it was', () => {
  const before = made('advanced');
  const wishes = keptTake(before, TUNE, {}, FIRST_TAKE);
  const kept = made('advanced', { solo: wishes });
  expect(kept.solo.notes).toEqual(before.solo.notes);
  const edited = { plan: wishes.plan ?? [], given: wishes.given ?? {} };
  const does = edited.plan[1]?.kind === 'idea' ? 'answer' : 'idea';
  const after = made('advanced', {
    solo: { ...wishes, ...withPlanEdit(edited, { kind: 'does', phrase: placeId(1), does }) },
  });
  const inPhrase = (one: SoloPart, index: number) =>
    notesOfPhrase(one.solo, index).map(({ at, concert }) => [at, concert]);
  after.solo.phrases.forEach((_, index) => {
    if (index !== 1) expect(inPhrase(after, index)).toEqual(inPhrase(before, index));
  });
  expect(inPhrase(after, 1)).not.toEqual(inPhrase(before, 1));
  // What went back to it is no longer called the same again.
  for (const { kind, of, isGiven, start, end } of after.solo.phrases)
    if (isGiven && kind === 'same') {
      const model = after.solo.phrases[of ?? 0];
      const line = (from: number, to: number) =>
        after.solo.notes.flatMap(({ at, concert }) => (at >= from && at < to ? [[at - from, semitones(concert)]] : []));
      expect(line(start, end)).toEqual(model && line(model.start, model.end));
    }
  // Another take has nothing of it.
  expect(made('advanced', { solo: wishes }, FIRST_TAKE + 1).solo.notes).toEqual(
    made('advanced', {}, FIRST_TAKE + 1).solo.notes,
  );
});

test('a solo repeats what its tune repeats', () => {
  const tune = tuneOf('|: "Dm7"D2 F2 A4 | "G7"B4 G4 |1 "Cmaj7"c8 | "A7"^c4 A4 :|2 "Cmaj7"E8 | "C6"C8 |]');
  const bars = soloOf(tune, { instrument: 'flute' }, 'intermediate', instrument('flute'))?.part.bars ?? [];
  expect(bars.map(({ repeatEnd, ending }) => `${ending?.join('') ?? ''}${repeatEnd ? ':|' : ''}`)).toEqual([
    '',
    '',
    '1',
    ':|',
    '2',
    '',
  ]);
});
