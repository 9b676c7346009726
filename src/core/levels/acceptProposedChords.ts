import type { Tune } from '../score';
import type { Work } from '../work';

/** The work with the chords of another version of its tune: proposals that a teacher takes. */
export function acceptProposedChords(work: Work, harmonised: Tune): Work {
  return {
    ...work,
    tune: {
      ...work.tune,
      bars: work.tune.bars.map((bar, index) => {
        const chords = harmonised.bars[index]?.chords ?? [];
        // What was written since they were proposed stays.
        return chords.length > 0 && bar.chords.length === 0 ? { ...bar, chords } : bar;
      }),
    },
  };
}
