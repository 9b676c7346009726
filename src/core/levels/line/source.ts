import { derived } from '../../derived';
import { type Phrase, phrasesOf } from '../../analysis';
import { type Key, printKey } from '../../pitch';
import { secondPartBars, type Tune, withFinalBarline, withoutSecondPart } from '../../score';
import { inKey } from '../fit/inKey';

/** The tune as every level starts from it. */
export interface Source {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/** The tune, or its second part, in a concert key. @throws RangeError where the key is of another mode than the tune */
export function sourceOf(tune: Tune, key: Key, ofSecond: boolean): Source {
  if (key.mode !== tune.key.mode) throw new RangeError(`a tune in ${tune.key.mode} cannot be put in ${key.mode}`);
  return sourceIn(ofSecond ? secondOf(tune) : tune, key);
}

const sourceIn = derived(freshSource, { most: 24, by: (tune, key) => [tune, printKey(key)] });

function freshSource(tune: Tune, key: Key): Source {
  // A part ends with a final line even where its source has none; what is measured on the way is then measured of the
  // very bars that are read.
  const line: Tune = { ...tune, bars: withFinalBarline(withoutSecondPart(tune.bars)) };
  const keyed: Tune = { ...line, ...inKey(line, key) };
  return { tune: keyed, phrases: phrasesOf(keyed) };
}

/** A tune whose melody is the second part. */
const secondOf = derived((tune: Tune): Tune => ({ ...tune, bars: secondPartBars(tune.bars) }));
