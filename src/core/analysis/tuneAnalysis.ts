import { chromaBits, MELODY_SCALES, type Scale, SCALE_OF_MODE, scaleOn } from '../harmony';
import {
  chroma,
  type Key,
  keyWithSignature,
  type Pitch,
  type PitchClass,
  semitones,
  signatureOf,
  staffPosition,
} from '../pitch';
import { barNumbers, barSpans, hasPickup, type SoundingNote, soundingNotes, type Tune, unfold } from '../score';
import type { Ticks } from '../time';
import { labelPhrases, phraseShape, type PhraseHead, type PhraseRelation } from './comparePhrases';
import { contourOf, movementsOf, type Contour, type Movement } from './contour';
import { findKey, type KeyFinding } from './findKey';
import { phrasesOf, type Phrase } from './phrases';
import { rhythmWords, type RhythmWord } from './rhythmWords';

/** What a tune is made of. Pitches are concert. Bar numbers are as printed. */
export interface TuneAnalysis {
  readonly key: KeyFinding;
  /** Named sets that hold the whole melody, smallest first; those on the home note before others of the size. */
  readonly scales: readonly Scale[];
  /** Notes outside the found key's own scale. */
  readonly outside: readonly { readonly bar: number; readonly barIndex: number; readonly pitch: Pitch }[];
  readonly range?: { readonly lowest: Pitch; readonly highest: Pitch };
  readonly leaps: readonly Leap[];
  readonly rhythms: readonly RhythmWord[];
  readonly phrases: readonly PhraseFinding[];
  /** As printed, like `A A′ B A`. */
  readonly form: string;
  /** With repeats and jumps played out. */
  readonly playedForm: string;
  /** Length of the incomplete first bar; 0 for none. */
  readonly pickup: Ticks;
}

/** An interval wider than a third. */
interface Leap {
  readonly from: Pitch;
  readonly to: Pitch;
  readonly bar: number;
}

export interface PhraseFinding {
  /** Into the sounding notes. */
  readonly notes: Phrase;
  readonly fromBar: number;
  readonly toBar: number;
  readonly fromBarIndex: number;
  readonly toBarIndex: number;
  readonly label: string;
  readonly contour: Contour;
  readonly movements: readonly Movement[];
  readonly pitches: readonly Pitch[];
  readonly startsOn: Pitch;
  readonly endsOn: Pitch;
  /** Where it has several endings: printed bar numbers of each. */
  readonly endings?: readonly { readonly fromBar: number; readonly toBar: number }[];
  /** How it goes back to an earlier phrase (index into the phrases). */
  readonly kin?: { readonly of: number; readonly relation: PhraseRelation };
  /** Printed numbers of the bars in which it differs from that phrase. */
  readonly differsAt: readonly number[];
}

/** In staff steps: a third is two. */
const WIDEST_SKIP = 2;

export function analyseTune(tune: Tune): TuneAnalysis {
  const notes = soundingNotes(tune);
  const numbers = barNumbers(tune);
  const key = findKey(tune);
  const phrases = findPhrases(tune, notes, numbers);
  const extremes = rangeOf(notes);
  const inScale = chromaBits(scaleOn(key.key.tonic, SCALE_OF_MODE[key.key.mode]).notes);
  return {
    key,
    scales: scalesThatHold(notes, key.key),
    outside: notes.flatMap(({ pitch, bar }) =>
      inScale & (1 << chroma(pitch)) ? [] : [{ bar: numbers[bar] ?? 0, barIndex: bar, pitch }],
    ),
    ...(extremes && { range: extremes }),
    leaps: notes.flatMap(({ pitch, bar }, index): Leap[] => {
      const before = notes[index - 1]?.pitch;
      return before && Math.abs(staffPosition(pitch) - staffPosition(before)) > WIDEST_SKIP
        ? [{ from: before, to: pitch, bar: numbers[bar] ?? 0 }]
        : [];
    }),
    rhythms: rhythmWords(tune),
    phrases,
    form: phrases.map(({ label }) => label).join(' '),
    playedForm: playedForm(tune, notes, phrases),
    pickup: hasPickup(tune) ? (tune.bars[0]?.partial ?? 0) : 0,
  };
}

