import { formOfTune, setOfKey, tonicsInOrder } from '../drills';
import type { Level } from '../instruments';
import { type Key, nameKey } from '../pitch';
import { withProposedChords } from '../pools';
import type { DrillIdea, Tune } from '../score';
import { recipesOf, type Work } from '../work';
import { formedPartOfLevel, soloOfLevel } from './levelPart';
import { drillPart } from './parts/drillPart';
import type { Part } from './parts/part';
import { readableKey } from './fit/inKey';
import { soloPage } from './soloPages';

/** Four keys are a round; three rounds go through all twelve. */
const KEYS_A_ROUND = 4;
export const ROUNDS = ['1', '2', '3'] as const;
export type RoundNumber = (typeof ROUNDS)[number];

/** The concert keys of a round, by fourths from the level's own. */
export function keysOfRound(tune: Tune, level: Level, recipes: Work['recipes'], round: RoundNumber): readonly Key[] {
  const own = recipesOf({ recipes })[level].keyAndTempo?.key ?? tune.key;
  const from = (Number(round) - 1) * KEYS_A_ROUND;
  return tonicsInOrder('fourths', own.tonic)
    .slice(from, from + KEYS_A_ROUND)
    .map((tonic) => readableKey({ tonic, mode: own.mode }));
}

/**
 * One plan through the keys of a round; three rounds take a tune through all twelve. In each key the head, the map
 * (the tones of each chord for as long as it sounds), the example solo, and an empty chorus for something of one's own.
 * A page that cannot be made in a key (no chords, nothing that comes home) is left out there.
 */
export function roundOf(tune: Tune, level: Level, recipes: Work['recipes'], round: RoundNumber): readonly Part[] {
  const over = formOfTune(withProposedChords(tune));
  return keysOfRound(tune, level, recipes, round).flatMap((key): readonly Part[] => {
    const recipe = recipesOf({ recipes })[level];
    const here = { ...recipe, keyAndTempo: { ...recipe.keyAndTempo, key } };
    const moved = { ...recipes, [level]: here };
    const { part: head } = formedPartOfLevel(tune, level, moved);
    const solo = soloOfLevel(tune, level, moved);
    const map: DrillIdea | undefined = over && {
      steps: [{ set: setOfKey(tune.key), pattern: 'chords', rhythm: 'quarter' }],
      keys: [key.tonic],
      over,
    };
    const own = solo && soloPage(tune, solo, here, 'own');
    const tonality = nameKey(head.writtenKey);
    const titled = (part: Part, what: string): Part => ({ ...part, title: `${tonality}: ${what}` });
    return [
      titled(head, `${tune.title || 'the tune'}, the head`),
      ...(map ? [titled(drillPart(map, { level, instrument: head.instrument }).value, 'the map, chord by chord')] : []),
      ...(solo ? [titled(solo.part, 'the example solo')] : []),
      ...(own ? [titled(own, 'something of your own')] : []),
    ];
  });
}
