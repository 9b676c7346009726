import type { Phrase } from '../../analysis/phrases';
import { withPairedHairpins, withPairedSlurs, withTrueTies } from '../../score/balance';
import { barSpans, soundingNotes, type BarSpan, type SoundingNote } from '../../score/sounding';
import {
  barNumbers,
  isNote,
  quartersPerMinute,
  type Bar,
  type EventId,
  type Rest,
  type Tempo,
  type Tune,
} from '../../score/tune';
import { spellRestLength } from '../../time/spellLength';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import type { Change } from '../change';
import type { BarChoice, Melody } from '../recipe/recipe';
import { beatsRead, FIRST_WORDS, type RhythmWords, type Shortest } from '../simplify/slots';
import { thin, type Thinned } from '../simplify/simplify';

export interface ShapeWishes {
  readonly melody: Melody;
  /** Of a thinned melody. */
  readonly shortest: Shortest;
  /** Notes a second that the level plays; a bar beyond it is eased. */
  readonly fastest: number | undefined;
  readonly tempo: Tempo;
  /** Whether notes may lean over a beat, or be held over a barline; the tune's own may where nothing is said, a thinned melody's may not lean. */
  readonly syncopation: boolean | undefined;
  readonly ties: boolean | undefined;
  /** Of a thinned melody: whether dotted rhythms may come. */
  readonly dotted: boolean | undefined;
  readonly outOfReach: ReadonlySet<EventId>;
  /** Bars set by hand, by index. */
  readonly chosen: ReadonlyMap<number, BarChoice>;
}

/** The notes that a level takes of a tune, before octave and dress. */
export interface Shaped {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
  readonly changes: readonly Change[];
  readonly fidelity: number;
}

/** Tuplets that an intermediate player reads; others are eased. */
const USUAL_TUPLETS: ReadonlySet<string> = new Set(['3/2', '2/3', '6/4', '4/3']);

/** Thins or eases the tune as its level says, and puts the bars there that a teacher chose. */
export function shape(
  tune: Tune,
  phrases: readonly Phrase[],
  { melody, shortest, fastest, tempo, syncopation, ties, dotted, outOfReach, chosen }: ShapeWishes,
): Shaped {
  const asIs: Thinned = { tune, phrases, changes: [], fidelity: 100 };
  const words: RhythmWords = {
    shortest,
    syncopation: syncopation ?? FIRST_WORDS.syncopation,
    ...(ties === false && { untied: true as const }),
    ...(dotted === false && { undotted: true as const }),
  };
  const isFree = fastest === undefined && syncopation !== false && ties !== false;
  const base =
    melody === 'thinned'
      ? thin(tune, phrases, outOfReach, words)
      : isFree
        ? asIs
        : eased(tune, phrases, fastest ?? Infinity, tempo, { leans: syncopation !== false, holds: ties !== false });
  if (chosen.size === 0) return base;
  const made = new Map<BarChoice['kind'], Thinned>();
  const version = (kind: BarChoice['kind']): Thinned => {
    const known = made.get(kind);
    if (known) return known;
    const fresh =
      kind === 'thinner'
        ? thinnedTo(FIRST_WORDS.shortest, tune, phrases)
        : kind === 'thinner-still'
          ? thinnedTo('half', tune, phrases)
          : kind === 'as-written' || kind === 'dressed'
            ? asIs
            : base;
    made.set(kind, fresh);
    return fresh;
  };
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const changes: Change[] = base.changes.filter(({ barIndex }) => !chosen.has(barIndex));
  const bars = base.tune.bars.map((bar, index): Bar => {
    const choice = chosen.get(index);
    const span = spans[index];
    if (!choice || !span) return bar;
    const from = version(choice.kind);
    const taken = from.tune.bars[index] ?? bar;
    changes.push(...from.changes.filter(({ barIndex }) => barIndex === index));
    const tell = (variant: 'rest' | 'optional', events: readonly EventId[]) =>
      changes.push({ bar: numbers[index] ?? 0, barIndex: index, detail: { kind: 'chosen', variant }, events });
    if (choice.kind === 'optional') {
      tell('optional', []);
      return { ...taken, events: taken.events.map((event) => ({ ...event, optional: true as const })) };
    }
    if (choice.kind !== 'rest') return taken;
    const rests = spellRestLength(span.offset, span.length, span.meter).map((length, k): Rest => ({
      kind: 'rest',
      id: `${bar.id}.z${k}`,
      length,
    }));
    tell(
      'rest',
      rests.map(({ id }) => id),
    );
    return { ...taken, events: rests };
  });
  const assembled = { ...tune, bars: joined(bars) };
  return {
    tune: assembled,
    phrases: phrasesIn(assembled, tune, phrases),
    changes: changes.toSorted((a, b) => a.barIndex - b.barIndex),
    fidelity: base.fidelity,
  };
}

/** Bars of several versions as one line: marks without their other half go, and a note that two versions put in different bars is two. */
export function joined(bars: readonly Bar[]): readonly Bar[] {
  const seen = new Set<EventId>();
  const named = bars.map((bar): Bar => {
    const events = bar.events.map((event) => {
      const id = seen.has(event.id) ? `${event.id}.v` : event.id;
      seen.add(id);
      return id === event.id ? event : { ...event, id };
    });
    return events.every((event, k) => event === bar.events[k]) ? bar : { ...bar, events };
  });
  return withPairedHairpins(withPairedSlurs(withTrueTies(named).bars).bars).bars;
}

