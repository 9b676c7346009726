import { hasLetterForEach, type Scale } from '../harmony';
import type { WrittenRange } from '../instruments';
import {
  chroma,
  namePitchClass,
  type Pitch,
  type PitchClass,
  pitchClassOf,
  semitones,
  transpose,
  withAlterUpTo,
} from '../pitch';
import type { DrillDirection, DrillExtent } from '../score';
import { endingOn, fits, type SectionLine } from './sectionLine';
import { chordPairs } from './chordPairs';
import type { ArpeggioPattern, Pattern } from './pattern';
import {
  isOfSeven,
  melodicRungs,
  rungAbove,
  rungsOf,
  rungsOfChord,
  rungsWithin,
  tonicsWithin,
  type Rungs,
} from './rungs';
import { namePitch, nameSpan, type Message } from './message';

/** How far a key's section goes: by name, or between two written pitches. */
export type SectionExtent = DrillExtent | WrittenRange;

export interface SectionRequest {
  /** Written. */
  readonly scale: Scale;
  /** What the level may play, written. */
  readonly range: WrittenRange;
  readonly pattern: Pattern;
  readonly direction: DrillDirection;
  readonly extent: SectionExtent;
  /** Nobody asked for two octaves: as far as they go is as far as the level goes. */
  readonly isUsual?: boolean;
  /** Whether groups are turned round on the way down; as the pattern and the set have it by default. */
  readonly mirrored?: boolean;
}

/** The tonic chord of a set: its 1 3 5, or all tones where the set is a kind of chord. */
export function tonicChord(scale: Scale): readonly PitchClass[] {
  if (scale.notes.length < 5) return scale.notes;
  const thirds = hasLetterForEach(scale.name) ? [0, 2, 4] : triadPlaces(scale);
  return thirds.flatMap((place) => scale.notes[place] ?? []);
}

/**
 * Places of a third and a fifth above the tonic in sets that have not a letter for each degree; the nearest there are.
 */
function triadPlaces({ tonic, notes }: Scale): readonly number[] {
  const nearest = (wanted: readonly number[]) => {
    const above = (note: PitchClass) => (chroma(note) - chroma(tonic) + 12) % 12;
    const found = wanted.map((size) => notes.findIndex((note) => above(note) === size)).find((place) => place > 0);
    return found ?? 2;
  };
  return [0, nearest([4, 3, 5, 2]), nearest([7, 6, 8])];
}

/**
 * Lays a pattern over a set and into a range. A group that would leave the range is left out, at the same place going
 * up and coming down, and it is said; `undefined` where nothing remains. Rule: a pattern is a rule on degrees; it is
 * laid over the set first and into the instrument second; a drill begins on the lowest home note from which it can go
 * up, and ends on its tonic.
 */
export function sectionOf(request: SectionRequest): SectionLine | undefined {
  const { scale, pattern, direction } = request;
  const steps = direction === 'melodic' && scale.name === 'melodic minor' ? melodicRungs(scale) : rungsOf(scale);
  switch (pattern.kind) {
    case 'cadence':
      return cadence(request);
    case 'inversions': {
      const tones = tonicChord(scale);
      const rungs = rungsOfChord(scale.tonic, tones);
      return stepwise(request, rungs, (rung) => tones.map((_, k) => pick(rungs, rung + k)));
    }
    case 'ways-in':
      return waysIn(request);
    case 'stack': {
      // A kind of chord has one chord in a key, from its root.
      if (scale.notes.length >= 5)
        return stepwise(request, steps, (rung, isDown) => pattern.offsets.map((k) => pick(steps, rung + k, isDown)));
      return oneChord(request, steps, pattern.offsets.length);
    }
    case 'interval': {
      return stepwise(request, steps, (rung, isDown) => [
        pick(steps, rung, isDown),
        pick(steps, rungAbove(steps, rung, pattern.letters), isDown),
      ]);
    }
    case 'cell': {
      return stepwise(request, steps, (rung, isDown) => pattern.offsets.map((k) => pick(steps, rung + k, isDown)));
    }
    case 'arpeggio':
      return arpeggio(request, pattern);
    case 'chord-pairs':
      return chordPairs(scale, request.range, pattern.tones);
    case 'group':
    case 'lip-slurs':
    case 'chords':
    case 'guide-tones':
      return undefined;
  }
}

