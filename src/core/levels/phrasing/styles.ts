import { formOf } from '../../pools';
import { derived } from '../../derived';
import { type Dynamic, quartersPerMinute, type SoundingNote, soundingNotes, type Style, type Tune } from '../../score';
import { beatsOf, isCompound, TICKS_PER_QUARTER } from '../../time';
import type { PhrasingStyle } from '../../work';

/**
 * How a style is phrased. Slurs: by the half bar or the bar, where the line sings; on the beat, two slurred and one
 * tongued (under the bow from the weak note into the strong); from the weak eighth into the strong; in pairs; none but
 * what belongs together. Marks: accents on first beats with dots after them, or on what comes early.
 */
export interface PhrasingTable {
  readonly slurs: 'half bar' | 'bar' | 'beat' | 'weak into strong' | 'pairs' | 'detached' | 'snap';
  readonly marks: 'march' | 'swing' | 'tango' | undefined;
  /** Loudness at the beginning, for a first-year player and for others. */
  readonly first: { readonly beginner: Dynamic; readonly others: Dynamic };
  /** Loudness of the highest note, or of the phrase or section that stands out. */
  readonly top: Dynamic;
  /** Whether loudness follows the line (hairpins to and from the highest note), or stands in steps by section. */
  readonly swells: boolean;
  /** Whether the end broadens, where the tune is slow. */
  readonly broadens: boolean;
  /** Whether the note before the last of all is trilled, where a level adorns. */
  readonly trills?: true;
}

/**
 * Sources: slurs by the half bar and tongued repeated notes in songs and hymns, two slurred and one tongued in jigs,
 * detached marches with weight on one, the weak eighth slurred into the strong in swing, pairs in older music are the
 * common practice of tutor books for winds and bow (for pairs and leaned-on notes: J. J. Quantz, Versuch, 1752, ch. 6
 * and 8; for bows over the beat, fiddle tutors). Which loudness stands where is ours.
 */
export const PHRASING_TABLES: Readonly<Record<PhrasingStyle, PhrasingTable>> = {
  song: {
    slurs: 'half bar',
    marks: undefined,
    first: { beginner: 'mp', others: 'mp' },
    top: 'f',
    swells: true,
    broadens: true,
  },
  hymn: {
    slurs: 'bar',
    marks: undefined,
    first: { beginner: 'mp', others: 'mp' },
    top: 'f',
    swells: true,
    broadens: true,
  },
  air: {
    slurs: 'bar',
    marks: undefined,
    first: { beginner: 'mp', others: 'p' },
    top: 'mf',
    swells: true,
    broadens: true,
    trills: true,
  },
  dance: {
    slurs: 'beat',
    marks: undefined,
    first: { beginner: 'mf', others: 'mf' },
    top: 'f',
    swells: false,
    broadens: false,
  },
  march: {
    slurs: 'detached',
    marks: 'march',
    first: { beginner: 'mf', others: 'f' },
    top: 'f',
    swells: false,
    broadens: false,
  },
  swing: {
    slurs: 'weak into strong',
    marks: 'swing',
    first: { beginner: 'mf', others: 'mf' },
    top: 'f',
    swells: false,
    broadens: false,
  },
  tango: {
    slurs: 'snap',
    marks: 'tango',
    first: { beginner: 'mf', others: 'mp' },
    top: 'f',
    swells: false,
    broadens: false,
  },
  older: {
    slurs: 'pairs',
    marks: undefined,
    first: { beginner: 'mf', others: 'mf' },
    top: 'f',
    swells: false,
    broadens: false,
    trills: true,
  },
};

/** What people call their tunes: who writes the word over a tune means the style. */
const NAMED: readonly (readonly [RegExp, PhrasingStyle])[] = [
  [/\b(?:march|marching|processional|quickstep)\b/i, 'march'],
  [/\b(?:jig|reel|polka|hornpipe|strathspey|slide|bourr[eé]e|schottische|mazurka|gigue)\b/i, 'dance'],
  [/\b(?:hymn|chorale|carol)\b/i, 'hymn'],
  [/\b(?:tango|milonga|habanera)\b/i, 'tango'],
  [/\b(?:swing|blues|bounce|shuffle)\b/i, 'swing'],
  [/\b(?:slow air|lament|lullaby)\b/i, 'air'],
  [/\b(?:minuet|gavotte|sarabande|allemande|courante)\b/i, 'older'],
];

/** Beats a minute up to which a singing tune is a slow air; from which to which steady quarters are a march. */
const SLOW = 66;
const MARCH = { from: 88, to: 132, steady: 0.85, dotted: 0.12 } as const;
/** From this share of bars on that begin long and short a tune in two is a tango. */
const SNAPS = 0.5;

const BY_STYLE: Readonly<Record<Style, PhrasingStyle>> = {
  song: 'song',
  hymn: 'hymn',
  dance: 'dance',
  modal: 'song',
  rock: 'song',
  blues: 'swing',
  jazz: 'swing',
};

/** The phrasing that suits a tune: what its title or tempo calls it, else its style, tempo and rhythm. */
export const phrasingOf = derived((tune: Tune): PhrasingStyle => {
  const said = tune.harmony?.style;
  const named = NAMED.find(([word]) => word.test(tune.tempo.words ?? '') || word.test(tune.title));
  if (named && !said) return named[1];
  const { style } = formOf(tune);
  const general = BY_STYLE[style];
  if (said || general === 'swing') return general;
  const notes = soundingNotes(tune);
  const quarters = quartersPerMinute(tune.tempo);
  if (quarters <= MARCH.from && isTango(tune, notes)) return 'tango';
  if (general === 'dance') return general;
  if (quarters <= SLOW && !isCompound(tune.meter)) return 'air';
  return general === 'song' && isMarch(tune, notes, quarters) ? 'march' : general;
});

/** Two beats, and most bars begin with a dotted note and its short one. */
function isTango(tune: Tune, notes: readonly SoundingNote[]): boolean {
  if (beatsOf(tune.meter).length !== 2 || isCompound(tune.meter)) return false;
  const beat = beatsOf(tune.meter)[0]?.length ?? TICKS_PER_QUARTER;
  const snaps = notes.filter(({ inBar, length }) => inBar === 0 && length === (beat * 3) / 4).length;
  return snaps > SNAPS * tune.bars.length;
}

/** Even beats with a dotted one here and there, in two or four, at a walking tempo. */
function isMarch(tune: Tune, notes: readonly SoundingNote[], quarters: number): boolean {
  const beats = beatsOf(tune.meter);
  if ((beats.length !== 2 && beats.length !== 4) || isCompound(tune.meter)) return false;
  if (quarters < MARCH.from || quarters > MARCH.to || notes.some(({ first }) => first.lyrics)) return false;
  const beat = beats[0]?.length ?? TICKS_PER_QUARTER;
  const onBeat = notes.filter(({ inBar, length }) => inBar % beat === 0 && length % (beat / 2) === 0).length;
  const dotted = notes.filter(({ inBar, length }) => inBar % beat === 0 && length * 2 === beat * 3).length;
  const eighths = notes.filter(({ length }) => length < beat).length;
  return onBeat > MARCH.steady * notes.length && dotted > MARCH.dotted * tune.bars.length && eighths < dotted * 2;
}
