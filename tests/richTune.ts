import fc from 'fast-check';
import { assembleBars, withSecondPart, type RawBar, type RawEvent } from '../src/core/formats/assemble';
import { parseChord } from '../src/core/harmony/chordSymbol';
import { keyWithSignature, MODES } from '../src/core/pitch/key';
import { LETTERS, type Pitch } from '../src/core/pitch/pitch';
import {
  ARTICULATIONS,
  DYNAMICS,
  HAIRPINS,
  ORNAMENTS,
  PHRASE_MARKS,
  RIGHTS,
  TUNE_SCHEMA,
  type Jump,
  type Lyric,
  type Tune,
} from '../src/core/score/tune';
import { inBeatsOf } from '../src/core/score/usualTempo';
import { scoreProblems } from '../src/core/score/validate';
import { barTicks, type Meter } from '../src/core/time/meter';
import { soundingTicks, type Tuplet } from '../src/core/time/noteValue';
import { TICKS_PER_QUARTER } from '../src/core/time/ticks';

/** A source of numbers 0–1 from a seed (mulberry32), so that one seed is one tune. */
function numbersFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const METERS: readonly Meter[] = [
  { count: 4, unit: 4 },
  { count: 3, unit: 4 },
  { count: 6, unit: 8 },
  { count: 2, unit: 2 },
  { count: 5, unit: 8 },
];

export interface Richness {
  /** Tuplets inside tuplets, and tuplets off the beat. */
  readonly oddTuplets: boolean;
  /** Marks that only our own documents and MusicXML hold. */
  readonly ownMarks: boolean;
  readonly second: boolean;
}

/** A tune with everything that the document can hold: for round trips. */
export function richTune(seed: number, { oddTuplets, ownMarks, second }: Richness): Tune {
  const next = numbersFrom(seed);
  const chance = (share: number) => next() < share;
  const whole = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  const pick = <One>(list: readonly One[]): One => list[Math.floor(next() * list.length)] as One;
  let tuplets = 0;
  const pitch = (): Pitch => ({ step: pick(LETTERS), alter: pick([0, 0, 0, 1, -1]), octave: whole(4, 5) });
  const marks = (): NonNullable<RawEvent['marks']> => ({
    ...(chance(0.15) && { articulations: [pick(ARTICULATIONS)] }),
    ...(chance(0.08) && { ornaments: [pick(ORNAMENTS)] }),
    ...(chance(0.08) && { dynamic: pick(DYNAMICS) }),
    ...(chance(0.04) && { fermata: true as const }),
    ...(ownMarks && chance(0.08) && { phrase: pick(PHRASE_MARKS) }),
  });
  const lyrics = (): readonly Lyric[] =>
    [1, 2].filter(() => chance(0.7)).map((verse) => ({ verse, text: pick(['la', 'du', "o'er", 'né']) }));
  const note = (length: number, tuplet?: Tuplet): RawEvent => {
    const optional = ownMarks && chance(0.1);
    if (chance(0.12)) return { length, ...(tuplet && { tuplet }), ...(optional && { marks: { optional: true } }) };
    const words = chance(0.3) ? lyrics() : [];
    return {
      pitch: pitch(),
      length,
      ...(tuplet && { tuplet }),
      ...(chance(0.06) && { graces: [{ pitch: pitch(), ...(chance(0.5) && { slashed: true as const }) }] }),
      marks: { ...marks(), ...(words.length > 0 && { lyrics: words }), ...(optional && { optional: true as const }) },
    };
  };
  const quarter = TICKS_PER_QUARTER;
  const mark = (actual: number, normal: number, outer?: Tuplet): Tuplet => {
    tuplets += 1;
    return { id: `t${tuplets}`, actual, normal, ...(outer && { outer }) };
  };
  const group = (): readonly RawEvent[] => {
    if (oddTuplets && chance(0.4)) {
      const outer = mark(3, 2);
      const inner = mark(3, 2, outer);
      const eighth = soundingTicks(quarter / 2, outer);
      const small = soundingTicks(quarter / 4, inner);
      return [note(eighth, outer), note(small, inner), note(small, inner), note(small, inner), note(eighth, outer)];
    }
    const [actual, normal, unit] = pick([
      [3, 2, quarter / 2],
      [5, 4, quarter / 4],
      [7, 4, quarter / 4],
    ] as const);
    const one = mark(actual, normal);
    return Array.from({ length: actual }, () => note(soundingTicks(unit, one), one));
  };
  const fill = (length: number): RawEvent[] => {
    const events: RawEvent[] = [];
    for (let left = length; left > 0;) {
      const onBeat = meter.unit <= 4 && (length - left) % quarter === 0 && length % quarter === 0;
      if (left >= quarter && (oddTuplets || onBeat) && chance(0.16)) {
        events.push(...group());
        left -= quarter;
        continue;
      }
      const ticks = Math.min(
        left,
        pick([quarter / 4, quarter / 2, quarter / 2, quarter, quarter, 1.5 * quarter, 2 * quarter]),
      );
      events.push(note(ticks));
      left -= ticks;
    }
    return events;
  };
  const chord = () => {
    const parsed = parseChord(pick(['C', 'Am7', 'Bb7', 'F#m7b5', 'G7#9', 'N.C.']));
    if (!parsed.ok) throw new Error('chord');
    return parsed.value;
  };
  const count = whole(4, 9);
  let meter = pick(METERS);
  const first = meter;
  const key = () => keyWithSignature(whole(-5, 5), pick(MODES.slice(0, 6)));
  const tuneKey = key();
  const pickup = chance(0.4) ? quarter / 2 : 0;
  const jumpPlan: readonly (readonly [number, Jump])[] = chance(0.4)
    ? [
        [1, 'segno'],
        [2, 'to-coda'],
        [count - 2, 'ds-al-coda'],
        [count - 1, 'coda'],
      ]
    : chance(0.3)
      ? [
          [1, 'fine'],
          [count - 1, 'dc-al-fine'],
        ]
      : [];
  const repeats = jumpPlan.length === 0 && chance(0.5);
  const raw: RawBar[] = [];
  if (pickup) raw.push({ events: fill(pickup), chords: [], place: {} });
  for (let k = 0; k < count; k += 1) {
    const changes = k > 1 && chance(0.12);
    const before = meter;
    if (changes) meter = pick(METERS.filter((one) => one !== before));
    const full = barTicks(meter);
    const jumps = jumpPlan.filter(([at]) => at === k).map(([, jump]) => jump);
    raw.push({
      events: fill(full),
      place: {},
      chords: chance(0.5) ? [{ at: 0, symbol: chord() }] : [],
      ...(changes && { meter }),
      ...(k > 0 && chance(0.1) && { key: key() }),
      ...(chance(0.15) && { section: pick(['A', 'B', 'Verse']) }),
      ...(jumps.length > 0 && { jumps }),
      ...(k > 0 &&
        chance(0.12) && {
          tempos: [
            {
              at: 0,
              // Readers count tempos in the meter's own beat.
              tempo: inBeatsOf(meter, {
                beat: { type: 'quarter', dots: 0 },
                perMinute: whole(50, 160),
                ...(chance(0.5) && { words: 'calm' }),
              }),
            },
          ],
        }),
      ...(repeats && k === 0 && { repeatStart: true }),
      ...(repeats && k === count - 2 && { ending: [1], repeatEnd: 2 }),
      ...(repeats && k === count - 1 && { ending: [2] }),
      ...(k === count - 1 && { barline: 'final' as const }),
    });
  }
  spanned(raw, next);
  const assembled = assembleBars(raw, first);
  if (assembled.problems.length > 0 || assembled.warnings.length > 0)
    throw new Error(JSON.stringify([assembled.problems, assembled.warnings]));
  const under = second
    ? withSecondPart(
        assembled.bars,
        assembled.bars.map((bar): RawBar => ({
          events: fill(bar.events.reduce((sum, { length }) => sum + length, 0)),
          chords: [],
          place: {},
        })),
        first,
      )
    : undefined;
  const tune: Tune = {
    schema: TUNE_SCHEMA,
    title: pick(['Rich & <plain>', 'Ünder', 'T']),
    composer: 'Nobody',
    rights: pick(RIGHTS),
    key: tuneKey,
    meter: first,
    tempo: inBeatsOf(first, { beat: { type: 'quarter', dots: pick([0, 1] as const) }, perMinute: whole(40, 200) }),
    ...(ownMarks && chance(0.4) && { swing: { unit: 'eighth' as const, ratio: 1.5 } }),
    bars: under?.bars ?? assembled.bars,
  };
  const broken = [...(under?.problems ?? []), ...scoreProblems(tune)];
  if (broken.length > 0) throw new Error(`the generator made a broken tune (${seed}): ${JSON.stringify(broken)}`);
  return tune;
}