function pick({ up, down }: Rungs, rung: number, isDown = false): Pitch {
  const pitch = (isDown ? down : up)[rung];
  if (!pitch) throw new RangeError(`no rung ${rung}`);
  return pitch;
}

type GroupAt = (rung: number, isDown: boolean) => readonly Pitch[];

/** Which rungs are stepped on: where a key begins, how far up and down it goes, and what is to be said of that. */
interface Course {
  readonly home: number;
  readonly from: number;
  readonly to: number;
  readonly messages: readonly Message[];
}

/**
 * Whether groups come down mirrored: those that are a wave (up two, down one), and the steps of a set of five or six
 * notes with the next but one, which are played there and back.
 */
function isMirrored({ mirrored, pattern, scale }: SectionRequest): boolean {
  if (mirrored !== undefined) return mirrored;
  if (pattern.kind === 'cell') return pattern.isWave === true;
  return pattern.kind === 'interval' && !isOfSeven(scale);
}

/** A group on every step of the extent, in its direction, and the tonic to end on. */
function stepwise(request: SectionRequest, rungs: Rungs, groupAt: GroupAt): SectionLine | undefined {
  const { direction } = request;
  const inside = spanOf(request);
  const isPlayable = (rung: number) => fits(groupAt(rung, false), inside) && fits(groupAt(rung, true), inside);
  const course = courseOf(request, rungs, isPlayable);
  if (!course) return undefined;
  const { home, from, to } = course;
  const order = stepOrder(direction, course);
  const dropped = new Set(order.filter((rung) => !isPlayable(rung)));
  // Where the top is left out, the line turns on the group below it, and that is played once.
  const steps = order.filter((rung) => !dropped.has(rung)).filter((rung, k, all) => rung !== all[k - 1]);
  const mirrors = isMirrored(request);
  const notes: Pitch[] = [];
  let group = 1;
  steps.forEach((rung, k) => {
    const before = steps[k - 1];
    const isDown = before !== undefined ? rung < before : rung > (steps[k + 1] ?? rung);
    const made = groupAt(rung, isDown);
    group = made.length;
    const isTurned = direction === 'alternate' ? k % 2 === 1 : mirrors && isDown;
    notes.push(...(isTurned ? made.toReversed() : made));
  });
  if (notes.length === 0) return undefined;
  const messages = [...course.messages];
  const homePitch = pick(rungs, Math.max(from, Math.min(to, home)));
  if (dropped.size > 0)
    messages.push({
      what: `${dropped.size === 1 ? 'the group on' : 'the groups on'} ${[...dropped]
        .toSorted((a, b) => a - b)
        .map((rung) => namePitch(pick(rungs, rung)))
        .join(', ')} left out, ${going(direction)}`,
      why: `beyond ${nameSpan(inside)}`,
    });
  const isRound = direction !== 'up' && direction !== 'down';
  const begun = dropped.has(home) && isRound && fits([homePitch], inside) ? [homePitch, ...notes] : notes;
  return {
    notes: endingOn(begun, rungs.tonic, inside, homePitch, isRound),
    group,
    messages,
    left: dropped.size + (course.messages.length > 0 ? 4 : 0),
  };
}

/** Where the notes of a section may lie: in what was asked for, as far as the level goes. */
function spanOf({ range, extent }: Pick<SectionRequest, 'range' | 'extent'>): WrittenRange {
  return typeof extent === 'object' ? narrowed(range, extent) : range;
}

function going(direction: DrillDirection): string {
  return direction === 'up' ? 'going up' : direction === 'down' ? 'coming down' : 'going up and coming down';
}

/**
 * The rungs of a section in order. Whole octaves begin and end at home; a full range goes from home to the top, to the
 * bottom and back.
 */
