/** The steps of the bench, in the order of the work. What each puts into the frame stands in `stepTable`. */
export const STEPS = ['tune', 'keys', 'levels', 'improvise'] as const;
export type BenchStep = (typeof STEPS)[number];

export const STEP_NAMES: Readonly<Record<BenchStep, string>> = {
  tune: 'Tune',
  keys: 'Keys',
  levels: 'Levels',
  improvise: 'Improvise',
};
