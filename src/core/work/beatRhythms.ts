import { type Beat, beatsOf, type Meter, TICKS_PER_QUARTER } from '../time';

/** How short the rhythm words of a line may be, longest first. */
export const SHORTEST = ['half', 'quarter', 'eighth', '16th'] as const;
export type Shortest = (typeof SHORTEST)[number];

/** A beat that is halved, as a quarter is, or one that has three parts, as a dotted quarter has. */
export type BeatKind = 'simple' | 'compound';

export interface BeatRhythmEntry {
  readonly kind: BeatKind;
  /** The note values that are read, in the beat of 4/4 and 6/8. */
  readonly name: string;
  /**
   * What the beat begins with and what comes later in it, by twelfths of the beat: a note, a rest, or what is held from
   * before.
   */
  readonly begins: 'note' | 'held' | 'rest';
  readonly notes?: readonly number[];
  readonly rest?: number;
}

/**
 * The rhythm words that a teacher can allow one by one: what fills one beat, in the order of first tutor books (even
 * parts, then dotted and tied ones, then smaller parts). One note to a beat, longer notes and rests of whole beats are
 * read by everybody and need no word. Rule: rhythm words allowed, a set per beat kind, also for compound meters.
 */
export const BEAT_RHYTHMS = {
  'two-eighths': { kind: 'simple', name: 'two eighths', begins: 'note', notes: [6] },
  'eighth-rest': { kind: 'simple', name: 'eighth and rest', begins: 'note', rest: 6 },
  'rest-eighth': { kind: 'simple', name: 'rest and eighth', begins: 'rest', notes: [6] },
  'held-eighth': { kind: 'simple', name: 'dotted quarter and eighth', begins: 'held', notes: [6] },
  'four-sixteenths': { kind: 'simple', name: 'four sixteenths', begins: 'note', notes: [3, 6, 9] },
  'eighth-sixteenths': { kind: 'simple', name: 'eighth and two sixteenths', begins: 'note', notes: [6, 9] },
  'sixteenths-eighth': { kind: 'simple', name: 'two sixteenths and eighth', begins: 'note', notes: [3, 6] },
  'dotted-eighth': { kind: 'simple', name: 'dotted eighth and sixteenth', begins: 'note', notes: [9] },
  'short-long-short': { kind: 'simple', name: 'sixteenth, eighth, sixteenth', begins: 'note', notes: [3, 9] },
  'long-short': { kind: 'compound', name: 'quarter and eighth', begins: 'note', notes: [8] },
  'three-eighths': { kind: 'compound', name: 'three eighths', begins: 'note', notes: [4, 8] },
  'short-long': { kind: 'compound', name: 'eighth and quarter', begins: 'note', notes: [4] },
  'long-rest': { kind: 'compound', name: 'quarter and rest', begins: 'note', rest: 8 },
  'short-rest': { kind: 'compound', name: 'eighth and rest', begins: 'note', rest: 4 },
  'rest-short': { kind: 'compound', name: 'rest and eighth', begins: 'rest', notes: [8] },
  'rest-two-shorts': { kind: 'compound', name: 'rest and two eighths', begins: 'rest', notes: [4, 8] },
  'held-short': { kind: 'compound', name: 'held note and eighth', begins: 'held', notes: [8] },
  'held-two-shorts': { kind: 'compound', name: 'held note and two eighths', begins: 'held', notes: [4, 8] },
} as const satisfies Readonly<Record<string, BeatRhythmEntry>>;
export type BeatRhythm = keyof typeof BEAT_RHYTHMS;
export const ALL_BEAT_RHYTHMS = Object.keys(BEAT_RHYTHMS) as readonly BeatRhythm[];

/** A beat that is a power of two of a quarter is halved; any other has three parts. */
export function kindOfBeat({ length }: Pick<Beat, 'length'>): BeatKind {
  return Number.isInteger(Math.log2(length / TICKS_PER_QUARTER)) ? 'simple' : 'compound';
}

/** The kinds of beat that a meter has, each once: both in 5/8. */
export function beatKinds(meter: Meter): readonly BeatKind[] {
  return [...new Set(beatsOf(meter).map(kindOfBeat))];
}

/**
 * The words of a list that are about a kind of beat; none where it says nothing of that kind, and its usual words hold.
 */
export function rhythmsOfKind(words: readonly BeatRhythm[], kind: BeatKind): readonly BeatRhythm[] | undefined {
  const about = words.filter((word) => BEAT_RHYTHMS[word].kind === kind);
  return about.length > 0 || words.length === 0 ? about : undefined;
}

/** The words that a shortest value allows by itself, dotted rhythms among them. */
export function rhythmsWithin(shortest: Shortest, kind: BeatKind): readonly BeatRhythm[] {
  return ALL_BEAT_RHYTHMS.filter((word) => BEAT_RHYTHMS[word].kind === kind && fits(word, gridOf(shortest, kind)));
}

const WIDEST: readonly number[] = [0];
/** Where in a beat notes may begin, in twelfths of it. */
function gridOf(shortest: Shortest, kind: BeatKind): readonly number[] {
  if (shortest === 'half') return WIDEST;
  if (kind === 'compound')
    return shortest === 'quarter' ? [0, 8] : shortest === 'eighth' ? [0, 4, 8] : [0, 2, 4, 6, 8, 10];
  return shortest === 'quarter' ? WIDEST : shortest === 'eighth' ? [0, 6] : [0, 3, 6, 9];
}

/** Whether the notes and the rest of a rhythm begin where notes may. @param grid twelfths of a beat */
export function fits(word: BeatRhythm, grid: readonly number[]): boolean {
  const { notes = [], rest }: BeatRhythmEntry = BEAT_RHYTHMS[word];
  return [...notes, ...(rest === undefined ? [] : [rest])].every((at) => grid.includes(at));
}

/** The longest shortest value that has all of these words in it. */
export function shortestOf(words: readonly BeatRhythm[], kind: BeatKind): Shortest {
  return (
    (['quarter', 'eighth', '16th'] as const).find((shortest) =>
      words.every((word) => fits(word, gridOf(shortest, kind))),
    ) ?? '16th'
  );
}