function stepOrder(direction: DrillDirection, { home, from, to }: Course): readonly number[] {
  const run = (a: number, b: number): number[] =>
    a <= b ? Array.from({ length: b - a + 1 }, (_, k) => a + k) : Array.from({ length: a - b + 1 }, (_, k) => a - k);
  switch (direction) {
    case 'up':
      return run(from, to);
    case 'down':
      return run(to, from);
    case 'down-up':
      return from === home
        ? [...run(to, from), ...run(from, to).slice(1)]
        : [...run(home, from), ...run(from, to).slice(1), ...run(to, home).slice(1)];
    default:
      return from === home
        ? [...run(home, to), ...run(to, home).slice(1)]
        : [...run(home, to), ...run(to, from).slice(1), ...run(from, home).slice(1)];
  }
}

function courseOf(request: SectionRequest, rungs: Rungs, isPlayable: (rung: number) => boolean): Course | undefined {
  const { range, extent, isUsual = false } = request;
  const inside = spanOf(request);
  const within = rungsWithin(rungs, inside);
  if (!within) return undefined;
  const tonics = tonicsWithin(rungs, within.from, within.to);
  if (extent === 'full' || typeof extent === 'object') {
    // The lowest home note from which a group can be played; one on the very top leads nowhere.
    const home = tonics.find((tonic) => tonic < within.to && isPlayable(tonic)) ?? tonics[0];
    if (home === undefined) return undefined;
    const isCut = typeof extent === 'object' && !isWithin(extent, range);
    return {
      ...within,
      home,
      messages: isCut
        ? [{ what: `kept between ${nameSpan(inside)}`, why: `the level goes from ${nameSpan(range)}` }]
        : [],
    };
  }
  const steps = extent === 'five' ? Math.min(4, rungs.perOctave) : rungs.perOctave * OCTAVES_OF[extent];
  const groups = (tonic: number) =>
    Array.from({ length: steps + 1 }, (_, k) => tonic + k).filter((rung) => rung <= within.to && isPlayable(rung))
      .length;
  const most = Math.max(0, ...tonics.map(groups));
  const home = tonics.find((tonic) => groups(tonic) === most);
  if (home === undefined) return undefined;
  const to = Math.min(within.to, home + steps);
  const isOctaves = extent === 'two' || extent === 'three';
  if (to === home + steps || (isUsual && isOctaves && to - home >= rungs.perOctave))
    return { home, from: home, to, messages: [] };
  // Where less than a fifth lies above the tonic, the notes below it belong to the key as well.
  const from = to - home < 4 ? within.from : home;
  return {
    home,
    from,
    to,
    messages: [
      {
        what: `${from === home ? 'up' : `from ${namePitch(pick(rungs, from))} up`} to ${namePitch(pick(rungs, to))} only`,
        why: `${EXTENT_WORDS[extent]} from ${namePitch(pick(rungs, home))} would go beyond ${nameSpan(inside)}`,
      },
    ],
  };
}

const OCTAVES_OF = { octave: 1, two: 2, three: 3 } as const;
const EXTENT_WORDS = { five: 'five notes', octave: 'an octave', two: 'two octaves', three: 'three octaves' } as const;

/** What of a range lies within the one asked for. */
export function narrowed(range: WrittenRange, asked: WrittenRange): WrittenRange {
  return {
    low: semitones(asked.low) > semitones(range.low) ? asked.low : range.low,
    high: semitones(asked.high) < semitones(range.high) ? asked.high : range.high,
  };
}

function isWithin(inner: WrittenRange, outer: WrittenRange): boolean {
  return semitones(inner.low) >= semitones(outer.low) && semitones(inner.high) <= semitones(outer.high);
}

/** The one chord of a key, up and down from its lowest root. */
function oneChord(request: SectionRequest, rungs: Rungs, size: number): SectionLine | undefined {
  const { scale, direction } = request;
  const inside = spanOf(request);
  const used = scale.notes.slice(0, size);
  const chord = rungsOfChord(scale.tonic, used);
  const within = rungsWithin(chord, inside);
  if (!within) return undefined;
  const root = tonicsWithin(chord, within.from, within.to).find((tonic) => tonic + used.length - 1 <= within.to);
  if (root === undefined) return undefined;
  const voices = used.map((_, k) => pick(chord, root + k));
  return {
    notes: endingOn(chordLine(voices, direction), rungs.tonic, inside, pick(chord, root)),
    group: used.length,
    messages: [],
  };
}

