import { kindText } from '../chordSymbol';
import { familyOf, type KeyState } from './keyAreas';
import type { Sense } from './inKey';
import { classOfChord, type RootedChord } from './timedChord';

const MAJOR = ['I', '♭II', 'II', '♭III', 'III', 'IV', '♯IV', 'V', '♭VI', 'VI', '♭VII', 'VII'] as const;
const MINOR = ['I', '♭II', 'II', 'III', '♯III', 'IV', '♯IV', 'V', 'VI', '♯VI', 'VII', '♯VII'] as const;

/**
 * The roman numeral of a chord so many semitones above a tonic: capital for a major third, small for a minor one. In
 * minor, III, VI and VII are those of natural minor, and the raised seventh is plain vii°, as texts on harmony write
 * it. Source: S. Kostka and D. Payne, Tonal Harmony (2013), ch. 3 and 16.
 */
export function numeralOf(chord: RootedChord, degree: number, state: KeyState): string {
  const isMinorKey = familyOf(state) === 'minor';
  const kind = classOfChord(chord.quality);
  const isSmall = kind === 'minor' || kind === 'half-diminished' || kind === 'diminished';
  const raisedSeventh = isMinorKey && degree === 11 && isSmall;
  const name = raisedSeventh ? 'VII' : ((isMinorKey ? MINOR : MAJOR)[degree] ?? '');
  return (isSmall ? name.toLowerCase() : name) + suffixOf(chord);
}

function suffixOf({ quality }: RootedChord): string {
  const kind = classOfChord(quality);
  const text = kindText(quality);
  if (kind === 'half-diminished') return `ø${text.replace(/^m/, '').replace('♭5', '')}`;
  return kind === 'minor' ? text.replace(/^m/, '') : text;
}

/** With what it leads to: `V7/ii`, `iiø7/vi`, `♭II7/V`. */
export function numeralWithTarget(chord: RootedChord, degree: number, sense: Sense, state: KeyState): string {
  const { target, targetIsMinor } = sense;
  if (target === undefined || (target === 0 && sense.function !== 'secondary dominant'))
    return numeralOf(chord, degree, state);
  const goal = (familyOf(state) === 'minor' ? MINOR : MAJOR)[target] ?? '';
  const of = targetIsMinor ? goal.toLowerCase() : goal;
  // Counted from the goal: its fifth, second, lowered second or seventh degree.
  const fromGoal = (degree - target + 12) % 12;
  const own = sense.function === 'passing' ? 11 : fromGoal;
  return `${numeralOf(chord, own, targetIsMinor ? 12 : 0)}/${of}`;
}
