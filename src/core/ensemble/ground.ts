import { phrasesOf } from '../analysis';
import { derived } from '../derived';
import { type ChordSymbol, chordTones, type ChordTone } from '../harmony';
import { chroma, type Key, type PitchClass } from '../pitch';
import {
  type Bar,
  type BarSpan,
  barNumbers,
  barSpans,
  keysOf,
  type SoundingNote,
  soundingNotes,
  type Tune,
} from '../score';
import { barTicks, beatsOf, isCompound, middleOf, type Ticks, TICKS_PER_QUARTER } from '../time';

/** A chord with its place in the tune, and the twelve notes it speaks of. */
export interface GroundChord {
  readonly symbol: ChordSymbol;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly tones: readonly ChordTone[];
  /** The twelve notes (0 is C) that the chord has, as bits. */
  readonly bits: number;
  /** Of the twelve; what the bass plays is the root unless the symbol names another. */
  readonly root: number;
  readonly bass: PitchClass;
  readonly third?: number;
  readonly fifth?: number;
  readonly seventh?: number;
  /** Its third leads on upwards: it is a major chord with a minor seventh, or on the fifth degree. */
  readonly leads: boolean;
}

/** A stretch for which one pitch is chosen: from a strong beat, a chord or a bar to the next. */
export interface Slot {
  readonly bar: number;
  readonly from: Ticks;
  readonly to: Ticks;
  /** A strong beat begins it. */
  readonly isStrong: boolean;
  /** The first strong beat of its chord. */
  readonly isChordStart: boolean;
  /** None before the first chord and under N.C. */
  readonly chord?: GroundChord;
}

/** A run of bars over which the parts keep their roles. */
export interface Section {
  /** Index of the first bar, and of the one after the last. */
  readonly from: number;
  readonly to: number;
  /** Where the tune's phrase begins: in the bar before, where it has a pickup. */
  readonly starts: Ticks;
  /** Sections with the same notes have the same letter, counted from 0. */
  readonly letter: number;
}

/** A tune as the arranger looks at it, in its key and with chords. */
export interface Ground {
  readonly tune: Tune;
  readonly spans: readonly BarSpan[];
  readonly keys: readonly Key[];
  readonly notes: readonly SoundingNote[];
  readonly chords: readonly GroundChord[];
  readonly slots: readonly Slot[];
  readonly end: Ticks;
  /** Ticks at which phrases of the tune begin. */
  readonly phraseStarts: ReadonlySet<Ticks>;
}

/**
 * Where strong beats stand in a bar, from its beginning as it is written: one in two and three, one and three in four,
 * each dotted beat in compound meters, the first of each group in fives and sevens. A pickup and the second half of a
 * divided bar have none.
 */
function strongPlaces({ offset, length, meter }: BarSpan, isPickup: boolean): readonly Ticks[] {
  if (isPickup || offset > 0) return [];
  const beats = beatsOf(meter);
  const isGrouped = isCompound(meter) || (meter.unit >= 8 && beats.length < meter.count);
  const middle = middleOf(meter);
  const sevens = meter.count === 7 && beats.length === 7 ? [beats[4]?.start ?? 0] : [];
  const places = isGrouped
    ? beats.map(({ start }) => start)
    : [0, ...(middle === undefined ? [] : [middle]), ...sevens];
  return places.filter((at) => at < length);
}

/** Two tunes with the same bars are the same ground; what else stands at a tune's head does not matter. */
export const groundOf = derived(freshGround, { by: ({ bars, meter, key }) => [bars, meter, key] });

function freshGround(tune: Tune): Ground {
  const spans = barSpans(tune);
  const last = spans.at(-1);
  const end = last ? last.start + last.length : 0;
  const keys = keysOf(tune);
  const chords = chordsOf(tune.bars, spans, end);
  const notes = soundingNotes(tune);
  return {
    tune,
    spans,
    keys,
    notes,
    chords,
    slots: slotsOf(tune, spans, chords),
    end,
    phraseStarts: new Set(phrasesOf(tune).map(({ from }) => notes[from]?.start ?? 0)),
  };
}

function chordsOf(bars: readonly Bar[], spans: readonly BarSpan[], end: Ticks): readonly GroundChord[] {
  const placed = bars.flatMap((bar, index) =>
    bar.chords.map(({ at, symbol }) => ({ from: (spans[index]?.start ?? 0) + at, symbol })),
  );
  return placed.map(({ from, symbol }, k) => groundChord(symbol, from, placed[k + 1]?.from ?? end));
}

function groundChord(symbol: ChordSymbol, from: Ticks, to: Ticks): GroundChord {
  const tones = chordTones(symbol);
  const of = (degree: number) => {
    const tone = tones.find((one) => one.degree === degree);
    return tone && chroma(tone.pitchClass);
  };
  const root: PitchClass = symbol.kind === 'chord' ? symbol.root : { step: 'C', alter: 0 };
  const [third, fifth, seventh] = [of(3), of(5), of(7)];
  const rootClass = chroma(root);
  return {
    symbol,
    from,
    to,
    tones,
    bits: tones.reduce((bits, { pitchClass }) => bits | (1 << chroma(pitchClass)), 0),
    root: rootClass,
    bass: symbol.kind === 'chord' ? (symbol.bass ?? root) : root,
    ...(third !== undefined && { third }),
    ...(fifth !== undefined && { fifth }),
    ...(seventh !== undefined && { seventh }),
    leads:
      third !== undefined &&
      (third - rootClass + 12) % 12 === 4 &&
      seventh !== undefined &&
      (seventh - rootClass + 12) % 12 === 10,
  };
}

