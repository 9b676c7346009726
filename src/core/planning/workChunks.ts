import type { Part } from '../levels';
import { proposeChunks } from '../rehearsal';
import type { WorkChunk } from './pupilWork';

/** Bars that are learned in one piece where nothing is known of phrases. */
const BARS_A_CHUNK = 4;

/** The chunks of a part as they are practised, bars as they are numbered on the page: a pickup is bar 0. */
export function chunksOfPart(part: Part, hasPickup: boolean): readonly WorkChunk[] {
  const first = hasPickup ? 0 : 1;
  return proposeChunks(part).map(({ from, to }): WorkChunk => {
    const bars = part.difficulty.slice(from, to);
    const difficulty = bars.reduce((sum, { total }) => sum + total, 0) / Math.max(1, bars.length);
    return { fromBar: from + first, toBar: to - 1 + first, difficulty: Math.min(10, Math.max(0, difficulty)) };
  });
}

/** Chunks of about four bars, as even as whole bars are. */
export function evenChunks(bars: number, difficulty: number): readonly WorkChunk[] {
  const pieces = Math.max(1, Math.round(bars / BARS_A_CHUNK));
  const bound = (k: number) => Math.round((k * bars) / pieces);
  return Array.from({ length: pieces }, (_, k) => ({ fromBar: bound(k) + 1, toBar: bound(k + 1), difficulty }));
}
