import { phrasesOf } from '../../analysis';
import { chordTones } from '../../harmony';
import { type Instrument, toSounding } from '../../instruments';
import {
  alterInSignature,
  chroma,
  type Key,
  namePitchClass,
  naturalAt,
  parseKey,
  type Pitch,
  type PitchClass,
  semitones,
  signatureOf,
  staffPosition,
  transpose,
} from '../../pitch';
import { type Bar, type BarSpan, barSpans, type Note, soundingNotes, type Tune, withoutSecondPart } from '../../score';
import { beatsOf, middleOf, spellNoteLength, type Ticks } from '../../time';
import { inKey } from '../fit/inKey';
import { partOfLine, type Part } from '../parts/part';

/** How many notes the easier part has: one a bar, two (one in bars without a middle), or one a beat. */
export const UNDER_PACES = ['bar', 'half', 'beat'] as const;
export type UnderPace = (typeof UNDER_PACES)[number];

/**
 * What a note costs against what sounds, for each beat of it; figures ours, the order is that of any harmony text:
 * chord tones, then what lies a whole step above one, last what rubs by a half step.
 */
const COSTS = {
  root: 0,
  /** More than it costs to go to the root for a bar and back: where an open string is the root, it is played. */
  fifth: 0.3,
  otherTone: 0.4,
  /** A seventh or what is stacked on it: a tone of the chord, but one that wants to move. */
  seventh: 0.5,
  colour: 1,
  rub: 3,
  /** Another note than the one before, and each letter of the way beyond a third. */
  change: 0.35,
  leap: 0.06,
  /** A phrase that ends on another note than the root of its chord. */
  openEnd: 0.5,
} as const;

/** Beyond this mean cost a beat, the notes do not fit the key. */
const FITS = 0.75;

export interface UnderPart {
  readonly part: Part;
  /** Written; those that are used. */
  readonly used: readonly Pitch[];
  /** Mean cost of a beat, 0 where every note is of its chord. */
  readonly roughness: number;
  readonly fits: boolean;
  /** Concert keys in which the same notes fit better, best first; none where they fit. */
  readonly better: readonly Key[];
}

/**
 * The notes an easiest part is made of, written: the open strings where there are any, else the first notes of the
 * instrument's first home key, upwards from the lowest tonic that beginners have.
 * @param count of notes for instruments without strings: three or five
 */
export function firstNotes(instrument: Instrument, count: 3 | 5): readonly Pitch[] {
  const { mechanism, range, homeKeys } = instrument;
  if (mechanism.kind === 'bowed' || mechanism.kind === 'fretted') return mechanism.strings;
  const home = parseKey(homeKeys[0] ?? 'C');
  const signature = home.ok ? signatureOf(home.value) : 0;
  const tonic = home.ok ? home.value.tonic : { step: 'C' as const, alter: 0 };
  const lowest =
    Array.from({ length: 9 }, (_, octave): Pitch => ({ ...tonic, octave })).find(
      (pitch) => semitones(pitch) >= semitones(range.beginner.low),
    ) ?? range.beginner.low;
  return Array.from({ length: count }, (_, k) => naturalAt(staffPosition(lowest) + k))
    .map((natural) => ({ ...natural, alter: alterInSignature(natural.step, signature) }))
    .filter((pitch) => semitones(pitch) <= semitones(range.beginner.high));
}

interface Place {
  readonly bar: number;
  readonly at: Ticks;
  readonly length: Ticks;
  /** Cost of each allowed note here. */
  readonly costs: readonly number[];
}

/**
 * A part from a few notes that fits under the tune: chord tones first, then the gentlest clash, few changes; where a
 * phrase has the chords of an earlier one, it has its notes. Where there are no chords, the tune's own notes are what
 * it must fit. Rule: chord tones first, then the gentlest clash; few changes; where the tune's phrases repeat, so does
 * this part; where no allowed note fits, it says so and proposes another key.
 * @param allowed written pitches, one at least
 */
