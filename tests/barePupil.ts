import type { Pupil } from '../src/core/planning';

/** A pupil of whom nothing is known but the name. */
export function barePupil(name: string): Pupil {
  return { name, playing: [], practice: {}, off: [], school: 'mastered', work: [], pins: [], lessons: [] };
}
