import { derived } from '../../derived';
import { type BowedFingering, describeFingering, fingeringsFor, type FrettedFingering, markOf } from '../../fingering';
import { type ChordSymbol, chordTones, printChord, type RootedChord, transposeChord } from '../../harmony';
import { type Instrument, type Level, toSounding, profileOf } from '../../instruments';
import { chroma, type Key, type Pitch, printPitch, readableInterval, semitones, transpose } from '../../pitch';
import {
  type Bar,
  type BarSpan,
  barSpans,
  type EventId,
  type Note,
  type Rest,
  type ScoreEvent,
  type Tune,
  withoutSecondPart,
} from '../../score';
import { beatsOf, isCompound, spellNoteLength, spellRestLength, type Ticks } from '../../time';
import { inKey } from '../fit/inKey';
import { partOfLine, type Part } from '../parts/part';

/**
 * Long bows, one a chord; a shuffle of long and two short; the same twice as quick. In beats of three: long and short,
 * then three.
 */
export const BOW_RHYTHMS = ['long', 'shuffle', 'quick'] as const;
export type BowRhythm = (typeof BOW_RHYTHMS)[number];

/** What each level begins with. */
export function usualBowRhythm(level: Level): BowRhythm {
  return profileOf(level).chordRhythm;
}

type StringFingering = BowedFingering | FrettedFingering;

/** Two notes of a chord on two neighbouring strings. Written pitch. */
export interface Grip {
  readonly low: Pitch;
  readonly high: Pitch;
  readonly lowFinger: StringFingering;
  readonly highFinger: StringFingering;
  /** Effort and what of the chord is missing; 0 is two open strings that say it all. */
  readonly cost: number;
}

export interface StringChords {
  readonly part: Part;
  /** The grips used, in order of coming, each once; a chord that is gripped in two ways has two. Written symbols. */
  readonly grips: readonly { readonly symbol: string; readonly grip: Grip }[];
  /** Chords without a grip in the first position; they rest. */
  readonly missing: readonly string[];
}

/**
 * Figures ours; the order is what string teachers say: open strings first, then one finger, fingers that do not cross,
 * little moving.
 */
const COSTS = {
  stopped: 1,
  perFinger: 0.15,
  /** Both strings under one finger: it lies across two. */
  acrossTwo: 1.2,
  /** A higher finger on the lower string, and the reverse, twists the hand a little. */
  stretch: 0.3,
  noRoot: 1.2,
  noThird: 0.8,
  sameNote: 1.5,
  /** The root below is what the ear expects. */
  rootAbove: 0.3,
  /** From one grip to the next: for each finger that changes, and for other strings. */
  change: 0.4,
  otherStrings: 0.5,
} as const;

/** Fingers reach so far above the nut without moving, in half steps: the first position of a violin, or four frets. */
const REACH = 7;

/** Whether an instrument can sound two strings at once. */
export function hasGrips({ mechanism }: Pick<Instrument, 'mechanism'>): boolean {
  return (mechanism.kind === 'bowed' || mechanism.kind === 'fretted') && mechanism.strings.length > 1;
}

/**
 * Grips for a chord as the player reads it, easiest first; empty where two neighbouring strings do not have two of its
 * notes in reach.
 */
export const gripsFor = derived(makeGrips, {
  most: 256,
  by: (symbol, instrument) => [instrument, printChord(symbol)],
});

