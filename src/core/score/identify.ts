import type { Bar, ScoreEvent } from './tune';

/** Hands out ids in order, `n1`, `n2` … and `b1`, `b2` …: no chance, so the same file gives the same document. */
export interface IdMaker {
  readonly event: () => string;
  readonly bar: () => string;
  readonly tuplet: () => string;
}

/** Starts after the highest number already in use, so that edits never take an id again. */
export function idMaker(bars: readonly Bar[] = []): IdMaker {
  const used = (letter: string, ids: readonly string[]) =>
    ids.reduce((most, id) => (id.startsWith(letter) ? Math.max(most, Number.parseInt(id.slice(1), 10) || 0) : most), 0);
  const events: readonly ScoreEvent[] = bars.flatMap((bar) =>
    bar.second ? [...bar.events, ...bar.second] : bar.events,
  );
  let event = used(
    'n',
    events.map(({ id }) => id),
  );
  let bar = used(
    'b',
    bars.map(({ id }) => id),
  );
  let tuplet = used(
    't',
    events.flatMap((one) => (one.tuplet ? [one.tuplet.id] : [])),
  );
  return {
    event: () => `n${(event += 1)}`,
    bar: () => `b${(bar += 1)}`,
    tuplet: () => `t${(tuplet += 1)}`,
  };
}