export function underPart(
  tune: Tune,
  instrument: Instrument,
  allowed: readonly Pitch[],
  pace: UnderPace,
  key: Key = tune.key,
  perMinute?: number,
): UnderPart {
  if (allowed.length === 0) throw new RangeError('an easier part needs a note');
  const made = lineUnder(tune, instrument, allowed, pace, key);
  const fits = made.roughness <= FITS;
  const keys = fits
    ? []
    : TONICS.flatMap((tonic) => {
        const parsed = parseKey(`${tonic} ${tune.key.mode}`);
        return parsed.ok
          ? [{ key: parsed.value, roughness: lineUnder(tune, instrument, allowed, pace, parsed.value).roughness }]
          : [];
      });
  return {
    part: withFormLine(
      partOfLine(
        { ...tune, key: made.tune.key, bars: made.tune.bars },
        { level: 'beginner', instrument, keyAndTempo: { perMinute } },
      ),
      tune,
    ),
    used: allowed.filter((_, index) => made.used.has(index)),
    roughness: made.roughness,
    fits,
    better: keys
      .filter(({ roughness }) => roughness < made.roughness && roughness <= FITS)
      .toSorted((a, b) => a.roughness - b.roughness)
      .slice(0, 3)
      .map((one) => one.key),
  };
}

/** More letters than these are no form that anybody says. */
const MAX_LETTERS = 8;

/**
 * The part with its form in a line of words before the music, as it is taught: `A A B A   A: D D A D   B: G G D D`, a
 * name for each note that is struck; phrases with the same notes have one letter.
 */
function withFormLine(part: Part, tune: Tune): Part {
  const own = soundingNotes({ bars: part.bars, meter: part.meter });
  const notes = soundingNotes(tune);
  const starts = [...new Set(phrasesOf(tune).map(({ from }, k) => (k === 0 ? 0 : (notes[from]?.bar ?? 0))))];
  const letters: string[] = [];
  const rows: string[] = [];
  starts.forEach((from, k) => {
    const to = starts[k + 1] ?? part.bars.length;
    const row = own
      .filter(({ bar }) => bar >= from && bar < to)
      .map(({ pitch }) => namePitchClass(pitch))
      .join(' ');
    if (!rows.includes(row)) rows.push(row);
    letters.push(String.fromCharCode(65 + rows.indexOf(row)));
  });
  if (rows.length > MAX_LETTERS || letters.length < 2) return part;
  const told = rows.map((row, k) => `${String.fromCharCode(65 + k)}: ${row}`);
  return { ...part, lead: [letters.join(' '), ...told] };
}

const TONICS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'] as const;

function lineUnder(
  tune: Tune,
  instrument: Instrument,
  allowed: readonly Pitch[],
  pace: UnderPace,
  key: Key,
): { readonly tune: Tune; readonly roughness: number; readonly used: ReadonlySet<number> } {
  const line: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const keyed: Tune = { ...line, ...inKey(line, key) };
  const spans = barSpans(keyed);
  const concert = allowed.map((pitch) => transpose(pitch, toSounding(instrument)));
  const beat = beatsOf(keyed.meter)[0]?.length ?? 1;
  const places = placesOf(keyed, spans, concert, pace);
  const choices = choose(places, concert, keyed, spans, beat);
  const used = new Set(choices);
  const bars = keyed.bars.map((bar, index): Bar => {
    const span = spans[index];
    if (!span) return bar;
    const { jumps: _, ...plain } = bar;
    return {
      ...plain,
      ...(bar.jumps && { jumps: bar.jumps }),
      events: places.flatMap((place, k) =>
        place.bar === index ? eventsAt(bar, span, place, concert[choices[k] ?? 0]) : [],
      ),
    };
  });
  const cost = places.reduce((sum, place, k) => sum + (place.costs[choices[k] ?? 0] ?? 0) * (place.length / beat), 0);
  const beats = places.reduce((sum, { length }) => sum + length / beat, 0);
  return { tune: { ...keyed, bars }, roughness: beats === 0 ? 0 : cost / beats, used };
}

function eventsAt(bar: Bar, span: BarSpan, { at, length }: Place, pitch: Pitch | undefined): readonly Note[] {
  if (!pitch) return [];
  const pieces = spellNoteLength(span.offset + at, length, span.meter);
  return pieces.map((piece, k): Note => ({
    kind: 'note',
    id: `${bar.id}.u${at}${k > 0 ? `.${k}` : ''}`,
    pitch,
    length: piece,
    ...(k < pieces.length - 1 && { tied: true as const }),
  }));
}

