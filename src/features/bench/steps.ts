import type { Tune } from '../../core/score';

/** The steps of the bench, in the order of the work. What each puts into the frame stands in `stepTable`. */
export const STEPS = [
  'tune',
  'keys',
  'levels',
  'together',
  'improvise',
  'solo',
  'drills',
  'drill-keys',
  'lick',
] as const;
export type BenchStep = (typeof STEPS)[number];

const STEP_NAMES: Readonly<Record<BenchStep, string>> = {
  tune: 'Tune',
  keys: 'Keys',
  levels: 'Levels',
  together: 'Together',
  improvise: 'Improvise',
  solo: 'Solo',
  drills: 'Drills',
  'drill-keys': 'Keys',
  lick: 'Lick',
};

/** A drill is made by its sentence, not written note by note. */
const DRILL_STEPS: readonly BenchStep[] = ['drills', 'drill-keys', 'levels'];

const TUNE_STEPS: readonly BenchStep[] = STEPS.filter((step) => step !== 'drill-keys' && step !== 'lick');
/** A lick is written like a tune, and read. */
const LICK_STEPS: readonly BenchStep[] = ['lick', 'tune', 'levels'];

/** The steps of a document: those of a tune, of a drill or of a lick. */
export function stepsOf({ drill, lick }: Pick<Tune, 'drill' | 'lick'>): readonly BenchStep[] {
  return drill ? DRILL_STEPS : lick ? LICK_STEPS : TUNE_STEPS;
}

/** What a step is called: a drill has one idea. */
export function stepName(step: BenchStep, { drill }: Pick<Tune, 'drill'>): string {
  return step === 'drills' && drill ? 'Drill' : STEP_NAMES[step];
}
