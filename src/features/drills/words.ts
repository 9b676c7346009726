import type {
  DrillArticulation,
  DrillDirection,
  DrillExtent,
  DrillRhythm,
  KeyOrder,
  SetSignature,
} from '../../core/score';

/** What each choice is called in the sentence that makes a drill. */

export const DIRECTION_WORDS: Readonly<Record<DrillDirection, string>> = {
  'up-down': 'up and down',
  up: 'up',
  down: 'down',
  'down-up': 'down and up',
  alternate: 'one group up, the next down',
  melodic: 'up and down, natural coming down',
  nearest: 'each from the nearest tone',
};

export const EXTENT_WORDS: Readonly<Record<DrillExtent, string>> = {
  five: 'over five notes',
  octave: 'over an octave',
  two: 'over two octaves',
  three: 'over three octaves',
  full: 'from the lowest to the highest note',
};

export const TURN_WORDS = {
  pattern: 'groups as the pattern has them',
  same: 'every group the same way round',
  mirrored: 'groups falling on the way down',
} as const;

/** Under which signature harmonic and melodic minor stand. */
export const SIGNATURE_WORDS: Readonly<Record<SetSignature, string>> = {
  minor: 'the signature of minor',
  nearest: 'the signature that holds most of its notes',
};

export const RHYTHM_WORDS: Readonly<Record<DrillRhythm, string>> = {
  half: 'half notes',
  quarter: 'quarters',
  eighth: 'eighths',
  triplet: 'triplets',
  sixteenth: 'sixteenths',
  offbeat: 'eighths off the beat',
  swing: 'swung eighths',
  dotted: 'dotted eighths and sixteenths',
  borrowed: 'a borrowed rhythm',
};

export const ARTICULATION_WORDS: Readonly<Record<DrillArticulation, string>> = {
  plain: 'plain',
  'slurred-2': 'slurred in twos',
  'slurred-4': 'slurred in fours',
  'slurred-8': 'slurred in eights',
  'one-slurred-one': 'two slurred, two separate',
  hooked: 'hooked in pairs',
  detached: 'detached',
  'groups-accented': 'with an accent on each group',
  'threes-accented': 'with an accent on every third note',
  picked: 'picked down and up in turn',
};

export const ORDER_WORDS: Readonly<Record<KeyOrder, string>> = {
  fourths: 'round the fourths',
  fifths: 'round the fifths',
  semitones: 'up by half steps',
  'whole-tones': 'up by whole steps',
  'minor-thirds': 'in three rounds of four',
  easiest: 'the easiest first',
};
