'use client';

import { useCallback } from 'react';
import { useStore } from 'zustand';
import { LEVELS } from '../../core/instruments';
import { levelTempo } from '../../core/work';
import type { LaneId, LaneInfo } from '../../engrave/lanes';
import { Transport } from '../transport/Transport';
import { SaveStatus } from '../work/document/SaveStatus';
import type { Bench, ViewContent } from '../work/step';

const LANE_WORDS: Readonly<Record<LaneId, string>> = {
  tune: 'the tune',
  second: 'the second part',
  beginner: 'beginner',
  intermediate: 'intermediate',
  advanced: 'advanced',
};

interface Props {
  readonly bench: Bench;
  readonly view: ViewContent;
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
  readonly onRetry: () => void;
}

const noCaret = () => undefined;

/** Listening, where one stands, and how saving goes. */
export function BenchFoot({ bench, view, infos, numbers, onRetry }: Props) {
  const { document: work, selection, view: pitchView, save } = useStore(bench.store);
  const { tune } = work;
  const tempoOf = useCallback(
    (lane: LaneId) =>
      infos.find((info) => info.id === lane)?.tempo ??
      levelTempo(tune, LEVELS.find((level) => level === lane) ?? 'advanced', undefined),
    [infos, tune],
  );
  const number = selection && numbers[selection.bar];
  const place = selection
    ? `${number === 0 ? 'pickup' : `bar ${number ?? ''}`}, ${LANE_WORDS[selection.lane]}`
    : 'no bar selected';
  return (
    <footer className="on-dark no-print flex min-h-9 flex-wrap items-center justify-end gap-x-4 bg-reed pr-4 pl-2 text-[13px] text-reed-pale">
      <Transport work={work} selection={selection} caret={view.caret ?? noCaret} numbers={numbers} tempoOf={tempoOf} />
      <span className="flex-1" />
      {view.status ?? (
        <span className="truncate">
          {place} · {pitchView === 'written' ? 'written pitch' : 'concert pitch'}
        </span>
      )}
      <SaveStatus save={save} onRetry={onRetry} onDark />
    </footer>
  );
}