/**
 * The chord of a key as one arpeggio as far as the extent goes: to the octave and `more` notes beyond it, from the root
 * or another tone. It ends on the tonic, and says where the range is too narrow for it.
 */
function arpeggio(request: SectionRequest, { inversion, more }: ArpeggioPattern): SectionLine | undefined {
  const { scale, direction, extent } = request;
  const inside = spanOf(request);
  const chord = rungsOfChord(scale.tonic, tonicChord(scale));
  const within = rungsWithin(chord, inside);
  if (!within) return undefined;
  const octaves = extent === 'two' ? 2 : extent === 'three' ? 3 : 1;
  const isWhole = extent === 'full' || typeof extent === 'object';
  const steps = extent === 'five' ? chord.perOctave - 1 : octaves * chord.perOctave + more;
  const starts = tonicsWithin(chord, within.from - chord.perOctave, within.to)
    .map((tonic) => tonic + (inversion % chord.perOctave))
    .filter((rung) => rung >= within.from && rung < within.to);
  const wanted = (rung: number) => (isWhole ? within.to : rung + steps);
  const first = starts.find((rung) => wanted(rung) <= within.to) ?? starts[0];
  if (first === undefined) return undefined;
  const top = Math.min(within.to, wanted(first));
  const voices = Array.from({ length: top - first + 1 }, (_, k) => pick(chord, first + k));
  const messages: Message[] =
    top < wanted(first)
      ? [
          {
            what: `up to ${namePitch(pick(chord, top))} only`,
            why: `the whole arpeggio from ${namePitch(pick(chord, first))} would go beyond ${nameSpan(inside)}`,
          },
        ]
      : [];
  const isRound = direction !== 'up' && direction !== 'down';
  const root = pick(chord, first - (inversion % chord.perOctave));
  return {
    notes: endingOn(chordLine(voices, direction), scale.tonic, inside, root, isRound),
    group: chord.perOctave,
    messages,
    left: messages.length * 4,
  };
}

/** A chord's tones in a direction. */
export function chordLine(voices: readonly Pitch[], direction: DrillDirection, isTurned = false): readonly Pitch[] {
  const falling = voices.toReversed();
  switch (direction) {
    case 'up':
      return voices;
    case 'down':
      return falling;
    case 'down-up':
      return [...falling, ...voices.slice(1)];
    case 'alternate':
    case 'nearest':
      return isTurned ? falling : voices;
    default:
      return [...voices, ...falling.slice(1)];
  }
}

/** Each tone of the chord: itself, a half step below it, the scale step above it, and itself again. */
function waysIn(request: SectionRequest): SectionLine | undefined {
  const { scale } = request;
  const parent = scale.notes.length >= 5 ? rungsOf(scale) : undefined;
  const tones = tonicChord(scale);
  const chord = rungsOfChord(scale.tonic, tones);
  const above = (tone: Pitch): Pitch => {
    const place = parent?.up.findIndex((pitch) => semitones(pitch) > semitones(tone)) ?? -1;
    // Over a bare chord the step above is a whole step, or what lies between where the next tone is nearer.
    return parent && place >= 0
      ? pick(parent, place)
      : withAlterUpTo(transpose(tone, { diatonic: 1, chromatic: 2 }), 1);
  };
  const line = stepwise(request, chord, (rung) => {
    const tone = pick(chord, rung);
    return [tone, withAlterUpTo(transpose(tone, { diatonic: -1, chromatic: -1 }), 1), above(tone), tone];
  });
  if (!line) return undefined;
  const own = new Set(scale.notes.map(chroma));
  const foreign = [...new Set(line.notes.filter((note) => !own.has(chroma(note))).map(namePitchClass))];
  if (foreign.length === 0) return line;
  return {
    ...line,
    messages: [
      ...line.messages,
      { what: `${foreign.join(', ')} beside the set`, why: 'each leads into a tone of the chord by step' },
    ],
  };
}

