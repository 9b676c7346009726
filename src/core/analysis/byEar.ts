import { SCALE_OF_MODE, scaleOn } from '../harmony';
import { type Key, type PitchClass, stepIndex } from '../pitch';
import type { PhraseRelation } from './comparePhrases';
import type { Contour, Movement } from './contour';
import type { PhraseFinding } from './tuneAnalysis';

/** What can be told of a phrase without naming its notes, so that it can be looked for by ear. */
export interface PhraseWords {
  /** `the fifth, below home` */
  readonly startsOn: string;
  readonly endsOn: string;
  readonly shape: string;
  readonly contour: string;
  /** How it goes back to an earlier phrase. */
  readonly kin?: string;
}

const DEGREES = ['home note', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh'];
const INTERVALS = ['unison', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'octave'];

const CONTOUR_WORDS: Readonly<Record<Contour, string>> = {
  rises: 'rises',
  falls: 'falls',
  arch: 'goes up and comes down again',
  valley: 'goes down and comes up again',
  level: 'stays where it is',
  wave: 'goes up and down more than once',
};

/** A note's place in the key: `home note`, `fifth`, `lowered third`. */
export function degreeName({ step, alter }: PitchClass, key: Key): string {
  const { notes } = scaleOn(key.tonic, SCALE_OF_MODE[key.mode]);
  const degree = (stepIndex(step) - stepIndex(key.tonic.step) + 7) % 7;
  const usual = notes[degree]?.alter ?? 0;
  const name = DEGREES[degree] ?? '';
  if (alter === usual) return name;
  return `${alter > usual ? 'raised' : 'lowered'} ${name}`;
}

export function phraseWords(phrase: PhraseFinding, phrases: readonly PhraseFinding[], key: Key): PhraseWords {
  const kin = phrase.kin && kinWords(phrase.kin.relation, phrase.kin.of + 1, phrase);
  const earlier = phrase.kin ? phrases[phrase.kin.of] : undefined;
  return {
    startsOn: degreeName(phrase.startsOn, key),
    endsOn: degreeName(phrase.endsOn, key),
    contour: CONTOUR_WORDS[phrase.contour],
    shape: movementsWords(phrase.movements),
    ...(kin && earlier && { kin }),
  };
}

/** More stretches than this are too many to remember; the rest is drawn. */
const MAX_TOLD = 7;

function movementsWords(movements: readonly Movement[]): string {
  if (movements.length === 0) return 'one note';
  const words: string[] = [];
  for (let k = 0; k < movements.length; k += 1) {
    const [here, next] = [movements[k], movements[k + 1]];
    if (!here) continue;
    if (next && isNeighbour(here) && isNeighbour(next) && here.direction !== next.direction) {
      words.push(here.direction === 'up' ? 'to the note above and back' : 'to the note below and back');
      k += 1;
      continue;
    }
    words.push(movementWords(here));
  }
  const told = words.slice(0, MAX_TOLD);
  return told.join(', ') + (words.length > MAX_TOLD ? ' … and on as drawn' : '');
}

function isNeighbour({ notes, steps }: Movement): boolean {
  return notes === 2 && Math.abs(steps) === 1;
}

function movementWords({ direction, steps, notes, widest }: Movement): string {
  const size = Math.abs(steps);
  const interval = INTERVALS[size] ?? 'wide leap';
  if (direction === 'repeats') return notes === 2 ? 'the same note again' : `the same note ${notes} times`;
  if (notes === 2)
    return size === 1
      ? `a step ${direction}`
      : size === 2
        ? `a skip ${direction}`
        : size < INTERVALS.length
          ? `a leap of ${article(interval)} ${direction}`
          : `a wide leap ${direction}`;
  if (widest === 1) return `${size} steps ${direction}`;
  if (widest === 2)
    return size === 2 * (notes - 1)
      ? `${notes - 1} skips ${direction}`
      : `${direction} ${spanWords(size)} in steps and skips`;
  const leap = INTERVALS[widest] ?? 'wide leap';
  return widest < INTERVALS.length ? `${direction}, with a leap of ${article(leap)}` : `${direction}, with a wide leap`;
}

function spanWords(size: number): string {
  return size < INTERVALS.length ? article(INTERVALS[size] ?? '') : `over ${size + 1} notes`;
}

function article(word: string): string {
  return /^[aeio]/.test(word) ? `an ${word}` : `a ${word}`;
}

/** `phrase 2 with another ending: only the last two notes are new` */
export function kinWords(
  relation: PhraseRelation,
  of: number,
  { differsAt, pitches }: Pick<PhraseFinding, 'differsAt' | 'pitches'>,
): string {
  const bars =
    differsAt.length === 0
      ? ''
      : differsAt.length === 1
        ? ` in bar ${differsAt[0]}`
        : ` in bars ${differsAt.slice(0, -1).join(', ')} and ${differsAt.at(-1)}`;
  switch (relation.kind) {
    case 'same':
      return `the same as phrase ${of}`;
    case 'other-ending': {
      const count = Math.min(relation.differs.length, pitches.length);
      return `phrase ${of} with another ending: only the last ${count === 1 ? 'note is' : `${numberWord(count)} notes are`} new`;
    }
    case 'other-beginning': {
      const count = relation.differs.length;
      return `phrase ${of} with another beginning: only the first ${count === 1 ? 'note is' : `${numberWord(count)} notes are`} new`;
    }
    case 'sequence':
      return `phrase ${of} moved ${movedWords(relation.steps)}${relation.differs.length > 0 ? `, but other${bars}` : ''}`;
    case 'nearly':
      return `nearly phrase ${of}, but other${bars}`;
    case 'same-rhythm':
      return `the rhythm of phrase ${of} with other notes`;
    case 'same-contour':
      return `the shape of phrase ${of} with other steps`;
  }
}

function movedWords(steps: number): string {
  const size = Math.abs(steps);
  const way = steps > 0 ? 'up' : 'down';
  return size === 1
    ? `${way} a step`
    : size === 7
      ? `${way} an octave`
      : `${way} ${article(INTERVALS[size] ?? `${size + 1} notes`)}`;
}

function numberWord(count: number): string {
  return ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'][count] ?? String(count);
}
