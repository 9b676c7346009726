import type { Instrument } from '../instruments';
import { dateWords, type DayNumber } from './dates';
import type { StepProgress, WorkProgress } from './progress';

const ORDINALS = 'first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth'.split(' ');

const ordinal = (place: number) => ORDINALS[place] ?? `${place + 1}th`;
const daysWords = (days: number) => (days === 1 ? '1 day' : `${days} days`);
const minutesWords = (minutes: number) => (minutes === 1 ? '1 minute' : `${minutes} minutes`);

/** What a player warms up with, by how the sound is made. @param key as the pupil reads it */
export function warmUpWords({ family }: Instrument, key: string | undefined): string {
  const tone =
    family === 'percussion'
      ? 'single strokes'
      : family === 'strings'
        ? 'long bows'
        : family === 'fretted'
          ? 'slow single notes'
          : 'long notes';
  return key === undefined ? `Warm up: ${tone}, quietly` : `Warm up in ${key}: ${tone}, then the scale, slowly`;
}

/** What does not change from day to day of why a step is there. */
export interface StepReasons {
  readonly place: string;
  /** After what is done so far. */
  readonly more: readonly string[];
}

export function reasonsFor({ work, steps }: WorkProgress, step: StepProgress): StepReasons {
  const best = bestTempo(steps, step);
  return {
    place: placeWords({ work, steps }, step),
    more: [
      ...(best === undefined ? [] : [`last good at ${best}`]),
      ...(work.by === undefined ? [] : [`wanted by ${dateWordsOf(work.by)}`]),
    ],
  };
}

/** Why a step stands on a day: its place in the work, and how far it has come. */
export function whyStep(
  step: StepProgress,
  { place, more }: StepReasons,
  { minutes, before }: { readonly minutes: number; readonly before: number },
): string {
  const about = minutesWords(step.estimate);
  const done =
    before === 0
      ? step.kind === 'new'
        ? 'new today'
        : 'begins today'
      : `${before} of about ${about} done${before + minutes >= step.estimate ? '' : ' so far'}`;
  return [place, done, ...more].join('; ');
}

function dateWordsOf(date: string): string {
  return dateWords(Date.parse(`${date}T00:00:00Z`) / 86_400_000);
}

/** The fastest good tempo on the step's own key, or of the work where it has none. */
function bestTempo(steps: readonly StepProgress[], step: StepProgress): number | undefined {
  const tempos = steps.flatMap(({ key, bestTempo: best }) => (best !== undefined && key === step.key ? [best] : []));
  return tempos.length > 0 ? Math.max(...tempos) : undefined;
}

function placeWords({ work, steps }: Pick<WorkProgress, 'work' | 'steps'>, step: StepProgress): string {
  if (work.kind === 'drill') {
    const keys = [...new Set(steps.map(({ key }) => key))];
    if (keys.length > 1) return `${ordinal(keys.indexOf(step.key))} of ${keys.length} keys`;
  }
  if (work.kind === 'rounds') {
    if (step.kind === 'own') return 'the round is closed with something of your own';
    return step.kind === 'moved' ? 'known material, another key' : 'a new round';
  }
  return `${ordinal(steps.indexOf(step))} of ${steps.length} steps`;
}

/** Why something that is finished comes back. */
export function whyRecall(finished: DayNumber, last: DayNumber, day: DayNumber): string {
  return last === finished
    ? `finished on ${dateWords(finished)}; back after ${daysWords(day - last)}, before it is forgotten`
    : `finished on ${dateWords(finished)}; last played ${daysWords(day - last)} ago, so the distance grows`;
}
