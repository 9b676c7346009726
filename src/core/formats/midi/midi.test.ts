import { writeMidi as peerWrite, type MidiEvent } from 'midi-file';
import { readAbc } from '../abc/readAbc';
import { formatProblemText } from '../problem';
import type { ReadOptions, ReadResult } from '../readResult';
import { printKey } from '../../pitch/key';
import { midiNumber, printPitch } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { printMeter } from '../../time/meter';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { readMidi } from './readMidi';
import { writeMidi } from './writeMidi';

const opened = (result: ReadResult) => {
  if (!result.ok) throw new Error(result.problem.map(formatProblemText).join('\n'));
  return result;
};
const abc = (body: string, head = 'M:4/4\nL:1/8\nK:C'): Tune =>
  opened(readAbc(`X:1\nT:T\n${head}\n${body}\n`)).value.tune;
const line = (tune: Tune) =>
  tune.bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${Math.round((event.length / TICKS_PER_QUARTER) * 100) / 100}`,
        )
        .join(' '),
    )
    .join(' | ');

interface Played {
  readonly pitch: number;
  readonly start: number;
  readonly end: number;
  readonly channel?: number;
}

const meterEvent = (numerator: number, denominator: number): MidiEvent => ({
  type: 'timeSignature',
  deltaTime: 0,
  meta: true,
  numerator,
  denominator,
  metronome: 24,
  thirtyseconds: 8,
});

/** A file as another program would write it; times in quarters. */
function fileOf(tracks: readonly (readonly Played[])[], head: readonly MidiEvent[] = [], division = 480): Uint8Array {
  const toEvents = (notes: readonly Played[]): MidiEvent[] => {
    const points = notes
      .flatMap(({ pitch, start, end, channel = 0 }) => [
        { at: Math.round(start * division), isOn: true, pitch, channel },
        { at: Math.round(end * division), isOn: false, pitch, channel },
      ])
      .toSorted((a, b) => a.at - b.at || Number(a.isOn) - Number(b.isOn));
    let now = 0;
    const events = points.map(({ at, isOn, pitch, channel }): MidiEvent => {
      const deltaTime = at - now;
      now = at;
      return isOn
        ? { type: 'noteOn', deltaTime, channel, noteNumber: pitch, velocity: 80 }
        : { type: 'noteOff', deltaTime, channel, noteNumber: pitch, velocity: 64 };
    });
    return [...events, { type: 'endOfTrack', deltaTime: 0, meta: true }];
  };
  return Uint8Array.from(
    peerWrite({
      header: { format: 1, numTracks: tracks.length + 1, ticksPerBeat: division },
      tracks: [[...head, { type: 'endOfTrack', deltaTime: 0, meta: true }], ...tracks.map(toEvents)],
    }),
  );
}

/** The notes of a tune as a person plays them: early, late and short, always the same way. */
function byHand(tune: Tune, spread: number, swing = false): readonly Played[] {
  let state = 7;
  const wobble = () => {
    state = (state * 16_807) % 2_147_483_647;
    return (state / 2_147_483_647 - 0.5) * 2 * spread;
  };
  const late = (quarters: number) => {
    const beat = Math.floor(quarters);
    const place = quarters - beat;
    return swing ? beat + (place <= 0.5 ? (place / 0.5) * 0.64 : 0.64 + ((place - 0.5) / 0.5) * 0.36) : quarters;
  };
  return soundingNotes(tune).map(({ pitch, start, length }) => {
    const [from, to] = [late(start / TICKS_PER_QUARTER), late((start + length) / TICKS_PER_QUARTER)];
    const begin = Math.max(0, from + wobble());
    return {
      pitch: midiNumber(pitch),
      start: begin,
      end: Math.max(begin + 0.05, begin + (to - from) * 0.88 + wobble() / 2),
    };
  });
}
const read = (data: Uint8Array, options?: ReadOptions) => opened(readMidi(data, options));

test('notes played by hand go to the places that were meant, triplets told from eighths and sixteenths', () => {
  const tune = abc('C2 DE F2 G2 | (3ABc d2 e/f/g/a/ b2 | c4 (3gec G2 | F2 E2 D4 | C2 DE F2 G2 | (3ABc d2 c4 |]');
  const result = read(fileOf([byHand(tune, 0.035)]));
  expect(line(result.value.tune)).toBe(line(tune));
  expect([result.value.guesses?.exact, result.value.guesses?.swing.value]).toEqual([false, false]);
});

test('steady long–short eighths are swing and are written straight; a true triplet among them stays', () => {
  const tune = abc('CD EF GA Bc | d2 cB AG F2 | GA Bc dc BA | (3GAB c2 G2 z2 | CD EF GA Bc | c8 |]');
  const result = read(fileOf([byHand(tune, 0.02, true)]));
  expect(result.value.guesses?.swing).toEqual({ value: true, source: 'guess' });
  expect(result.value.tune.swing).toEqual({ unit: 'eighth', ratio: 2 });
  expect(
    line(result.value.tune)
      .split(' | ')
      .filter((_, k) => k !== 3),
  ).toEqual(
    line(tune)
      .split(' | ')
      .filter((_, k) => k !== 3),
  );
  const straight = read(fileOf([byHand(tune, 0.02, true)]), { midi: { swing: false } });
  expect(straight.value.tune.swing).toBeUndefined();
  expect(straight.value.tune.bars[0]?.events.some((event) => event.tuplet?.actual === 3)).toBe(true);
});

test('exact triplets, quintuplets, triplets of quarters and of sixteenths come out as they went in', () => {
  const tune = abc('(3CDE (5:4F/G/A/B/c/ (3c2B2A2 | (3G/F/E/D C2 D2 (3EFG | C8 |]');
  expect(line(read(writeMidi(tune).data).value.tune)).toBe(line(tune));
});

test('meter, key and tempo come from the file, or are worked out and said to be guesses', () => {
  const waltz = abc(
    'd4 f2 | e2 d2 ^c2 | d4 A2 | B6 | d4 f2 | e2 d2 ^c2 | d2 e2 f2 | d6 |]',
    'M:3/4\nL:1/8\nQ:1/4=150\nK:Dm',
  );
  const notes = soundingNotes(waltz).map(({ pitch, start, length }) => ({
    pitch: midiNumber(pitch),
    start: start / TICKS_PER_QUARTER,
    end: (start + length) / TICKS_PER_QUARTER,
  }));
  const bare = read(fileOf([notes]));
  expect([
    printMeter(bare.value.tune.meter),
    bare.value.guesses?.meter.source,
    bare.value.guesses?.key.source,
    bare.value.guesses?.perMinute,
  ]).toEqual(['3/4', 'guess', 'guess', { value: 120, source: 'guess' }]);
  expect(bare.value.tune.key.tonic).toEqual({ step: 'D', alter: 0 });
  expect(
    soundingNotes(bare.value.tune)
      .map(({ pitch }) => printPitch(pitch))
      .filter((name) => name.startsWith('C')),
  ).toEqual(['C#5', 'C#5']);
  const said = read(
    fileOf(
      [notes],
      [
        meterEvent(6, 8),
        { type: 'keySignature', deltaTime: 0, meta: true, key: -1, scale: 1 },
        { type: 'setTempo', deltaTime: 0, meta: true, microsecondsPerBeat: 400_000 },
      ],
    ),
  );
  expect([
    printMeter(said.value.tune.meter),
    said.value.guesses?.meter.source,
    printKey(said.value.tune.key),
    said.value.guesses?.perMinute,
  ]).toEqual(['6/8', 'file', 'Dm', { value: 150, source: 'file' }]);
  const set = read(fileOf([notes]), {
    midi: { meter: { count: 3, unit: 8 }, key: { tonic: { step: 'F', alter: 0 }, mode: 'major' }, perMinute: 90 },
  });
  expect([printMeter(set.value.tune.meter), printKey(set.value.tune.key), set.value.guesses?.perMinute.source]).toEqual(
    ['3/8', 'F', 'set'],
  );
});

test('a pickup goes out as a short bar and comes back as one; silence before the tune is left away', () => {
  const tune = abc('G2 | c4 e4 | d6 G2 | c8 |]');
  expect(line(read(writeMidi(tune).data).value.tune)).toBe(line(tune));
  const late = read(
    fileOf(
      [
        [
          { pitch: 67, start: 11, end: 12 },
          { pitch: 72, start: 12, end: 16 },
        ],
      ],
      [meterEvent(4, 4)],
    ),
  );
  expect([line(late.value.tune), late.value.guesses?.pickup.value]).toEqual(['G4:1 | C5:4', TICKS_PER_QUARTER]);
  expect(late.value.warnings.map(formatProblemText)).toContain('Left out: 2 empty bars at the beginning');
});

test('the tracks and hands of a file are offered; the likely melody is taken, another or two on request', () => {
  const melody = [72, 74, 76, 77, 79, 77, 76, 74].map((pitch, k) => ({ pitch, start: k, end: k + 1 }));
  const bass = [48, 43, 48, 43].map((pitch, k) => ({ pitch, start: 2 * k, end: 2 * k + 2 }));
  const chords = [0, 2, 4, 6].flatMap((start) =>
    [55, 60, 64].map((pitch) => ({ pitch, start, end: start + 2, channel: 1 })),
  );
  const drums = [0, 1, 2, 3].map((start) => ({ pitch: 36, start, end: start + 0.5, channel: 9 }));
  const data = fileOf([bass, [...melody, ...bass.map((note) => ({ ...note, pitch: note.pitch - 5 }))], chords, drums]);
  const result = read(data);
  expect(result.value.choices.lines.map(({ name, notes }) => `${name}: ${notes}`)).toEqual([
    'Track 2: 4',
    'Track 3, upper notes: 8',
    'Track 3, lower notes: 4',
    'Track 4: 4',
  ]);
  expect([result.value.choices.line, line(result.value.tune)]).toEqual([
    2,
    'C5:1 D5:1 E5:1 F5:1 | G5:1 F5:1 E5:1 D5:1',
  ]);
  const said = result.value.warnings.map(formatProblemText);
  expect(said).toEqual([
    'The file has more than one voice (4 lines); "Track 3, upper notes" was taken',
    'Left out: percussion',
  ]);
  const both = read(data, { line: 2, second: 1 });
  expect(
    both.value.tune.bars.map(({ second }) => second?.map((event) => isNote(event) && printPitch(event.pitch))),
  ).toEqual([
    ['C3', 'G2'],
    ['C3', 'G2'],
  ]);
});

test('repeats, second endings and jumps are played out', () => {
  const tune = abc('|: C8 |1 D8 :|2 E8 | F8 !D.C.!|]');
  expect(
    soundingNotes(read(writeMidi(tune).data).value.tune)
      .map(({ pitch }) => pitch.step)
      .join(''),
  ).toBe('CDCEFCEF');
});

test.each<readonly [string, readonly number[], RegExp]>([
  ['no header', [1, 2, 3], /no MThd header at byte 0; a MIDI file begins with one/],
  [
    'type 2',
    [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 2, 0, 1, 0, 96],
    /type 2, patterns without an order at byte 8; save it as type 1/,
  ],
  [
    'a track cut off',
    [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 99, 0],
    /a track of 99 bytes that is cut off at byte 14/,
  ],
  [
    'data before any event',
    [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 3, 0, 60, 60],
    /data without an event before it at byte 23/,
  ],
  [
    'no notes',
    [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 4, 0, 0xff, 0x2f, 0],
    /There is no tune here \(no notes\)/,
  ],
])('%s is refused with the byte', (_, bytes, expected) => {
  const result = readMidi(Uint8Array.from(bytes));
  expect(result.ok ? '' : result.problem.map(formatProblemText).join()).toMatch(expected);
});

test('a file that stands exactly on triplets is taken at its word, unless somebody says that it swings', () => {
  const pairs: readonly Played[] = [60, 62, 64, 65, 67, 69, 71, 72].flatMap((pitch, beat) => [
    { pitch, start: beat, end: beat + 2 / 3 },
    { pitch: pitch + 2, start: beat + 2 / 3, end: beat + 1 },
  ]);
  const file = fileOf([pairs], [meterEvent(4, 4)]);
  const asWritten = opened(readMidi(file));
  expect([asWritten.value.tune.swing, asWritten.value.guesses?.swing]).toEqual([
    undefined,
    { value: false, source: 'guess' },
  ]);
  expect(line(asWritten.value.tune).split(' ')[0]).toBe('C4:0.67');
  expect(asWritten.value.tune.bars[0]?.events.length).toBe(8);
  expect(asWritten.value.tune.bars[0]?.events.every((event) => event.tuplet)).toBe(true);
  const swung = opened(readMidi(file, { midi: { swing: true } }));
  expect([swung.value.tune.swing, swung.value.guesses?.swing, swung.value.guesses?.exact]).toEqual([
    { unit: 'eighth', ratio: 2 },
    { value: true, source: 'set' },
    true,
  ]);
  expect(swung.value.tune.bars[0]?.events.map(({ length }) => length / TICKS_PER_QUARTER)).toEqual(Array(8).fill(0.5));
});
