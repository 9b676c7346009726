import fc from 'fast-check';
import { anyTune } from '../../tests/anyTune';
import { onsets, plan, tuneOf } from '../../tests/soundPlans';
import { chordTones } from '../core/harmony/chordTones';
import { partOfLevel } from '../core/levels/levelPart';
import { semitones } from '../core/pitch/pitch';
import { isNote, type Tune } from '../core/score/tune';
import { unfold } from '../core/score/unfold';
import { backingFor, FEELS } from './backing';
import { perform } from './perform';
import { planPlaying } from './playPlan';
import { TimeMap } from './timeMap';

const onPage = (tune: Tune) => tune.bars.map((_, bar) => ({ bar, pass: 1 }));
const mapOf = (tune: Tune) => new TimeMap(tune, onPage(tune), tune.tempo);
const starts = (tune: Tune) => perform(tune, mapOf(tune)).notes.map(({ start }) => Number(start.toFixed(4)));

describe('when things sound', () => {
  test('places follow the tempo, its changes and what is held', () => {
    expect(starts(tuneOf('M:4/4\nL:1/4\nQ:1/4=120\nK:C\nCDEF|[Q:1/4=60]GABc|'))).toEqual([0, 0.5, 1, 1.5, 2, 3, 4, 5]);
    expect(starts(tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\nC!fermata!D|EF|'))).toEqual([0, 1, 2.75, 3.75]);
    // A dotted beat in 6/8.
    expect(starts(tuneOf('M:6/8\nL:1/8\nQ:3/8=60\nK:C\nC3DEF|'))).toEqual([0, 1, 1.3333, 1.6667]);
  });

  test('eighths swing, triplets and compound beats do not', () => {
    const swing = { unit: 'eighth', ratio: 2 } as const;
    expect(starts(tuneOf('M:4/4\nL:1/8\nQ:1/4=60\nK:C\nCD E2 (3FGA B2|', { swing }))).toEqual([
      0, 0.6667, 1, 2, 2.3333, 2.6667, 3,
    ]);
    expect(starts(tuneOf('M:6/8\nL:1/8\nQ:3/8=60\nK:C\nCDE F3|', { swing }))).toEqual([0, 0.3333, 0.6667, 1]);
  });

  test('tied notes are struck once and lit in turn; a repeat goes back', () => {
    const tied = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\nCD-|DE|');
    const { notes, marks } = perform(tied, mapOf(tied));
    expect(notes.map(({ start, key }) => [start, key])).toEqual([
      [0, 60],
      [1, 62],
      [3, 64],
    ]);
    expect(notes[1]?.end).toBeCloseTo(2.93, 2);
    expect(marks.map(({ start }) => start)).toEqual([0, 1, 2, 3]);
    expect(onsets(plan(tuneOf('M:2/4\nL:1/2\nQ:1/2=60\nK:C\n|:C|1D:|2E|]')))).toEqual([0, 1, 2, 3]);
  });

  test('marks over the notes are played', () => {
    const lengthOf = (abc: string, k = 0) => {
      const tune = tuneOf(`M:2/4\nL:1/4\nQ:1/4=60\nK:G\n${abc}`);
      const note = perform(tune, mapOf(tune)).notes[k];
      return Number(((note?.end ?? 0) - (note?.start ?? 0)).toFixed(3));
    };
    expect(lengthOf('.GA|')).toBe(0.5);
    expect(lengthOf('GA|')).toBe(0.93);
    expect(lengthOf('(GA)|')).toBe(1.015);
    expect(lengthOf('(GA)|', 1)).toBe(0.93);
    const graced = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:G\nG{/B}A|');
    expect(perform(graced, mapOf(graced)).notes.map(({ start, key }) => [Number(start.toFixed(2)), key])).toEqual([
      [0, 67],
      [0.92, 71],
      [1, 69],
    ]);
    const shaken = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:G\n!trill!F2|');
    expect(new Set(perform(shaken, mapOf(shaken)).notes.map(({ key }) => key))).toEqual(new Set([66, 67]));
    expect(perform(shaken, mapOf(shaken)).notes.at(-1)?.key).toBe(66);
  });

  test('for any tune: nothing begins before time, all lies within it, and each struck note is the page’s', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const { order, passes } = unfold(tune.bars);
        const map = new TimeMap(
          tune,
          order.map((bar, k) => ({ bar, pass: passes[k] ?? 1 })),
          tune.tempo,
        );
        const { notes, marks } = perform(tune, map);
        const plain = new Set(
          tune.bars
            .flatMap(({ events }) => events.filter(isNote))
            .flatMap(({ pitch, graces = [], ornaments }) =>
              ornaments ? [] : [pitch, ...graces.map((grace) => grace.pitch)],
            )
            .map((pitch) => semitones(pitch) + 12),
        );
        const hasOrnaments = tune.bars.some(({ events }) => events.some((event) => isNote(event) && event.ornaments));
        for (const { start, end, key } of notes) {
          expect(start).toBeGreaterThanOrEqual(-1e-9);
          expect(end).toBeGreaterThan(start);
          expect(end).toBeLessThanOrEqual(map.seconds + 0.05);
          if (!hasOrnaments) expect(plain.has(key)).toBe(true);
        }
        expect(marks).toHaveLength(order.reduce((sum, bar) => sum + (tune.bars[bar]?.events.length ?? 0), 0));
        marks.forEach(({ start, end }, k) => {
          expect(end).toBeGreaterThan(start);
          expect(start).toBeGreaterThanOrEqual((marks[k - 1]?.start ?? 0) - 1e-9);
        });
      }),
    );
  });
});