function slotsOf(tune: Tune, spans: readonly BarSpan[], chords: readonly GroundChord[]): readonly Slot[] {
  const slots: Slot[] = [];
  let next = 0;
  let chord: GroundChord | undefined;
  let begun: GroundChord | undefined;
  spans.forEach((span, bar) => {
    const isPickup = bar === 0 && span.offset > 0;
    const strong = new Set(strongPlaces(span, isPickup));
    const changes = (tune.bars[bar]?.chords ?? []).map(({ at }) => at);
    const cuts = [...new Set([0, ...strong, ...changes.map(onGrid)])]
      .filter((at) => at < span.length)
      .toSorted((a, b) => a - b);
    cuts.forEach((at, k) => {
      const from = span.start + at;
      for (let one = chords[next]; one && one.from <= from; one = chords[next]) {
        chord = one;
        next += 1;
      }
      const isStrong = strong.has(at);
      const isChordStart = isStrong && chord !== begun;
      if (isStrong) begun = chord;
      slots.push({
        bar,
        from,
        to: span.start + (cuts[k + 1] ?? span.length),
        isStrong,
        isChordStart,
        ...(chord && chord.tones.length > 0 && { chord }),
      });
    });
  });
  return slots;
}

/** Accompanying notes begin on sixteenths at the finest: a chord inside a tuplet is heard from the next one on. */
function onGrid(at: Ticks): Ticks {
  return Math.ceil(at / GRID) * GRID;
}

/** Sixteenths. */
const GRID: Ticks = TICKS_PER_QUARTER / 4;

/** A tune of at most so many bars is handed round every four bars, a longer one every eight. */
const SHORT_TUNE = 12;

/**
 * The tune in sections at which roles may change: at double bars, repeats, endings and names of sections, and else
 * where phrases begin, every eight bars or so (four in a short tune).
 */
export const sectionsOf = derived(freshSections, { by: ({ bars, meter, key }) => [bars, meter, key] });

function freshSections(tune: Tune): readonly Section[] {
  const { spans, notes, phraseStarts } = groundOf(tune);
  const numbers = barNumbers(tune);
  const total = numbers.at(-1) ?? 0;
  const length = total <= SHORT_TUNE ? 4 : 8;
  const places = [...phraseStarts]
    .toSorted((a, b) => a - b)
    .map((starts) => ({ starts, bar: barAfter(spans, starts) }));
  const from: { bar: number; starts: Ticks }[] = [{ bar: 0, starts: 0 }];
  const isForm = (bar: number) => {
    const [here, before] = [tune.bars[bar], tune.bars[bar - 1]];
    // An ending belongs to what it ends.
    if (!here || here.ending) return false;
    return (
      here.section !== undefined ||
      here.repeatStart === true ||
      before?.repeatEnd !== undefined ||
      before?.barline === 'double'
    );
  };
  const barsBetween = (a: number, b: number) => (numbers[b] ?? total + 1) - Math.max(1, numbers[a] ?? 1);
  for (let bar = 1; bar < tune.bars.length; bar += 1) {
    const since = barsBetween(from.at(-1)?.bar ?? 0, bar);
    const left = total + 1 - (numbers[bar] ?? 0);
    const place = places.find((one) => one.bar === bar);
    const isDue = place !== undefined && since >= length && left >= length / 2;
    if ((isForm(bar) && since >= 4) || isDue) from.push({ bar, starts: place?.starts ?? spans[bar]?.start ?? 0 });
  }
  const letters: string[] = [];
  return from.map(({ bar, starts }, k): Section => {
    const to = from[k + 1]?.bar ?? tune.bars.length;
    const begin = spans[bar]?.start ?? 0;
    const words = notes
      .filter((note) => note.bar >= bar && note.bar < Math.min(to, bar + 4))
      .map((note) => `${chroma(note.pitch)}:${note.start - begin}`)
      .join(' ');
    if (!letters.includes(words)) letters.push(words);
    // A phrase that begins inside a tuplet is handed on at the barline.
    const isWhole = (begin - starts) % GRID === 0;
    return { from: bar, to, starts: isWhole ? Math.min(starts, begin) : begin, letter: letters.indexOf(words) };
  });
}

/** The bar that a phrase begins: its own where it begins in the first half, else the next. */
function barAfter(spans: readonly BarSpan[], at: Ticks): number {
  const bar = spans.findLastIndex(({ start }) => start <= at);
  const span = spans[bar];
  if (!span) return 0;
  return at === span.start || span.offset + at - span.start < barTicks(span.meter) / 2 ? bar : bar + 1;
}

/** The section in which a bar lies. */
export function sectionAt(sections: readonly Section[], bar: number): number {
  return Math.max(
    0,
    sections.findLastIndex(({ from }) => from <= bar),
  );
}