/** Where the part strikes a note, and what each allowed note costs there. */
function placesOf(tune: Tune, spans: readonly BarSpan[], concert: readonly Pitch[], pace: UnderPace): readonly Place[] {
  const notes = soundingNotes(tune);
  const chords = tune.bars.flatMap((bar, index) =>
    bar.chords.map(({ at, symbol }) => ({
      start: (spans[index]?.start ?? 0) + at,
      tones: chordTones(symbol).map(({ pitchClass }) => pitchClass),
    })),
  );
  return spans.flatMap((span, bar): readonly Place[] => {
    const middle = middleOf(span.meter);
    const starts =
      pace === 'beat'
        ? beatsOf(span.meter).map(({ start }) => start)
        : pace === 'half' && middle !== undefined
          ? [0, middle]
          : [0];
    const inside = [
      ...new Set([span.offset, ...starts.filter((start) => start > span.offset && start < span.offset + span.length)]),
    ];
    return inside.map((start, k) => {
      const from = span.start + start - span.offset;
      const to = span.start + (inside[k + 1] ?? span.offset + span.length) - span.offset;
      const under = chords.filter((chord, index) => chord.start < to && (chords[index + 1]?.start ?? Infinity) > from);
      const parts = under.some(({ tones }) => tones.length > 0)
        ? under.map((chord, index) => ({
            tones: chord.tones,
            share: Math.min(to, under[index + 1]?.start ?? to) - Math.max(from, chord.start),
          }))
        : notes
            .filter((note) => note.start < to && note.start + note.length > from)
            .map((note) => ({
              tones: [note.pitch] as readonly PitchClass[],
              share: Math.min(to, note.start + note.length) - Math.max(from, note.start),
            }));
      const whole = Math.max(
        1,
        parts.reduce((sum, { share }) => sum + share, 0),
      );
      return {
        bar,
        at: start - span.offset,
        length: to - from,
        costs: concert.map((pitch) =>
          parts.reduce((sum, { tones, share }) => sum + (clash(pitch, tones) * share) / whole, 0),
        ),
      };
    });
  });
}

function clash(pitch: Pitch, tones: readonly PitchClass[]): number {
  if (tones.length === 0) return 0;
  const place = tones.findIndex((tone) => chroma(tone) === chroma(pitch));
  if (place > 2) return COSTS.seventh;
  if (place >= 0) return place === 0 ? COSTS.root : place === 2 ? COSTS.fifth : COSTS.otherTone;
  const rubs = tones.some((tone) => [1, 11].includes((chroma(pitch) - chroma(tone) + 12) % 12));
  return rubs ? COSTS.rub : COSTS.colour;
}

/** One allowed note for each place, by shortest path; a phrase with the costs of an earlier one takes its notes. */
function choose(
  places: readonly Place[],
  concert: readonly Pitch[],
  tune: Tune,
  spans: readonly BarSpan[],
  beat: Ticks,
): readonly number[] {
  const notes = soundingNotes(tune);
  const cuts = phrasesOf(tune).map(({ from }) => notes[from]?.bar ?? 0);
  const chosen: number[] = [];
  const known = new Map<string, readonly number[]>();
  for (let k = 0; k < Math.max(1, cuts.length); k += 1) {
    const from = k === 0 ? 0 : (cuts[k] ?? 0);
    const to = cuts[k + 1] ?? spans.length;
    const here = places.filter(({ bar }) => bar >= from && bar < to);
    const name = JSON.stringify(here.map(({ costs, length }) => [length, costs.map((cost) => Math.round(cost * 100))]));
    const row = known.get(name) ?? shortestPath(here, concert, beat, chosen.at(-1));
    known.set(name, row);
    chosen.push(...row);
  }
  return chosen;
}

function shortestPath(
  places: readonly Place[],
  concert: readonly Pitch[],
  beat: Ticks,
  before: number | undefined,
): readonly number[] {
  interface Path {
    readonly cost: number;
    readonly note: number;
    readonly before?: Path;
  }
  const step = (from: number | undefined, to: number) => {
    const [a, b] = [from === undefined ? undefined : concert[from], concert[to]];
    return !a || !b || from === to
      ? 0
      : COSTS.change + COSTS.leap * Math.max(0, Math.abs(staffPosition(a) - staffPosition(b)) - 2);
  };
  let paths: readonly Path[] | undefined;
  for (const [index, place] of places.entries()) {
    const earlier = paths;
    paths = concert.map((_, note): Path => {
      const cost = place.costs[note] ?? 0;
      const here =
        cost * (place.length / beat) + (index === places.length - 1 && cost > COSTS.root ? COSTS.openEnd : 0);
      if (!earlier) return { cost: here + step(before, note), note };
      const best = earlier.reduce((least, path) =>
        path.cost + step(path.note, note) < least.cost + step(least.note, note) ? path : least,
      );
      return { cost: here + best.cost + step(best.note, note), note, before: best };
    });
  }
  const row: number[] = [];
  for (let path = paths?.reduce((least, one) => (one.cost < least.cost ? one : least)); path; path = path.before)
    row.unshift(path.note);
  return row;
}