/**
 * Tonic, dominant seventh, tonic as arpeggios that join at the nearest tone, beginning with each inversion in turn: the
 * root, the third and the fifth. The dominant has the leading note, also where the set has not.
 */
function cadence(request: SectionRequest): SectionLine | undefined {
  const { scale, extent, direction } = request;
  const inside = spanOf(request);
  const tones = tonicChord(scale);
  const tonic = rungsOfChord(scale.tonic, tones);
  const above = (diatonic: number, chromatic: number) =>
    pitchClassOf(transpose({ ...scale.tonic, octave: 4 }, { diatonic, chromatic }));
  const dominantTones = [above(4, 7), above(6, 11), above(1, 2), above(3, 5)];
  const [root = scale.tonic] = dominantTones;
  const dominant = rungsOfChord(root, dominantTones);
  const within = rungsWithin(tonic, inside);
  if (!within || !rungsWithin(dominant, inside)) return undefined;
  const rounds = extent === 'octave' || extent === 'five' ? 1 : 3;
  const homes = tonicsWithin(tonic, within.from, within.to);
  const tryFrom = (
    home: number,
    size: 2 | 3,
  ): { readonly notes: readonly Pitch[]; readonly folded: number } | undefined => {
    const notes: Pitch[] = [];
    let folded = 0;
    const take = (chord: Rungs, from: number, isDown: boolean) => {
      const limits = rungsWithin(chord, inside);
      if (!limits) return;
      const [low, high] = isDown ? [from - size, from] : [from, from + size];
      const fold = high > limits.to ? -chord.perOctave : low < limits.from ? chord.perOctave : 0;
      if (fold !== 0) folded += 1;
      for (let k = 0; k <= size; k += 1) notes.push(pick(chord, from + fold + (isDown ? -k : k)));
    };
    const goesUp = direction !== 'down' && direction !== 'down-up';
    for (let round = 0; round < rounds; round += 1) {
      const start = home + round;
      take(tonic, start, !goesUp);
      const first = notes[notes.length - 1 - size];
      take(dominant, nearestRung(dominant, notes.at(-1) ?? pick(tonic, home)), goesUp);
      // Back to the note on which the round began, by way of its neighbours.
      const back = tonic.up.findIndex((pitch) => first && semitones(pitch) === semitones(first));
      for (const away of size === 3 ? [1, 2, 1, 0] : [0, 1, 0]) notes.push(pick(tonic, back + (goesUp ? away : -away)));
    }
    return fits(notes, inside) ? { notes, folded } : undefined;
  };
  // Four notes an arpeggio; three where the range has no room for more.
  const [best] = ([3, 2] as const)
    .flatMap((size) =>
      homes.flatMap((home) => {
        const made = tryFrom(home, size);
        return made ? [{ ...made, home, size }] : [];
      }),
    )
    .toSorted((a, b) => b.size - a.size || a.folded - b.folded || a.home - b.home);
  if (!best) return undefined;
  const messages: Message[] = [];
  if (best.folded > 0)
    messages.push({
      what: `${best.folded === 1 ? 'an arpeggio' : `${best.folded} arpeggios`} played an octave away`,
      why: `to stay between ${nameSpan(inside)}`,
    });
  const own = new Set(scale.notes.map(chroma));
  const foreign = dominantTones.filter((tone) => !own.has(chroma(tone)));
  if (foreign.length > 0)
    messages.push({
      what: `${foreign.map(namePitchClass).join(', ')} beside the set`,
      why: 'they belong to the dominant seventh',
    });
  return { notes: endingOn(best.notes, scale.tonic, inside, pick(tonic, best.home)), group: best.size + 1, messages };
}

/** Where an arpeggio goes on from a note: a step away, else on the same note, else the nearest. */
function nearestRung({ up }: Rungs, to: Pitch): number {
  const away = (pitch: Pitch) => {
    const semis = Math.abs(semitones(pitch) - semitones(to));
    return semis === 0 ? 2.5 : semis;
  };
  let best = 0;
  up.forEach((pitch, rung) => {
    if (away(pitch) < away(up[best] ?? pitch)) best = rung;
  });
  return best;
}
