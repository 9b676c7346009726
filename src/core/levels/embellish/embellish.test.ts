import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { likelyTune } from '../../../../tests/likelyTune';
import { chordTonesUnder } from '../../analysis/chordsUnder';
import { lineDifficulty } from '../../analysis/difficulty';
import { readAbc } from '../../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument } from '../../instruments/instrument';
import { alterInSignature, signatureOf } from '../../pitch/key';
import { chroma, printPitch, semitones } from '../../pitch/pitch';
import { formOf } from '../../pools/form';
import { soundingNotes, type SoundingNote } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { weightAt } from '../../time/meter';
import { TICKS_PER_QUARTER as Q } from '../../time/ticks';
import { describeChange } from '../../work/change';
import { addedId } from './events';
import { partFor, type Part } from '../parts/partFor';
import { type BarChoice, type Device, DEVICES } from '../../work/groups';

const tuneOf = (body: string, head: string): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const flute = instrumentById('flute') as Instrument;
const show = (bars: Tune['bars']) =>
  bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? `${event.graces ? '`' : ''}${printPitch(event.pitch)}${event.ornaments ? '!' : ''}` : 'z'}:${event.length / Q}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const notesOf = (part: Part) => soundingNotes({ bars: part.soundingBars, meter: part.meter });
const anyInstrument = fc.constantFrom(...INSTRUMENTS);
const total = (part: Part) => Math.round(100 * lineDifficulty(part.difficulty).total) / 100;

