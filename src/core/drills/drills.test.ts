import fc from 'fast-check';
import { ALL_SCALE_NAMES } from '../harmony/scaleDictionary';
import { parseScale } from '../harmony/scales';
import { INSTRUMENTS } from '../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument, type Level } from '../instruments/instrument';
import { signatureOf } from '../pitch/key';
import { chroma, parsePitch, printPitch, semitones, type Pitch } from '../pitch/pitch';
import { transposeClass } from '../pitch/transpose';
import {
  DRILL_ARTICULATIONS,
  DRILL_DIRECTIONS,
  DRILL_EXTENTS,
  DRILL_RHYTHMS,
  KEY_ORDERS,
  type DrillIdea,
  type Exercise,
} from '../score/drillIdea';
import { readableScale, scaleOn } from '../harmony/scales';
import { soundingNotes } from '../score/sounding';
import { scoreProblems } from '../score/validate';
import { pageRequest } from '../levels/page/pageRequest';
import { drillPart } from '../levels/parts/drillPart';
import { formOfTune, layDrill } from './drill';
import { inversionPath, voiceTravel, type Voicing } from './inversions';
import { ALL_TONICS, tonicsInOrder } from './keyOrder';
import { PATTERNS, parsePattern } from './pattern';
import { placesOf } from './places';
import { sectionOf, type SectionExtent } from './section';
import { instrument as given, tuneOf } from '../../../tests/given';

