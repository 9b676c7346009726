import { derived } from '../derived';
import type { Instrument, Level } from '../instruments';
import { type Interval, intervalBetweenTonics, type Key, readableInterval, UNISON } from '../pitch';
import { chordPlace, formIn, formOf, type LevelPools, poolsFor, withProposedChords } from '../pools';
import type { Tempo, Tune } from '../score';
import { instrumentOf, levelTempo, recipesOf, type Work } from '../work';

/** A level's notes to improvise with, for one player. */
export interface PlayerPools {
  readonly level: Level;
  readonly instrument: Instrument;
  /** In the pitch asked for. */
  readonly pools: LevelPools;
  readonly concertKey: Key;
  readonly writtenKey: Key;
  readonly tempo: Tempo;
  /** The tune with the chords that were used. */
  readonly tune: Tune;
  /** The tune has no chords: these are proposals. */
  readonly isProposed: boolean;
  /** From written pitch to that of the pools. */
  readonly shift: Interval;
}

/**
 * The notes to improvise with at a level: the tune's form in the level's key, what the teacher decided, in written
 * pitch or as it sounds.
 * @param player another instrument than the recipe's, for one player of a group
 */
export function poolsOfLevel(
  work: Work,
  level: Level,
  view: 'written' | 'sounding' = 'written',
  player?: Instrument,
): PlayerPools {
  const recipe = recipesOf(work)[level];
  const instrument = player ?? instrumentOf(recipe);
  const tune = harmonised(work.tune);
  const concertKey = recipe.keyAndTempo?.key ?? tune.key;
  const inLevelKey = formIn(formOf(tune), intervalBetweenTonics(tune.key.tonic, concertKey.tonic));
  const written = readableInterval(concertKey, instrument.transposition);
  const writtenForm = formIn(inLevelKey, written);
  const form = view === 'written' ? writtenForm : inLevelKey;
  const wishes = recipe.improvise ?? {};
  const pools = poolsFor(form, level, wishes, (index) => {
    const place = form.places[index]?.chord;
    return place && wishes.chords?.[chordPlace(place.bar, place.at)];
  });
  return {
    level,
    instrument,
    pools,
    concertKey: inLevelKey.key,
    writtenKey: writtenForm.key,
    tempo: levelTempo(work.tune, level, recipe.keyAndTempo?.perMinute),
    tune,
    isProposed: tune !== work.tune,
    shift: view === 'written' ? UNISON : { diatonic: -written.diatonic, chromatic: -written.chromatic },
  };
}

const harmonised = derived(withProposedChords);
