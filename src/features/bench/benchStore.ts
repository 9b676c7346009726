'use client';

import { createStore } from 'zustand';
import type { Work } from '../../core/levels/work';
import type { LaneId, PitchView } from '../../engrave/lanes';

/** A change that can be taken back, under the name that the history shows. */
interface Step {
  readonly name: string;
  readonly before: Work;
  readonly after: Work;
}

export interface Selection {
  readonly lane: LaneId;
  readonly bar: number;
}

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'unsaved' }
  | { readonly kind: 'saving' }
  /** The server or its database is away; the work is kept here and tried again. */
  | { readonly kind: 'waiting'; readonly message: string }
  /** It will not be taken as it is. */
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'conflict'; readonly version: number; readonly theirs: Work };

export interface BenchState {
  readonly work: Work;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  readonly view: PitchView;
  readonly selection: Selection | undefined;
  readonly save: SaveState;
  /** Makes a change; one that changes nothing leaves no step. */
  readonly change: (name: string, after: Work) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly setView: (view: PitchView) => void;
  readonly select: (selection: Selection | undefined) => void;
  readonly setSave: (save: SaveState) => void;
  /** Puts another work on the bench, as from the server; the history begins anew. */
  readonly replace: (work: Work) => void;
}

const LONGEST_HISTORY = 200;

export function createBenchStore(work: Work, view: PitchView) {
  return createStore<BenchState>()((set) => ({
    work, past: [], future: [], view, selection: undefined, save: { kind: 'saved' },
    change: (name, after) => set((state) => {
      if (JSON.stringify(after) === JSON.stringify(state.work)) return state;
      return { work: after, past: [...state.past, { name, before: state.work, after }].slice(-LONGEST_HISTORY), future: [], save: unsaved(state.save) };
    }),
    undo: () => set((state) => {
      const step = state.past.at(-1);
      return step ? { work: step.before, past: state.past.slice(0, -1), future: [step, ...state.future], save: unsaved(state.save) } : state;
    }),
    redo: () => set((state) => {
      const [step, ...future] = state.future;
      return step ? { work: step.after, past: [...state.past, step], future, save: unsaved(state.save) } : state;
    }),
    setView: (next) => set({ view: next }),
    select: (selection) => set({ selection }),
    setSave: (save) => set({ save }),
    replace: (next) => set({ work: next, past: [], future: [], save: { kind: 'saved' } }),
  }));
}

/** A conflict stays open until somebody decides it. */
function unsaved(save: SaveState): SaveState {
  return save.kind === 'conflict' ? save : { kind: 'unsaved' };
}

export type BenchStore = ReturnType<typeof createBenchStore>;
