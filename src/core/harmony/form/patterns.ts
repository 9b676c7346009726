import { chroma, type Key } from '../../pitch';
import { heardChord, type HeardChord } from './inKey';
import type { ChordReading, FormPattern } from './reading';
import type { TimedChord } from './timedChord';

/** The first chord of each bar that has one, and what goes on from the bar before. */
function barChords(chords: readonly TimedChord[], bars: number): readonly (HeardChord | undefined)[] {
  const byBar: (HeardChord | undefined)[] = [];
  let current: HeardChord | undefined;
  for (let bar = 0; bar < bars; bar += 1) {
    const here = chords.filter((chord) => chord.bar === bar);
    const first = here[0];
    if (first) {
      const heard = heardChord(first);
      byBar.push(first.at === 0 ? heard : current);
      const last = here.at(-1);
      current = last ? heardChord(last) : heard;
    } else byBar.push(current);
  }
  return byBar;
}

export interface BluesForm {
  readonly tonic: number;
  readonly isMinor: boolean;
}

/**
 * Whether bars are a twelve-bar blues (one chorus or several): I in bar 1, IV in bar 5, I in bar 7 or 8, II or V or ♭VI
 * in bar 9 or V in bar 10, and I in bar 11 or 12; what lies between may be dressed as it likes. Source: M. Levine, The
 * Jazz Theory Book (1995), ch. 10.
 */
export function bluesForm(chords: readonly TimedChord[], bars: number): BluesForm | undefined {
  if (bars === 0 || bars % 12 !== 0) return undefined;
  const all = barChords(chords, bars);
  const first = all[0];
  if (!first) return undefined;
  for (let chorus = 0; chorus < bars; chorus += 12) {
    const degree = (bar: number) => {
      const chord = all[chorus + bar - 1];
      return chord ? (chord.root - first.root + 12) % 12 : -1;
    };
    const isBlues =
      degree(1) === 0 &&
      degree(5) === 5 &&
      (degree(7) === 0 || degree(8) === 0 || degree(7) === 4) &&
      ([2, 7, 8].includes(degree(9)) || degree(10) === 7) &&
      (degree(11) === 0 || degree(12) === 0 || degree(11) === 4);
    if (!isBlues) return undefined;
  }
  const isMinor = first.class === 'minor';
  const hasDominant = all.some((chord) => chord?.class === 'dominant' && (chord.root - first.root + 12) % 12 === 0);
  const isDressedMajor = first.class === 'major' && all[4]?.class === 'dominant';
  return isMinor || hasDominant || isDressedMajor || all[4]?.class === 'dominant'
    ? { tonic: first.root, isMinor }
    : undefined;
}

/** Runs of chords with a name of their own, the longer ones first where they overlap. */
export function patternsOf(
  chords: readonly ChordReading[],
  bars: number,
  blues: BluesForm | undefined,
  isModal: boolean,
): readonly FormPattern[] {
  const timed = chords.map(({ chord }) => chord);
  const found: FormPattern[] = [];
  const home = chords[0]?.key;
  if (!home) return found;
  if (blues) found.push({ kind: blues.isMinor ? 'minor blues' : 'blues', from: 0, to: chords.length, key: home });
  else if (isModal) found.push({ kind: 'vamp', from: 0, to: chords.length, key: home });
  else found.push(...rhythmSections(timed, bars, home));
  if (!isModal) found.push(...cadences(chords), ...turnarounds(chords, bars));
  return found.toSorted((a, b) => a.from - b.from || b.to - a.to);
}

function cadences(chords: readonly ChordReading[]): readonly FormPattern[] {
  const heard = chords.map(({ chord }) => heardChord(chord));
  const found: FormPattern[] = [];
  for (let index = 0; index < chords.length; index += 1) {
    const [two, five, one] = [heard[index], heard[index + 1], heard[index + 2]];
    const reading = chords[index];
    if (!two || !five || !reading) continue;
    const isTwo = two.class === 'minor' || two.class === 'half-diminished';
    if (isTwo && five.class === 'dominant' && (five.root - two.root + 12) % 12 === 5) {
      const goal = one && (one.root - five.root + 12) % 12;
      const key = reading.key;
      const fromHome = (two.root - chroma(key.tonic) + 12) % 12;
      if (goal === 5) found.push({ kind: 'ii–V–I', from: index, to: index + 3, key });
      else if (fromHome === 5 && goal === 2) found.push({ kind: 'backdoor', from: index, to: index + 3, key });
      else found.push({ kind: 'ii–V', from: index, to: index + 2, key });
    }
  }
  return found;
}

/** The last two bars of a form or section that lead from the tonic back to it: I vi ii V and its relatives. */
function turnarounds(chords: readonly ChordReading[], bars: number): readonly FormPattern[] {
  if (bars < 4) return [];
  const from = chords.findIndex(({ chord }) => chord.bar >= bars - 2);
  const here = from < 0 ? [] : chords.slice(from);
  const [first, last] = [here[0], here.at(-1)];
  if (!first || !last || here.length < 3 || here.length > 4) return [];
  const tonic = chroma(first.key.tonic);
  const degree = ({ chord }: ChordReading) => {
    const heard = heardChord(chord);
    return heard ? (heard.root - tonic + 12) % 12 : -1;
  };
  const leadsBack = [7, 1].includes(degree(last)) && heardChord(last.chord)?.class === 'dominant';
  return leadsBack && [0, 4].includes(degree(first))
    ? [{ kind: 'turnaround', from, to: chords.length, key: first.key }]
    : [];
}

/**
 * Eight-bar sections of the kind I vi | ii V | I vi | ii V | I | IV | … : two bars of turnaround twice, then by way of
 * I as the dominant of IV. Source: M. Levine, The Jazz Theory Book (1995), ch. 11.
 */
function rhythmSections(chords: readonly TimedChord[], bars: number, key: Key): readonly FormPattern[] {
  const tonic = chroma(key.tonic);
  const inBar = (bar: number) =>
    chords
      .filter((chord) => chord.bar === bar)
      .map((chord) => {
        const heard = heardChord(chord);
        return heard ? (heard.root - tonic + 12) % 12 : -1;
      });
  const isPair = (bar: number, first: readonly number[], second: readonly number[]) => {
    const [one, other, ...more] = inBar(bar);
    return (
      one !== undefined && other !== undefined && more.length === 0 && first.includes(one) && second.includes(other)
    );
  };
  const found: FormPattern[] = [];
  for (let bar = 0; bar + 8 <= bars; bar += 8) {
    const isA =
      isPair(bar, [0], [9, 1]) &&
      isPair(bar + 1, [2], [7, 1]) &&
      isPair(bar + 2, [0, 4], [9, 1, 3]) &&
      isPair(bar + 3, [2], [7, 1]) &&
      inBar(bar + 4)[0] === 0 &&
      inBar(bar + 5)[0] === 5;
    if (!isA) continue;
    const from = chords.findIndex((chord) => chord.bar === bar);
    const end = chords.findIndex((chord) => chord.bar >= bar + 8);
    found.push({ kind: 'rhythm A', from, to: end < 0 ? chords.length : end, key });
  }
  return found;
}
