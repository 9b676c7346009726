import type { Level } from '../core/instruments/instrument';
import { soloOfLevel } from '../core/levels/levelPart';
import type { Work } from '../core/levels/recipe/work';
import { usualFeel } from '../sound/backing';
import { planPlaying, type PlayPlan, type PlayWishes } from '../sound/playPlan';
import { soundFile, type SoundFormat } from '../sound/soundFile';
import { voiceOf } from '../sound/voices';
import { soundBank } from './soundBank';

/** What of a level is heard in a sound file: its part with backing, the backing alone, or its example solo with backing. */
export type LevelSound = 'part' | 'backing' | 'solo';

/** Longer than this no sound file is made, seconds: a job has a deadline. */
const LONGEST = 900;

/** A sound file of a level; `undefined` where there is no sound bank, no such solo, or too much of it. */
export async function soundOfLevel(
  work: Work,
  level: Level,
  what: LevelSound,
  format: SoundFormat,
  perMinute: number | undefined,
): Promise<Uint8Array | undefined> {
  const plan = planFor(work, level, what, perMinute);
  const bank = await soundBank();
  if (!plan || !bank || plan.seconds > LONGEST) return undefined;
  const copy = bank.buffer.slice(bank.byteOffset, bank.byteOffset + bank.byteLength) as ArrayBuffer;
  return (await soundFile(plan, copy, format)).data;
}

function planFor(work: Work, level: Level, what: LevelSound, perMinute: number | undefined): PlayPlan | undefined {
  const tempo = perMinute === undefined ? {} : { perMinute };
  if (what === 'solo') {
    const made = soloOfLevel(work.tune, level, work.recipes);
    if (!made) return undefined;
    const voice = { tuneProgram: voiceOf(made.part.instrument) };
    return planPlaying({ tune: made.tune, recipes: {} }, { ...wishes('tune', work), ...tempo, ...voice });
  }
  return planPlaying(work, { ...wishes(level, work), ...tempo, ...(what === 'backing' && { isSilent: true }) });
}

function wishes(heard: PlayWishes['heard'], { tune }: Work): PlayWishes {
  const backing = tune.drill && !tune.drill.over ? ('drone' as const) : usualFeel(tune);
  return { heard, backing, click: tune.drill !== undefined, countIn: true, from: 0 };
}
