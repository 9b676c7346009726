import { readAbc } from '../src/core/formats/abc/readAbc';
import type { Tune } from '../src/core/score/tune';
import { planPlaying, type PlayPlan, type PlayWishes } from '../src/sound/playPlan';

/** What a test of the sound is given: a tune, a plan of the tune alone, and when each note of a channel begins. */

export function tuneOf(abc: string, more: Partial<Tune> = {}): Tune {
  const read = readAbc(`X:1\nT:Test\n${abc}`);
  if (!read.ok) throw new Error(JSON.stringify(read));
  return { ...read.value.tune, ...more };
}

export const plan = (tune: Tune, wishes: Partial<PlayWishes> = {}): PlayPlan =>
  planPlaying(
    { tune, recipes: {} },
    { heard: 'tune', backing: 'none', click: false, countIn: false, from: 0, ...wishes },
  );

/** Seconds. */
export const onsets = ({ voices }: PlayPlan, channel = 0): readonly number[] =>
  voices.find((voice) => voice.channel === channel)?.notes.map(({ start }) => Number(start.toFixed(4))) ?? [];
