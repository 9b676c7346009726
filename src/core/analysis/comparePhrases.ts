import { semitones, staffPosition } from '../pitch';
import type { BarSpan, SoundingNote } from '../score';
import type { Ticks } from '../time';
import type { Phrase } from './phrases';

/** A phrase by itself: its notes with times from its first barline, so that a pickup has negative ones. */
export interface PhraseShape {
  /** So many of the notes are printed elsewhere: those before a second ending. */
  readonly before?: number;
  readonly notes: readonly ShapeNote[];
}

interface ShapeNote {
  readonly at: Ticks;
  readonly length: Ticks;
  readonly semitones: number;
  readonly position: number;
  readonly bar: number;
}

/** How a phrase goes back to an earlier one. `differs` are indices of notes of the later phrase. */
export type PhraseRelation =
  | { readonly kind: 'same' }
  /** The same but for its end (or beginning): that many notes are new. */
  | { readonly kind: 'other-ending'; readonly differs: readonly number[] }
  | { readonly kind: 'other-beginning'; readonly differs: readonly number[] }
  /** Moved by so many staff steps, in whole or nearly. */
  | { readonly kind: 'sequence'; readonly steps: number; readonly differs: readonly number[] }
  | { readonly kind: 'nearly'; readonly differs: readonly number[] }
  | { readonly kind: 'same-rhythm' }
  | { readonly kind: 'same-contour' };

/** Shares of notes that decide; a musician calls two phrases kin when most of them is shared. */
const SHARES = {
  /** Of the shorter phrase, from its beginning, before another ending is spoken of. */
  head: 0.5,
  tail: 0.6,
  moved: 0.8,
  nearly: 0.7,
  /** Where the rhythm is the same throughout, fewer shared notes are enough to know it again. */
  nearlyInRhythm: 0.5,
} as const;
const FEWEST = 3;

/** What is heard before a second ending, and how many bars after the first one it is printed. */
export interface PhraseHead {
  readonly notes: readonly SoundingNote[];
  readonly barsLater: number;
}

/** @param head for a second ending: the notes that lead into it, so that it is compared as it is heard */
export function phraseShape(
  phrase: Phrase,
  notes: readonly SoundingNote[],
  spans: readonly BarSpan[],
  head?: PhraseHead,
): PhraseShape {
  const own = notes.slice(phrase.from, phrase.to);
  const first = head?.notes[0] ?? own[0];
  const span = first && spans[first.bar];
  if (!first || !span) return { notes: [] };
  // A phrase that begins in the second half of its bar leads up to the next barline.
  const full = span.offset + span.length;
  const isPickup = first.inBar > 0 && first.inBar * 2 >= full;
  const anchor = isPickup ? span.start + span.length : span.start - span.offset;
  const ownBar = own[0]?.bar ?? 0;
  const later = head ? (spans[ownBar]?.start ?? 0) - (spans[ownBar - head.barsLater]?.start ?? 0) : 0;
  const shapeNote = ({ start, length, pitch, bar }: SoundingNote, shift: Ticks): ShapeNote => ({
    at: start - anchor - shift,
    length,
    semitones: semitones(pitch),
    position: staffPosition(pitch),
    bar,
  });
  return {
    before: head?.notes.length ?? 0,
    notes: [...(head?.notes ?? []).map((note) => shapeNote(note, 0)), ...own.map((note) => shapeNote(note, later))],
  };
}

/**
 * The closest way in which `later` goes back to `earlier`, if any.
 * Rule: compare phrases for: same; same but for the last *n* notes; same rhythm, other notes; moved up or down (a
 * sequence); same contour.
 */
