'use client';

import { useEffect, useRef, useState } from 'react';
import type { Level } from '../../core/instruments';
import { MAX_SEED, recipesOf, type Work } from '../../core/work';
import type { EngravedRow } from '../../engrave/engraver';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { Sheet } from '../../ui/Sheet';
import type { Draws } from '../work/useEngraving';

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly draws: Draws;
  readonly onClose: () => void;
  readonly onTake: (seed: number) => void;
}

/** Two variations of a level's embellished line beside each other; what was added is marked. Either can be used. */
export function CompareVariations({ work, level, draws, onClose, onTake }: Props) {
  const now = recipesOf(work)[level].embellish?.seed ?? 0;
  const [seeds, setSeeds] = useState<readonly [number, number]>([now, (now + 1) % (MAX_SEED + 1)]);
  const set = (side: 0 | 1, seed: number) => setSeeds(side === 0 ? [seed, seeds[1]] : [seeds[0], seed]);
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${LEVEL_NAMES[level]}: two variations`}
      description="Both keep the tune; what was added differs. Added and changed notes are in another colour."
      width="max-w-[76rem]"
    >
      <div className="grid min-h-0 grid-cols-1 gap-4 overflow-auto md:grid-cols-2">
        {([0, 1] as const).map((side) => (
          <Variation
            key={side}
            side={side}
            work={work}
            level={level}
            seed={seeds[side]}
            isNow={seeds[side] === now}
            draws={draws}
            onSeed={(seed) => set(side, seed)}
            onTake={() => onTake(seeds[side])}
          />
        ))}
      </div>
    </Sheet>
  );
}

function Variation({
  side,
  work,
  level,
  seed,
  isNow,
  draws,
  onSeed,
  onTake,
}: {
  readonly side: 0 | 1;
  readonly work: Work;
  readonly level: Level;
  readonly seed: number;
  readonly isNow: boolean;
  readonly draws: Draws;
  readonly onSeed: (seed: number) => void;
  readonly onTake: () => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<{ readonly seed: number; readonly rows: readonly EngravedRow[] }>();
  const [problem, setProblem] = useState(false);
  useEffect(() => {
    let isNewest = true;
    const width = Math.max(300, (frame.current?.clientWidth ?? 560) - 8);
    void draws.variationOf(work, level, seed, width).then((rows) => {
      if (isNewest) setDrawn({ seed, rows });
    });
    return () => {
      isNewest = false;
    };
  }, [work, level, seed, draws]);
  const commit = (text: string) => {
    const number = Number(text);
    const isSeed = /^\d+$/.test(text.trim()) && number <= MAX_SEED;
    setProblem(!isSeed);
    if (isSeed) onSeed(number);
  };
  return (
    <section aria-label={`${side === 0 ? 'Left' : 'Right'}: variation ${seed}`} className="min-w-0">
      <div className="mb-1 flex flex-wrap items-center gap-2">
        <span>
          Variation{' '}
          <TextInput
            label={`${side === 0 ? 'Left' : 'Right'} variation`}
            value={String(seed)}
            maxLength={4}
            onCommit={commit}
            className="min-h-7 w-12 rounded-t border-b-2 border-cane bg-transparent px-0.5 font-semibold tabular-nums hover:bg-cane-pale"
          />
        </span>
        <Button onClick={() => onSeed((seed + 1) % (MAX_SEED + 1))}>Another variation</Button>
        <Button kind="main" disabled={isNow} onClick={onTake}>
          {isNow ? 'In use' : 'Use this one'}
        </Button>
      </div>
      {problem && (
        <p role="alert" className="text-[12.5px] text-warn">
          Variations are numbered from 0 to {MAX_SEED}.
        </p>
      )}
      <div ref={frame} className="min-h-24 rounded bg-paper p-1" aria-busy={drawn?.seed !== seed}>
        {drawn?.rows.map((row) => (
          <div key={row.from} aria-hidden="true" className="music mb-1" dangerouslySetInnerHTML={{ __html: row.svg }} />
        ))}
        {!drawn && <p className="p-2 text-ink-soft">Drawing …</p>}
      </div>
    </section>
  );
}
