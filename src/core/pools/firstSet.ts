import { fingerDistances } from '../fingering';
import { readableScale, type Scale, type ScaleName } from '../harmony';
import type { Instrument } from '../instruments';
import { chroma, namePitchClass, parseKey, type Pitch, semitones, signatureOf } from '../pitch';
import { keyForSet, setLine } from './setLine';
import { openingOf } from './opens';

/** A set that a beginner could start with on an instrument, in written pitch. */
export interface FirstSet {
  readonly scale: Scale;
  readonly cost: number;
  /** For a teacher: why it is easy or not, shortest words first. */
  readonly reasons: readonly string[];
  /** Tunes of the shelf that it opens whole. */
  readonly opens: number;
}

const SETS = [
  'major pentachord',
  'minor pentachord',
  'major pentatonic',
  'minor pentatonic',
  'major',
] as const satisfies readonly ScaleName[];

/** What makes a set hard to begin with, each for one: set by trial for a dozen instruments; argue with them here. */
const COST = {
  /** The octave does not lie in the first range, only the set. */
  shortened: 1,
  crossing: 1.5,
  accidental: 0.5,
  /** Mean way of the fingers between neighbours. */
  fingers: 0.6,
  note: 0.25,
  homeKey: -1,
  /** For each tenth of the shelf that it opens. */
  opens: -0.25,
} as const;

const MAX_OFFERED = 6;

/**
 * Which set first? The small sets on all twelve tonics, ranked for a beginner on an instrument by range, register
 * break, fingers and accidentals, and by how many tunes of the shelf they open. Rule: first material lies in the easy
 * middle of the instrument, crosses its register break no more than it must, and opens many other tunes.
 * @param melodies what the shelf's tunes are made of, as `melodyBits`
 */
export function firstSets(instrument: Instrument, melodies: readonly number[]): readonly FirstSet[] {
  const distance = fingerDistances(instrument);
  const homes = new Set(
    instrument.homeKeys.flatMap((text) => {
      const key = parseKey(text);
      return key.ok ? [chroma(key.value.tonic)] : [];
    }),
  );
  const opened = new Map(
    SETS.map((name) => [name, melodies.filter((melody) => openingOf(melody, name)?.missing === 0).length]),
  );
  const tonics = readableScale({ step: 'C', alter: 0 }, 'chromatic').notes;
  const found = SETS.flatMap((name) =>
    tonics.flatMap((tonic): readonly FirstSet[] => {
      const scale = readableScale(tonic, name);
      const line = setLine(scale, instrument.range.beginner, '1');
      if (!line || line.up.length < scale.notes.length) return [];
      const notes = line.up.slice(0, scale.notes.length);
      const crossings = notes.filter((note, k) => crosses(instrument, notes[k - 1], note)).length;
      const signature = Math.abs(signatureOf(keyForSet(scale)));
      const way =
        notes.reduce((sum, note, k) => {
          const before = notes[k - 1];
          return before ? sum + distance(semitones(before), semitones(note)) : sum;
        }, 0) / Math.max(1, notes.length - 1);
      const opens = opened.get(name) ?? 0;
      const share = melodies.length === 0 ? 0 : opens / melodies.length;
      const isHome = homes.has(chroma(scale.tonic));
      const cost =
        COST.crossing * crossings +
        COST.accidental * signature +
        COST.fingers * way +
        COST.note * notes.length +
        (isHome ? COST.homeKey : 0) +
        COST.opens * 10 * share +
        (line.isShortened ? COST.shortened : 0);
      return [
        {
          scale,
          cost,
          opens,
          reasons: [
            `${namePitchClass(scale.tonic)} to ${namePitchClass(notes.at(-1) ?? tonic)}, ${notes.length} notes`,
            signature === 0
              ? 'no sharps or flats'
              : `${signature} ${signatureOf(keyForSet(scale)) > 0 ? 'sharp' : 'flat'}${signature > 1 ? 's' : ''}`,
            ...(crossings > 0 ? [`crosses the break ${crossings === 1 ? 'once' : `${crossings} times`}`] : []),
            ...(isHome ? ['a first key of the instrument'] : []),
            `opens ${opens} of ${melodies.length} ${melodies.length === 1 ? 'tune' : 'tunes'}`,
          ],
        },
      ];
    }),
  );
  return found.toSorted((a, b) => a.cost - b.cost).slice(0, MAX_OFFERED);
}

function crosses({ breaks }: Instrument, before: Pitch | undefined, note: Pitch): boolean {
  if (!before) return false;
  return breaks.some(([, above]) => semitones(before) < semitones(above) && semitones(note) >= semitones(above));
}
