import { PairMemo } from '../../pairMemo';
import { chroma, semitones, staffPosition } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import type { Tune } from '../../score/tune';
import { noteWeights } from '../simplify/noteWeight';
import type { Source } from './source';

/** What a note of the tune still counts, when it is there but not as it was. Open to argument. */
const COUNTS = {
  /** In another octave than most of the line. */
  otherOctave: 0.85,
  /** Struck at another time. */
  moved: 0.6,
} as const;

/**
 * How much of the tune is left in a line, 0–100: four parts the share of all notes' weights that is there (a note in another octave than
 * the rest, or at another time, counts less; another note, a rest or a bar written by hand nothing), one part how often the line
 * still moves as the tune does between two notes that are there. 100 for the tune itself alone.
 * Rule: how much of the weighted structure survives, plus contour agreement; every note that is no longer the tune's counts, for whatever
 * reason.
 * @param line in concert pitch; notes of the tune keep their event ids
 */
export function fidelityTo({ tune, phrases }: Source, line: Pick<Tune, 'bars' | 'meter'>): number {
  return known.getOr(tune, line.bars, () => ({ share: freshFidelity({ tune, phrases }, line) })).share;
}

/** One line is measured for all players who have it in the same octave. */
const known = new PairMemo<Tune, Tune['bars'], { readonly share: number }>();

function freshFidelity({ tune, phrases }: Source, line: Pick<Tune, 'bars' | 'meter'>): number {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return 100;
  const weights = noteWeights(tune, notes, phrases);
  const heard = new Map(
    soundingNotes(line)
      .filter(({ first }) => !first.cue)
      .map((note) => [note.first.id, note]),
  );
  const there = notes.map((note) => {
    const now = heard.get(note.first.id);
    return now && chroma(now.pitch) === chroma(note.pitch) ? now : undefined;
  });
  const shifts = there.map((now, k) =>
    now ? semitones(now.pitch) - semitones(notes[k]?.pitch ?? now.pitch) : undefined,
  );
  const usual = mostCommon(shifts.filter((shift) => shift !== undefined));
  let [kept, all] = [0, 0];
  notes.forEach((note, k) => {
    const weight = weights[k] ?? 0;
    all += weight;
    const now = there[k];
    if (!now) return;
    kept += weight * (shifts[k] === usual ? 1 : COUNTS.otherOctave) * (now.start === note.start ? 1 : COUNTS.moved);
  });
  const order: number[] = [];
  there.forEach((now, k) => now && order.push(k));
  const places = notes.map(({ pitch }) => staffPosition(pitch));
  let agreeing = 0;
  for (let k = 1; k < order.length; k += 1) {
    const [from = 0, to = 0] = [order[k - 1], order[k]];
    const [a, b] = [there[from], there[to]];
    const [before = 0, after = 0] = [places[from], places[to]];
    const lineMoves = a && b ? staffPosition(b.pitch) - staffPosition(a.pitch) : 0;
    const [low, high] = before < after ? [before, after] : [after, before];
    let isPlain = Math.sign(after - before) === Math.sign(lineMoves);
    // A turning point between them that was lost, or a join in another octave, is another shape.
    for (let between = from + 1; isPlain && between < to; between += 1)
      isPlain = (places[between] ?? low) >= low && (places[between] ?? low) <= high;
    if (isPlain) agreeing += 1;
  }
  const contour = order.length > 1 ? agreeing / (order.length - 1) : order.length / notes.length;
  const share = 0.8 * (all === 0 ? 1 : kept / all) + 0.2 * contour;
  const isWhole = order.length === notes.length && share > 1 - 1e-9;
  return isWhole ? 100 : Math.min(99, Math.round(100 * share));
}

function mostCommon(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let [best, most] = [0, 0];
  for (const [value, count] of counts) if (count > most) [best, most] = [value, count];
  return best;
}
