import { expose } from 'comlink';
import { type HeardNote, heardNotes } from '../../core/rehearsal';
import { PitchTracker, type HeardFrame } from '../../sound/hearing/pitchTrack';

/** A take longer than this, seconds, forgets its beginning: a round is never as long. */
const LONGEST = 600;

let tracker: PitchTracker | undefined;
let begun = 0;
let frames: HeardFrame[] = [];

/**
 * The worker's door: pitch is looked for here, so that the page never stutters over it. Samples are looked at and
 * dropped.
 */
const door = {
  /** @param keys what shall be heard, MIDI keys @param at the moment of the first sample, seconds */
  begin(rate: number, keys: readonly number[], at: number): void {
    tracker = PitchTracker.forNotes(
      rate,
      keys.map((key) => ({ key })),
    );
    begun = at;
    frames = [];
  },
  push(samples: Float32Array): void {
    if (!tracker) return;
    for (const frame of tracker.push(samples)) frames.push({ ...frame, at: frame.at + begun });
    const first = frames[0];
    const last = frames.at(-1);
    if (first && last && last.at - first.at > LONGEST) frames = frames.filter(({ at }) => at > last.at - LONGEST / 2);
  },
  /** Notes heard between two moments. */
  heard(from: number, to: number): readonly HeardNote[] {
    return heardNotes(frames.filter(({ at }) => at >= from && at <= to));
  },
};
export type HearingDoor = typeof door;

expose(door);