function rangeOf(notes: readonly SoundingNote[]): TuneAnalysis['range'] {
  const pitches = notes.map(({ pitch }) => pitch);
  const [first] = pitches;
  if (!first) return undefined;
  return {
    lowest: pitches.reduce((low, next) => (semitones(next) < semitones(low) ? next : low), first),
    highest: pitches.reduce((high, next) => (semitones(next) > semitones(high) ? next : high), first),
  };
}

function findPhrases(tune: Tune, notes: readonly SoundingNote[], numbers: readonly number[]): readonly PhraseFinding[] {
  const spans = barSpans(tune);
  const cut = phrasesOf(tune);
  const shapes = cut.map((phrase, index) => phraseShape(phrase, notes, spans, endingBefore(tune, cut, index, notes)));
  const labelled = labelPhrases(shapes);
  const found = cut.flatMap((phrase, index): PhraseFinding[] => {
    const own = notes.slice(phrase.from, phrase.to);
    const [first, last] = [own[0], own.at(-1)];
    const named = labelled[index];
    if (!first || !last || !named) return [];
    const pitches = own.map(({ pitch }) => pitch);
    const relation = named.kin?.relation;
    const differs =
      relation && 'differs' in relation ? relation.differs.map((note) => note - (shapes[index]?.before ?? 0)) : [];
    const toBarIndex = barOfEnd(last, spans);
    return [
      {
        notes: phrase,
        fromBar: numbers[first.bar] ?? 0,
        toBar: numbers[toBarIndex] ?? 0,
        fromBarIndex: first.bar,
        toBarIndex,
        label: named.label,
        contour: contourOf(pitches),
        movements: movementsOf(pitches),
        pitches,
        startsOn: first.pitch,
        endsOn: last.pitch,
        ...(named.kin && { kin: named.kin }),
        differsAt: [
          ...new Set(differs.filter((note) => note >= 0).map((note) => numbers[own[note]?.bar ?? first.bar] ?? 0)),
        ],
      },
    ];
  });
  return withEndings(
    found,
    cut.map((_, index) => headOf(tune, cut, index, notes)),
    notes,
    numbers,
    tune,
  );
}

/** Longest later ending, in bars, that still belongs to the phrase before it; a longer one is a phrase of its own. */
const MAX_ENDING = 2;

/** First and second endings are one phrase with two endings, not a phrase of a few notes. */
function withEndings(
  found: readonly PhraseFinding[],
  heads: readonly (number | undefined)[],
  notes: readonly SoundingNote[],
  numbers: readonly number[],
  tune: Tune,
): readonly PhraseFinding[] {
  const belongsTo = found.map((phrase, index) => {
    const head = heads[index];
    return head !== undefined && phrase.toBarIndex - phrase.fromBarIndex < MAX_ENDING ? head : undefined;
  });
  if (belongsTo.every((head) => head === undefined)) return found;
  // A third ending belongs to where the second one does; indices count the phrases that are left.
  const owner = (index: number): number => {
    const head = belongsTo[index];
    return head === undefined ? index : owner(head);
  };
  const place = new Map<number, number>();
  belongsTo.forEach((head, index) => {
    if (head === undefined) place.set(index, place.size);
  });
  return found.flatMap((phrase, index): readonly PhraseFinding[] => {
    if (belongsTo[index] !== undefined) return [];
    const later = found.filter((_, k) => k !== index && owner(k) === index);
    const kin = phrase.kin && { ...phrase.kin, of: place.get(owner(phrase.kin.of)) ?? 0 };
    if (later.length === 0) return [{ ...phrase, ...(kin && { kin }) }];
    const firstEnding = tune.bars.findIndex((bar, k) => k >= phrase.fromBarIndex && bar.ending?.includes(1) === true);
    const last = later.at(-1) ?? phrase;
    const span = { from: phrase.notes.from, to: last.notes.to };
    return [
      {
        ...phrase,
        ...(kin && { kin }),
        notes: span,
        pitches: notes.slice(span.from, span.to).map(({ pitch }) => pitch),
        endsOn: last.endsOn,
        toBar: last.toBar,
        toBarIndex: last.toBarIndex,
        endings: [
          { fromBar: numbers[firstEnding] ?? phrase.toBar, toBar: phrase.toBar },
          ...later.map(({ fromBar, toBar }) => ({ fromBar, toBar })),
        ],
      },
    ];
  });
}

/**
 * A second ending is heard after the phrase whose first ending it replaces: the notes of that phrase up to its ending,
 * and how much later the new ending is printed.
 */
