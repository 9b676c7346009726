/** What a pitch detector says of a moment: see `sound/hearing`. */
export interface Frame {
  /** Seconds. */
  readonly at: number;
  /** MIDI key with its fraction; none where no pitch is heard. */
  readonly key: number | undefined;
  /** 0 to 1. */
  readonly loudness: number;
}

/** A note as it was heard. */
export interface HeardNote {
  /** Seconds. */
  readonly start: number;
  readonly end: number;
  /** MIDI key with its fraction: the middle of what was heard. */
  readonly key: number;
  /** The loudest of it, 0 to 1. */
  readonly loudness: number;
  /** It goes on from the same pitch without a gap: struck again, or only swelling. */
  readonly isAgain?: true;
}

/** How far the pitch of one note wanders, in keys: vibrato and a slow settling, less than a half step. */
const WANDER = 0.6;
/** Seconds of no pitch that a note bridges: the detector loses it for a moment. */
const BRIDGED = 0.03;
/** Nothing shorter is a note: an attack, a slide, a squeak. */
const SHORTEST = 0.05;
/** A new attack on the same pitch: so much louder than the softest moment shortly before. */
const ATTACK = { times: 1.5, within: 0.06, apart: 0.1 } as const;
/** What is softer than this share of the take's loud moments is an echo. */
const ECHO = 0.06;

/** After a note has ended, the same pitch so softly and so soon (seconds) is the room. */
const RING = { gap: 0.15, share: 0.5 } as const;

interface Run {
  readonly frames: Frame[];
  keys: number[];
}

/**
 * Cuts what was heard into notes: where the pitch moves on, where it stops, and where the same pitch is struck again.
 */
export function heardNotes(frames: readonly Frame[]): readonly HeardNote[] {
  const loud = frames.map(({ loudness }) => loudness).toSorted((a, b) => a - b);
  const floor = (loud[Math.floor(loud.length * 0.9)] ?? 0) * ECHO;
  const runs: Run[] = [];
  let open: Run | undefined;
  for (const frame of smoothed(frames)) {
    if (frame.key === undefined || frame.loudness < floor) continue;
    const last = open?.frames.at(-1);
    const isOn =
      open && last && frame.at - last.at <= BRIDGED && Math.abs(middle(open.keys.slice(-9)) - frame.key) < WANDER;
    if (open && isOn) {
      open.frames.push(frame);
      open.keys.push(frame.key);
    } else {
      open = { frames: [frame], keys: [frame.key] };
      runs.push(open);
    }
  }
  return settled(runs.flatMap((run) => cutAtAttacks(run, frames)));
}

/** Single looks that go astray are put right by their neighbours. */
function smoothed(frames: readonly Frame[]): readonly Frame[] {
  return frames.map((frame, k) => {
    if (frame.key === undefined) return frame;
    const around = frames.slice(Math.max(0, k - 2), k + 3).flatMap(({ key }) => (key === undefined ? [] : [key]));
    return around.length < 3 ? frame : { ...frame, key: middle(around) };
  });
}

/** A run of one pitch, cut where it is struck again. */
function cutAtAttacks({ frames }: Run, all: readonly Frame[]): readonly HeardNote[] {
  const [first] = frames;
  if (!first) return [];
  const offset = all.indexOf(first) < 0 ? all.findIndex(({ at }) => at === first.at) : all.indexOf(first);
  const cuts: number[] = [0];
  frames.forEach((frame, k) => {
    const begun = frames[cuts.at(-1) ?? 0] ?? first;
    if (frame.at - begun.at < ATTACK.apart) return;
    let softest = Infinity;
    for (let j = offset + k; j >= 0; j -= 1) {
      const before = all[j];
      if (!before || frame.at - before.at > ATTACK.within || before.at < begun.at) break;
      softest = Math.min(softest, before.loudness);
    }
    if (frame.loudness > softest * ATTACK.times) cuts.push(k);
  });
  return cuts.map((from, index): HeardNote => {
    const own = frames.slice(from, cuts[index + 1] ?? frames.length);
    const [begin, end] = [own[0] ?? first, own.at(-1) ?? first];
    return {
      start: begin.at,
      end: end.at,
      key: middle(own.flatMap(({ key }) => (key === undefined ? [] : [key]))),
      loudness: Math.max(...own.map(({ loudness }) => loudness)),
      ...(index > 0 && { isAgain: true as const }),
    };
  });
}

/** Without attacks and slides; a moment's octave above or below a note is a part of it, and so is what rings on. */
function settled(notes: readonly HeardNote[]): readonly HeardNote[] {
  const made: HeardNote[] = [];
  for (const note of notes) {
    const before = made.at(-1);
    const length = note.end - note.start;
    const isOctave = before !== undefined && isOvertone(note.key - before.key);
    if (before && isOctave && length < 0.1 && note.start - before.end < BRIDGED * 2) {
      made[made.length - 1] = { ...before, end: note.end };
      continue;
    }
    // The attack was heard an octave off, and then the note.
    if (before && isOctave && before.end - before.start < 0.08 && note.start - before.end < BRIDGED * 2) {
      made[made.length - 1] = { ...note, start: before.start };
      continue;
    }
    // What rings on after the note was let go flares up once more.
    const isRing =
      before !== undefined &&
      Math.abs(note.key - before.key) < WANDER &&
      note.start - before.end < RING.gap &&
      note.loudness < before.loudness * RING.share;
    if (before && isRing) {
      made[made.length - 1] = { ...before, end: note.end };
      continue;
    }
    made.push(note);
  }
  return made.filter(({ start, end }) => end - start >= SHORTEST);
}

function isOvertone(keys: number): boolean {
  return [12, 19, 24].some((interval) => Math.abs(Math.abs(keys) - interval) < 0.7);
}

/** The middle one of some values, the upper one of two; 0 of none. */
export function middle(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}
