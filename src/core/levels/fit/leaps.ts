import { chordTonesUnder, type Phrase } from '../../analysis';
import { byOctaves, type Pitch, pitchClassOf, semitones, staffPosition } from '../../pitch';
import {
  barNumbers,
  type EventId,
  isNote,
  type SoundingNote,
  soundingNotes,
  type Tune,
  withoutSlursOnOneNote,
  withTrueTies,
} from '../../score';
import type { Change } from '../../work';

/** Costs of what takes the place of a note that is leaped to. A leap too large outweighs them all. */
const COSTS = {
  /** The same note in another octave. */
  octave: 4,
  /** A note of the chord; the more, the farther it lies from the tune's, per half step. */
  chordTone: 3,
  perSemitone: 0.3,
  /** It repeats the note before, where the tune does not. */
  stammer: 2,
  tooFar: 100,
} as const;

interface Path {
  readonly pitch: Pitch;
  readonly cost: number;
  readonly before: Path | undefined;
}

/**
 * Keeps a line's leaps within a limit, phrase by phrase; between phrases there is time to find a note. What is leaped
 * to, or from, becomes its octave or a note of the chord, by the least change of the phrase as a whole. The first note
 * of the tune and the last of each phrase change at most their octave; where they leave a leap, it is named.
 * @param most in steps
 * @param isFree concert pitches that the player has
 */
export function withinLeap(
  tune: Tune,
  phrases: readonly Phrase[],
  most: number,
  isFree: (pitch: Pitch) => boolean,
): { readonly tune: Tune; readonly changes: readonly Change[] } {
  const notes = soundingNotes(tune);
  const isFar = (a: Pitch, b: Pitch) => Math.abs(staffPosition(a) - staffPosition(b)) > most;
  const numbers = barNumbers(tune);
  const tones = chordTonesUnder(tune, notes);
  const changed = new Map<EventId, Pitch>();
  const changes: Change[] = [];
  for (const { from, to } of phrases) {
    const run = notes.slice(from, to);
    if (!run.some((note, k) => k > 0 && run[k - 1] && isFar(run[k - 1]?.pitch ?? note.pitch, note.pitch))) continue;
    const chosen = easiest(
      run,
      (note, k) => {
        const own = [0, 1, -1].map((by) => byOctaves(note.pitch, by));
        const isFixed = from + k === 0 || from + k === to - 1;
        const others = isFixed
          ? []
          : (tones[from + k] ?? []).flatMap((tone) =>
              [-1, 0, 1].map((by): Pitch => ({ ...tone, octave: note.pitch.octave + by })),
            );
        // The same sound under another letter would hide a leap, not shorten it.
        return [
          note.pitch,
          ...[...own.slice(1), ...others].filter(
            (pitch) => semitones(pitch) !== semitones(note.pitch) && isFree(pitch),
          ),
        ];
      },
      isFar,
    );
    run.forEach((note, k) => {
      const pitch = chosen[k];
      if (!pitch) return;
      const place = { bar: numbers[note.bar] ?? 0, barIndex: note.bar, events: [note.first.id] };
      if (semitones(pitch) !== semitones(note.pitch)) {
        changed.set(note.first.id, pitch);
        changes.push({
          ...place,
          detail: {
            kind: 'leap',
            from: pitchClassOf(note.pitch),
            to: pitchClassOf(pitch),
            octaves: (semitones(pitch) - semitones(note.pitch)) / 12,
            most,
          },
        });
      }
      const before = chosen[k - 1];
      if (before && isFar(before, pitch))
        changes.push({
          ...place,
          events: [],
          detail: { kind: 'leap-stays', from: pitchClassOf(before), to: pitchClassOf(pitch) },
        });
    });
  }
  return changed.size === 0 ? { tune, changes } : { tune: withPitches(tune, changed), changes };
}

/** The cheapest row of pitches, by dynamic programming over the phrase. */
function easiest(
  run: readonly SoundingNote[],
  candidatesOf: (note: SoundingNote, k: number) => readonly Pitch[],
  isFar: (a: Pitch, b: Pitch) => boolean,
): readonly Pitch[] {
  let paths: readonly Path[] = [];
  run.forEach((note, k) => {
    const source = run[k - 1]?.pitch;
    paths = candidatesOf(note, k).map((pitch): Path => {
      const distance = Math.abs(semitones(pitch) - semitones(note.pitch));
      const own =
        distance === 0 ? 0 : distance % 12 === 0 ? COSTS.octave : COSTS.chordTone + COSTS.perSemitone * distance;
      const best = paths.reduce<Path | undefined>((least, path) => {
        const stammers =
          semitones(path.pitch) === semitones(pitch) &&
          source !== undefined &&
          semitones(source) !== semitones(note.pitch);
        const cost = path.cost + (isFar(path.pitch, pitch) ? COSTS.tooFar : 0) + (stammers ? COSTS.stammer : 0);
        return !least || cost < least.cost - 1e-9 ? { ...path, cost } : least;
      }, undefined);
      return { pitch, cost: own + (best?.cost ?? 0), before: best };
    });
  });
  const pitches: Pitch[] = [];
  for (
    let path = paths.reduce<Path | undefined>(
      (least, next) => (!least || next.cost < least.cost - 1e-9 ? next : least),
      undefined,
    );
    path;
    path = path.before
  )
    pitches.push(path.pitch);
  return pitches.toReversed();
}

/** Struck notes, with what is tied to them, on other pitches. Grace notes that led into the old one go. */
function withPitches(tune: Tune, changed: ReadonlyMap<EventId, Pitch>): Tune {
  let held: Pitch | undefined;
  const bars = tune.bars.map((bar) => {
    const events = bar.events.map((event) => {
      if (!isNote(event)) {
        held = undefined;
        return event;
      }
      const pitch = held ?? changed.get(event.id);
      held = event.tied ? pitch : undefined;
      if (!pitch) return event;
      const { graces: _, ...plain } = event;
      return { ...plain, pitch };
    });
    return events.every((event, k) => event === bar.events[k]) ? bar : { ...bar, events };
  });
  return { ...tune, bars: withoutSlursOnOneNote(withTrueTies(bars).bars, new Set(changed.keys())) };
}
