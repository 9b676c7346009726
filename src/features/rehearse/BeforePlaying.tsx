'use client';

import { ArrowLeft, ArrowRight, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { StandAids } from '../../core/levels';
import { Button } from '../../ui/Button';

interface Step {
  readonly heading: string;
  readonly text: string;
  /** What stands with the notes meanwhile. */
  readonly aids: StandAids;
}

/**
 * What is done before a new part is played, in the order in which it is usually taught: eyes and voice, rhythm,
 * fingers, then sound.
 */
const STEPS: readonly Step[] = [
  { heading: 'Say the names', text: 'Read the notes aloud, one after the other, without a beat.', aids: 'names' },
  {
    heading: 'Clap the rhythm',
    text: 'Clap it on its syllables, first alone, then with the metronome.',
    aids: 'syllables',
  },
  {
    heading: 'Finger it silently',
    text: 'Move your fingers, bow or slide without a sound, and say the names. Slowly: nothing is to be caught up.',
    aids: 'page',
  },
  { heading: 'Play', text: 'Now play, as slowly as it goes well.', aids: 'page' },
];

/** A card a step before the music. */
export function BeforePlaying({
  onAids,
  onClose,
}: {
  readonly onAids: (aids: StandAids) => void;
  readonly onClose: () => void;
}) {
  const [at, setAt] = useState(0);
  const step = STEPS[at] ?? STEPS[0];
  const aids = step?.aids;
  useEffect(() => {
    if (aids) onAids(aids);
  }, [aids, onAids]);
  if (!step) return null;
  const isLast = at === STEPS.length - 1;
  return (
    <section
      aria-label="Before you play"
      className="mt-2 mr-4 mb-2 ml-9 flex flex-wrap items-center gap-x-6 gap-y-2 rounded border border-line bg-panel px-4 py-3"
    >
      <div className="min-w-60 flex-1">
        <p className="text-[13px] text-ink-soft">
          Step {at + 1} of {STEPS.length}
        </p>
        <h2 className="font-serif text-[21px] font-semibold">{step.heading}</h2>
        <p>{step.text}</p>
      </div>
      <Button className="min-h-11 px-3" disabled={at === 0} onClick={() => setAt(at - 1)}>
        <ArrowLeft size={16} aria-hidden="true" />
        Back
      </Button>
      <Button className="min-h-11 px-3" onClick={() => (isLast ? onClose() : setAt(at + 1))}>
        {isLast ? 'Done' : 'Next'}
        {!isLast && <ArrowRight size={16} aria-hidden="true" />}
      </Button>
      <Button kind="quiet" className="min-h-11 px-2" aria-label="Close these steps" title="Close" onClick={onClose}>
        <X size={16} aria-hidden="true" />
      </Button>
    </section>
  );
}
