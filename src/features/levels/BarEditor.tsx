'use client';

import { useMemo } from 'react';
import type { Level } from '../../core/instruments';
import { partOfLevel } from '../../core/levels';
import type { OwnBar, Work } from '../../core/work';
import type { Draws } from '../work/useEngraving';
import { BarSheet } from '../work/writing/BarSheet';

/** One bar of a level written by hand. */
export function BarEditor({
  work,
  level,
  onKeep,
  ...rest
}: {
  readonly work: Work;
  readonly level: Level;
  readonly bar: number;
  readonly number: number;
  readonly draws: Draws;
  readonly onClose: () => void;
  readonly onKeep: (own: OwnBar) => void;
}) {
  const part = useMemo(() => partOfLevel(work.tune, level, work.recipes).value, [work, level]);
  return (
    <BarSheet
      tune={work.tune}
      part={part}
      onKeep={(events) => onKeep({ kind: 'own', key: part.concertKey, octaves: part.octaves, events })}
      {...rest}
    />
  );
}