function makeGrips(symbol: ChordSymbol, instrument: Instrument): readonly Grip[] {
  const { mechanism } = instrument;
  if (symbol.kind !== 'chord' || (mechanism.kind !== 'bowed' && mechanism.kind !== 'fretted')) return [];
  const tones = chordTones(symbol);
  const strings = mechanism.strings;
  const onString = strings.map((open, string) =>
    tones.flatMap(({ degree, pitchClass }) =>
      Array.from({ length: 9 }, (_, octave): Pitch => ({ ...pitchClass, octave })).flatMap((pitch) => {
        const above = semitones(pitch) - semitones(open);
        if (above < 0 || above > REACH) return [];
        const way = fingeringsFor(instrument, pitch)
          .map(({ fingering }) => fingering)
          .find(
            (one): one is StringFingering =>
              (one.kind === 'bowed' || one.kind === 'fretted') && one.string === strings.length - string && isNear(one),
          );
        return way ? [{ degree, pitch, way, above }] : [];
      }),
    ),
  );
  return onString
    .slice(1)
    .flatMap((uppers, index) =>
      (onString[index] ?? []).flatMap((lower) =>
        uppers.flatMap((upper): readonly Grip[] => {
          const [a, b] = [fingerOf(lower.way), fingerOf(upper.way)];
          // One finger cannot stop two heights at once.
          if (a > 0 && a === b && lower.above !== upper.above) return [];
          if (semitones(upper.pitch) <= semitones(lower.pitch)) return [];
          const degrees = [lower.degree, upper.degree];
          const cost =
            (a > 0 ? COSTS.stopped + COSTS.perFinger * a : 0) +
            (b > 0 ? COSTS.stopped + COSTS.perFinger * b : 0) +
            (a > 0 && a === b ? COSTS.acrossTwo : 0) +
            (a > 0 && b > 0 ? COSTS.stretch * Math.max(0, Math.abs(lower.above - upper.above) - 2) : 0) +
            (degrees.includes(1) ? 0 : COSTS.noRoot) +
            (degrees.some((degree) => degree === 3 || degree === 4 || degree === 2) ? 0 : COSTS.noThird) +
            (lower.degree === upper.degree ? COSTS.sameNote : 0) +
            (lower.degree !== 1 && degrees.includes(1) ? COSTS.rootAbove : 0);
          return [{ low: lower.pitch, high: upper.pitch, lowFinger: lower.way, highFinger: upper.way, cost }];
        }),
      ),
    )
    .toSorted((x, y) => x.cost - y.cost || semitones(x.low) - semitones(y.low));
}

function fingerOf(fingering: StringFingering): number {
  return fingering.kind === 'bowed' ? fingering.finger : fingering.fret;
}

/** In the first position, or on the first frets. */
function isNear(fingering: StringFingering): boolean {
  return fingering.kind === 'bowed' ? fingering.finger === 0 || fingering.position <= 1 : fingering.fret <= 4;
}

/** The chord names of a grip with its strings and fingers: `G3 open, D4 open`. */
export function describeGrip({ low, high, lowFinger, highFinger }: Grip, strings: readonly string[]): string {
  return `${printPitch(low)} ${describeFingering(lowFinger, strings)}, ${printPitch(high)} ${describeFingering(highFinger, strings)}`;
}

/**
 * The chords of a tune for a string player: two-string grips in a bow rhythm, little moving from one to the next.
 * Silent before the first chord and under N.C.; a chord that has no grip rests and is named.
 */
export function stringChords(
  tune: Tune,
  instrument: Instrument,
  level: Level,
  rhythm: BowRhythm,
  key: Key = tune.key,
  perMinute?: number,
): StringChords {
  if (!hasGrips(instrument)) throw new RangeError(`${instrument.name} has no two strings to sound together`);
  const keyed: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const concert: Tune = { ...keyed, ...inKey(keyed, key) };
  const spans = barSpans(concert);
  const stretches = stretchesOf(concert, spans);
  const written = readableInterval(concert.key, instrument.transposition);
  const asRead = stretches.map(({ symbol }) => transposeChord(symbol, written));
  const chosen = easiestGrips(asRead, instrument);
  const marks = new Map<EventId, string>();
  const bars = concert.bars.map((bar, index): Bar => {
    const span = spans[index];
    if (!span) return bar;
    let fresh = 0;
    const id = () => `${bar.id}.g${(fresh += 1)}`;
    const events: ScoreEvent[] = [];
    let at = 0;
    const silence = (to: Ticks) => {
      if (to > at)
        events.push(
          ...spellRestLength(span.offset + at, to - at, span.meter).map((length): Rest => ({
            kind: 'rest',
            id: id(),
            length,
          })),
        );
      at = to;
    };
    stretches.forEach((stretch, k) => {
      const grip = chosen[k];
      if (stretch.bar !== index || !grip) return;
      silence(stretch.from);
      const [low, high] = [grip.low, grip.high].map((pitch) => transpose(pitch, toSounding(instrument)));
      if (!low || !high) return;
      for (const piece of bowed(rhythm, span, stretch)) {
        const name = id();
        events.push({
          kind: 'note',
          id: name,
          pitch: low,
          chord: [high],
          length: piece.length,
          ...(piece.tied && { tied: true as const }),
          ...(piece.isAccented && { articulations: ['accent'] }),
        } satisfies Note);
        // Fingers stand where a grip begins.
        if (piece.isFirst) marks.set(name, `${markOf(grip.highFinger)} ${markOf(grip.lowFinger)}`);
      }
      at = stretch.to;
    });
    silence(span.length);
    const { jumps, ...plain } = bar;
    return { ...plain, ...(jumps && { jumps }), events };
  });
  const part = partOfLine(
    { ...concert, bars },
    {
      level,
      instrument,
      keyAndTempo: { perMinute },
      page: { aids: instrument.mechanism.kind === 'bowed' ? { bowing: 'first-half' } : {} },
    },
  );
  const names = asRead.map((symbol) => printChord(symbol));
  return {
    part: { ...part, fingered: { line: { notes: [], shifts: 0, crossings: 0, cost: 0, lostPins: [] }, marks } },
    grips: names.flatMap((symbol, k) => {
      const grip = chosen[k];
      if (!grip) return [];
      const isKnown = names.slice(0, k).some((other, before) => other === symbol && sameGrip(chosen[before], grip));
      return isKnown ? [] : [{ symbol, grip }];
    }),
    missing: [...new Set(names.filter((_, k) => !chosen[k]))],
  };
}

