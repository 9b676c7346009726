'use client';

import { useDrillKeysStep } from '../drills/useDrillKeysStep';
import { useDrillsStep } from '../drills/useDrillsStep';
import { useImproviseStep } from '../improvise/useImproviseStep';
import { useKeysStep } from '../keys/useKeysStep';
import { useLevelsStep } from '../levels/useLevelsStep';
import { useLickStep } from '../solo/useLickStep';
import { useSoloStep } from '../solo/useSoloStep';
import { useTogetherStep } from '../together/useTogetherStep';
import { useTuneStep, WRITING_HELP } from '../tune/useTuneStep';
import type { Bench, BenchView, ViewContent } from '../work/step';
import { STEPS, type BenchStep } from './steps';

/** Every step by name: a new one is a folder of its own, its name in `steps`, and a line here. */
const STEP_TABLE: Readonly<Record<BenchStep, BenchView>> = {
  tune: { use: useTuneStep, help: WRITING_HELP },
  keys: { use: useKeysStep },
  levels: { use: useLevelsStep },
  together: { use: useTogetherStep },
  improvise: { use: useImproviseStep },
  solo: { use: useSoloStep },
  drills: { use: useDrillsStep },
  'drill-keys': { use: useDrillKeysStep },
  lick: { use: useLickStep },
};

export const STEP_HELP = STEPS.flatMap((step) => STEP_TABLE[step].help ?? []);

/** The view of the open step. All are asked, always in the order of the table, so that each keeps its state. */
export function useSteps(bench: Bench, open: BenchStep): ViewContent {
  let view: ViewContent | undefined;
  for (const step of STEPS) {
    // The table never changes, so every turn calls the same hooks in the same order.
    const made = STEP_TABLE[step].use(bench, step === open);
    if (step === open) view = made;
  }
  if (!view) throw new RangeError(`no step ${open}`);
  return view;
}
