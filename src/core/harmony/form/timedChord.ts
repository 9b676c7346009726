import type { Ticks } from '../../time';
import type { ChordKind, ChordSymbol } from '../chordSymbol';

/** A chord as it goes by in a form: played out or as printed, in concert pitch. */
export interface TimedChord {
  readonly symbol: ChordSymbol;
  /** Index of the bar in which it begins. */
  readonly bar: number;
  /** From the start of that bar. */
  readonly at: Ticks;
  /** Until the next chord or the end. */
  readonly length: Ticks;
  /** Of the bar in which it begins. */
  readonly barLength: Ticks;
}

export type RootedChord = Extract<ChordSymbol, { kind: 'chord' }>;

/** What a chord can do in a key, apart from its root. */
export type ChordClass =
  'major' | 'dominant' | 'minor' | 'half-diminished' | 'diminished' | 'augmented' | 'suspended' | 'power';

/** A dominant is any chord with a major third and a minor seventh; a suspended fourth with a seventh stands for one. */
export function classOfChord({ triad, seventh, altered, omitted }: ChordKind): ChordClass {
  if (altered) return 'dominant';
  switch (triad) {
    case 'major':
      if (omitted.includes(3) && !seventh) return 'power';
      return seventh === 'minor' ? 'dominant' : 'major';
    case 'minor':
      return 'minor';
    case 'diminished':
      return seventh === 'minor' ? 'half-diminished' : 'diminished';
    case 'augmented':
      return seventh === 'minor' ? 'dominant' : 'augmented';
    case 'sus2':
    case 'sus4':
      return 'suspended';
    case 'power':
      return 'power';
  }
}
