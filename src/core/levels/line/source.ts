import { phrasesOf, type Phrase } from '../../analysis/phrases';
import { printKey, type Key } from '../../pitch/key';
import { withFinalBarline } from '../../score/finalBarline';
import { secondPartBars, withoutSecondPart, type Tune } from '../../score/tune';
import { inKey } from '../fit/inKey';

/** The tune as every level starts from it. */
export interface Source {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/** What was worked out for a tune lives as long as the tune itself: equal values in, the same values out. */
const sources = new WeakMap<Tune, Map<string, Source>>();
const seconds = new WeakMap<Tune, Tune>();

/** The tune, or its second part, in a concert key. @throws RangeError where the key is of another mode than the tune */
export function sourceOf(tune: Tune, key: Key, ofSecond: boolean): Source {
  if (key.mode !== tune.key.mode) throw new RangeError(`a tune in ${tune.key.mode} cannot be put in ${key.mode}`);
  const line = ofSecond ? secondOf(tune) : tune;
  const byKey = sources.get(line) ?? new Map<string, Source>();
  sources.set(line, byKey);
  const made = byKey.get(printKey(key)) ?? freshSource(line, key);
  byKey.set(printKey(key), made);
  return made;
}

function freshSource(tune: Tune, key: Key): Source {
  // A part ends with a final line even where its source has none; what is measured on the way is then measured of the very bars that are read.
  const line: Tune = { ...tune, bars: withFinalBarline(withoutSecondPart(tune.bars)) };
  const keyed: Tune = { ...line, ...inKey(line, key) };
  return { tune: keyed, phrases: phrasesOf(keyed) };
}

/** A tune whose melody is the second part. */
function secondOf(tune: Tune): Tune {
  const made = seconds.get(tune) ?? { ...tune, bars: secondPartBars(tune.bars) };
  seconds.set(tune, made);
  return made;
}
