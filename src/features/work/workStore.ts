'use client';

import { dequal } from 'dequal';
import { createStore, type StoreApi } from 'zustand';
import type { Work } from '../../core/work/work';
import type { LaneId, PitchView } from '../../engrave/lanes';
import { documentState, type DocumentState } from './document/documentStore';

export interface Selection {
  readonly lane: LaneId;
  readonly bar: number;
}

/** A tune with its levels as it is worked on, and how it is looked at. */
export interface WorkState extends DocumentState<Work> {
  readonly view: PitchView;
  readonly selection: Selection | undefined;
  readonly setView: (view: PitchView) => void;
  readonly select: (selection: Selection | undefined) => void;
}

export type WorkStore = StoreApi<WorkState>;

/** How screens change a tune and its levels: always the present ones, under a name for the history. */
export type UpdateWork = WorkState['update'];

export function createWorkStore(work: Work, view: PitchView): WorkStore {
  return createStore<WorkState>()((set) => ({
    ...documentState(work, sameWork, set),
    view,
    selection: undefined,
    setView: (next) => set({ view: next }),
    select: (selection) => set({ selection }),
  }));
}

/** Equal in content. Bars that both share need no look: a tune may have hundreds, and a key stroke changes one. */
export function sameWork(a: Work, b: Work): boolean {
  if (a === b) return true;
  if (a.tune.bars.length !== b.tune.bars.length) return false;
  const { bars: ours, ...head } = a.tune;
  const { bars: theirs, ...otherHead } = b.tune;
  return (
    ours.every((bar, index) => bar === theirs[index] || dequal(bar, theirs[index])) &&
    dequal(head, otherHead) &&
    (a.recipes === b.recipes || dequal(a.recipes, b.recipes))
  );
}