const pitch = (text: string): Pitch => {
  const parsed = parsePitch(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const range = (text: string) => {
  const [low = '', high = ''] = text.split('-');
  return { low: pitch(low), high: pitch(high) };
};
const line = (
  set: string,
  pattern: string,
  extent: SectionExtent = 'octave',
  direction = 'up-down',
  within = 'C4-C6',
) => {
  const [scale, parsed] = [parseScale(set), parsePattern(pattern)];
  if (!scale.ok || !parsed.ok) throw new Error(`${set} ${pattern}`);
  return sectionOf({
    scale: scale.value,
    pattern: parsed.value,
    extent,
    direction: DRILL_DIRECTIONS.find((known) => known === direction) ?? 'up-down',
    range: range(within),
  })
    ?.notes.map(printPitch)
    .join(' ');
};

test.each([
  ['C major', 'scale', 'octave', 'up-down', 'C4 D4 E4 F4 G4 A4 B4 C5 B4 A4 G4 F4 E4 D4 C4'],
  ['C major', 'scale', 'five', 'up-down', 'C4 D4 E4 F4 G4 F4 E4 D4 C4'],
  ['C major', 'thirds', 'five', 'up', 'C4 E4 D4 F4 E4 G4 F4 A4 G4 B4 C5'],
  ['C major', 'thirds', 'five', 'alternate', 'C4 E4 F4 D4 E4 G4 A4 F4 G4 B4 A4 F4 E4 G4 F4 D4 C4 E4 C4'],
  ['C major', 'thirds-down', 'five', 'up', 'E4 C4 F4 D4 G4 E4 A4 F4 B4 G4 C5'],
  ['C major', 'up-two-down-one', 'five', 'up', 'C4 D4 E4 D4 E4 F4 E4 F4 G4 F4 G4 A4 G4 A4 B4 C5'],
  ['C major', 'cell:1 2 3 5', 'five', 'down', 'G4 A4 B4 D5 F4 G4 A4 C5 E4 F4 G4 B4 D4 E4 F4 A4 C4 D4 E4 G4 C5'],
  ['C major', 'triads', 'five', 'up', 'C4 E4 G4 D4 F4 A4 E4 G4 B4 F4 A4 C5 G4 B4 D5 C5'],
  ['C maj7', 'sevenths', 'octave', 'up-down', 'C4 E4 G4 B4 G4 E4 C4'],
  ['C triad', 'inversions', 'octave', 'up', 'C4 E4 G4 E4 G4 C5 G4 C5 E5 C5 E5 G5 C6'],
  ['C major', 'cadence', 'octave', 'up-down', 'C4 E4 G4 C5 B4 G4 F4 D4 E4 G4 E4 C4'],
  ['C triad', 'ways-in', 'octave', 'up', 'C4 B3 D4 C4 E4 D#4 F#4 E4 G4 F#4 A4 G4 C5 B4 D5 C5'],
  // "The same notes, skipping one", there and back.
  ['D major pentatonic', 'thirds', 'octave', 'up', 'D4 F#4 E4 A4 F#4 B4 A4 D5 B4 E5 D5 F#5 D5'],
  ['D major pentatonic', 'thirds', 'five', 'up-down', 'D4 F#4 E4 A4 F#4 B4 A4 D5 B4 E5 D5 A4 B4 F#4 A4 E4 F#4 D4'],
  [
    'C major',
    'up-two-down-one',
    'five',
    'up-down',
    'C4 D4 E4 D4 E4 F4 E4 F4 G4 F4 G4 A4 G4 A4 B4 A4 G4 F4 G4 F4 E4 F4 E4 D4 E4 D4 C4',
  ],
  ['A melodic minor', 'scale', 'octave', 'melodic', 'A4 B4 C5 D5 E5 F#5 G#5 A5 G5 F5 E5 D5 C5 B4 A4'],
  ['C major', 'arpeggio-and-one', 'octave', 'up-down', 'C4 E4 G4 C5 E5 C5 G4 E4 C4'],
  ['C major', 'arpeggio-from-3', 'octave', 'up', 'E4 G4 C5 E5 C5'],
  ['A blues', 'scale', 'octave', 'up-down', 'A4 C5 D5 D#5 E5 G5 A5 G5 E5 Eb5 D5 C5 A4'],
] as const)('%s, %s, %s, %s', (set, pattern, extent, direction, wanted) => {
  expect(line(set, pattern, extent, direction, 'B3-C6')).toBe(wanted);
});

test('a full range goes from the tonic to the top, to the bottom and home; what does not fit is left out both ways', () => {
  expect(line('D major', 'scale', 'full', 'up-down', 'B3-G4')).toBe('D4 E4 F#4 G4 F#4 E4 D4 C#4 B3 C#4 D4');
  expect(line('D major', 'fifths', 'full', 'up-down', 'B3-B4')).toBe('D4 A4 E4 B4 D4 A4 C#4 G4 B3 F#4 C#4 G4 D4 A4 D4');
});

test('over the full range every key begins on its lowest home note and comes home to it, and an extent is kept to', () => {
  fc.assert(
    fc.property(
      anInstrument,
      aTonic,
      fc.constantFrom('scale', 'thirds', 'triads', 'up-two-down-one'),
      (one, start, text) => {
        const idea: DrillIdea = { steps: [{ set: 'major', pattern: text, extent: 'full' }], keys: 'fourths', start };
        for (const { notes, key } of layDrill(idea, { level: 'advanced', instrument: one }).sections) {
          const home = transposeClass(key.tonic, one.transposition);
          const inRange = (height: number) =>
            height >= semitones(one.range.advanced.low) && height < semitones(one.range.advanced.high);
          const lowest = Array.from({ length: 11 }, (_, octave) => semitones({ ...home, octave })).find(inRange);
          const [first, last] = [notes[0], notes.at(-1)];
          // A group that does not fit over the lowest home note moves the beginning up, and never down.
          expect(first && semitones(first) >= (lowest ?? 0) && (semitones(first) - (lowest ?? 0)) % 12 === 0).toBe(
            true,
          );
          if (text === 'scale') expect(first && semitones(first)).toBe(lowest);
          expect(last).toEqual(first);
        }
        const asked = { low: pitch('G4'), high: pitch('B5') };
        const [middle] = layDrill(idea, {
          level: 'advanced',
          instrument: given('flute'),
          wishes: { extent: asked },
        }).sections;
        expect((middle?.notes ?? []).filter((note) => outsideBy(note, asked) !== 0)).toEqual([]);
      },
    ),
  );
});

test('one group a key: its degrees in order, inside, each key no farther from the last than any other way', () => {
  const inside = range('D4-A5');
  for (const seed of [0, 7]) {
    const idea: DrillIdea = {
      steps: [{ set: 'major', pattern: 'group:1 3 5 3' }],
      keys: 'fourths',
      start: { step: 'C', alter: 0 },
      seed,
    };
    const { value, line: made } = drillPart(
      idea,
      { level: 'advanced', instrument: given('alto-sax') },
      { extent: inside },
    );
    const groups = made.sections.map(({ notes }) => notes);
    expect(value.bars).toHaveLength(12);
    // No signature to read anew in every bar, and the key is told all the same.
    expect([
      signatureOf(value.writtenKey),
      made.sections.map(({ writtenKey }) => writtenKey.tonic.step).join(''),
    ]).toEqual([0, 'ADGCFBEADFBE']);
    const voices = (notes: readonly Pitch[]) => [...new Set(notes.map(semitones))].toSorted((a, b) => a - b);
    const travel = (a: readonly number[], b: readonly number[]) =>
      a.reduce((sum, one, k) => sum + Math.abs(one - (b[k] ?? one)), 0);
    groups.forEach((notes, k) => {
      const root = chroma(
        transposeClass(made.sections[k]?.key.tonic ?? { step: 'C', alter: 0 }, given('alto-sax').transposition),
      );
      expect(notes.map((note) => (chroma(note) - root + 12) % 12)).toEqual([0, 4, 7, 4]);
      expect(notes.every((note) => outsideBy(note, inside) === 0)).toBe(true);
      const before = groups[k - 1];
      if (!before || seed !== 0) return;
      const ways = [
        [0, 4, 7],
        [4, 7, 12],
        [7, 12, 16],
      ]
        .flatMap((shape) =>
          Array.from({ length: 9 }, (_, octave) => shape.map((height) => 12 * octave + root + height)),
        )
        .filter((way) => way.every((height) => height >= semitones(inside.low) && height <= semitones(inside.high)));
      expect(travel(voices(before), voices(notes))).toBe(Math.min(...ways.map((way) => travel(voices(before), way))));
    });
    if (seed !== 0)
      expect(groups).not.toEqual(
        layDrill(
          { ...idea, seed: 0 },
          { level: 'advanced', instrument: given('alto-sax'), wishes: { extent: inside } },
        ).sections.map(({ notes }) => notes),
      );
  }
});

test('orders go through all twelve keys', () => {
  const names = (order: Parameters<typeof tonicsInOrder>[0]) =>
    tonicsInOrder(order, { step: 'F', alter: 0 }).map(chroma).join(' ');
  expect(names('fourths')).toBe('5 10 3 8 1 6 11 4 9 2 7 0');
  expect(names('fifths')).toBe('5 0 7 2 9 4 11 6 1 8 3 10');
  expect(names('whole-tones')).toBe('5 7 9 11 1 3 6 8 10 0 2 4');
  expect(names('minor-thirds')).toBe('5 8 11 2 6 9 0 3 7 10 1 4');
});

const anInstrument = fc.constantFrom(...INSTRUMENTS);
const aLevel = fc.constantFrom<Level>(...LEVELS);
const aTonic = fc.constantFrom(...ALL_TONICS);
const overKeys = PATTERNS.filter(({ pattern }) => !['chords', 'guide-tones'].includes(pattern.kind));
const anIdea = fc.record({
  set: fc.constantFrom(...ALL_SCALE_NAMES),
  pattern: fc.constantFrom(...overKeys.map(({ id }) => id), 'cell:1 3 2 0'),
  direction: fc.constantFrom(...DRILL_DIRECTIONS),
  extent: fc.constantFrom(...DRILL_EXTENTS, undefined),
  rhythm: fc.constantFrom(...DRILL_RHYTHMS, undefined),
  articulation: fc.constantFrom(...DRILL_ARTICULATIONS),
  keys: fc.oneof(fc.constantFrom(...KEY_ORDERS), fc.array(aTonic, { minLength: 1, maxLength: 3 })),
  start: fc.option(aTonic, { nil: undefined }),
});
type Drawn = typeof anIdea extends fc.Arbitrary<infer Value> ? Value : never;

function ideaOf({ set, pattern, direction, extent, rhythm, articulation, keys, start }: Drawn): DrillIdea {
  const step = { set, pattern, direction, ...(extent && { extent }), ...(rhythm && { rhythm }) };
  return { steps: [step, step], keys, articulation, borrowed: [15_120, -5_040, 20_160], ...(start && { start }) };
}

test('in any set, pattern, key, instrument and level a drill is in range, in its set or explained, in bars that add up, and ends on its tonic', () => {
  fc.assert(
    fc.property(anIdea, anInstrument, aLevel, (drawn, instrument, level) => {
      const idea = ideaOf(drawn);
      const { value, line: made, changes } = drillPart(idea, { level, instrument });
      if (made.sections.length === 0) {
        expect(changes.length).toBeGreaterThan(0);
        return;
      }
      expect(scoreProblems(made.tune)).toEqual([]);
      expect(soundingNotes({ bars: value.bars, meter: value.meter }).map((note) => semitones(note.pitch))).toEqual(
        made.sections.flatMap(({ notes }) => notes.map(semitones)),
      );
      for (const { notes, writtenKey, from, key } of made.sections) {
        expect(Math.abs(signatureOf(writtenKey))).toBeLessThanOrEqual(6);
        expect(notes.filter((note) => outsideBy(note, instrument.range[level]) !== 0).map(printPitch)).toEqual([]);
        const scale = readableScale(transposeClass(key.tonic, instrument.transposition), drawn.set);
        const comesDown =
          drawn.direction === 'melodic' && drawn.set === 'melodic minor' ? ['natural minor' as const] : [];
        const own = new Set([drawn.set, ...comesDown].flatMap((set) => scaleOn(scale.tonic, set).notes.map(chroma)));
        const explained = changes.some(
          ({ barIndex, detail }) => barIndex === from && detail.kind === 'drill' && /beside the set/.test(detail.what),
        );
        if (!explained) expect(notes.filter((note) => !own.has(chroma(note))).map(printPitch)).toEqual([]);
        if (!drawn.pattern.startsWith('group:')) expect(chroma(notes.at(-1) ?? pitch('C0'))).toBe(chroma(scale.tonic));
      }
    }),
  );
});

test('every group keeps its pattern: the notes of an interval lie that interval apart', () => {
  fc.assert(
    fc.property(
      anInstrument,
      aLevel,
      aTonic,
      fc.constantFrom(2, 3, 4, 5, 6, 7, 8, 9),
      (instrument, level, tonic, letters) => {
        const entry = PATTERNS.find(({ pattern }) => pattern.kind === 'interval' && pattern.letters === letters);
        const idea: DrillIdea = { steps: [{ set: 'major', pattern: entry?.id ?? '', direction: 'up' }], keys: [tonic] };
        const [section] = layDrill(idea, { level, instrument }).sections;
        const notes = section?.notes ?? [];
        for (let k = 0; k + 1 < notes.length; k += 2) {
          const [low, high] = [notes[k], notes[k + 1]];
          if (!low || !high) continue;
          expect(high.octave * 7 + 'CDEFGAB'.indexOf(high.step) - (low.octave * 7 + 'CDEFGAB'.indexOf(low.step))).toBe(
            letters,
          );
        }
      },
    ),
  );
});

test('inversions through the fourths stay inside and travel no farther than root positions', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('maj7', 'm7', '7', 'triad', 'minor triad'),
      aTonic,
      fc.integer({ min: 0, max: 5 }),
      (set, start, wide) => {
        const scales = tonicsInOrder('fourths', start).map((tonic) => readableScale(tonic, set as 'maj7'));
        const size = scales[0]?.notes.length ?? 3;
        const inside = { low: pitch('C4'), high: { ...pitch('A5'), octave: 5 + Math.floor(wide / 3) } };
        const path = inversionPath(scales, size, inside);
        const total = (voicings: readonly (Voicing | undefined)[]) =>
          voicings.reduce(
            (sum, voicing, k) =>
              sum + (k > 0 && voicing && voicings[k - 1] ? voiceTravel(voicings[k - 1] ?? [], voicing) : 0),
            0,
          );
        const roots = scales.map((scale): Voicing | undefined =>
          sectionOf({
            scale,
            range: inside,
            pattern: { kind: 'stack', name: '', offsets: [0, 2, 4, 6].slice(0, size) },
            direction: 'up',
            extent: 'octave',
          })?.notes.slice(0, size),
        );
        expect(path.every((voicing) => voicing?.every((note) => outsideBy(note, inside) === 0))).toBe(true);
        expect(total(path)).toBeLessThanOrEqual(total(roots));
      },
    ),
  );
});

