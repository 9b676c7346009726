import { PitchDetector } from 'pitchy';

/** What is heard at a moment. */
export interface HeardFrame {
  /** Seconds from the first sample, in the middle of what was looked at. */
  readonly at: number;
  /** MIDI key with its fraction, as played; none where no pitch is heard. */
  readonly key: number | undefined;
  /** Root mean square of the last few milliseconds, 0 to 1. */
  readonly loudness: number;
}

/**
 * Periods of the lowest note that a look must hold for the McLeod pitch method (P. McLeod and G. Wyvill, A Smarter Way
 * to Find Pitch, 2005).
 */
const PERIODS = 2.6;
const LOOKS_A_SECOND = 110;
/** Below this clarity there is no pitch, 0 to 1. */
const CLEAR = 0.86;
/** Seconds over which loudness is measured: attacks are as short. */
const LOUDNESS_SPAN = 0.012;
/** What is softer than this is the room, not the player. */
const FLOOR = 0.002;
/** A4. */
const TUNING = { key: 69, hertz: 440 } as const;

/**
 * Follows the pitch of one line, block by block; the same samples give the same frames however they are cut into
 * blocks.
 */
export class PitchTracker {
  private readonly size: number;
  private readonly hop: number;
  private readonly detector: PitchDetector<Float32Array>;
  private held: Float32Array;
  private filled = 0;
  /** Of the first held sample. */
  private from = 0;

  /**
   * @param rate samples a second
   * @param lowest the lowest key that is to be heard; lower ones need longer looks, and blur quick notes
   * @param highest what lies an octave above it is no note of the player's
   */
  constructor(
    private readonly rate: number,
    private readonly lowest: number,
    private readonly highest: number,
  ) {
    const hertz = TUNING.hertz * 2 ** ((lowest - 1 - TUNING.key) / 12);
    this.size = Math.max(Math.round(rate * 0.02), Math.round((rate * PERIODS) / hertz));
    this.hop = Math.round(rate / LOOKS_A_SECOND);
    this.detector = PitchDetector.forFloat32Array(this.size);
    this.held = new Float32Array(this.size * 4);
  }

  /** One that hears some notes, and wrong ones near them. */
  static forNotes(rate: number, wanted: readonly { readonly key: number }[]): PitchTracker {
    const keys = wanted.map(({ key }) => key);
    return new PitchTracker(rate, Math.min(72, ...keys) - 4, Math.max(48, ...keys) + 4);
  }

  /** Frames that these samples complete. */
  push(samples: Float32Array): readonly HeardFrame[] {
    const frames: HeardFrame[] = [];
    for (let done = 0; done < samples.length;) {
      const room = Math.min(this.held.length - this.filled, samples.length - done);
      this.held.set(samples.subarray(done, done + room), this.filled);
      this.filled += room;
      done += room;
      let start = 0;
      for (; start + this.size <= this.filled; start += this.hop) frames.push(this.look(start));
      this.held.copyWithin(0, start, this.filled);
      this.from += start;
      this.filled -= start;
    }
    return frames;
  }

  private look(start: number): HeardFrame {
    const window = this.held.subarray(start, start + this.size);
    const middle = this.size / 2;
    const span = Math.min(middle, Math.round((this.rate * LOUDNESS_SPAN) / 2));
    let power = 0;
    for (let k = Math.floor(middle - span); k < middle + span; k += 1) power += (window[k] ?? 0) ** 2;
    const loudness = Math.sqrt(power / (2 * span));
    const at = (this.from + start + middle) / this.rate;
    if (loudness < FLOOR) return { at, key: undefined, loudness };
    const [hertz, clarity] = this.detector.findPitch(window, this.rate);
    const key = hertz > 0 ? TUNING.key + 12 * Math.log2(hertz / TUNING.hertz) : 0;
    const isNote = clarity >= CLEAR && key > this.lowest - 3 && key < this.highest + 13;
    return { at, key: isNote ? key : undefined, loudness };
  }
}
