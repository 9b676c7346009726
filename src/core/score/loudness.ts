import { isNote, type Bar, type Dynamic, type EventId } from './tune';

/** Loudness of a note, 1–127 as MIDI counts it, by its last dynamic. Steps as in common use; MIDI itself sets none. */
const DYNAMIC_LOUDNESS: Readonly<Record<Dynamic, number>> = {
  ppp: 24,
  pp: 36,
  p: 50,
  mp: 64,
  mf: 80,
  f: 96,
  ff: 112,
  fff: 124,
  sfz: 116,
  fp: 96,
};
/** Of a note that no dynamic stands before: mezzo forte. */
export const USUAL_LOUDNESS = DYNAMIC_LOUDNESS.mf;

/**
 * How loud each note is by the dynamics written, in the order of the page; hairpins and accents are left to the player.
 */
export function loudnessOf(bars: readonly Bar[]): ReadonlyMap<EventId, number> {
  const loudness = new Map<EventId, number>();
  let current = USUAL_LOUDNESS;
  for (const event of bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) continue;
    if (event.dynamic) current = DYNAMIC_LOUDNESS[event.dynamic];
    loudness.set(event.id, current);
  }
  return loudness;
}
