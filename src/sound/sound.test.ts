import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { anyTune } from '../../tests/anyTune';
import { readAbc } from '../core/formats/abc/readAbc';
import { chordTones } from '../core/harmony/chordTones';
import { partOfLevel } from '../core/levels/levelPart';
import { semitones } from '../core/pitch/pitch';
import { isNote, type Tune } from '../core/score/tune';
import { unfold } from '../core/score/unfold';
import { backingFor, FEELS } from './backing';
import { groupings } from './metronome';
import { perform } from './perform';
import { planPlaying, type PlayPlan, type PlayWishes } from './playPlan';
import { SoundRenderer } from './renderer';
import { TimeMap } from './timeMap';
import { wantedNotes } from './wantedNotes';

function tuneOf(abc: string, more: Partial<Tune> = {}): Tune {
  const read = readAbc(`X:1\nT:Test\n${abc}`);
  if (!read.ok) throw new Error(JSON.stringify(read));
  return { ...read.value.tune, ...more };
}

const onPage = (tune: Tune) => tune.bars.map((_, bar) => ({ bar, pass: 1 }));
const mapOf = (tune: Tune) => new TimeMap(tune, onPage(tune), tune.tempo);
const starts = (tune: Tune) => perform(tune, mapOf(tune)).notes.map(({ start }) => Number(start.toFixed(4)));
const plan = (tune: Tune, wishes: Partial<PlayWishes> = {}): PlayPlan =>
  planPlaying(
    { tune, recipes: {} },
    { heard: 'tune', backing: 'none', click: false, countIn: false, from: 0, ...wishes },
  );
const onsets = ({ voices }: PlayPlan, channel = 0) =>
  voices.find((voice) => voice.channel === channel)?.notes.map(({ start }) => Number(start.toFixed(4))) ?? [];

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
      { numRuns: 150 },
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
          beginner: { instrument: 'flute', melody: 'as written', form: { plays: 'twice' }, setting: { perMinute: 60 } },
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
      { tune, recipes: { beginner: { instrument: 'flute', form: { plays: 'solo' }, setting: { perMinute: 60 } } } },
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
            setting: { key: { ...tune.key, tonic: { step: 'D', alter: 0 } } },
          },
        },
      },
      { heard: 'together', backing: 'beats', click: false, countIn: false, from: 0 },
    );
    expect(together.said).toEqual(['The intermediate part is in D major and is not heard with the others.']);
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
      { numRuns: 200 },
    );
  });
});

test('a drone holds the home note and its fifth of the key in force through every bar', () => {
  const tune = tuneOf('M:4/4\nL:1/4\nK:D\nz4|z4|[K:F]z4|');
  const { bass, chords } = backingFor(tune, mapOf(tune), 'drone');
  expect(bass.map(({ key }) => key % 12)).toEqual([2, 2, 5]);
  expect(chords.map(({ key }) => key % 12)).toEqual([2, 9, 2, 9, 5, 0]);
});

