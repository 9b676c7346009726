import { chroma, type Key } from '../pitch';
import type { Style } from '../score';
import type { SoloDevice } from './soloNote';

/** Semitones above the home note of the blue notes: lowered third, fifth and seventh. */
const BLUE = [3, 6, 10] as const;
const BLUE_STYLES: ReadonlySet<Style> = new Set(['blues', 'rock', 'jazz']);

/** Whether a height is a blue note of a key, in a style that has them. */
export function isBlueNote(height: number, { tonic }: Key, style: Style): boolean {
  const above = (((height - chroma(tonic)) % 12) + 12) % 12;
  return BLUE_STYLES.has(style) && BLUE.some((one) => one === above);
}

/** What a leaning note does between its neighbours: it turns back, passes on, is a blue note, or leads on. */
export function nameDevice(
  {
    before,
    here,
    after,
  }: { readonly before: number | undefined; readonly here: number; readonly after: number | undefined },
  isStep: (from: number, to: number) => boolean,
  isBlue: boolean,
): SoloDevice {
  const isStepIn = before !== undefined && isStep(before, here);
  if (isStepIn && after === before) return 'neighbour';
  if (isStepIn && after !== undefined && Math.sign(here - before) === Math.sign(after - here)) return 'passing';
  return isBlue ? 'blue' : 'approach';
}