test('the levels are apart: each goes farther and is harder than the one before', () => {
  for (const id of ['flute', 'clarinet-bb', 'alto-sax', 'trumpet-bb', 'trombone', 'violin', 'cello', 'guitar'])
    for (const text of ['scale', 'thirds', 'triads', 'cadence']) {
      const totals = LEVELS.map((level) => {
        const { value } = drillPart({ steps: [{ set: 'major', pattern: text }] }, { level, instrument: given(id) });
        return value.difficulty.reduce((sum, { total }) => sum + total, 0) / value.difficulty.length;
      });
      expect({ id, text, rises: (totals[0] ?? 0) < (totals[1] ?? 0) && (totals[1] ?? 0) < (totals[2] ?? 0) }).toEqual({
        id,
        text,
        rises: true,
      });
    }
});

test('over a tune each chord has its own tones for as long as it sounds', () => {
  const over = formOfTune(tuneOf('"C" c8 | "G7" g8 | "Am" a4 "F" f4 | "C" c8 |'));
  const idea: DrillIdea = {
    steps: [{ set: 'major', pattern: 'chords', direction: 'up', rhythm: 'quarter' }],
    ...(over && { over }),
  };
  const [section] = layDrill(idea, { level: 'advanced', instrument: given('flute') }).sections;
  expect(section?.notes.map((note) => printPitch(note).replace(/\d/, '')).join(' ')).toBe(
    'C E G C G B D F A C F A C E G C',
  );
  const held = layDrill(
    { ...idea, steps: [{ set: 'major', pattern: 'guide-tones' }] },
    { level: 'advanced', instrument: given('flute') },
  );
  expect(held.sections[0]?.notes).toHaveLength(5);
});

