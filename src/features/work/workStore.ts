'use client';

import { dequal } from 'dequal';
import { createStore, type StoreApi } from 'zustand';
import { apply, becoming, type CarriedOut, type Command, type Work } from '../../core/work';
import type { LaneId, PitchView } from '../../engrave/lanes';
import { documentState, type DocumentState } from './document/documentStore';

export interface Selection {
  readonly lane: LaneId;
  readonly bar: number;
}

/**
 * What a screen asks for: a command, or how it follows from the work as it is at that moment; none where there is
 * nothing to do.
 */
type Wanted = Command | ((present: Work) => Command | undefined);

/**
 * Carries out a command on the work as it is now, which may be further than what the screen shows, and puts it into the
 * history.
 * @param merge commands in a row with the same word here are one entry of the history: a drag, a stretch of typing
 * @returns what a person is to be told where it cannot be done; nothing is changed then
 */
export type Dispatch = (wanted: Wanted, merge?: string) => string | undefined;

/** A tune with its levels as it is worked on, and how it is looked at. */
interface WorkState extends DocumentState<Work> {
  readonly view: PitchView;
  readonly selection: Selection | undefined;
  /**
   * The last command that was carried out; where its `after` is not the document, something else led there since: undo,
   * another's work.
   */
  readonly lastChange: CarriedOut | undefined;
  readonly dispatch: Dispatch;
  readonly setView: (view: PitchView) => void;
  readonly select: (selection: Selection | undefined) => void;
}

export type WorkStore = StoreApi<WorkState>;

export function createWorkStore(work: Work, view: PitchView): WorkStore {
  return createStore<WorkState>()((set, get) => {
    const state = documentState(work, sameWork, set);
    const dispatch: Dispatch = (wanted, merge) => {
      const before = get().document;
      const command = typeof wanted === 'function' ? wanted(before) : wanted;
      if (!command) return undefined;
      const applied = apply(before, command);
      if (!applied.ok) return applied.problem;
      const { work: after, name } = applied.value;
      set({ lastChange: { command, before, after } });
      state.change(name, after, merge);
      return undefined;
    };
    return {
      ...state,
      view,
      selection: undefined,
      lastChange: undefined,
      dispatch,
      change: (name, after, merge) => void dispatch((present) => becoming(name, present, after), merge),
      setView: (next) => set({ view: next }),
      select: (selection) => set({ selection }),
    };
  });
}

/** Equal in content. Bars that both share need no look: a tune may have hundreds, and a key stroke changes one. */
function sameWork(a: Work, b: Work): boolean {
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
