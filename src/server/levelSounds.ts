import type { Level } from '../core/instruments';
import { type Part, soloOfLevel } from '../core/levels';
import { formedPartForPlayer, type GroupPlayer, partForPlayer } from '../core/keys';
import type { Work } from '../core/work';
import { hasPickup, slowTempo, type Tune } from '../core/score';
import { usualFeel } from '../sound/backing';
import { planPlaying, type PlayPlan, type PlayWishes } from '../sound/playPlan';
import { soundFile, type SoundFormat } from '../sound/soundFile';
import { voiceOf } from '../sound/voices';
import { soundBank } from './soundBank';

/**
 * What of a level is heard in a sound file: its part with backing, the backing alone, the click alone, or its example
 * solo with backing.
 */
export const LEVEL_SOUNDS = ['part', 'backing', 'click', 'solo'] as const;
export type LevelSound = (typeof LEVEL_SOUNDS)[number];

/** What of a player's part is heard in the files that they take home. */
export const PLAYER_SOUNDS = ['slow', 'tempo', 'backing', 'click'] as const;
export type PlayerSound = (typeof PLAYER_SOUNDS)[number];

/** One of them, or some bars of the part as they are numbered on the page, three times over. */
export type PlayerSoundWish =
  PlayerSound | { readonly fromBar: number; readonly toBar: number; readonly perMinute?: number };

/** So often bars are heard that are being learned. */
const TIMES = 3;

/**
 * A sound file of a player's own part, on their instrument and at their level; `undefined` where they have none, or it
 * is too long.
 */
export async function soundOfPlayer(
  work: Work,
  player: GroupPlayer,
  what: PlayerSoundWish,
): Promise<Uint8Array | undefined> {
  const bars = typeof what === 'string' ? undefined : what;
  // Bars are numbered as they stand once through.
  const part = bars ? partForPlayer(work, player)?.part : formedPartForPlayer(work, player);
  if (!part) return undefined;
  const { swing: _, ...rest } = work.tune;
  const tune: Tune = {
    ...rest,
    key: part.concertKey,
    meter: part.meter,
    tempo: part.tempo,
    bars: part.soundingBars,
    ...(part.swing && { swing: part.swing }),
  };
  const own = { tune, recipes: {} };
  const plan = planPlaying(own, {
    ...wishes('tune', own),
    tuneProgram: voiceOf(part.instrument),
    perMinute: bars?.perMinute ?? (what === 'slow' ? slowTempo(part.tempo.perMinute) : part.tempo.perMinute),
    ...(bars && stretchOf(part, bars)),
    ...(what === 'backing' || what === 'click' ? ALONE[what] : {}),
  });
  return renderedSound(plan, 'mp3');
}

/** Bars by their places in the part. */
function stretchOf(part: Part, { fromBar, toBar }: { readonly fromBar: number; readonly toBar: number }) {
  const first = hasPickup(part) ? 0 : 1;
  const last = part.bars.length - 1;
  const from = Math.min(last, Math.max(0, fromBar - first));
  return { stretch: { from, to: Math.min(last, Math.max(from, toBar - first)), times: TIMES } };
}

/** What is heard without the line. */
const ALONE = {
  backing: { isSilent: true },
  click: { isSilent: true, backing: 'none', click: true },
} as const satisfies Readonly<Record<string, Partial<PlayWishes>>>;

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
  return plan && renderedSound(plan, format);
}

/** A plan as a file; `undefined` where there is no sound bank, or it is too long. */
export async function renderedSound(plan: PlayPlan, format: SoundFormat): Promise<Uint8Array | undefined> {
  const bank = await soundBank();
  if (!bank || plan.seconds > LONGEST) return undefined;
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
  return planPlaying(work, {
    ...wishes(level, work),
    ...tempo,
    ...(what === 'part' ? {} : ALONE[what]),
  });
}

function wishes(heard: PlayWishes['heard'], { tune }: Work): PlayWishes {
  const backing = tune.drill && !tune.drill.over ? ('drone' as const) : usualFeel(tune);
  return { heard, backing, click: tune.drill !== undefined, countIn: true, from: 0 };
}
