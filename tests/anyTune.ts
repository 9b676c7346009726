import fc from 'fast-check';
import { assembleBars, type RawBar, type RawEvent } from '../src/core/formats/assemble';
import { parseChord } from '../src/core/harmony/chordSymbol';
import { keyWithSignature, MODES } from '../src/core/pitch/key';
import { LETTERS, type Pitch } from '../src/core/pitch/pitch';
import { TUNE_SCHEMA, type Tune } from '../src/core/score/tune';
import { inBeatsOf } from '../src/core/score/usualTempo';
import { scoreProblems } from '../src/core/score/validate';
import { barTicks, type Meter } from '../src/core/time/meter';
import { TICKS_PER_QUARTER } from '../src/core/time/ticks';

const EIGHTH = TICKS_PER_QUARTER / 2;

const anyMeter = fc.constantFrom<Meter>(
  { count: 4, unit: 4 },
  { count: 3, unit: 4 },
  { count: 2, unit: 4 },
  { count: 6, unit: 8 },
  { count: 9, unit: 8 },
  { count: 2, unit: 2, sign: 'cut' },
  { count: 5, unit: 4 },
  { count: 7, unit: 8 },
  { count: 12, unit: 8 },
  { count: 3, unit: 8 },
);

const anyPitch: fc.Arbitrary<Pitch> = fc.record({
  step: fc.constantFrom(...LETTERS),
  alter: fc.constantFrom(0, 0, 0, 0, 1, -1),
  octave: fc.constantFrom(4, 4, 5),
});
const anyChord = fc
  .constantFrom('C', 'Am7', 'F#m7b5', 'Bb7', 'Ebmaj7', 'G7#9', 'Dsus4', 'E°7', 'A7b9/C#', 'F6/9', 'N.C.')
  .map((text) => {
    const chord = parseChord(text);
    if (!chord.ok) throw new Error(text);
    return chord.value;
  });
/** Lengths in sixteenths: short, long and awkward ones. */
const anyLength = fc.constantFrom(1, 2, 2, 2, 3, 4, 4, 6, 8, 12, 5);

interface Seed {
  readonly pitch: Pitch;
  readonly length: number;
  readonly isRest: boolean;
  readonly tied: boolean;
  readonly isTriplet: boolean;
  readonly grace: boolean;
}

const anySeed: fc.Arbitrary<Seed> = fc.record({
  pitch: anyPitch,
  length: anyLength,
  isRest: fc.integer({ max: 7, min: 0 }).map((n) => n === 0),
  tied: fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
  isTriplet: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
  grace: fc.integer({ min: 0, max: 11 }).map((n) => n === 0),
});

/** Fills bars with seeds in turn; triplets are three eighths in the time of a quarter where there is room. */
function fill(seeds: readonly Seed[], lengths: readonly number[]): readonly RawEvent[][] {
  let next = 0;
  let tuplet = 0;
  let carried: Pitch | undefined;
  const take = () => seeds[next++ % seeds.length] as Seed;
  return lengths.map((length) => {
    const events: RawEvent[] = [];
    for (let left = length; left > 0;) {
      const seed = take();
      if (seed.isTriplet && left >= TICKS_PER_QUARTER && !carried) {
        tuplet += 1;
        const mark = { id: `t${tuplet}`, actual: 3, normal: 2 };
        for (let k = 0; k < 3; k += 1) events.push({ pitch: take().pitch, length: (EIGHTH * 2) / 3, tuplet: mark });
        left -= TICKS_PER_QUARTER;
        continue;
      }
      const ticks = Math.min(left, (seed.length * EIGHTH) / 2);
      const pitch = carried ?? (seed.isRest ? undefined : seed.pitch);
      carried = pitch && seed.tied && !seed.isRest ? pitch : undefined;
      events.push({
        ...(pitch && { pitch }),
        length: ticks,
        ...(carried && { tied: true }),
        ...(seed.grace && pitch && { graces: [{ pitch: seed.pitch }] }),
      });
      left -= ticks;
    }
    return events;
  });
}

/**
 * Sound tunes of all kinds: meters, pickups, ties over barlines, triplets, rests, grace notes, chords, repeats with
 * endings.
 */
export const anyTune: fc.Arbitrary<Tune> = fc
  .record({
    meter: anyMeter,
    seeds: fc.array(anySeed, { minLength: 3, maxLength: 40 }),
    count: fc.integer({ min: 1, max: 12 }),
    hasPickup: fc.boolean(),
    repeats: fc.boolean(),
    signature: fc.integer({ min: -6, max: 6 }),
    mode: fc.constantFrom(...MODES.slice(0, 6)),
    chords: fc.array(anyChord, { maxLength: 12 }),
    perMinute: fc.integer({ min: 30, max: 240 }),
  })
  .map(({ meter, seeds, count, hasPickup, repeats, signature, mode, chords, perMinute }) => {
    const full = barTicks(meter);
    const pickup = hasPickup && full > EIGHTH ? EIGHTH : 0;
    const lengths = [...(pickup ? [pickup] : []), ...Array<number>(count).fill(full)];
    const filled = fill(seeds, lengths);
    const first = pickup ? 1 : 0;
    const raw = filled.map((events, index): RawBar => {
      const chord = index >= first ? chords[index - first] : undefined;
      return {
        events,
        place: {},
        chords: chord ? [{ at: 0, symbol: chord }] : [],
        ...(repeats && count >= 4 && index === first && { repeatStart: true }),
        ...(repeats && count >= 4 && index === first + count - 2 && { ending: [1], repeatEnd: 2 }),
        ...(repeats && count >= 4 && index === first + count - 1 && { ending: [2], barline: 'final' as const }),
      };
    });
    const { bars, problems } = assembleBars(raw, meter);
    const tune: Tune = {
      schema: TUNE_SCHEMA,
      title: 'Any tune',
      rights: 'own',
      key: keyWithSignature(signature, mode),
      meter,
      tempo: inBeatsOf(meter, { beat: { type: 'quarter', dots: 0 }, perMinute }),
      bars,
    };
    const broken = [...problems, ...scoreProblems(tune)];
    if (broken.length > 0) throw new Error(`the generator made a broken tune: ${JSON.stringify(broken)}`);
    return tune;
  });
