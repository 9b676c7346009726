import { derived } from '../../derived';
import type { Phrase } from '../../analysis';
import { type Bar, barNumbers, barSpans, type EventId, mapNotes, type Rest, type Tempo, type Tune } from '../../score';
import { spellRestLength } from '../../time';
import type { BarChoice, Change, Melody, RhythmLimits, Shortest } from '../../work';
import { eased, type Freedom } from '../simplify/ease';
import { FIRST_WORDS, type RhythmWords } from '../simplify/slots';
import { simplify, type Simplified } from '../simplify/simplify';
import { joined, phrasesIn } from '../bars/versions';

export interface ShapeWishes {
  readonly melody: Melody;
  /**
   * What a field does not say is as the tune has it; a simplified melody is by default in a beginner's rhythm words.
   */
  readonly rhythm: RhythmLimits;
  /** Notes a second that the level plays; a bar beyond it is eased. */
  readonly fastest: number | undefined;
  readonly tempo: Tempo;
  readonly outOfReach: ReadonlySet<EventId>;
  /** Whether the instrument plays the grace notes of pipers: three and more before a note. */
  readonly pipes: boolean;
  /** Bars set by hand, by index. */
  readonly chosen: ReadonlyMap<number, BarChoice>;
}

/** The notes that a level takes of a tune, before octaves and embellishment. */
export interface Shaped {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
  readonly changes: readonly Change[];
}

/** Simplifies or eases the tune as its level says, and puts the bars there that a teacher chose. */
export function shape(
  tune: Tune,
  phrases: readonly Phrase[],
  { melody, rhythm, fastest, tempo, outOfReach, pipes, chosen }: ShapeWishes,
): Shaped {
  const asIs: Simplified = pipes ? { tune, phrases, changes: [] } : withoutPiping(tune, phrases);
  const words: RhythmWords = {
    shortest: rhythm.shortest ?? FIRST_WORDS.shortest,
    syncopation: rhythm.offBeat ?? FIRST_WORDS.syncopation,
    ...(rhythm.ties === false && { untied: true as const }),
    ...(rhythm.words ? { words: rhythm.words } : rhythm.dotted === false && { undotted: true as const }),
  };
  const freedom: Freedom = { leans: rhythm.offBeat !== false, holds: rhythm.ties !== false };
  const isFree = fastest === undefined && freedom.leans && freedom.holds;
  const base =
    melody === 'simplified'
      ? simplify(tune, phrases, outOfReach, words)
      : isFree
        ? asIs
        : withPipingOf(asIs, eased(asIs.tune, phrases, fastest ?? Infinity, tempo, freedom));
  if (chosen.size === 0) return base;
  const made = new Map<BarChoice['kind'], Simplified>();
  const version = (kind: BarChoice['kind']): Simplified => {
    const known = made.get(kind);
    if (known) return known;
    const fresh =
      kind === 'simpler'
        ? simplifiedTo(FIRST_WORDS.shortest, tune, phrases)
        : kind === 'simplest'
          ? simplifiedTo('half', tune, phrases)
          : kind === 'as-written' || kind === 'embellished'
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
  };
}

/** From so many grace notes before one note on, they are a piper's. */
const PIPING = 3;

/** The tune without the grace notes of pipers; each bar says so. */
function withoutPiping(tune: Tune, phrases: readonly Phrase[]): Simplified {
  const numbers = barNumbers(tune);
  const counts = new Map<number, number>();
  const bars = mapNotes(tune.bars, (note, index) => {
    const { graces = [], ...plain } = note;
    if (graces.length < PIPING) return note;
    counts.set(index, (counts.get(index) ?? 0) + graces.length);
    return plain;
  });
  if (counts.size === 0) return { tune, phrases, changes: [] };
  const changes = [...counts].map(([barIndex, count]): Change => ({
    bar: numbers[barIndex] ?? 0,
    barIndex,
    events: [],
    detail: { kind: 'graces', count, isPiping: true },
  }));
  return { tune: { ...tune, bars }, phrases, changes };
}

/** What was eased of a tune whose piping was left out, with a word for both. */
function withPipingOf(piping: Simplified, easier: Simplified): Simplified {
  return piping.changes.length === 0 ? easier : { ...easier, changes: [...piping.changes, ...easier.changes] };
}

/** A simpler version of a tune, for its bars to be taken from. */
const simplifiedTo = derived((shortest: Shortest, tune: Tune, phrases: readonly Phrase[]): Simplified =>
  simplify(tune, phrases, new Set(), { ...FIRST_WORDS, shortest }),
);
