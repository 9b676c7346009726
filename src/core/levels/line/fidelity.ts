import { derived } from '../../derived';
import { chroma, semitones, staffPosition } from '../../pitch';
import { type EventId, type SoundingNote, soundingNotes, type Tune } from '../../score';
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
 * How much of the tune is left in a line, 0–100: four parts the share of all notes' weights that is there (a note in
 * another octave than the rest, or at another time, counts less; another note, a rest or a bar written by hand
 * nothing), one part how often the line still moves as the tune does between two notes that are there. A note that is
 * reached in another direction than the tune's, or an octave off, is a wrong note, whatever its name. 100 for the tune
 * itself alone. Rule: how much of the weighted structure survives, plus contour agreement; every note that is no longer
 * the tune's counts, for whatever reason.
 * @param line in concert pitch; notes of the tune keep their event ids
 */
export const fidelityTo = derived(freshFidelity, {
  // One line is measured for all players who have it in the same octave.
  by: ({ tune, phrases }, { bars, meter }) => [tune, phrases, bars, meter],
});

function freshFidelity({ tune, phrases }: Source, line: Pick<Tune, 'bars' | 'meter'>): number {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return 100;
  const weights = noteWeights(tune, notes, phrases);
  const heard = new Map<EventId, SoundingNote>();
  for (const note of soundingNotes(line)) if (!note.first.cue) heard.set(note.first.id, note);
  const there = notes.map(({ first }) => heard.get(first.id));
  const isOwn = there.map((now, k) => now !== undefined && chroma(now.pitch) === chroma(notes[k]?.pitch ?? now.pitch));
  const shifts = there.map((now, k) =>
    now && isOwn[k] ? semitones(now.pitch) - semitones(notes[k]?.pitch ?? now.pitch) : NaN,
  );
  const usual = mostCommon(shifts);
  const order = there.flatMap((now, k) => (now ? [k] : []));
  const { agreeing, wrong } = contourOf(notes, there, order);
  let [kept, all] = [0, 0];
  notes.forEach((note, k) => {
    const weight = weights[k] ?? 0;
    all += weight;
    const now = there[k];
    if (!now || !isOwn[k] || wrong.has(k)) return;
    kept += weight * (shifts[k] === usual ? 1 : COUNTS.otherOctave) * (now.start === note.start ? 1 : COUNTS.moved);
  });
  const contour = order.length > 1 ? agreeing / (order.length - 1) : order.length / notes.length;
  const share = 0.8 * (all === 0 ? 1 : kept / all) + 0.2 * contour;
  const isWhole = order.length === notes.length && share > 1 - 1e-9;
  return isWhole ? 100 : Math.min(99, Math.round(100 * share));
}

/** How often a line moves as the tune does, and which notes it reaches in another direction or an octave off. */
function contourOf(
  notes: readonly SoundingNote[],
  there: readonly (SoundingNote | undefined)[],
  order: readonly number[],
): { readonly agreeing: number; readonly wrong: ReadonlySet<number> } {
  const places = notes.map(({ pitch }) => staffPosition(pitch));
  const wrong = new Set<number>();
  let agreeing = 0;
  for (let k = 1; k < order.length; k += 1) {
    const [from, to] = [order[k - 1] ?? 0, order[k] ?? 0];
    const [before, after] = [places[from] ?? 0, places[to] ?? 0];
    const [here, now] = [there[from], there[to]];
    const made = here && now ? staffPosition(now.pitch) - staffPosition(here.pitch) : 0;
    const wanted = after - before;
    if (Math.sign(made) !== Math.sign(wanted) || Math.abs(made - wanted) >= OCTAVE) {
      wrong.add(to);
      continue;
    }
    // A turning point between them that was lost is another shape.
    const [low, high] = [Math.min(before, after), Math.max(before, after)];
    const isPlain = places.slice(from + 1, to).every((between) => between >= low && between <= high);
    if (isPlain) agreeing += 1;
  }
  return { agreeing, wrong };
}

/** In steps. */
const OCTAVE = 7;

/** @param values NaN where there is none */
function mostCommon(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) if (!Number.isNaN(value)) counts.set(value, (counts.get(value) ?? 0) + 1);
  let [best, most] = [0, 0];
  for (const [value, count] of counts) if (count > most) [best, most] = [value, count];
  return best;
}