describe('each device in its plainest place', () => {
  const cases: readonly (readonly [Device, string, RegExp])[] = [
    ['passing', '"C"C4 E4 | C8 |', /^C4:1\.5 D4:0\.5 E4:1\.5 D4:0\.5 \| C4:4$/],
    ['neighbour', '"C"E4 E4 | C8 |', /^E4:1\.5 [DF]4:0\.5 E4:1 [DF]4:0\.5 E4:0\.5 \| C4:4$/],
    ['fill', '"C"C4 G4 | C8 |', /^C4:1 E4:0\.5 F4:0\.5 G4:1 E4:0\.5 D4:0\.5 \| C4:4$/],
    ['again', '"C"C2 E2 G4 | C8 |', /G4:1\.\d+ G4:0\.\d+ \| C4:4$/],
    ['run-in', '"C"z4 G4 | C8 |', /^z:1 (E4:0\.5 F4:0\.5|B4:0\.5 A4:0\.5) G4:2 \| C4:4$/],
    ['approach', '"C"E4 G4 | C8 |', /^E4:1\.(5|75) F#4:0\.(5|25) G4:2 \| C4:4$/],
    ['triplet', '"C"C4 G4 | C8 |', /^C4:1 (D4|E4):0\.3\d* (E4|F4):0\.3\d* (F4|G4|A4):0\.3\d* G4/],
    ['enclosure', '"C"C4 E4 | C8 |', /^C4:1 F4:0\.5 D#4:0\.5 E4:2 \| C4:4$|^C4:1\.5 F4:0\.25 D#4:0\.25 E4:/],
    ['anticipation', '"C"C4 G4 | C8 |', /^C4:1\.5 G4:0\.5~ G4:2 \| C4:4$/],
    [
      'double-time',
      '"C"C2 D2 E4 | C8 |',
      /C4:0\.25 B3:0\.25 C4:0\.25 E4:0\.25 D4:1|D4:0\.25 C4:0\.25 D4:0\.25 F4:0\.25 E4:2/,
    ],
    ['grace', '"C"C4 G4 | C8 |', /`[CG]4:2/],
    ['turn', '"C"C4 G4 | C8 |', /[CG]4!:2/],
  ];
  test.each(cases)('%s: %s', (device, body, expected) => {
    const { value, changes } = partFor(tuneOf(body, 'M:4/4\nL:1/8\nQ:1/4=80\nK:C'), {
      level: 'advanced',
      instrument: flute,
      embellish: { devices: [device], density: 100 },
    });
    // As in the tune, in whatever octave the player has it.
    const there = show(value.bars).replace(
      /([A-G][#b]?)(\d)/g,
      (_, name: string, octave: string) => `${name}${Number(octave) - value.octaves}`,
    );
    expect(there).toMatch(expected);
    expect(changes.some(({ detail }) => detail.kind === 'embellished' && detail.device === device)).toBe(true);
  });
});

test('what each round adds is named apart, the tenth from the ninth', () => {
  const names = Array.from({ length: 10 }, (_, k) => addedId('a1', k + 1, 0));
  expect([new Set(names).size, names.every((name) => /^[A-Za-z0-9._-]{1,40}$/.test(name))]).toEqual([10, true]);
});

test('what is added is spelled by the chord: over A7 in G the step below D is C sharp', () => {
  const down = partFor(tuneOf('"A7"e4 B4 | "G"G8 |', 'M:4/4\nL:1/8\nK:G'), {
    level: 'advanced',
    instrument: flute,
    embellish: { devices: ['passing'], density: 100 },
  });
  expect(show(down.value.bars)).toMatch(/E5:\d(\.\d+)? D5:0\.\d+ C#5:0\.\d+ B4/);
});

describe('for any tune, instrument and density', () => {
  const anyCase = fc.record({
    tune: anyTune,
    player: anyInstrument,
    level: fc.constantFrom('intermediate' as const, 'advanced' as const),
    density: fc.integer({ min: 5, max: 100 }),
    seed: fc.integer({ min: 0, max: 99 }),
    devices: fc.subarray([...DEVICES], { minLength: 1 }),
  });

  test("the tune is still there, note for note and at most an eighth early; ends of phrases stay; added notes are the player's", () => {
    fc.assert(
      fc.property(anyCase, ({ tune, player, level, density, seed, devices }) => {
        const plain = partFor(tune, { level, instrument: player, embellish: { density: 0 } });
        const embellished = partFor(tune, { level, instrument: player, embellish: { density, seed, devices } });
        expect(scoreProblems({ ...tune, key: embellished.value.writtenKey, bars: embellished.value.bars })).toEqual([]);
        const after = new Map(notesOf(embellished.value).map((note) => [note.first.id, note]));
        const before = notesOf(plain.value);
        const faults = before.flatMap((note): readonly string[] => {
          const now: SoundingNote | undefined = after.get(note.first.id);
          if (!now) return [`${note.first.id} is gone`];
          if (semitones(now.pitch) !== semitones(note.pitch)) return [`${note.first.id} changed its pitch`];
          return now.start <= note.start && note.start - now.start <= Q / 2
            ? []
            : [`${note.first.id} moved by ${now.start - note.start}`];
        });
        expect(faults).toEqual([]);
        const structure = new Set(before.map(({ first }) => first.id));
        const added = soundingNotes({ bars: embellished.value.bars, meter: tune.meter }).filter(
          ({ first }) => !structure.has(first.id),
        );
        expect(added.filter(({ pitch }) => outsideBy(pitch, player.range[level]) !== 0)).toEqual([]);
        expect(added.filter(({ length }) => length < (level === 'advanced' ? Q / 4 : Q / 2))).toEqual([]);
        const last = [before.at(-1), after.get(before.at(-1)?.first.id ?? '')];
        expect(last[1]?.start).toBe(last[0]?.start);
        const touched = new Set(embellished.changes.map(({ barIndex }) => barIndex));
        embellished.value.bars.forEach((bar, index) => {
          if (!touched.has(index)) expect(bar).toEqual(plain.value.bars[index]);
        });
        for (const change of embellished.changes)
          expect(describeChange(change, embellished.value.written).what.length).toBeGreaterThan(3);
      }),
    );
  });

  test('the same wishes give the same part; a denser wish keeps what a sparser one put in; another seed is another variation', () => {
    const tune = tuneOf(
      '"G"G2 B2 d4 | "C"e2 c2 G4 | "D7"A2 d2 f2 d2 | "G"B4 G4 | "G"G2 B2 d4 | "C"e2 c2 G4 | "D7"A2 d2 f2 d2 | "G"G8 |',
      'M:4/4\nL:1/8\nK:G',
    );
    const made = (density: number, seed = 0, key?: string) =>
      partFor(tune, {
        level: 'advanced',
        instrument: flute,
        embellish: { density, seed },
        ...(key && { keyAndTempo: { key: { ...tune.key, tonic: { step: 'A' as const, alter: 0 } } } }),
      }).value;
    expect(made(40)).toEqual(made(40));
    const ids = (part: Part) => part.bars.flatMap(({ events }) => events.map(({ id }) => id));
    expect(ids(made(60))).toEqual(expect.arrayContaining(ids(made(20))));
    expect(new Set([0, 1, 2, 3, 4].map((seed) => show(made(40, seed).bars))).size).toBeGreaterThan(2);
    expect(made(40, 0, 'A').bars.map(({ events }) => events.map(({ length }) => length))).toEqual(
      made(40).bars.map(({ events }) => events.map(({ length }) => length)),
    );
  });
});

test('the judge: in modal tunes, hymns and dances no half step from outside; on a beat a chord tone or a step away from what follows; nothing on what was added', () => {
  let [added, strict] = [0, 0];
  fc.assert(
    fc.property(
      fc.nat(100_000).map(likelyTune),
      anyInstrument,
      fc.constantFrom('intermediate' as const, 'advanced' as const),
      fc.integer({ min: 0, max: 9 }),
      (tune, player, level, seed) => {
        const { value } = partFor(tune, { level, instrument: player, embellish: { seed } });
        const { style } = formOf(tune);
        const isStrict = style === 'modal' || style === 'hymn' || style === 'dance';
        const line = { bars: value.soundingBars, meter: tune.meter };
        const notes = soundingNotes(line);
        const tones = chordTonesUnder(line, notes);
        const own = new Set(soundingNotes(tune).map(({ first }) => first.id));
        notes.forEach(({ first, pitch, inBar }, k) => {
          if (own.has(first.id)) return;
          added += 1;
          expect(first.id.split('.').length).toBe(2);
          expect(first.graces ?? first.ornaments).toBeUndefined();
          const isTone = (tones[k] ?? []).some((tone) => chroma(tone) === chroma(pitch));
          const next = notes[k + 1];
          const distance = next ? Math.abs(semitones(next.pitch) - semitones(pitch)) : 0;
          if (weightAt(tune.meter, inBar) >= 0.5)
            expect([pitch, isTone || (distance > 0 && distance <= 2)]).toEqual([pitch, true]);
          if (!isStrict) return;
          strict += 1;
          const isOfKey = alterInSignature(pitch.step, signatureOf(value.concertKey)) === pitch.alter;
          expect([printPitch(pitch), isTone || isOfKey]).toEqual([printPitch(pitch), true]);
        });
      },
    ),
    { seed: 5 },
  );
  expect(Math.min(added, strict)).toBeGreaterThan(150);
});

test('a slide is given no more than six added notes a second', () => {
  const trombone = instrumentById('trombone') as Instrument;
  const tune = tuneOf(
    '"Bb"B,2 D2 F2 D2 | "F7"C2 E2 F4 | "Bb"F2 D2 B,2 F2 | "Bb"B,8 |',
    'M:4/4\nL:1/8\nQ:1/4=144\nK:Bb',
  );
  const shortest = (player: Instrument) => {
    const { value } = partFor(tune, { level: 'advanced', instrument: player, embellish: { density: 100 } });
    return Math.min(...notesOf(value).map(({ length }) => length));
  };
  // Eighths at 144 are 4.8 a second, sixteenths 9.6.
  expect([shortest(trombone), shortest(flute) <= Q / 2]).toEqual([Q / 2, true]);
});

describe('three levels of one tune', () => {
  const levelsOf = (tune: Tune, player: Instrument, perMinute?: number) => {
    const parts = LEVELS.map((level) => partFor(tune, { level, instrument: player, keyAndTempo: { perMinute } }).value);
    return { totals: parts.map(total), counts: parts.map((part) => notesOf(part).length) };
  };
  const isRising = ({ totals: [a = 0, b = 0, c = 0], counts: [d = 0, e = 0, f = 0] }: ReturnType<typeof levelsOf>) =>
    a < b && b < c && d <= e && e <= f;

  const plain: readonly (readonly [string, string])[] = [
    ['M:4/4\nK:C', 'C4|C4|C4|C4|'],
    ['M:4/4\nK:C', 'C4|'],
    ['M:4/4\nK:G', 'GABc|d2B2|cBAG|G4|'],
    ['M:4/4\nL:1/8\nK:G', '"G"GABc d2B2|"C"cBAG "D7"A4|"G"GABc d2g2|"D7"fdcA "G"G4|'],
    ['M:6/8\nL:1/8\nK:D', 'd3 f3|a2f d3|e2d c2B|A6|'],
    ['M:2/4\nL:1/16\nK:C', 'CDEFGABc|cBAGFEDC|CEGcecGE|C8|'],
    ['M:3/4\nK:F', 'F A c|d2c|B G E|F3|'],
    ['M:5/4\nK:Dm', 'DEFGA|d2A G F|D5|'],
  ];
  test.each(plain)(
    'rise strictly in difficulty and do not fall in notes, for every instrument, also at one tempo: %s %s',
    (head, body) => {
      const tune = tuneOf(body, `${head.includes('L:') ? '' : 'L:1/4\n'}Q:1/4=100\n${head}`);
      const level = INSTRUMENTS.flatMap((player) =>
        [undefined, 90].flatMap((perMinute) => {
          const made = levelsOf(tune, player, perMinute);
          return isRising(made) ? [] : [{ player: player.id, perMinute, ...made }];
        }),
      );
      expect(level).toEqual([]);
    },
  );

  test('so do all but one in a hundred of tunes that nobody would write', () => {
    const cases = fc.sample(
      fc.tuple(anyTune, anyInstrument, fc.option(fc.integer({ min: 50, max: 160 }), { nil: undefined })),
      { seed: 11 },
    );
    const odd = cases
      .map(([tune, player, perMinute]) => levelsOf(tune, player, perMinute))
      .filter(({ counts }) => counts.some((count) => count > 0))
      .filter((made) => !isRising(made));
    expect(odd.length).toBeLessThanOrEqual(2);
  });
});

describe('bars set by hand', () => {
  const anyChoice: fc.Arbitrary<BarChoice> = fc.constantFrom<BarChoice>(
    { kind: 'as-written' },
    { kind: 'simpler' },
    { kind: 'simplest' },
    { kind: 'octave-up' },
    { kind: 'octave-down' },
    { kind: 'embellished', seed: 3 },
    { kind: 'optional' },
    { kind: 'rest' },
  );

  test('they stay whatever key, tempo, seed or density; and taken off, all is as before', () => {
    fc.assert(
      fc.property(
        anyTune,
        anyInstrument,
        fc.constantFrom(...LEVELS),
        anyChoice,
        fc.nat(),
        fc.integer({ min: 1, max: 60 }),
        (tune, player, level, choice, at, seed) => {
          const index = at % tune.bars.length;
          const bar = tune.bars[index];
          if (!bar) return;
          const bars = { [bar.id]: choice };
          const pinned = partFor(tune, { level, instrument: player, bars: { chosen: bars } }).value;
          expect(scoreProblems({ ...tune, key: pinned.writtenKey, bars: pinned.bars })).toEqual([]);
          const heard = (part: Part) =>
            part.bars[index]?.events.map((event) => [event.length, isNote(event) ? semitones(event.pitch) : -1]);
          const other = partFor(tune, {
            level,
            instrument: player,
            bars: { chosen: bars },
            embellish: { seed, density: 60 },
          }).value;
          // A neighbour may push its first note into the bar; what was pinned is otherwise the same.
          if (choice.kind === 'rest' || choice.kind === 'optional' || choice.kind === 'as-written')
            expect(heard(other)).toEqual(heard(pinned));
          if (choice.kind === 'rest') expect(pinned.bars[index]?.events.some(isNote)).toBe(false);
          if (choice.kind === 'optional')
            expect(pinned.bars[index]?.events.every(({ optional }) => optional === true)).toBe(true);
          expect(partFor(tune, { level, instrument: player, bars: { chosen: {} } })).toEqual(
            partFor(tune, { level, instrument: player }),
          );
        },
      ),
    );
  });

  test('the other bars stay as they were', () => {
    const tune = tuneOf(
      '"G"GABc d2B2 | "C"c2e2 g4 | "D7"A2 Bc d4 | "G"B2d2 G4 | "G"GABc d2B2 | "C"c2e2 g4 | "D7"f2d2 A4 | "G"G8 |',
      'M:4/4\nL:1/8\nK:G',
    );
    const usual = partFor(tune, { level: 'advanced', instrument: flute }).value;
    for (const kind of ['rest', 'as-written', 'simpler', 'octave-up'] as const) {
      const pinned = partFor(tune, {
        level: 'advanced',
        instrument: flute,
        bars: { chosen: { [tune.bars[2]?.id ?? '']: { kind } } },
      }).value;
      expect(show(pinned.bars.slice(4))).toBe(show(usual.bars.slice(4)));
    }
  });

  test('an octave, a simpler bar and the bar as written are what they say', () => {
    const tune = tuneOf('"G"GABc d2B2 | "C"cBAG E4 | "D7"A2 Bc d4 | "G"G8 |', 'M:4/4\nL:1/8\nK:G');
    const bar = tune.bars[1]?.id ?? '';
    const second = (level: (typeof LEVELS)[number], choice: BarChoice) =>
      show([
        partFor(tune, { level, instrument: flute, bars: { chosen: { [bar]: choice } } }).value.bars[1] ?? {
          id: '',
          events: [],
          chords: [],
        },
      ]);
    expect([
      second('beginner', { kind: 'as-written' }),
      second('advanced', { kind: 'simpler' }),
      second('advanced', { kind: 'simplest' }),
      second('advanced', { kind: 'octave-up' }),
      second('intermediate', { kind: 'rest' }),
    ]).toEqual([
      'C5:0.5 B4:0.5 A4:0.5 G4:0.5 E4:2',
      'C5:1 G4:1 E4:2',
      'C5:2 E4:2',
      'C6:0.5 B5:0.5 A5:0.5 G5:0.5 E5:2',
      'z:4',
    ]);
  });
});

test('what is beyond an intermediate player is eased, and only there', () => {
  const tune = tuneOf('G2B2 d4 | G/A/B/c/ d/e/f/g/ a/g/f/e/ d/c/B/A/ | G8 |', 'M:4/4\nL:1/8\nQ:1/4=132\nK:G');
  const { value, changes } = partFor(tune, { level: 'intermediate', instrument: flute, embellish: { density: 0 } });
  expect(value.bars[1]?.events.every(({ length }) => length >= Q / 2)).toBe(true);
  expect(changes.flatMap(({ barIndex, detail }) => (detail.kind === 'phrased' ? [] : [barIndex]))).toEqual([1]);
  expect(
    partFor(
      { ...tune, tempo: { ...tune.tempo, perMinute: 60 } },
      { level: 'intermediate', instrument: flute, embellish: { density: 0 }, articulation: { phrasing: 'none' } },
    ).changes,
  ).toEqual([]);
});
