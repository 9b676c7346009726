import { type ChordSymbol, chordTones, chromaBits } from '../harmony';
import { type Level, profileOf } from '../instruments';
import { chroma, type Key, type Pitch, type PitchClass, semitones, spellInKey } from '../pitch';
import { type ImprovisingForm, type LevelPools, poolsFor, rolesOver } from '../pools';
import type { Ticks } from '../time';
import type { PlaceRole } from './line';
import type { FormBar } from './rhythm';

/** One chord of a form in time, and what may be played over it at the level. All pitches written. */
export interface Ground {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly symbol: ChordSymbol;
  /** Index into the form's chords. */
  readonly chord: number;
  readonly key: Key;
  /** Bits of the notes that the level may use; tones of the chord; rubs; third and seventh. */
  readonly pool: number;
  readonly home: number;
  readonly rub: number;
  readonly guide: number;
  /** How each of the twelve notes is spelled here; others by the key. */
  readonly names: ReadonlyMap<number, PitchClass>;
}

/** A form for a level: its chords one after the other, and the set that the level plays. */
export interface Grounds {
  readonly grounds: readonly Ground[];
  readonly pools: LevelPools;
  /** Bits of the level's set. */
  readonly set: number;
  /** Notes of the set; small sets count a minor third between neighbours as a step. */
  readonly setSize: number;
  /** Bits of the tonic triad. */
  readonly tonic: number;
}

const bit = (note: PitchClass) => 1 << chroma(note);

/** @param form written; `bars` are those of one chorus */
export function groundsOf(form: ImprovisingForm, level: Level, bars: readonly FormBar[]): Grounds {
  const { notes: allowed } = profileOf(level).solo;
  const pools = poolsFor(form, level, allowed === 'all' ? { pools: ['whole', 'chord-scale'] } : {});
  const [set] = pools.overall;
  const setNotes = set?.scale.notes ?? [];
  const setBits = chromaBits(setNotes);
  const grounds = pools.chords.map(({ reading, pools: here }, chord): Ground => {
    const { chord: timed } = reading;
    const { symbol } = timed;
    const roles = rolesOver(symbol);
    const tones = chordTones(symbol);
    const scale = here.find(({ kind }) => kind === 'chord-scale');
    const scaleBits = (scale?.notes ?? []).reduce((bits, { note }) => bits | bit(note), 0);
    const start = (bars[timed.bar]?.start ?? 0) + timed.at;
    const pool =
      allowed === 'scale'
        ? setBits
        : allowed === 'scale and chord tones'
          ? setBits | roles.home
          : scaleBits | roles.home || setBits;
    const names = new Map<number, PitchClass>();
    for (const note of setNotes) names.set(chroma(note), note);
    for (const { note } of scale?.notes ?? []) names.set(chroma(note), note);
    for (const { pitchClass } of tones) if (Math.abs(pitchClass.alter) <= 1) names.set(chroma(pitchClass), pitchClass);
    return {
      start,
      end: start + timed.length,
      symbol,
      chord,
      key: reading.key,
      pool,
      home: roles.home,
      rub: roles.rub,
      guide: tones
        .filter(({ degree }) => degree === 3 || degree === 7)
        .reduce((bits, { pitchClass }) => bits | bit(pitchClass), 0),
      names,
    };
  });
  return { grounds, pools, set: setBits, setSize: setNotes.length, tonic: tonicBits(form.key) };
}

function tonicBits({ tonic, mode }: Key): number {
  const third = ['minor', 'aeolian', 'dorian', 'phrygian', 'locrian'].includes(mode) ? 3 : 4;
  const at = (above: number) => 1 << ((chroma(tonic) + above) % 12);
  return at(0) | at(third) | at(mode === 'locrian' ? 6 : 7);
}

/** The ground at a moment; none before the first chord. */
export function groundAt(grounds: readonly Ground[], at: Ticks): Ground | undefined {
  return grounds[lastAt(grounds, at)];
}

/** Index of the last of some stretches, in their order, that begins at a moment or before; −1 before the first. */
export function lastAt(stretches: readonly { readonly start: Ticks }[], at: Ticks): number {
  let [low, high] = [0, stretches.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((stretches[middle]?.start ?? 0) <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

export function roleAt(ground: Ground, height: number): PlaceRole {
  const note = 1 << (((height % 12) + 12) % 12);
  if (ground.home & note) return 'home';
  return ground.rub & note ? 'rub' : 'colour';
}

/**
 * A height as it is written over a chord: as the chord, the scale or the set spells it, else as leading to the next
 * note.
 */
export function spelled(ground: Ground, height: number, next?: number): Pitch {
  const name = ground.names.get(((height % 12) + 12) % 12);
  if (!name) return spellInKey(height + 12, ground.key, next === undefined ? undefined : next + 12);
  const octave = Math.round((height - semitones({ ...name, octave: 0 })) / 12);
  return { step: name.step, alter: name.alter, octave };
}

/** Whether a height is one of twelve notes given as bits. */
export function inBits(height: number, bits: number): boolean {
  return (bits & (1 << (((height % 12) + 12) % 12))) !== 0;
}