/** Thinner versions of a tune for its bars to be taken from, kept as long as the tune object itself. */
const thinnedVersions = new WeakMap<Tune, Map<Shortest, Thinned>>();

function thinnedTo(shortest: Shortest, tune: Tune, phrases: readonly Phrase[]): Thinned {
  const known = thinnedVersions.get(tune) ?? new Map<Shortest, Thinned>();
  thinnedVersions.set(tune, known);
  const made = known.get(shortest) ?? thin(tune, phrases, new Set(), { ...FIRST_WORDS, shortest });
  known.set(shortest, made);
  return made;
}

/** The phrases of a tune as runs of the notes of another version of it, by where they begin. */
export function phrasesIn(version: Tune, tune: Tune, phrases: readonly Phrase[]): readonly Phrase[] {
  const source = soundingNotes(tune);
  const starts = soundingNotes(version).map(({ start }) => start);
  const firsts = phrases.map(({ from }, index) => (index === 0 ? 0 : (source[from]?.start ?? Infinity)));
  let note = 0;
  return firsts.flatMap((_, index): readonly Phrase[] => {
    const from = note;
    const end = firsts[index + 1] ?? Infinity;
    while (note < starts.length && (starts[note] ?? end) < end) note += 1;
    return note > from ? [{ from, to: note }] : [];
  });
}

/** Whether notes may lean over a beat, and be held over a barline. */
interface Freedom {
  readonly leans: boolean;
  readonly holds: boolean;
}

/** Bars beyond the level, with fewer notes; those next to them go along where a note is held between. */
function eased(
  tune: Tune,
  phrases: readonly Phrase[],
  fastest: number,
  tempo: Tempo,
  { leans, holds }: Freedom,
): Thinned {
  const ticksPerSecond = (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60;
  const spans = barSpans(tune);
  const notes = soundingNotes(tune);
  const leaning = new Set(leans ? [] : notes.filter((note) => leansOver(note, spans)).map(({ bar }) => bar));
  const held = new Set(
    holds
      ? []
      : notes.flatMap(({ start, length }) =>
          spans.flatMap((span, index) => (span.start > start && span.start < start + length ? [index - 1, index] : [])),
        ),
  );
  const hard = new Set(
    tune.bars.flatMap((bar, index) =>
      leaning.has(index) || held.has(index) || isBeyond(bar, fastest, ticksPerSecond) ? [index] : [],
    ),
  );
  if (hard.size === 0) return { tune, phrases, changes: [], fidelity: 100 };
  const shortest: Shortest = ticksPerSecond / (TICKS_PER_QUARTER / 4) > fastest ? 'eighth' : '16th';
  const easy = thin(tune, phrases, new Set(), {
    shortest,
    syncopation: leans,
    ...(!holds && { untied: true as const }),
  });
  const taken = new Set(hard);
  const opens = (version: Tune, index: number) => {
    const last = version.bars[index]?.events.at(-1);
    return last !== undefined && isNote(last) && last.tied === true;
  };
  // A tie over the barline belongs to both bars: they are taken from the same version.
  for (let before = 0; before < taken.size;) {
    before = taken.size;
    for (const index of [...taken]) {
      if (index > 0 && opens(tune, index - 1) !== opens(easy.tune, index - 1)) taken.add(index - 1);
      if (index + 1 < spans.length && opens(tune, index) !== opens(easy.tune, index)) taken.add(index + 1);
    }
  }
  const bars = joined(tune.bars.map((bar, index) => (taken.has(index) ? (easy.tune.bars[index] ?? bar) : bar)));
  const version = { ...tune, bars };
  const share = taken.size / Math.max(1, tune.bars.length);
  return {
    tune: version,
    phrases: phrasesIn(version, tune, phrases),
    changes: easy.changes.filter(({ barIndex }) => taken.has(barIndex)),
    fidelity: Math.round(100 - (100 - easy.fidelity) * share),
  };
}

/** Begins off the beat and sounds on over the next one. */
function leansOver({ bar, inBar, length }: SoundingNote, spans: readonly BarSpan[]): boolean {
  const beats = beatsRead(spans[bar]?.meter ?? { count: 4, unit: 4 });
  const beat = beats.findLast(({ start }) => start <= inBar);
  return beat !== undefined && inBar > beat.start && inBar + length > beat.start + beat.length;
}

function isBeyond(bar: Bar, fastest: number, ticksPerSecond: number): boolean {
  const notes = bar.events.filter(isNote);
  if (
    notes.some(
      ({ tuplet }) => tuplet && (tuplet.outer !== undefined || !USUAL_TUPLETS.has(`${tuplet.actual}/${tuplet.normal}`)),
    )
  )
    return true;
  if (notes.some(({ length, tuplet }) => !tuplet && length < TICKS_PER_QUARTER / 4)) return true;
  // Two quick notes are a grace; four in a row are a passage.
  let run = 0;
  return notes.some(({ length }) => {
    run = ticksPerSecond / length > fastest ? run + 1 : 0;
    return run >= 4;
  });
}
