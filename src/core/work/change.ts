import { articleOf } from '../plainText';
import { type Interval, namePitchClass, type PitchClass, transposeClass, withAlterUpTo } from '../pitch';
import { unreachable } from '../result';
import type { EventId, Ornament } from '../score';
import { nameValue, type NoteValue } from '../time';
import { type ArticulationStyle, type Device, LEAP_NAMES, LEAPS, type PhrasingStyle } from './groups';

/** What a level did at a bar, as data. Pitches are concert; `describeChange` says them in the reader's. */
export type ChangeKind =
  | {
      readonly kind: 'simplified';
      readonly before: readonly PitchClass[];
      readonly after: readonly PitchClass[];
      readonly shortest: NoteValue;
      readonly isTail: boolean;
      readonly syllablesJoined: boolean;
    }
  | { readonly kind: 'moved'; readonly notes: readonly { readonly pitch: PitchClass; readonly beat: number }[] }
  | { readonly kind: 'lengths'; readonly shortest: NoteValue; readonly isTail: boolean }
  | { readonly kind: 'graces'; readonly count: number; readonly isPiping?: true }
  | { readonly kind: 'ornaments'; readonly names: readonly string[] }
  /** A whole gesture moved by octaves: the phrase, or a part of it that begins after a rest or a held note. */
  | {
      readonly kind: 'phrase-octave';
      readonly octaves: number;
      readonly low: string;
      readonly high: string;
      readonly isPart?: true;
    }
  | {
      readonly kind: 'note-octave';
      readonly pitch: PitchClass;
      readonly octaves: number;
      readonly edge: string;
      readonly isLow: boolean;
    }
  /** One that could stay, in another octave for the sake of a neighbour that could not. */
  | { readonly kind: 'along'; readonly pitch: PitchClass; readonly octaves: number }
  | {
      readonly kind: 'swapped';
      readonly from: PitchClass;
      readonly to: PitchClass;
      readonly edge: string;
      readonly isLow: boolean;
    }
  /** Not among the notes that the player knows. */
  | { readonly kind: 'not-known'; readonly from: PitchClass; readonly to: PitchClass; readonly octaves: number }
  /** A note a little beyond the range, as it is read, with which the whole line would stay as it is. */
  | { readonly kind: 'teach'; readonly pitch: string; readonly isLow: boolean; readonly count: number }
  /** Out of reach, and the teacher chose a rest. */
  | { readonly kind: 'left-out'; readonly pitch: PitchClass }
  /** Something was added around the note `at`, which stays. */
  | {
      readonly kind: 'embellished';
      readonly device: Device;
      readonly at: PitchClass;
      readonly added: readonly PitchClass[];
      readonly beat: number;
      readonly to?: PitchClass;
      readonly ornament?: Ornament;
    }
  /** The teacher put another version of the bar here. */
  | {
      readonly kind: 'chosen';
      readonly variant: 'rest' | 'octave-up' | 'octave-down' | 'optional' | 'own' | 'own-too-long';
    }
  /** The tune leaps farther here than the level does. */
  | {
      readonly kind: 'leap';
      readonly from: PitchClass;
      readonly to: PitchClass;
      readonly octaves: number;
      readonly most: number;
    }
  /** A leap too large that the ends of the phrase leave. */
  | { readonly kind: 'leap-stays'; readonly from: PitchClass; readonly to: PitchClass }
  /** A stretch that lasts longer than the player's breath. In seconds. */
  | { readonly kind: 'long-breath'; readonly seconds: number; readonly lasts: number }
  /** A drill that does not do here what its idea says, in words. */
  | { readonly kind: 'drill'; readonly what: string; readonly why: string }
  /** Other slurs and dots than the tune's. */
  | { readonly kind: 'articulation'; readonly style: Exclude<ArticulationStyle, 'as-written'> }
  /** Slurs, dots and loudness that the tune does not have, in a style; told once, where the part begins. */
  | { readonly kind: 'phrased'; readonly style: PhrasingStyle; readonly unslurred?: true }
  /** The one kind that concerns the page alone: written pitches. */
  | { readonly kind: 'respelled'; readonly from: PitchClass; readonly to: PitchClass };

export interface Change {
  /** As printed: a pickup is 0. */
  readonly bar: number;
  /** Index into the bars. */
  readonly barIndex: number;
  readonly detail: ChangeKind;
  /** Events of the part that the change is to be seen on. */
  readonly events: readonly EventId[];
}

/** A change in words a teacher would use. */
export interface ChangeText {
  readonly what: string;
  readonly why: string;
}