describe('rendered without a device', () => {
  const rate = 44_100;
  const bank = readFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2');
  const started = SoundRenderer.start(bank.buffer.slice(bank.byteOffset, bank.byteOffset + bank.byteLength), rate);

  /** Loudness of each stretch of 10 ms. */
  const levels = (samples: Float32Array) =>
    Array.from({ length: Math.floor(samples.length / 441) }, (_, k) =>
      Math.sqrt(samples.slice(k * 441, (k + 1) * 441).reduce((sum, x) => sum + x * x, 0) / 441),
    );
  /** The period of most agreement, as a MIDI key number. */
  const heardKey = (samples: Float32Array, at: number) => {
    const part = samples.slice(Math.round(at * rate), Math.round(at * rate) + 4096);
    const agreement = Array.from({ length: 700 }, (_, lag) => {
      let sum = 0;
      for (let k = 0; k < 2048; k += 1) sum += (part[k] ?? 0) * (part[k + lag] ?? 0);
      return sum;
    });
    const best = Math.max(...agreement.slice(30));
    // Two or three periods agree as well as one: the first peak that is nearly the highest.
    const bestLag = agreement.findIndex(
      (sum, lag) =>
        lag >= 30 && sum > best * 0.93 && sum >= (agreement[lag - 1] ?? 0) && sum >= (agreement[lag + 1] ?? 0),
    );
    return 69 + 12 * Math.log2(rate / bestLag / 440);
  };

  test('notes begin when planned and have the pitch of the page', async () => {
    const renderer = await started;
    const tune = tuneOf('M:4/4\nL:1/4\nQ:1/4=60\nK:D\n.D.F.A.d|.F.E.C.D|');
    const made = planPlaying(
      { tune, recipes: { advanced: { instrument: 'flute', melody: 'as written' } } },
      { heard: 'advanced', backing: 'none', click: false, countIn: false, from: 0 },
    );
    const [voice] = made.voices;
    renderer.load(made);
    const { left } = renderer.render(rate * 8);
    const loud = levels(left);
    const most = Math.max(...loud);
    voice?.notes.forEach(({ start, key }) => {
      const from = Math.round(start * 100);
      // Silent just before (the notes are short), sounding just after.
      if (from > 0) expect(loud[from - 2] ?? 0).toBeLessThan(most * 0.12);
      expect(Math.max(...loud.slice(from, from + 8))).toBeGreaterThan(most * 0.3);
      expect(heardKey(left, start + 0.2)).toBeCloseTo(key, 0);
    });
    expect(voice?.notes).toHaveLength(8);
  });

  test('a loop comes round on time, without an end', async () => {
    const renderer = await started;
    renderer.load(plan(tuneOf('M:2/4\nL:1/4\nQ:1/4=120\nK:C\n.cz|'), { loopTo: 0 }));
    const loud = levels(renderer.render(rate * 4).left);
    const most = Math.max(...loud);
    for (const at of [0, 100, 200, 300]) expect(Math.max(...loud.slice(at, at + 8))).toBeGreaterThan(most * 0.5);
    for (const at of [95, 195, 295]) expect(loud[at] ?? 0).toBeLessThan(most * 0.2);
    expect(renderer.isOver).toBe(false);
  });

  test('a file that is no sound bank is refused in words', async () => {
    await expect(
      SoundRenderer.start(
        new TextEncoder().encode('not a bank at all, and long enough to be looked at').buffer as ArrayBuffer,
        rate,
      ),
    ).rejects.toThrow('The sound bank cannot be read');
  });
});

describe('what is practised with', () => {
  const line = tuneOf('M:4/4\nL:1/4\nQ:1/4=60\nK:C\nCDEF|GABc|cBAG|FEDC|');

  test('a phrase sounds, and then as long a silence for the answer, round and round', () => {
    const called = plan(line, { from: 1, loopTo: 2, hasAnswers: true, click: true });
    expect([onsets(called), called.seconds, called.loops]).toEqual([[0, 1, 2, 3, 4, 5, 6, 7], 16, true]);
    // The click goes on through the answer.
    expect(onsets(called, 9)).toHaveLength(16);
    expect(called.bars.map(({ bar }) => bar)).toEqual([1, 2, 1, 2]);
  });

  test('the metronome drops beats, divides them, and is soft in between', () => {
    const clicks = (wishes: Partial<PlayWishes>) => onsets(plan(line, { click: true, ...wishes }), 9);
    expect(clicks({ clickPattern: 'back-beats' })).toEqual([1, 3, 5, 7, 9, 11, 13, 15]);
    expect(clicks({ clickPattern: 'two-and-two' })).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(clicks({ clickParts: 2, loopTo: 0 })).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5]);
    const [first, between] =
      plan(line, { click: true, clickParts: 2 }).voices.find(({ channel }) => channel === 9)?.notes ?? [];
    expect((between?.velocity ?? 99) < (first?.velocity ?? 0)).toBe(true);
    expect(plan(line).beats).toEqual([4, 4, 4, 4]);
  });
});

