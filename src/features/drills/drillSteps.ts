import { groupSize, parsePattern } from '../../core/drills';
import { scaleDegrees } from '../../core/harmony';
import { alterOf, isStep, type PitchClass } from '../../core/pitch';
import { failure, success, type Result } from '../../core/result';
import { DRILL_LIMITS, type DrillIdea, type Exercise } from '../../core/score';

/** One chord or group a key: there are other ways from inversion to inversion. */
export function hasPaths({ set, pattern }: Exercise): boolean {
  const parsed = parsePattern(pattern);
  if (!parsed.ok) return false;
  return parsed.value.kind === 'group' || (parsed.value.kind === 'stack' && scaleDegrees(set).length < 5);
}

/** The idea with other exercises; a drill has one at least. */
export function withSteps(idea: DrillIdea, steps: readonly Exercise[]): DrillIdea {
  const [first, ...rest] = steps;
  return first ? { ...idea, steps: [first, ...rest] } : idea;
}

/** Without fields that are `undefined`: a document holds what was decided. */
export function cleaned(step: Exercise): Exercise {
  return Object.fromEntries(Object.entries(step).filter(([, value]) => value !== undefined)) as unknown as Exercise;
}

/** Two exercises in each other's places; nothing changes where there is no other. */
export function swapped(steps: readonly Exercise[], a: number, b: number): readonly Exercise[] {
  const [one, other] = [steps[a], steps[b]];
  return one && other ? steps.map((step, k) => (k === a ? other : k === b ? one : step)) : steps;
}

/** The rungs of a ladder in the order of their demand. */
const DEMAND = [
  'scale',
  'thirds',
  'up-two-down-one',
  '1-2-3-5',
  'triads',
  'sevenths',
  'fourths',
  'sixths',
  'ninths',
  'thirteenths',
];

/** The exercise that a ladder goes on with: the next in the order of demand, in the same set. */
export function nextStep(idea: DrillIdea): Exercise {
  const last = idea.steps.at(-1) ?? idea.steps[0];
  const at = DEMAND.indexOf(last.pattern);
  const pattern = DEMAND[Math.min(DEMAND.length - 1, at + 1)] ?? 'scale';
  const parsed = parsePattern(pattern);
  return cleaned({
    ...last,
    pattern,
    ...(parsed.ok && groupSize(parsed.value) === 3 && { rhythm: 'triplet' as const }),
  });
}

/** Reads a tonic like `Bb`, `F♯` or `c`; `undefined` for what is none. */
export function tonicOf(text: string): PitchClass | undefined {
  const [, letter, signs = ''] = /^([A-Ga-g])([#♯]|[b♭])?$/.exec(text.trim()) ?? [];
  const step = letter?.toUpperCase();
  return isStep(step) ? { step, alter: alterOf(signs) } : undefined;
}

/** Reads concert tonics with blanks or commas between them, or says what would be right. */
export function tonicsIn(text: string): Result<readonly PitchClass[], string> {
  const words = text.split(/[\s,]+/).filter(Boolean);
  const tonics = words.flatMap((word) => tonicOf(word) ?? []);
  return tonics.length < words.length || tonics.length === 0 || tonics.length > DRILL_LIMITS.keys
    ? failure(`Give 1 to ${DRILL_LIMITS.keys} concert tonics, like C F B♭.`)
    : success(tonics);
}