test("first keys come from the instrument's own methods", () => {
  const keys = (id: string) =>
    drillPart(
      { steps: [{ set: 'major', pattern: 'scale' }] },
      { level: 'beginner', instrument: given(id) },
    ).line.sections.map(({ writtenKey }) => writtenKey.tonic.step + (writtenKey.tonic.alter < 0 ? 'b' : ''));
  expect(['trumpet-bb', 'horn-f', 'violin', 'trombone', 'clarinet-bb'].map((id) => keys(id).join(' '))).toEqual([
    'C G F',
    'C F G',
    'D A G',
    'Bb F Eb',
    'G F C',
  ]);
});

/** A trumpet's partials are those of its tubes; a flute has none. */
test('lip slurs are the partials of one length of tube', () => {
  const of = (instrument: Instrument) =>
    layDrill(
      { steps: [{ set: 'major', pattern: 'lip-slurs' }], keys: [{ step: 'B', alter: -1 }] },
      { level: 'intermediate', instrument },
    );
  expect(of(given('trumpet-bb')).sections[0]?.notes.map(printPitch).join(' ')).toBe('C4 G4 C5 E5 G5 E5 C5 G4 C4');
  expect(of(given('flute')).sections).toEqual([]);
});

test('one shape goes through the keys with the same fingers, and pairs of chords never move the hand', () => {
  const guitar = given('guitar');
  const page = pageRequest({ marks: 'all' }, guitar, 'advanced');
  const fingered = (step: Exercise, keys: DrillIdea['keys']) => {
    const { value, line: made } = drillPart({ steps: [step], keys }, { level: 'advanced', instrument: guitar, page });
    const notes = value.fingered?.line.notes ?? [];
    let at = 0;
    return made.sections.map((section) => {
      const own = notes.slice(at, (at += section.notes.length));
      return own.flatMap(({ fingering }) => (fingering?.kind === 'fretted' ? [fingering] : []));
    });
  };
  const shapes = fingered({ set: 'dorian', pattern: 'scale', extent: 'octave', hand: 'shape' }, 'semitones').map(
    (notes) => notes.map(({ string, fret, hand }) => `${string}/${fret - hand}`).join(' '),
  );
  expect([shapes.length, new Set(shapes).size, shapes[0]?.split(' ').length]).toEqual([12, 1, 15]);
  for (const pairs of fingered({ set: 'major', pattern: 'chord-pairs' }, 'fourths'))
    expect([new Set(pairs.map(({ hand }) => hand)).size, pairs.length % 8]).toEqual([1, 1]);
});

test('a place of the hand holds a bowed drill, and a break has its own', () => {
  const violin = given('violin');
  const third = placesOf(violin, 'advanced').find(({ hand }) => hand === 3);
  const { value } = drillPart(
    { steps: [{ set: 'major', pattern: 'scale' }], keys: [{ step: 'C', alter: 0 }] },
    { level: 'advanced', instrument: violin, page: pageRequest({ marks: 'all' }, violin, 'advanced') },
    { ...(third && { extent: third.range }), hand: 3 },
  );
  const positions = value.fingered?.line.notes.map(
    ({ fingering }) => fingering?.kind === 'bowed' && fingering.position,
  );
  expect(new Set(positions)).toEqual(new Set([3]));
  expect(placesOf(given('clarinet-bb'), 'intermediate').map(({ name }) => name)).toEqual(['across the break at B4']);
});
