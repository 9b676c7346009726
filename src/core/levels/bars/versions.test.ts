import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { readAbc } from '../../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../../instruments/catalogue';
import { LEVELS, toSounding, type Instrument } from '../../instruments/instrument';
import { parseKey, type Key } from '../../pitch/key';
import { printPitch, semitones } from '../../pitch/pitch';
import { isNote, type Bar, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { TICKS_PER_QUARTER as Q } from '../../time/ticks';
import { formedPartOfLevel, partOfLevel } from '../levelPart';
import { soundingEvents } from './ownBar';
import { partFor } from '../parts/partFor';
import type { Recipe } from '../../work/recipe';
import type { BarChoice, OwnBar } from '../../work/groups';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nQ:1/4=90\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const keyOf = (text: string): Key => {
  const parsed = parseKey(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const clarinet = instrumentById('clarinet-bb') as Instrument;
const show = (bar: Bar | undefined) =>
  (bar?.events ?? [])
    .map((event) => `${isNote(event) ? `${event.cue ? '~' : ''}${printPitch(event.pitch)}` : 'z'}:${event.length / Q}`)
    .join(' ');
const heard = (bar: Bar | undefined) =>
  (bar?.events ?? []).map((event) => (isNote(event) ? [semitones(event.pitch), event.length] : [0, event.length]));
const TUNE = tuneOf('"C"C2 E2 G2 E2 | "F"F2 A2 c4 | "G7"B2 G2 F2 D2 | "C"C8 |');
const ids = TUNE.bars.map(({ id }) => id);
const level = (recipe: Partial<Recipe>) =>
  partOfLevel(TUNE, 'advanced', { advanced: { instrument: 'clarinet-bb', ...recipe } });

describe('a bar of the teacher’s own', () => {
  const written: Bar = {
    id: ids[1] ?? '',
    chords: [],
    events: [
      { kind: 'note', id: 'a', pitch: { step: 'D', alter: 0, octave: 5 }, length: 2 * Q },
      { kind: 'rest', id: 'b', length: 2 * Q },
    ],
  };
  const own = (): OwnBar => ({
    kind: 'own',
    key: TUNE.key,
    octaves: level({}).value.octaves,
    events: soundingEvents(written, keyOf('D'), toSounding(clarinet)),
  });
  const set = (recipe: Partial<Recipe> = {}) => level({ ...recipe, bars: { chosen: { [ids[1] ?? '']: own() } } });

  test('stands as it was written, follows into another key and back, and leaves all other bars as they were', () => {
    expect(show(set().value.bars[1])).toBe('D5:2 z:2');
    expect(show(set({ keyAndTempo: { key: keyOf('F') } }).value.bars[1])).toMatch(/^G[45]:2 z:2$/);
    expect(set({ keyAndTempo: { key: TUNE.key } })).toEqual(set());
    expect(
      set()
        .changes.filter(({ barIndex }) => barIndex === 1)
        .map(({ detail }) => detail),
    ).toEqual([{ kind: 'chosen', variant: 'own' }]);
    for (const index of [0, 2, 3]) expect(heard(set().value.bars[index])).toEqual(heard(level({}).value.bars[index]));
  });

  test('one that does not fill its bar any more is left, kept and said', () => {
    const short: OwnBar = { ...own(), events: own().events.slice(0, 1) };
    const made = level({ bars: { chosen: { [ids[1] ?? '']: short } } });
    expect(made.value.bars[1]?.events.reduce((sum, { length }) => sum + length, 0)).toBe(4 * Q);
    expect(made.changes.some(({ detail }) => detail.kind === 'chosen' && detail.variant === 'own-too-long')).toBe(true);
  });
});

test('in any tune a bar set by hand leaves every other bar sounding as it was, but for ties into it', () => {
  const choice = fc.constantFrom<BarChoice>(
    { kind: 'rest' },
    { kind: 'as-written' },
    { kind: 'simpler' },
    { kind: 'embellished', seed: 7 },
    { kind: 'octave-up' },
  );
  fc.assert(
    fc.property(
      anyTune,
      fc.constantFrom(...INSTRUMENTS),
      fc.constantFrom('intermediate' as const, 'advanced' as const),
      fc.nat(),
      choice,
      (tune, player, at, place, chosen) => {
        const index = place % tune.bars.length;
        const plain = partFor(tune, { level: at, instrument: player }).value;
        const set = partFor(tune, {
          level: at,
          instrument: player,
          bars: { chosen: { [tune.bars[index]?.id ?? '']: chosen } },
        }).value;
        expect(scoreProblems({ ...tune, bars: set.soundingBars })).toEqual([]);
        plain.bars.forEach((bar, k) => {
          if (k !== index) expect(heard(set.bars[k])).toEqual(heard(bar));
        });
      },
    ),
  );
});

describe('what may be left out', () => {
  const optional = { [ids[1] ?? '']: { kind: 'optional' as const }, [ids[2] ?? '']: { kind: 'optional' as const } };

  test('in a bracket it is all there; as rests the player hears the others come in, and does not sound', () => {
    expect(level({ bars: { chosen: optional } }).value.bars[1]?.events.every((event) => event.optional)).toBe(true);
    const rests = level({ bars: { chosen: optional }, form: { leaveOut: 'rests' } }).value;
    expect(rests.leftOut).toEqual([{ from: 1, to: 3 }]);
    expect([show(rests.bars[1]), show(rests.bars[2])]).toEqual(['z:4', '~C#5:1 ~A4:1 ~G4:1 ~E4:1']);
    expect([show(rests.soundingBars[1]), show(rests.soundingBars[2])]).toEqual(['z:4', 'z:4']);
    expect(show(rests.bars[0])).toBe(show(level({ bars: { chosen: optional } }).value.bars[0]));
  });

  test('in any tune and form, rests add up and runs stand where they are printed', () => {
    fc.assert(
      fc.property(
        anyTune,
        fc.constantFrom(...LEVELS),
        fc.constantFrom('once' as const, 'twice' as const, 'solo' as const),
        fc.nat(),
        (tune, at, form, place) => {
          const from = place % tune.bars.length;
          const bars = Object.fromEntries(
            tune.bars.slice(from, from + 3).map(({ id }) => [id, { kind: 'optional' as const }]),
          );
          const { part } = formedPartOfLevel(tune, at, {
            [at]: { instrument: 'flute', form: { plays: form, leaveOut: 'rests' }, bars: { chosen: bars } },
          });
          expect(scoreProblems({ ...tune, key: part.writtenKey, bars: part.bars })).toEqual([]);
          for (const run of part.leftOut ?? [])
            for (let k = run.from; k < run.to; k += 1) {
              expect(part.soundingBars[k]?.events.some(isNote)).toBe(false);
              expect((part.bars[k]?.events ?? []).every((event) => !isNote(event) || event.cue)).toBe(true);
            }
        },
      ),
    );
  });
});

describe('an alternative to a bar', () => {
  test('stands over its bars, or in the second time through', () => {
    const alternates = { [ids[1] ?? '']: { kind: 'simpler' as const }, [ids[2] ?? '']: { kind: 'simpler' as const } };
    const recipe = (more: Partial<Recipe>) =>
      formedPartOfLevel(TUNE, 'advanced', {
        advanced: { instrument: 'flute', melody: 'as written', bars: { alternates }, ...more },
      }).part;
    const over = recipe({});
    expect(over.ossias?.map(({ at, bars }) => [at, bars.map(show)])).toEqual([
      [
        1,
        ['F4:1 A4:1 C5:2', 'B4:1 G4:1 F4:1 D4:1'].map(
          (text) => expect.stringMatching(new RegExp(text.split(' ')[0] ?? '')) as unknown as string,
        ),
      ],
    ]);
    expect(over.bars.map(show)).toEqual(
      partFor(TUNE, {
        level: 'advanced',
        instrument: instrumentById('flute') as Instrument,
        melody: 'as written',
      }).value.bars.map(show),
    );
    const rest = { [ids[1] ?? '']: { kind: 'rest' as const } };
    const second = recipe({ bars: { alternates: rest, alternatesAs: 'second-time' }, form: { plays: 'twice' } });
    expect(second.bars).toHaveLength(8);
    expect([show(second.bars[1]), show(second.bars[5])]).toEqual(['F4:1 A4:1 C5:2', 'z:4']);
    expect(second.ossias).toBeUndefined();
  });
});
