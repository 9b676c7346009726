import { lineDifficulty } from '../analysis';
import type { KeyPlayer } from './player';
import { type Level, profileOf } from '../instruments';
import { drillPart } from '../levels';
import { type PitchClass, pitchClassOf, signatureOf } from '../pitch';
import type { DrillIdea } from '../score';
import type { DrillWishes } from '../drills';

/** One key of a drill for one player. */
interface KeyForPlayer {
  /** Written; absent where nothing of the drill can be played. */
  readonly written?: PitchClass;
  /** Sharps or flats of the written key, by their number. */
  readonly signs: number;
  /** How hard the key's bars are at the player's tempo, on the scale of the rest of the studio. */
  readonly difficulty: number;
  /** What is not as the idea says, and why. */
  readonly messages: readonly { readonly what: string; readonly why: string }[];
}

/** A key of a drill for everybody. */
export interface KeyOfDrill {
  /** Concert. */
  readonly tonic: PitchClass;
  readonly players: readonly KeyForPlayer[];
  /** The players' costs, beginners counting most. */
  readonly cost: number;
}

/**
 * Against a difficulty of up to ten: a key that a player cannot play, one thing left out or moved in each exercise, and
 * each sharp or flat, for pupils name keys by them.
 */
const COSTS = { cannot: 12, message: 1.5, sign: 0.25 } as const;

/**
 * What each key means for each player: what they read, how hard it is, what does not fit. Every exercise of a ladder
 * counts.
 */
export function keyTable(
  idea: DrillIdea,
  players: readonly KeyPlayer[],
  tonics: readonly PitchClass[],
  wishes: Readonly<Partial<Record<Level, DrillWishes>>> = {},
): readonly KeyOfDrill[] {
  return tonics.map((tonic) => {
    const each = players.map(({ instrument, level }): KeyForPlayer => {
      const { keys: _, ...others } = wishes[level] ?? {};
      const { value, line, changes } = drillPart({ ...idea, keys: [tonic] }, { level, instrument }, others);
      const [first] = line.sections;
      const messages = changes.flatMap(({ detail }) =>
        detail.kind === 'drill' ? [{ what: detail.what, why: detail.why }] : [],
      );
      if (!first) return { signs: 0, difficulty: 0, messages };
      const { tonic: written } = first.writtenKey;
      const signs = Math.abs(signatureOf(first.writtenKey));
      return { written: pitchClassOf(written), signs, difficulty: lineDifficulty(value.difficulty).total, messages };
    });
    return { tonic, players: each, cost: costFor(each, players, idea.steps.length) };
  });
}

function costFor(each: readonly KeyForPlayer[], players: readonly KeyPlayer[], exercises: number): number {
  let [sum, weights] = [0, 0];
  each.forEach(({ written, signs, difficulty, messages }, k) => {
    const weight = profileOf(players[k]?.level ?? 'advanced').weight;
    sum +=
      weight *
      (written ? difficulty + (COSTS.message * messages.length) / exercises + COSTS.sign * signs : COSTS.cannot);
    weights += weight;
  });
  return weights === 0 ? 0 : sum / weights;
}

/** The keys of a table, the best for all together first; of equal ones the earlier. */
export function bestKeys(table: readonly KeyOfDrill[]): readonly PitchClass[] {
  return table.toSorted((a, b) => a.cost - b.cost).map(({ tonic }) => tonic);
}
