import type { Phrase } from '../../analysis/phrases';
import { barSpans } from '../../score/sounding';
import { barNumbers, type Bar, type EventId, type Rest, type Tempo, type Tune } from '../../score/tune';
import { spellRestLength } from '../../time/spellLength';
import type { Change } from '../change';
import type { Melody } from '../recipe/recipe';
import { eased, type Freedom } from '../simplify/ease';
import { FIRST_WORDS, type RhythmWords } from '../simplify/slots';
import { simplify, type Simplified } from '../simplify/simplify';
import type { BarChoice, RhythmLimits, Shortest } from '../recipe/groups';
import { joined, phrasesIn } from '../bars/versions';

export interface ShapeWishes {
  readonly melody: Melody;
  /** What a field does not say is as the tune has it; a simplified melody is by default in a beginner's rhythm words. */
  readonly rhythm: RhythmLimits;
  /** Notes a second that the level plays; a bar beyond it is eased. */
  readonly fastest: number | undefined;
  readonly tempo: Tempo;
  readonly outOfReach: ReadonlySet<EventId>;
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
  { melody, rhythm, fastest, tempo, outOfReach, chosen }: ShapeWishes,
): Shaped {
  const asIs: Simplified = { tune, phrases, changes: [] };
  const words: RhythmWords = {
    shortest: rhythm.shortest ?? FIRST_WORDS.shortest,
    syncopation: rhythm.offBeat ?? FIRST_WORDS.syncopation,
    ...(rhythm.ties === false && { untied: true as const }),
    ...(rhythm.dotted === false && { undotted: true as const }),
  };
  const freedom: Freedom = { leans: rhythm.offBeat !== false, holds: rhythm.ties !== false };
  const isFree = fastest === undefined && freedom.leans && freedom.holds;
  const base =
    melody === 'simplified'
      ? simplify(tune, phrases, outOfReach, words)
      : isFree
        ? asIs
        : eased(tune, phrases, fastest ?? Infinity, tempo, freedom);
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

/** Simpler versions of a tune for its bars to be taken from, kept as long as the tune object itself. */
const simplifiedVersions = new WeakMap<Tune, Map<Shortest, Simplified>>();

function simplifiedTo(shortest: Shortest, tune: Tune, phrases: readonly Phrase[]): Simplified {
  const known = simplifiedVersions.get(tune) ?? new Map<Shortest, Simplified>();
  simplifiedVersions.set(tune, known);
  const made = known.get(shortest) ?? simplify(tune, phrases, new Set(), { ...FIRST_WORDS, shortest });
  known.set(shortest, made);
  return made;
}
