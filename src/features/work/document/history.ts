/** A change that can be taken back, under the name that the history shows. */
interface HistoryEntry<Document> {
  readonly name: string;
  /** Changes in a row with the same word here are one step: a drag, a stretch of typing. */
  readonly merge?: string | undefined;
  readonly before: Document;
  readonly after: Document;
}

/** A document with what was done to it, newest last, and what was undone, newest first. */
export interface History<Document> {
  readonly document: Document;
  readonly past: readonly HistoryEntry<Document>[];
  readonly future: readonly HistoryEntry<Document>[];
}

/** Steps that can be undone; the oldest is forgotten first. */
export const MAX_HISTORY = 200;

export function newHistory<Document>(document: Document): History<Document> {
  return { document, past: [], future: [] };
}

/** The same history with a step more; what was undone before can no longer be redone. */
export function changed<Document>(
  { document, past, future }: History<Document>,
  name: string,
  after: Document,
  merge?: string,
): History<Document> {
  const last = past.at(-1);
  const goesOn = merge !== undefined && last?.merge === merge && future.length === 0;
  const step: HistoryEntry<Document> = { name, before: goesOn ? last.before : document, after, merge };
  return { document: after, past: [...(goesOn ? past.slice(0, -1) : past), step].slice(-MAX_HISTORY), future: [] };
}

/** One step back; the same object where there is none. */
export function undone<Document>(history: History<Document>): History<Document> {
  const step = history.past.at(-1);
  return step ? { document: step.before, past: history.past.slice(0, -1), future: [step, ...history.future] } : history;
}

/** One step forward again; the same object where there is none. */
export function redone<Document>(history: History<Document>): History<Document> {
  const [step, ...future] = history.future;
  return step ? { document: step.after, past: [...history.past, step], future } : history;
}
