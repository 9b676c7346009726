'use client';

import { createStore } from 'zustand';
import type { Work } from '../../core/levels/recipe/work';
import type { LaneId, PitchView } from '../../engrave/lanes';

/** A change that can be taken back, under the name that the history shows. */
interface Step {
  readonly name: string;
  /** Changes in a row with the same word here are one step: a drag, a stretch of typing. */
  readonly merge?: string | undefined;
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
  readonly change: (name: string, after: Work, merge?: string) => void;
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
    work,
    past: [],
    future: [],
    view,
    selection: undefined,
    save: { kind: 'saved' },
    change: (name, after, merge) =>
      set((state) => {
        if (sameWork(after, state.work)) return state;
        const last = state.past.at(-1);
        const goesOn = merge !== undefined && last?.merge === merge && state.future.length === 0;
        const step: Step = { name, before: goesOn ? last.before : state.work, after, merge };
        return {
          work: after,
          past: [...(goesOn ? state.past.slice(0, -1) : state.past), step].slice(-LONGEST_HISTORY),
          future: [],
          save: unsaved(state.save),
        };
      }),
    undo: () =>
      set((state) => {
        const step = state.past.at(-1);
        return step
          ? {
              work: step.before,
              past: state.past.slice(0, -1),
              future: [step, ...state.future],
              save: unsaved(state.save),
            }
          : state;
      }),
    redo: () =>
      set((state) => {
        const [step, ...future] = state.future;
        return step ? { work: step.after, past: [...state.past, step], future, save: unsaved(state.save) } : state;
      }),
    setView: (next) => set({ view: next }),
    select: (selection) => set({ selection }),
    setSave: (save) => set({ save }),
    replace: (next) => set({ work: next, past: [], future: [], save: { kind: 'saved' } }),
  }));
}

/** Equal in content. Bars that both share need no look: a tune may have hundreds, and a key stroke changes one. */
function sameWork(a: Work, b: Work): boolean {
  if (a === b) return true;
  if (a.tune.bars.length !== b.tune.bars.length) return false;
  const differing = [...a.tune.bars.keys()].filter((index) => a.tune.bars[index] !== b.tune.bars[index]);
  const brief = (work: Work) =>
    JSON.stringify({ ...work, tune: { ...work.tune, bars: differing.map((index) => work.tune.bars[index]) } });
  return brief(a) === brief(b);
}

/** A conflict stays open until somebody decides it. */
function unsaved(save: SaveState): SaveState {
  return save.kind === 'conflict' ? save : { kind: 'unsaved' };
}

export type BenchStore = ReturnType<typeof createBenchStore>;