/** Says a change with note names for a reader whose pitch lies `written` above concert. */
export function describeChange({ detail }: Change, written: Interval): ChangeText {
  const name = (pitch: PitchClass) => {
    const { step, alter } = withAlterUpTo({ ...transposeClass(pitch, written), octave: 4 }, 2);
    return namePitchClass({ step, alter });
  };
  const names = (pitches: readonly PitchClass[]) => pitches.map(name).join(' ');
  switch (detail.kind) {
    case 'simplified':
      return simplifiedText(detail, names);
    case 'moved':
      return {
        what: detail.notes.map(({ pitch, beat }) => `${name(pitch)} now falls on beat ${beat}`).join(', '),
        why: 'notes start on the beat at this level',
      };
    case 'lengths':
      return { what: 'note lengths evened out', why: wordsText(detail) };
    case 'graces':
    case 'ornaments':
      return ornamentsText(detail);
    case 'phrase-octave':
      return {
        what: `this ${detail.isPart ? 'part of the phrase' : 'phrase'} is ${octavesText(detail.octaves)}`,
        why: `so that it stays between ${detail.low} and ${detail.high}`,
      };
    case 'note-octave':
      return {
        what: `${name(detail.pitch)} played ${octavesText(detail.octaves)}`,
        why: edgeText(detail),
      };
    case 'along':
      return {
        what: `${name(detail.pitch)} played ${octavesText(detail.octaves)}`,
        why: 'it moves with the note beside it, which is out of reach',
      };
    case 'swapped':
      return { what: `${name(detail.from)} became ${name(detail.to)}, a note of the chord`, why: edgeText(detail) };
    case 'not-known':
      return {
        what: Number.isInteger(detail.octaves)
          ? `${name(detail.from)} played ${octavesText(detail.octaves)}`
          : `${name(detail.from)} became ${name(detail.to)}`,
        why: 'this player does not know it there yet',
      };
    case 'teach':
      return teachText(detail);
    case 'left-out':
      return { what: `${name(detail.pitch)} left out`, why: 'it lies beyond the range, and a rest was chosen' };
    case 'embellished':
      return embellishedText(detail, name);
    case 'chosen':
      return { what: CHOSEN_TEXT[detail.variant], why: 'as you set this bar' };
    case 'leap':
      return {
        what: Number.isInteger(detail.octaves)
          ? `${name(detail.from)} played ${octavesText(detail.octaves)}`
          : `${name(detail.from)} became ${name(detail.to)}, a note of the chord`,
        why: `no leap beyond ${LEAPS.map((steps) => (steps === detail.most ? LEAP_NAMES[steps] : '')).join('')} here`,
      };
    case 'leap-stays':
      return {
        what: `the leap from ${name(detail.from)} to ${name(detail.to)} stays`,
        why: 'the first note and the ends of phrases keep their notes',
      };
    case 'long-breath':
      return {
        what: `about ${Math.round(detail.seconds)} seconds in one breath from here`,
        why: `no better place to breathe comes sooner, and about ${Math.round(detail.lasts)} seconds are usual: a quicker tempo helps`,
      };
    case 'drill':
      return { what: detail.what, why: detail.why };
    case 'articulation':
      return { what: STYLE_TEXT[detail.style], why: 'the articulation of the level' };
    case 'phrased':
      return phrasedText(detail);
    case 'respelled':
      return {
        what: `${namePitchClass(detail.from)} written as ${namePitchClass(detail.to)}`,
        why: 'no double sharps or flats for a beginner',
      };
    default:
      return unreachable(detail);
  }
}

function simplifiedText(
  detail: Extract<ChangeKind, { readonly kind: 'simplified' }>,
  names: (pitches: readonly PitchClass[]) => string,
): ChangeText {
  const joined = detail.syllablesJoined ? ', and their syllables are sung on the notes that stay' : '';
  const before = names(detail.before);
  return {
    what: detail.after.length === 0 ? `${before} left out` : `${before} became ${names(detail.after)}${joined}`,
    why: `${wordsText(detail)}; the notes that carry the tune stay`,
  };
}

function teachText({ pitch, isLow, count }: Extract<ChangeKind, { readonly kind: 'teach' }>): ChangeText {
  const lies = count === 1 ? 'one note lies' : `${count} notes lie`;
  return {
    what: `this part needs ${pitch}: teach it?`,
    why: `allowed as the ${isLow ? 'lowest' : 'highest'} note of the level, it would leave the line as it is (${lies} beyond the range)`,
  };
}

function phrasedText({ style, unslurred }: Extract<ChangeKind, { readonly kind: 'phrased' }>): ChangeText {
  return unslurred
    ? { what: 'phrased without slurs', why: 'every note is struck or sung by itself on this instrument' }
    : {
        what: `phrased ${PHRASING_WORDS[style]}`,
        why: 'what a player would pencil in; the tune’s own marks stand',
      };
}