function sameGrip(a: Grip | undefined, b: Grip): boolean {
  return a !== undefined && semitones(a.low) === semitones(b.low) && semitones(a.high) === semitones(b.high);
}

interface Stretch {
  readonly bar: number;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly symbol: ChordSymbol;
}

/** Each bar's chords with their time; one goes on into the next bar until another comes. */
function stretchesOf(tune: Tune, spans: readonly BarSpan[]): readonly Stretch[] {
  let current: ChordSymbol | undefined;
  return tune.bars.flatMap(({ chords }, bar) => {
    const edges = [...(chords[0]?.at === 0 ? [] : [{ at: 0, symbol: current }]), ...chords];
    current = chords.at(-1)?.symbol ?? current;
    return edges.flatMap(({ at, symbol }, k): readonly Stretch[] => {
      const to = edges[k + 1]?.at ?? spans[bar]?.length ?? at;
      return symbol?.kind === 'chord' && to > at ? [{ bar, from: at, to, symbol }] : [];
    });
  });
}

/**
 * The cheapest row of grips in which no two roots are played alike: G and E say E minor, so C has another grip where both
 * are in the tune, if there is one in reach.
 */
function easiestGrips(symbols: readonly ChordSymbol[], instrument: Instrument): readonly (Grip | undefined)[] {
  const barred = new Map<string, Set<string>>();
  const allowed = (symbol: ChordSymbol) => {
    const all = gripsFor(symbol, instrument);
    const left = all.filter((grip) => !barred.get(printChord(symbol))?.has(pitchesOf(grip)));
    return (left.length > 0 ? left : all).slice(0, 12);
  };
  for (let round = 0; round < MAX_ROUNDS; round += 1) {
    const row = cheapestRow(symbols, allowed);
    const again = symbolToRegrip(symbols, row, barred);
    if (!again) return row;
    barred.set(again.symbol, (barred.get(again.symbol) ?? new Set()).add(again.grip));
  }
  return cheapestRow(symbols, allowed);
}

/** More chords than this are never alike in one tune. */
const MAX_ROUNDS = 24;

const pitchesOf = ({ low, high }: Grip) => `${printPitch(low)} ${printPitch(high)}`;