describe('what is put together', () => {
  test('a bar is counted in, and before a pickup what its bar lacks too', () => {
    const tune = tuneOf('M:4/4\nL:1/4\nQ:1/4=60\nK:C\nG|CDEF|');
    const counted = plan(tune, { countIn: true });
    expect(counted.lead).toBeCloseTo(7);
    expect(onsets(counted, 9)).toEqual([0, 1, 2, 3, 4, 5, 6]);
    expect(counted.voices.find(({ channel }) => channel === 9)?.notes.map(({ key }) => key)).toEqual([
      76, 77, 77, 77, 76, 77, 77,
    ]);
    expect(onsets(counted)[0]).toBeCloseTo(7);
    // A bar at a quick tempo is too short to breathe in.
    expect(plan(tune, { countIn: true, from: 1, perMinute: 240 }).lead).toBeCloseTo(2);
  });

  test('clicks fall on the beats of every meter', () => {
    expect(onsets(plan(tuneOf('M:7/8\nL:1/8\nQ:1/8=60\nK:C\nCDEFGAB|'), { click: true }), 9)).toEqual([0, 2, 4]);
    expect(onsets(plan(tuneOf('M:6/8\nL:1/8\nQ:3/8=60\nK:C\nC6|'), { click: true }), 9)).toEqual([0, 1]);
  });

  test('from a bar, at a tempo, in a loop', () => {
    const tune = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\n|:CD|EF:|GA|');
    expect(onsets(plan(tune, { from: 1 }))).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(onsets(plan(tune, { from: 2, perMinute: 120 }))).toEqual([0, 0.5]);
    const looped = plan(tune, { from: 1, loopTo: 1, countIn: true });
    expect(onsets(looped)).toEqual([looped.lead, looped.lead + 1]);
    expect(looped.seconds - looped.lead).toBe(2);
  });

  test('a level is heard through its form: twice, with the notes of the page lit both times', () => {
    const tune = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\n"C"CE|GE|');
    const twice = planPlaying(
      {
        tune,
        recipes: {
          beginner: {
            instrument: 'flute',
            melody: 'as written',
            form: { plays: 'twice' },
            keyAndTempo: { perMinute: 60 },
          },
        },
      },
      { heard: 'beginner', backing: 'none', click: false, countIn: false, from: 1 },
    );
    expect(twice.bars.map(({ bar }) => bar)).toEqual([1, 0, 1]);
    expect(twice.seconds).toBeCloseTo(6);
    const page = new Set(
      partOfLevel(tune, 'beginner', { beginner: { instrument: 'flute', melody: 'as written' } }).value.bars.flatMap(
        ({ events }) => events.map(({ id }) => id),
      ),
    );
    expect(twice.marks.filter(({ id }) => page.has(id)).map(({ start }) => start)).toEqual(
      expect.arrayContaining([0, 1, 2]),
    );
    const solo = planPlaying(
      { tune, recipes: { beginner: { instrument: 'flute', form: { plays: 'solo' }, keyAndTempo: { perMinute: 60 } } } },
      { heard: 'beginner', backing: 'held', click: false, countIn: false, from: 0 },
    );
    // Nobody plays in the solo's bars, the backing goes on.
    expect(onsets(solo, 2).filter((start) => start >= 4 && start < 8)).toEqual([]);
    expect(onsets(solo, 5).filter((start) => start >= 4 && start < 8)).toEqual([4, 6]);
  });

  test('lanes swing each in its own way', () => {
    const tune = tuneOf('M:2/4\nL:1/8\nQ:1/4=60\nK:C\nCDEF|');
    const swung = planPlaying(
      {
        tune,
        recipes: {
          advanced: {
            instrument: 'flute',
            melody: 'as written',
            articulation: { swing: { unit: 'eighth', ratio: 2 } },
          },
        },
      },
      { heard: 'advanced', backing: 'none', click: false, countIn: false, from: 0 },
    );
    expect(onsets(swung, 4)).toEqual([0, 0.6667, 1, 1.6667]);
  });

  test('levels in another key are told and stay silent', () => {
    const tune = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\n"C"CD|EF|');
    const together = planPlaying(
      {
        tune,
        recipes: {
          intermediate: {
            instrument: 'clarinet-bb',
            keyAndTempo: { key: { ...tune.key, tonic: { step: 'D', alter: 0 } } },
          },
        },
      },
      { heard: 'together', backing: 'beats', click: false, countIn: false, from: 0 },
    );
    expect(together.messages).toEqual(['The intermediate part is in D major and is not heard with the others.']);
    expect(together.voices.map(({ channel }) => channel)).toEqual([2, 4, 5, 6]);
  });

  test('bass and chords hold chord tones, the bass begins each chord with its root or slash bass', () => {
    const chord = fc.constantFrom('C', 'Am7', 'F#m7b5', 'Bb13', 'Ebmaj7', 'D7/F#', 'G7#9', 'Asus4', 'C6/9', 'B°7');
    const bars = fc.array(fc.array(chord, { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(
        bars,
        fc.constantFrom('4/4', '3/4', '6/8', '5/4', '7/8', '2/4'),
        fc.constantFrom(...FEELS.filter((feel) => !feel.endsWith('drone'))),
        (symbols, meter, feel) => {
          const [count = 4, unit = 4] = meter.split('/').map(Number);
          const rests = (length: number) => Array<string>(length).fill('z').join('');
          const tune = tuneOf(
            `M:${meter}\nL:1/${unit}\nK:C\n${symbols.map(([one, two]) => (two === undefined ? `"${one}"${rests(count)}` : `"${one}"${rests(Math.floor(count / 2))}"${two}"${rests(count - Math.floor(count / 2))}`)).join('|')}|`,
          );
          const map = mapOf(tune);
          const { bass, chords } = backingFor(tune, map, feel);
          const placed = tune.bars.flatMap((bar, place) =>
            bar.chords.map(({ at, symbol }) => ({ start: map.at(place, at), symbol })),
          );
          const classOf = (key: number) => ((key % 12) + 12) % 12;
          for (const { start, end, key } of chords) {
            const here = placed.findLast((one) => one.start <= start + 1e-6)?.symbol;
            expect(
              here && chordTones(here).map(({ pitchClass }) => classOf(semitones({ ...pitchClass, octave: 0 }))),
            ).toContain(classOf(key));
            expect(end).toBeGreaterThan(start);
            expect(key).toBeGreaterThanOrEqual(48);
            expect(key).toBeLessThanOrEqual(84);
          }
          for (const { start, symbol } of placed) {
            if (symbol.kind !== 'chord') continue;
            const first = bass.find((note) => Math.abs(note.start - start) < 1e-6);
            expect(first && classOf(first.key)).toBe(
              classOf(semitones({ ...(symbol.bass ?? symbol.root), octave: 0 })),
            );
          }
          expect(bass.every(({ key }) => key >= 28 && key <= 50)).toBe(true);
        },
      ),
    );
  });
});

test('a drone holds the home note and its fifth of the key in force through every bar', () => {
  const tune = tuneOf('M:4/4\nL:1/4\nK:D\nz4|z4|[K:F]z4|');
  const { bass, chords } = backingFor(tune, mapOf(tune), 'drone');
  expect(bass.map(({ key }) => key % 12)).toEqual([2, 2, 5]);
  expect(chords.map(({ key }) => key % 12)).toEqual([2, 9, 2, 9, 5, 0]);
});
