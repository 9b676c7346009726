import fc from 'fast-check';
import type { EnsemblePlayer } from '../src/core/ensemble';
import { LEVELS } from '../src/core/instruments';
import { bestRanked, rankKeys } from '../src/core/keys';
import type { Tune } from '../src/core/score';
import { instrument } from './given';
import { likelyTune } from './likelyTune';

/** Instruments that meet in one room. */
const ROOM = [
  'flute',
  'oboe',
  'clarinet-bb',
  'alto-sax',
  'tenor-sax',
  'trumpet-bb',
  'horn-f',
  'trombone',
  'euphonium-bc',
  'tuba',
  'violin',
  'viola',
  'cello',
  'double-bass',
  'recorder-descant',
  'recorder-treble',
  'guitar',
  'bass-clarinet',
] as const;

export interface EnsembleCase {
  readonly tune: Tune;
  readonly players: readonly EnsemblePlayer[];
  /** The key that suits all of them best. */
  readonly key: Tune['key'];
}

/** Players of the program's own choice of roles, two to eight, in the key that suits them. */
export const anyEnsemble: fc.Arbitrary<EnsembleCase> = fc
  .record({
    seed: fc.integer({ min: 0, max: 1_000_000 }),
    players: fc.array(fc.record({ id: fc.constantFrom(...ROOM), level: fc.constantFrom(...LEVELS) }), {
      minLength: 2,
      maxLength: 8,
    }),
  })
  .map(({ seed, players: chosen }) => {
    const tune = likelyTune(seed);
    const players = chosen.map(({ id, level }, k): EnsemblePlayer => ({
      id: `p${k + 1}`,
      instrument: instrument(id),
      level,
    }));
    return { tune, players, key: bestRanked(rankKeys(tune, players))?.key ?? tune.key };
  });