/** Of two chords on different roots that are gripped alike the one whose root the grip lacks, else the later one. */
function symbolToRegrip(
  symbols: readonly ChordSymbol[],
  row: readonly (Grip | undefined)[],
  barred: ReadonlyMap<string, ReadonlySet<string>>,
): { readonly symbol: string; readonly grip: string } | undefined {
  const owners = new Map<string, RootedChord>();
  for (const [k, grip] of row.entries()) {
    const symbol = symbols[k];
    if (!grip || symbol?.kind !== 'chord') continue;
    const id = pitchesOf(grip);
    const owner = owners.get(id);
    if (!owner || chroma(owner.root) === chroma(symbol.root)) {
      owners.set(id, owner ?? symbol);
      continue;
    }
    const has = ({ root }: RootedChord) => [grip.low, grip.high].some((pitch) => chroma(pitch) === chroma(root));
    const name = printChord(has(symbol) && !has(owner) ? owner : symbol);
    if (!barred.get(name)?.has(id)) return { symbol: name, grip: id };
  }
  return undefined;
}

/** The cheapest row of grips, by dynamic programming over the tune. */
function cheapestRow(
  symbols: readonly ChordSymbol[],
  allowed: (symbol: ChordSymbol) => readonly Grip[],
): readonly (Grip | undefined)[] {
  interface Path {
    readonly grip: Grip | undefined;
    readonly cost: number;
    readonly before: Path | undefined;
  }
  let paths: readonly Path[] = [{ grip: undefined, cost: 0, before: undefined }];
  for (const symbol of symbols) {
    const options: readonly (Grip | undefined)[] = allowed(symbol);
    paths = (options.length > 0 ? options : [undefined]).map((grip): Path => {
      const best = paths.reduce((least, path) =>
        path.cost + moveCost(path.grip, grip) < least.cost + moveCost(least.grip, grip) - 1e-9 ? path : least,
      );
      return { grip, cost: best.cost + moveCost(best.grip, grip) + (grip?.cost ?? 0), before: best };
    });
  }
  const row: (Grip | undefined)[] = [];
  for (
    let path: Path | undefined = paths.reduce((least, next) => (next.cost < least.cost - 1e-9 ? next : least));
    path?.before;
    path = path.before
  )
    row.push(path.grip);
  return row.toReversed();
}

function moveCost(before: Grip | undefined, after: Grip | undefined): number {
  if (!before || !after) return 0;
  const changes = [
    [before.lowFinger, after.lowFinger],
    [before.highFinger, after.highFinger],
  ].filter(([a, b]) => a && b && JSON.stringify(a) !== JSON.stringify(b)).length;
  return COSTS.change * changes + (before.lowFinger.string === after.lowFinger.string ? 0 : COSTS.otherStrings);
}

interface Piece {
  readonly length: Ticks;
  readonly tied: boolean;
  readonly isFirst: boolean;
  readonly isAccented: boolean;
}

/** The notes of a stretch in a rhythm; what begins or ends inside a beat is cut there. */
function bowed(rhythm: BowRhythm, span: BarSpan, { from, to }: Stretch): readonly Piece[] {
  const long = (start: Ticks, end: Ticks, isFirst: boolean): readonly Piece[] => {
    const pieces = spellNoteLength(span.offset + start, end - start, span.meter);
    return pieces.map((length, k) => ({
      length,
      tied: k < pieces.length - 1,
      isFirst: isFirst && k === 0,
      isAccented: false,
    }));
  };
  if (rhythm === 'long') return long(from, to, true);
  const beats = beatsOf(span.meter).map(({ start, length }) => ({ start: start - span.offset, length }));
  const pieces: Piece[] = [];
  let at = from;
  const put = (end: Ticks) => {
    const until = Math.min(end, to);
    if (until > at) pieces.push(...long(at, until, at === from));
    at = Math.max(at, until);
  };
  beats.forEach(({ start, length }, index) => {
    if (start + length <= from || start >= to) return;
    if (start < from) return put(start + length);
    const parts = isCompound(span.meter)
      ? rhythm === 'shuffle'
        ? [2 / 3, 1]
        : [1 / 3, 2 / 3, 1]
      : rhythm === 'shuffle'
        ? index % 2 === 0
          ? [1]
          : [1 / 2, 1]
        : [1 / 2, 3 / 4, 1];
    parts.forEach((part, k) => {
      const before = pieces.length;
      put(start + length * part);
      // The quick shuffle leans on the first of its group.
      const first = pieces[before];
      if (rhythm === 'quick' && k === 0 && first) pieces[before] = { ...first, isAccented: index % 2 === 1 };
    });
    return undefined;
  });
  put(to);
  return pieces;
}
