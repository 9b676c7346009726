'use client';

import { Pin } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Level } from '../../core/instruments/instrument';
import type { BarChoice } from '../../core/levels/recipe';
import { recipesOf, type Work } from '../../core/levels/work';
import type { BarVariant } from '../../engrave/variants';
import type { DrawVariants } from '../bench/useEngraving';

const CHOICE_WORDS: Readonly<Record<BarChoice['kind'], string>> = {
  'as-written': 'as in the tune', thinner: 'thinner', 'thinner-still': 'thinner still', 'octave-up': 'an octave up', 'octave-down': 'an octave down', dressed: 'dressed', optional: 'may be left out', rest: 'rest',
};

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly bar: number;
  readonly number: number;
  readonly draw: DrawVariants;
  readonly onPick: (what: string, bars: Readonly<Record<string, BarChoice>>) => void;
}

/** The picked bar in all its versions, each drawn small. Choosing one pins it; it stays until it is taken off. */
export function BarVersions({ work, level, bar, number, draw, onPick }: Props) {
  const [variants, setVariants] = useState<readonly BarVariant[]>();
  const id = work.tune.bars[bar]?.id ?? '';
  const { bars = {} } = recipesOf(work)[level];
  const chosen = bars[id];
  useEffect(() => {
    let isOpen = true;
    // The lanes are drawn first; the versions may follow.
    const timer = setTimeout(() => void draw(work, level, bar).then((drawn) => { if (isOpen) setVariants(drawn); }), 120);
    return () => {
      isOpen = false;
      clearTimeout(timer);
    };
  }, [work, level, bar, draw]);
  const pick = (choice: BarChoice | undefined) => {
    const { [id]: _, ...rest } = bars;
    onPick(choice ? `bar ${number} ${wordsFor(choice)}` : `bar ${number} as the level has it`, choice ? { ...rest, [id]: choice } : rest);
  };
  if (!variants) return <p className="mt-3 text-[13px] text-ink-soft" aria-busy="true">Drawing the versions of bar {number} …</p>;
  return (
    <section aria-label={`Versions of bar ${number}`} className="mt-3">
      <h3 className="font-semibold">Versions of bar {number}</h3>
      <ul className="mt-1 grid grid-cols-1 gap-1">
        {variants.map(({ choice, svg, same }, index) => {
          const isChosen = sameChoice(choice, chosen) || (chosen !== undefined && same.includes(chosen.kind) && !variants.some((other) => sameChoice(other.choice, chosen)));
          const words = choice ? wordsFor(choice) : `as the level has it${same.length > 0 ? ` (${same.map((kind) => CHOICE_WORDS[kind]).join(', ')})` : ''}`;
          return (
            <li key={index}>
              <button type="button" aria-pressed={isChosen} onClick={() => pick(choice)} className={`w-full rounded border bg-paper px-1.5 py-1 text-left hover:bg-cane-pale ${isChosen ? 'border-cane' : 'border-line'}`}>
                <span className="flex items-center gap-1 text-[12.5px] text-ink-soft">{isChosen && choice && <Pin size={12} aria-hidden="true" className="text-cane" />}<span className={isChosen ? 'font-semibold text-ink' : ''}>{words}</span></span>
                <span aria-hidden="true" className="music block overflow-hidden" dangerouslySetInnerHTML={{ __html: svg }} />
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function wordsFor(choice: BarChoice): string {
  return choice.kind === 'dressed' ? `dressed, throw ${choice.seed}` : CHOICE_WORDS[choice.kind];
}

function sameChoice(a: BarChoice | undefined, b: BarChoice | undefined): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