describe('who plays along, and how', () => {
  const clicksOf = (tune: Tune, wishes: Partial<PlayWishes> = {}) =>
    (plan(tune, { click: true, ...wishes }).voices.find(({ who }) => who === 'click')?.notes ?? []).map(
      ({ start, velocity }) => [Math.round(start * 100) / 100, velocity],
    );

  test('fives and sevens are told by the first of each group, as the teacher groups them', () => {
    const five = tuneOf('M:5/4\nL:1/4\nQ:1/4=60\nK:C\nCDEFG|');
    expect(clicksOf(five)).toEqual([
      [0, 110],
      [1, 88],
      [2, 88],
      [3, 100],
      [4, 88],
    ]);
    expect(clicksOf(five, { clickGroups: [2, 3] }).map(([, velocity]) => velocity)).toEqual([110, 88, 100, 88, 88]);
    const seven = tuneOf('M:7/8\nL:1/8\nQ:1/8=60\nK:C\nCDEFGAB|');
    expect(clicksOf(seven)).toEqual([
      [0, 110],
      [2, 100],
      [4, 100],
    ]);
    expect(clicksOf(seven, { clickGroups: [3, 2, 2], clickParts: 2 })).toEqual([
      [0, 110],
      [1, 60],
      [2, 60],
      [3, 100],
      [4, 60],
      [5, 100],
      [6, 60],
    ]);
    // A grouping of another meter is none.
    expect(clicksOf(five, { clickGroups: [2, 2] })).toEqual(clicksOf(five));
    expect(groupings({ count: 4, unit: 4 })).toEqual([]);
  });

  test('other levels play along where they are in the same key, silent line or not, each as loud as asked', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=90\nK:G\n"G"GABc d2 B2|"D"A2 F2 D4|"G"GABc d2 g2|"G"G8|');
    const wishes = { heard: 'beginner', band: ['advanced'], volumes: { advanced: 0.5, line: 1 } } as const;
    const both = plan(tune, wishes);
    expect(both.voices.map(({ who, volume }) => [who, volume])).toEqual([
      ['line', 92],
      ['advanced', 40],
    ]);
    expect(new Set(both.marks.map(({ lane }) => lane))).toEqual(new Set(['beginner']));
    expect(plan(tune, { ...wishes, isSilent: true }).voices.map(({ who }) => who)).toEqual(['advanced']);
    const elsewhere = planPlaying(
      {
        tune,
        recipes: {
          advanced: { instrument: 'flute', setting: { key: { tonic: { step: 'A', alter: 0 }, mode: 'major' } } },
        },
      },
      { backing: 'none', click: false, countIn: false, from: 0, ...wishes },
    );
    expect(elsewhere.voices.map(({ who }) => who)).toEqual(['line']);
    expect(elsewhere.said.join()).toContain('advanced');
    // While it answers, the band goes on.
    const answered = plan(tune, { ...wishes, hasAnswers: true, loopTo: 3 });
    const [line, band] = answered.voices.map(({ notes }) => notes.length);
    expect(band).toBe(2 * (both.voices[1]?.notes.length ?? 0));
    expect(line).toBe(both.voices[0]?.notes.length);
  });

  test('eighths swing or not as asked; a drone lies on the fifth', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=60\nK:C\nCDEF G4|');
    expect(onsets(plan(tune, { swing: { unit: 'eighth', ratio: 2 } }))).toEqual([0, 0.6667, 1, 1.6667, 2]);
    expect(onsets(plan({ ...tune, swing: { unit: 'eighth', ratio: 2 } }, { swing: 'even' }))).toEqual([
      0, 0.5, 1, 1.5, 2,
    ]);
    const drone = plan(tune, { backing: 'fifth-drone' }).voices.filter(({ who }) => who !== 'line');
    expect(new Set(drone.flatMap(({ notes }) => notes.map(({ key }) => key % 12)))).toEqual(new Set([7]));
  });

  test('what should be played is told with its place, and in an answer by the time of the answer', () => {
    const tune = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\nCD-|D{E}F|z2|');
    const wishes: PlayWishes = { heard: 'tune', backing: 'held', click: true, countIn: true, from: 0, loopTo: 2 };
    const take = wantedNotes({ tune, recipes: {} }, wishes);
    expect(take.notes.map(({ bar, start, key }) => [bar, Math.round(start * 10) / 10, key])).toEqual([
      [0, 0, 60],
      [0, 1, 62],
      [1, 3.1, 65],
    ]);
    expect([take.seconds, take.beat]).toEqual([6, 1]);
    const answer = wantedNotes({ tune, recipes: {} }, { ...wishes, hasAnswers: true });
    expect(answer.seconds).toBe(12);
    expect(answer.notes[0]?.start).toBe(6);
    // Phrase by phrase: each call is answered before the next one comes.
    const each = wantedNotes({ tune, recipes: {} }, { ...wishes, hasAnswers: true, callStarts: [0, 1] });
    expect(each.notes.map(({ start }) => Math.round(start * 10) / 10)).toEqual([2, 3, 8, 9.1]);
    const calls = plan(tune, { from: 0, loopTo: 2, hasAnswers: true, callStarts: [0, 1] });
    expect(onsets(calls).filter((start) => start < 4)).toEqual([0, 1]);
  });
});
