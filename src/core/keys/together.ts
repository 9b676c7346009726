import type { Instrument, Level } from '../instruments';
import {
  chroma,
  intervalBetweenTonics,
  type Key,
  nameKey,
  namePitchClass,
  readableInterval,
  transposeKey,
} from '../pitch';
import { readableKey } from '../levels';
import type { Tempo } from '../score';
import { nameValue } from '../time';
import type { Form } from '../work';

/** What has to be the same for two levels to play at once. */
export interface LevelSetting {
  readonly level: Level;
  readonly key: Key;
  readonly tempo: Tempo;
  /** Once through where nothing is said. */
  readonly form?: Form;
}

/** How often the tune is gone through: who goes through it once waits for the others, or stops before them. */
const TIMES: Readonly<Record<Form, { readonly times: number; readonly name: string }>> = {
  once: { times: 1, name: 'once' },
  second: { times: 1, name: 'once' },
  twice: { times: 2, name: 'twice' },
  solo: { times: 3, name: 'with room for a solo' },
};

function timesOf({ form = 'once' }: LevelSetting): (typeof TIMES)[Form] {
  return TIMES[form];
}

/**
 * Levels in sets that can play at the same time: in one concert key, at one tempo, through the tune as often. Sets in
 * the order of their first level.
 */
export function playTogether(settings: readonly LevelSetting[]): readonly (readonly LevelSetting[])[] {
  const sets: LevelSetting[][] = [];
  for (const one of settings) {
    const set = sets.find(
      ([first]) =>
        first !== undefined &&
        chroma(first.key.tonic) === chroma(one.key.tonic) &&
        first.tempo.perMinute === one.tempo.perMinute &&
        timesOf(first).times === timesOf(one).times,
    );
    if (set) set.push(one);
    else sets.push([one]);
  }
  return sets;
}

/** Why sets are apart, for two settings. */
export function apartBecause(a: LevelSetting, b: LevelSetting): string {
  const reasons: string[] = [];
  if (chroma(a.key.tonic) !== chroma(b.key.tonic)) reasons.push(`${nameKey(a.key)} against ${nameKey(b.key)}`);
  if (a.tempo.perMinute !== b.tempo.perMinute)
    reasons.push(`${a.tempo.perMinute} against ${b.tempo.perMinute} a minute`);
  if (timesOf(a).times !== timesOf(b).times) reasons.push(`${timesOf(a).name} through against ${timesOf(b).name}`);
  return reasons.join(', ');
}

const DISTANCES = [
  'as the recording',
  'a half step',
  'a whole step',
  'a minor third',
  'a major third',
  'a fourth',
  'a tritone',
] as const;

/**
 * How a key lies to a recording's: `a whole step above the recording: play-along will not fit`.
 * Rule: the recording's key is marked, as is the difference.
 */
export function recordingText(key: Key, recording: Key): string {
  const { chromatic } = intervalBetweenTonics(recording.tonic, key.tonic);
  if (chromatic === 0) return 'as the recording: play-along fits';
  return `${DISTANCES[Math.abs(chromatic)] ?? ''} ${chromatic > 0 ? 'above' : 'below'} the recording: play-along will not fit`;
}

/** The key a player of an instrument reads in for a concert key, with six sharps or flats at most. */
export function writtenKeyOf(instrument: Pick<Instrument, 'transposition'>, concert: Key): Key {
  const key = readableKey(concert);
  return transposeKey(key, readableInterval(key, instrument.transposition));
}

/**
 * What a player tells who accompanies: concert key and tempo, and what the player reads.
 * Rule: a part states both keys, and what to ask an accompanist or a backing for.
 */
export function accompanistText({ key, tempo }: Pick<LevelSetting, 'key' | 'tempo'>, instrument: Instrument): string {
  const written = writtenKeyOf(instrument, key);
  const tempoText = `${nameValue(tempo.beat)} = ${tempo.perMinute}`;
  const ask = `Please play in ${nameKey(readableKey(key))} (concert pitch), ${tempoText}.`;
  if (chroma(written.tonic) === chroma(key.tonic)) return ask;
  return `${ask} I read it in ${nameKey(written)}: my ${namePitchClass(written.tonic)} is your ${namePitchClass(key.tonic)}.`;
}
