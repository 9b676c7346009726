'use client';

import { createStore, type StoreApi } from 'zustand';
import { changed, newHistory, redone, undone, type History } from './history';

export type SaveState<Document> =
  | { readonly kind: 'saved' }
  | { readonly kind: 'unsaved' }
  | { readonly kind: 'saving' }
  /** The server or its database is away; the document is safe in this browser and the save is tried again. */
  | { readonly kind: 'waiting'; readonly message: string }
  /** It will not be taken as it is. */
  | { readonly kind: 'refused'; readonly message: string }
  /** Somebody else saved meanwhile. */
  | { readonly kind: 'conflict'; readonly version: number; readonly theirs: Document };

/** A document that is being changed, its history, and how saving goes. */
export interface DocumentState<Document> extends History<Document> {
  readonly save: SaveState<Document>;
  /**
   * Puts a whole document in place of the present one, as a step that can be undone. What changes nothing leaves no
   * step.
   * @param merge changes in a row with the same word here are one step
   */
  readonly change: (name: string, after: Document, merge?: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly setSave: (save: SaveState<Document>) => void;
  /** Puts another document in its place, as from the server; the history begins anew. */
  readonly replace: (document: Document) => void;
}

export type DocumentStore<Document> = StoreApi<DocumentState<Document>>;

type Setter<Document> = (
  next: (
    state: DocumentState<Document>,
  ) => DocumentState<Document> | Partial<Pick<DocumentState<Document>, 'document' | 'past' | 'future' | 'save'>>,
) => void;

/** What any store of a document has; a screen may add fields of its own. */
export function documentState<Document>(
  document: Document,
  isSame: (a: Document, b: Document) => boolean,
  set: Setter<Document>,
): DocumentState<Document> {
  const step = (move: (history: History<Document>) => History<Document>) =>
    set((state) => {
      const { document: now, past, future } = state;
      const history = { document: now, past, future };
      const next = move(history);
      return next === history ? state : { ...next, save: unsaved(state.save) };
    });
  return {
    ...newHistory(document),
    save: { kind: 'saved' },
    change: (name, after, merge) =>
      step((history) => (isSame(after, history.document) ? history : changed(history, name, after, merge))),
    undo: () => step(undone),
    redo: () => step(redone),
    setSave: (save) => set(() => ({ save })),
    replace: (next) => set(() => ({ ...newHistory(next), save: { kind: 'saved' } })),
  };
}

export function createDocumentStore<Document>(
  document: Document,
  isSame: (a: Document, b: Document) => boolean,
): DocumentStore<Document> {
  return createStore<DocumentState<Document>>()((set) => documentState(document, isSame, set));
}

/** A conflict stays open until somebody decides it. */
function unsaved<Document>(save: SaveState<Document>): SaveState<Document> {
  return save.kind === 'conflict' ? save : { kind: 'unsaved' };
}
