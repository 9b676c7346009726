import { chroma, fifthsOf, type Key, sameKey } from '../../pitch';
import { heardChord, type Sense } from './inKey';
import { centreOf, hearForm, homeOf, keyOfState, keyPath, senseAt, stateOf, tonicOf, type KeyState } from './keyAreas';
import { modalKeys } from './modal';
import { numeralOf, numeralWithTarget } from './numerals';
import { bluesForm, patternsOf } from './patterns';
import type { ChordReading, FormReading, ReadingCorrection } from './reading';
import type { TimedChord } from './timedChord';

export interface FormRequest {
  /** The key that the form is said to be in; found from the chords where nobody says. */
  readonly key?: Key;
  /** Whole bars of the form, a pickup left out. */
  readonly bars: number;
  readonly corrections?: readonly ReadingCorrection[];
}

/**
 * Reads the chords of a form: its key areas, what each chord does there, and the runs that have a name. Everything is
 * counted from roots, so that a form reads alike in all twelve keys.
 */
export function readForm(chords: readonly TimedChord[], request: FormRequest): FormReading {
  const { bars, corrections = [] } = request;
  const blues = bluesForm(chords, bars);
  const modal = blues ? undefined : modalKeys(chords);
  const form = hearForm(chords);
  const saidState = request.key && stateOf(request.key);
  const foundState = blues ? blues.tonic + (blues.isMinor ? 12 : 0) : homeOf(form);
  const home: Key = request.key ?? modal?.[0] ?? keyOfState(foundState, chords, centreOf(chords));
  const homeState = saidState ?? stateOf(home);
  const fixed = fixedStates(chords, corrections, blues && chroma(home.tonic) === blues.tonic ? homeState : undefined);
  const path = keyPath(form, homeState, fixed).states;
  const usesModes = modal !== undefined && corrections.length === 0 && (!request.key || agrees(modal[0], request.key));
  const keyAt = areaKeys(chords, path, home, homeState, corrections);
  const readings = chords.map((chord, index): ChordReading => {
    const key = usesModes ? (modal[index] ?? home) : (keyAt[index] ?? home);
    const state = usesModes ? stateOf(key) : (path[index] ?? homeState);
    const said = corrections.find((one) => one.bar === chord.bar && one.at === chord.at);
    const { symbol } = chord;
    const sense = bluesSense(blues, chord, chords[index - 1]) ?? senseAt(form, index, state);
    if (symbol.kind === 'no chord' || !sense) return { chord, key, numeral: '', function: 'outside' };
    const degree = (chroma(symbol.root) - tonicOf(state) + 12) % 12;
    const isModal = usesModes || (key.mode !== 'major' && key.mode !== 'minor' && sense.cost <= MODAL_COST);
    if (said?.function)
      return {
        chord,
        key,
        numeral: numeralOf(symbol, degree, state),
        function: said.function,
        ...(sense.target !== undefined && { target: sense.target, targetIsMinor: sense.targetIsMinor ?? false }),
        corrected: true,
      };
    return {
      chord,
      key,
      numeral: isModal ? numeralOf(symbol, degree, state) : numeralWithTarget(symbol, degree, sense, state),
      function: isModal && sense.function !== 'tonic' ? 'modal' : sense.function,
      ...(!isModal &&
        sense.target !== undefined && { target: sense.target, targetIsMinor: sense.targetIsMinor ?? false }),
      ...(said?.key && { corrected: true as const }),
    };
  });
  return { home, chords: readings, patterns: patternsOf(readings, bars, blues, usesModes), areas: areasOf(readings) };
}

/** What is dearer than this does not belong to a mode either. */
const MODAL_COST = 1;

function agrees(found: Key | undefined, said: Key): boolean {
  return found !== undefined && chroma(found.tonic) === chroma(said.tonic);
}

/** In a blues, dominant sevenths on I and IV are home chords; they lead nowhere. */
function bluesSense(
  blues: ReturnType<typeof bluesForm>,
  chord: TimedChord,
  before: TimedChord | undefined,
): Sense | undefined {
  const heard = heardChord(chord);
  if (!blues || !heard || heard.class !== 'dominant') return undefined;
  const degree = (heard.root - blues.tonic + 12) % 12;
  if (degree === 5) return { function: 'predominant', cost: 0 };
  const prepared = before && heardChord(before);
  const isPrepared = prepared?.class === 'minor' && (prepared.root - blues.tonic + 12) % 12 === 7;
  if (degree !== 0 || blues.isMinor || isPrepared) return undefined;
  return { function: 'tonic', cost: 0 };
}

/** Keys set by hand hold from their chord to the next one set. */
function fixedStates(
  chords: readonly TimedChord[],
  corrections: readonly ReadingCorrection[],
  all: KeyState | undefined,
): ReadonlyMap<number, KeyState> {
  const fixed = new Map<number, KeyState>();
  let current = all;
  chords.forEach((chord, index) => {
    const said = corrections.find((one) => one.bar === chord.bar && one.at === chord.at)?.key;
    if (said) current = stateOf(said);
    if (current !== undefined) fixed.set(index, current);
  });
  return fixed;
}

/** The key of each chord, spelled: the home key in its own mode, others near the key before. */
function areaKeys(
  chords: readonly TimedChord[],
  path: readonly KeyState[],
  home: Key,
  homeState: KeyState,
  corrections: readonly ReadingCorrection[],
): readonly Key[] {
  let before = home;
  let state = homeState;
  let said: Key | undefined;
  return path.map((next, index) => {
    const chord = chords[index];
    said = corrections.find((one) => one.bar === chord?.bar && one.at === chord.at)?.key ?? said;
    if (said && stateOf(said) === next) before = said;
    else if (next === homeState) before = home;
    else if (next !== state) {
      let until = index;
      while (path[until + 1] === next) until += 1;
      before = keyOfState(next, chords.slice(index, until + 1), fifthsOf(before.tonic));
    }
    state = next;
    return before;
  });
}

function areasOf(readings: readonly ChordReading[]): FormReading['areas'] {
  const areas: { from: number; to: number; key: Key }[] = [];
  readings.forEach(({ key }, index) => {
    const last = areas.at(-1);
    if (last && sameKey(last.key, key)) last.to = index + 1;
    else areas.push({ from: index, to: index + 1, key });
  });
  return areas;
}