function ornamentsText(detail: Extract<ChangeKind, { readonly kind: 'graces' | 'ornaments' }>): ChangeText {
  const secure = 'ornaments wait until the plain tune is secure';
  if (detail.kind === 'ornaments') return { what: `${detail.names.join(', ')} left out`, why: secure };
  return {
    what: detail.count === 1 ? 'a grace note left out' : `${detail.count} grace notes left out`,
    why: detail.isPiping ? 'they are a piper’s, and this instrument does not play them so' : secure,
  };
}

function wordsText({ shortest, isTail }: { readonly shortest: NoteValue; readonly isTail: boolean }): string {
  return isTail
    ? 'each beat is a dotted quarter, or a quarter and an eighth, here'
    : `nothing shorter than ${articleOf(nameValue(shortest))} ${nameValue(shortest)} here`;
}

function edgeText({ edge, isLow }: { readonly edge: string; readonly isLow: boolean }): string {
  return `${edge} is the ${isLow ? 'lowest' : 'highest'} note here`;
}

function octavesText(octaves: number): string {
  const count = Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`;
  return `${count} ${octaves > 0 ? 'higher' : 'lower'}`;
}

/** How a style of phrasing is played, as the end of a sentence. */
const PHRASING_WORDS: Readonly<Record<PhrasingStyle, string>> = {
  song: 'as a song: slurs inside the phrase, a swell to its highest note',
  hymn: 'as a hymn: slurs by the bar inside the phrase, a swell to its highest note',
  air: 'as a slow air: long slurs, soft at both ends',
  dance: 'as a dance: two slurred and one tongued, or over the beat with the bow',
  march: 'as a march: detached, with weight on first beats',
  swing: 'as swing: the weak eighth slurred into the strong, accents on what comes early',
  tango: 'as a tango: weight on one, short notes after it',
  older: 'as older music: notes by step in pairs, the others tongued',
};

const STYLE_TEXT: Readonly<Record<Exclude<ArticulationStyle, 'as-written'>, string>> = {
  each: 'every note by itself',
  tongued: 'tongued, except pairs',
  smooth: 'slurred by the half bar',
  crisp: 'short notes detached',
  swung: 'off-beats slurred into the beat',
  lilting: 'two slurred, the rest tongued',
};

const CHOSEN_TEXT: Readonly<Record<Extract<ChangeKind, { readonly kind: 'chosen' }>['variant'], string>> = {
  rest: 'this bar rests',
  'octave-up': 'this bar is an octave higher',
  'octave-down': 'this bar is an octave lower',
  optional: 'this bar is optional',
  own: 'this bar was written by hand',
  'own-too-long': "the bar you wrote no longer fills this bar; it is stored, and the level's version is printed",
};

function embellishedText(
  { device, at, added, beat, to, ornament }: Extract<ChangeKind, { readonly kind: 'embellished' }>,
  name: (pitch: PitchClass) => string,
): ChangeText {
  const notes = added.map(name).join(' ');
  const place = `after ${name(at)} on beat ${beat}`;
  switch (device) {
    case 'passing':
      return { what: `${notes} ${place}`, why: 'the line walks where it leaped' };
    case 'neighbour':
      return { what: `${notes} ${place}`, why: 'a step away and back' };
    case 'fill':
      return { what: `${notes} ${place}`, why: `the long note walks on${to ? ` into ${name(to)}` : ''}` };
    case 'chord-tone':
      return { what: `${notes} ${place}`, why: 'another note of the same chord' };
    case 'run-in':
      return { what: `${notes} on beat ${beat}, into ${name(at)}`, why: 'the rest has room for a way in' };
    case 'again':
      return { what: `${name(at)} struck again on beat ${beat}`, why: 'the same note, livelier' };
    case 'approach':
      return { what: `${notes} ${place}`, why: `a half step leads${to ? ` into ${name(to)}` : ' on'}` };
    case 'enclosure':
      return { what: `${notes} ${place}`, why: `${to ? name(to) : 'the next note'} is met from both sides` };
    case 'anticipation':
      return { what: `${name(at)} comes an eighth before beat ${beat}`, why: 'a strong note pushed forward' };
    case 'double-time':
      return { what: `${name(at)} ${notes} on beat ${beat}`, why: 'a beat in double time' };
    case 'triplet':
      return {
        what: `a triplet ${notes} ${place}`,
        why: `three in the time of two lead${to ? ` into ${name(to)}` : ' on'}`,
      };
    case 'grace':
      return { what: `a grace note ${notes} before ${name(at)} on beat ${beat}`, why: 'a strong note gets an edge' };
    case 'turn':
      return { what: `a ${ornament ?? 'turn'} on ${name(at)}, beat ${beat}`, why: 'a long note is adorned' };
    default:
      return unreachable(device);
  }
}
