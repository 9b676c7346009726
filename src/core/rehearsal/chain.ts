/** A round of practice: chunks `from` up to but without `to`, played in one go. */
export interface Round {
  readonly from: number;
  readonly to: number;
}

/**
 * The order in which chunks are joined: each by itself, then with all before it, growing back from it: 1, 2, 1+2, 3,
 * 2+3, 1+2+3 …; from the end backwards the same from the last one on: 4, 3, 3+4, 2, 2+3, 2+3+4 … Common practice of
 * memorising: what is known already follows what is new (or leads into it).
 */
export function chain(count: number, direction: 'forward' | 'backward'): readonly Round[] {
  const rounds = Array.from({ length: count }, (_, last) =>
    Array.from({ length: last + 1 }, (_one, size): Round => ({ from: last - size, to: last + 1 })),
  ).flat();
  return direction === 'forward'
    ? rounds
    : rounds.map(({ from, to }): Round => ({ from: count - to, to: count - from }));
}

/** `2+3`. */
export function roundName({ from, to }: Round): string {
  return Array.from({ length: to - from }, (_, k) => from + k + 1).join('+');
}