function relate(earlier: PhraseShape, later: PhraseShape): PhraseRelation | undefined {
  const [a, b] = [earlier.notes, later.notes];
  if (a.length === 0 || b.length === 0) return undefined;
  const shorter = Math.min(a.length, b.length);
  const same = (x: ShapeNote | undefined, y: ShapeNote | undefined) =>
    x !== undefined && y !== undefined && x.at === y.at && x.semitones === y.semitones;
  const sameLength = (x: ShapeNote | undefined, y: ShapeNote | undefined) => x?.length === y?.length;
  const prefix = b.findIndex((note, k) => !same(a[k], note) || (k < shorter - 1 && !sameLength(a[k], note)));
  const alike = prefix < 0 ? b.length : prefix;
  if (alike === b.length && a.length === b.length) return { kind: 'same' };
  const enough = (count: number, share: number) => count >= FEWEST && count >= share * shorter;
  if (enough(alike, SHARES.head) && alike < Math.max(a.length, b.length)) {
    return { kind: 'other-ending', differs: indices(Math.min(alike, b.length - 1), b.length) };
  }
  const moved = movedBy(a, b);
  if (moved) return moved;
  let suffix = 0;
  while (suffix < shorter && same(a[a.length - 1 - suffix], b[b.length - 1 - suffix])) suffix += 1;
  if (enough(suffix, SHARES.tail)) return { kind: 'other-beginning', differs: indices(0, b.length - suffix) };
  const heard = new Set(a.map(({ at, semitones: height }) => `${at}/${height}`));
  const differs = b.flatMap(({ at, semitones: height }, index) => (heard.has(`${at}/${height}`) ? [] : [index]));
  const shared = b.length - differs.length;
  if (shared >= FEWEST && shared >= SHARES.nearly * Math.max(a.length, b.length)) return { kind: 'nearly', differs };
  const inRhythm =
    shorter >= FEWEST &&
    a.length === b.length &&
    b.every((note, k) => note.at === a[k]?.at && (k === b.length - 1 || sameLength(a[k], note)));
  if (inRhythm && shared >= SHARES.nearlyInRhythm * b.length && same(a[0], b[0])) return { kind: 'nearly', differs };
  if (inRhythm) return { kind: 'same-rhythm' };
  const directions = (notes: readonly ShapeNote[]) =>
    notes
      .slice(1)
      .map(({ position }, k) => Math.sign(position - (notes[k]?.position ?? 0)))
      .join('');
  if (shorter > FEWEST + 1 && a.length === b.length && directions(a) === directions(b)) return { kind: 'same-contour' };
  return undefined;
}

/** The same rhythm, and most notes as many staff steps away. An octave is a move too. */
function movedBy(a: readonly ShapeNote[], b: readonly ShapeNote[]): PhraseRelation | undefined {
  if (a.length !== b.length || a.length < FEWEST || b.some((note, k) => note.at !== a[k]?.at)) return undefined;
  const distances = b.map(({ position }, k) => position - (a[k]?.position ?? 0));
  const counts = new Map<number, number>();
  for (const distance of distances) counts.set(distance, (counts.get(distance) ?? 0) + 1);
  const [steps, count] = [...counts].reduce((best, next) => (next[1] > best[1] ? next : best));
  if (steps === 0 || count < SHARES.moved * b.length) return undefined;
  // Repeated single notes move by any distance; that makes no sequence.
  if (new Set(b.map(({ position }) => position)).size < 2) return undefined;
  return { kind: 'sequence', steps, differs: distances.flatMap((distance, k) => (distance === steps ? [] : [k])) };
}

function indices(from: number, to: number): readonly number[] {
  return Array.from({ length: Math.max(0, to - from) }, (_, k) => from + k);
}

/** The nearer the kinship, the lower. */
const RANKS: Readonly<Record<PhraseRelation['kind'], number>> = {
  same: 0,
  'other-ending': 1,
  sequence: 2,
  'other-beginning': 3,
  nearly: 4,
  'same-rhythm': 5,
  'same-contour': 6,
};

interface PhraseKin {
  /** Index of the earlier phrase. */
  readonly of: number;
  readonly relation: PhraseRelation;
}

export interface LabelledPhrase {
  /** A, A′, B …: the letter is shared by phrases of one kin, a mark tells variants apart. */
  readonly label: string;
  readonly kin?: PhraseKin;
}

/**
 * Letters for the form: the same phrase keeps its label, a variant gets a mark, one that shares only rhythm or shape a
 * letter of its own.
 * Rule: name the form (A A′ B A).
 */
export function labelPhrases(shapes: readonly PhraseShape[]): readonly LabelledPhrase[] {
  const labelled: LabelledPhrase[] = [];
  let letters = 0;
  const marks = new Map<string, number>();
  shapes.forEach((shape, index) => {
    let kin: PhraseKin | undefined;
    for (let of = 0; of < index; of += 1) {
      const earlier = shapes[of];
      const relation = earlier && relate(earlier, shape);
      if (relation && (!kin || RANKS[relation.kind] < RANKS[kin.relation.kind])) kin = { of, relation };
      if (kin?.relation.kind === 'same') break;
    }
    const of = kin && labelled[kin.of];
    if (kin && of && kin.relation.kind === 'same') labelled.push({ label: of.label, kin });
    else if (kin && of && RANKS[kin.relation.kind] <= RANKS.nearly) {
      const letter = of.label.replace(/′+$/, '');
      const mark = (marks.get(letter) ?? 0) + 1;
      marks.set(letter, mark);
      labelled.push({ label: letter + '′'.repeat(mark), kin });
    } else {
      labelled.push({ label: letterOf(letters), ...(kin && { kin }) });
      letters += 1;
    }
  });
  return labelled;
}

/** A to Z, then A2, B2 … */
function letterOf(index: number): string {
  const round = Math.floor(index / 26);
  return String.fromCharCode(65 + (index % 26)) + (round > 0 ? String(round + 1) : '');
}