/** Ties, slurs and hairpins, laid over notes that follow one another. */
function spanned(raw: RawBar[], next: () => number): void {
  const places = raw.flatMap((bar, barIndex) =>
    bar.events.flatMap((event, k) => (event.pitch ? [{ barIndex, k }] : [])),
  );
  const change = (
    { barIndex, k }: { readonly barIndex: number; readonly k: number },
    edit: (event: RawEvent) => RawEvent,
  ) => {
    const bar = raw[barIndex];
    if (bar) raw[barIndex] = { ...bar, events: bar.events.map((event, index) => (index === k ? edit(event) : event)) };
  };
  for (let at = 0; at + 4 < places.length; at += 5) {
    const [from, to] = [places[at], places[at + 2]];
    if (!from || !to) continue;
    if (next() < 0.4) {
      change(from, (event) => ({ ...event, marks: { ...event.marks, slurStarts: 1 } }));
      change(to, (event) => ({ ...event, marks: { ...event.marks, slurEnds: 1 } }));
    }
    if (next() < 0.25) {
      const hairpin = HAIRPINS[next() < 0.5 ? 0 : 1];
      change(from, (event) => ({ ...event, marks: { ...event.marks, hairpin } }));
      change(to, (event) => ({ ...event, marks: { ...event.marks, hairpinEnds: true } }));
    }
  }
  raw.forEach((bar, barIndex) =>
    bar.events.forEach((event, k) => {
      const after = bar.events[k + 1] ?? raw[barIndex + 1]?.events[0];
      if (event.pitch && after?.pitch && next() < 0.08) {
        const { pitch } = event;
        const target = bar.events[k + 1] ? { barIndex, k: k + 1 } : { barIndex: barIndex + 1, k: 0 };
        change({ barIndex, k }, (one) => ({ ...one, tied: true }));
        change(target, (one) => ({ ...one, pitch }));
      }
    }),
  );
  // A tie whose other end got another pitch from a later one is none.
  const flat = raw.flatMap((bar, barIndex) => bar.events.map((event, k) => ({ event, barIndex, k })));
  flat.forEach(({ event, barIndex, k }, index) => {
    const after = flat[index + 1]?.event;
    const isTrue =
      after?.pitch &&
      event.pitch &&
      after.pitch.step === event.pitch.step &&
      after.pitch.alter === event.pitch.alter &&
      after.pitch.octave === event.pitch.octave;
    if (event.tied && !isTrue) change({ barIndex, k }, ({ tied: _, ...one }) => one);
  });
}

export const anySeed = fc.integer({ min: 0, max: 1_000_000 });