function endingBefore(
  tune: Tune,
  cut: readonly Phrase[],
  index: number,
  notes: readonly SoundingNote[],
): PhraseHead | undefined {
  const bar = notes[cut[index]?.from ?? -1]?.bar;
  const head = cut[headOf(tune, cut, index, notes) ?? -1];
  if (bar === undefined || !head) return undefined;
  const firstEnding = tune.bars.findLastIndex((one, k) => k < bar && one.ending?.includes(1));
  return {
    notes: notes.slice(head.from, head.to).filter((note) => note.bar < firstEnding),
    barsLater: bar - firstEnding,
  };
}

/** Of a phrase that begins with a later ending: the index of the phrase in which the first ending stands. */
function headOf(tune: Tune, cut: readonly Phrase[], index: number, notes: readonly SoundingNote[]): number | undefined {
  const bar = notes[cut[index]?.from ?? -1]?.bar;
  const ending = bar === undefined ? undefined : tune.bars[bar]?.ending;
  if (bar === undefined || !ending || ending.includes(1)) return undefined;
  const firstEnding = tune.bars.findLastIndex((one, k) => k < bar && one.ending?.includes(1));
  const head = cut.findLastIndex(
    ({ from, to }, k) => k < index && notes.slice(from, to).some((note) => note.bar === firstEnding),
  );
  return head < 0 ? undefined : head;
}

/** The labels in the order in which they are heard. */
function playedForm(tune: Tune, notes: readonly SoundingNote[], phrases: readonly PhraseFinding[]): string {
  const phraseOfBar = tune.bars.map((_, bar) => {
    const shares = phrases.map((phrase) =>
      notes
        .slice(phrase.notes.from, phrase.notes.to)
        .reduce((sum, note) => sum + (note.bar === bar ? note.length : 0), 0),
    );
    const most = Math.max(0, ...shares);
    return most > 0 ? shares.indexOf(most) : undefined;
  });
  const heard: { phrase: number; bar: number }[] = [];
  for (const bar of unfold(tune.bars).order) {
    const phrase = phraseOfBar[bar];
    const last = heard.at(-1);
    if (phrase === undefined || (last?.phrase === phrase && bar > last.bar)) {
      if (last) last.bar = bar;
      continue;
    }
    const ending = tune.bars[bar]?.ending;
    // A later ending is the phrase before it, ended otherwise.
    if (last && ending && !ending.includes(1)) heard.pop();
    heard.push({ phrase, bar });
  }
  return heard.map(({ phrase }) => phrases[phrase]?.label ?? '').join(' ');
}

/** The bar in which a held last note stops. */
function barOfEnd(last: SoundingNote, spans: ReturnType<typeof barSpans>): number {
  const end = last.start + last.length;
  let bar = last.bar;
  while (bar + 1 < spans.length && (spans[bar + 1]?.start ?? Infinity) < end) bar += 1;
  return bar;
}

/** Every named set on every tonic that holds all notes. Tonics are spelled as in the key's own neighbourhood. */
function scalesThatHold(notes: readonly SoundingNote[], home: Key): readonly Scale[] {
  const heard = chromaBits(notes.map(({ pitch }) => pitch));
  if (heard === 0) return [];
  const fitting = tonicsNear(home).flatMap((tonic) =>
    MELODY_SCALES.map((name) => scaleOn(tonic, name)).filter((scale) => (heard & ~chromaBits(scale.notes)) === 0),
  );
  const isHome = ({ tonic }: Scale) => chroma(tonic) === chroma(home.tonic);
  const own = SCALE_OF_MODE[home.mode];
  const order = (scale: Scale) =>
    scale.notes.length * 100 +
    (isHome(scale) ? 0 : 50) +
    (scale.name === own ? 0 : 1 + MELODY_SCALES.findIndex((name) => name === scale.name));
  return fitting.toSorted((a, b) => order(a) - order(b));
}

/** The twelve tonics as they are spelled around a signature: five flats' side to six sharps' side of it. */
function tonicsNear(home: Key): readonly PitchClass[] {
  const signature = signatureOf(home);
  return Array.from({ length: 12 }, (_, k) => keyWithSignature(signature - 4 + k, 'major').tonic).map((tonic) =>
    Math.abs(tonic.alter) > 1
      ? keyWithSignature(
          signature > 0 ? signatureOf({ tonic, mode: 'major' }) - 12 : signatureOf({ tonic, mode: 'major' }) + 12,
          'major',
        ).tonic
      : tonic,
  );
}
