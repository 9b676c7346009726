import { chanceFrom } from '../src/core/chance';
import type { Instrument } from '../src/core/instruments/instrument';
import { heardNotes, type HeardNote } from '../src/core/rehearsal/heardNotes';
import type { Verdict, WantedNote } from '../src/core/rehearsal/judgeTake';
import type { Sounded } from '../src/sound/perform';
import type { PlayPlan } from '../src/sound/playPlan';
import type { SoundRenderer } from '../src/sound/renderer';
import { PitchTracker, type HeardFrame } from '../src/sound/hearing/pitchTrack';
import { voiceOf } from '../src/sound/voices';

/** How the mistakes of a take are spread: one note in so many; 0 for a clean take. */
export interface Mistakes {
  readonly oneIn: number;
  readonly seed: number;
  /** Seconds of a beat. */
  readonly beat: number;
}

/** What is played instead of the notes that are wanted: some on another pitch, some late or early, some not at all. */
export function withMistakes(
  wanted: readonly WantedNote[],
  sounded: readonly Sounded[],
  { oneIn, seed, beat }: Mistakes,
): { readonly notes: readonly Sounded[]; readonly expected: readonly Verdict['kind'][] } {
  const chance = chanceFrom(`take/${seed}`);
  const expected: Verdict['kind'][] = wanted.map(() => 'right');
  const shift = Math.max(0.2, Math.min(0.32, 0.38 * beat));
  const notes: Sounded[] = [];
  wanted.forEach((want, k) => {
    const until = wanted[k + 1]?.start ?? want.end;
    const pieces = sounded.filter(({ start }) => start > want.start - 1e-3 && start < until - 1e-3);
    const [own] = pieces;
    if (!own) return;
    // Ornaments are left as they are.
    if (pieces.length > 1) {
      notes.push(...pieces);
      return;
    }
    const before = wanted[k - 1];
    const after = wanted[k + 1];
    const isSpoiled = oneIn > 0 && chance() < 1 / oneIn && k > 0 && expected[k - 1] === 'right';
    const kind = isSpoiled ? Math.floor(chance() * 4) : -1;
    const long = want.end - want.start > shift + 0.15;
    if (kind === 0) {
      const by = chance() < 0.5 ? -2 : 1;
      const key = want.key + by;
      if (before?.key === key || after?.key === key) notes.push(own);
      else {
        expected[k] = 'wrong';
        notes.push({ ...own, key });
      }
    } else if (kind === 1 && long) {
      expected[k] = 'late';
      notes.push({ ...own, start: own.start + shift });
    } else if (kind === 2 && before && before.end - before.start > shift + 0.15 && before.key !== want.key) {
      expected[k] = 'early';
      const last = notes.pop();
      if (last) notes.push({ ...last, end: Math.min(last.end, own.start - shift - 0.02) });
      notes.push({ ...own, start: own.start - shift });
    } else if (kind === 3) expected[k] = 'missed';
    else notes.push(own);
  });
  return { notes, expected };
}

/** Plays notes on an instrument of the bank, one channel. */
export function playTake(notes: readonly Sounded[], instrument: Instrument, renderer: SoundRenderer): Float32Array {
  const seconds = Math.max(0.5, ...notes.map(({ end }) => end));
  renderer.load({
    voices: [{ channel: 0, program: voiceOf(instrument), volume: 108, pan: 64, notes }],
    seconds,
    lead: 0,
    loops: false,
  } as unknown as PlayPlan);
  const { left, right } = renderer.render(Math.ceil((seconds + 0.6) * renderer.rate));
  return left.map((sample, k) => (sample + (right[k] ?? 0)) / 2);
}

/** Listens to a take as the stand does. */
export function listenTo(samples: Float32Array, rate: number, wanted: readonly WantedNote[]): readonly HeardNote[] {
  const tracker = PitchTracker.forNotes(rate, wanted);
  const frames: HeardFrame[] = [];
  for (let at = 0; at < samples.length; at += 1024) frames.push(...tracker.push(samples.subarray(at, at + 1024)));
  return heardNotes(frames);
}
