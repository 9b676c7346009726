import type { Instrument } from '../../instruments/instrument';
import { Lru } from '../../lru';
import { semitones, type Pitch } from '../../pitch/pitch';
import { quartersPerMinute, type Tune } from '../../score/tune';
import type { Shaped, ShapeWishes } from './shape';
import type { Source } from './source';
import type { Embellished } from '../embellish/embellish';
import type { MeasuredLine } from './lineRequest';

/**
 * What was worked out for a source, for as long as the source is there, so that three levels and ten instruments do not each
 * begin from nothing. Each cache's key is made of all that its maker is given.
 */
interface Cached {
  readonly shapes: Lru<string, Shaped>;
  readonly lines: WeakMap<Instrument, Lru<string, MeasuredLine>>;
}
const bySource = new WeakMap<Source, Cached>();
/** Tempos and seeds of one instrument that are remembered at a time. */
const MAX_LINES = 24;

function cachedFor(source: Source): Cached {
  const cached = bySource.get(source) ?? { shapes: new Lru(MAX_LINES), lines: new WeakMap() };
  bySource.set(source, cached);
  return cached;
}

/** The line that an instrument has when nobody says otherwise. */
export function cachedLine(
  source: Source,
  instrument: Instrument,
  name: string,
  make: () => MeasuredLine,
): MeasuredLine {
  const { lines } = cachedFor(source);
  const ofInstrument = lines.get(instrument) ?? new Lru<string, MeasuredLine>(MAX_LINES);
  lines.set(instrument, ofInstrument);
  return ofInstrument.getOr(name, make);
}

/** A tune simplified or eased without bars set by hand, made once for all who want the same. */
export function cachedShape(source: Source, wishes: ShapeWishes, make: () => Shaped): Shaped {
  const { chosen: _, outOfReach, tempo, ...rest } = wishes;
  // A simplified melody is the same at any tempo.
  const speed = wishes.melody === 'simplified' ? 0 : quartersPerMinute(tempo);
  return cachedFor(source).shapes.getOr(JSON.stringify({ ...rest, speed, outOfReach: [...outOfReach] }), make);
}

/** An embellished line with what was asked for it: whether the player has these pitches. Whoever answers alike gets the same. */
interface SharedEmbellishing {
  readonly asked: ReadonlyMap<number, { readonly pitch: Pitch; readonly isFree: boolean }>;
  readonly made: Embellished;
}

/** Kept as long as the line: players of many instruments have the same line in other octaves. */
const embellished = new WeakMap<Tune, Lru<string, readonly SharedEmbellishing[]>>();

export function sharedEmbellishing(
  base: Tune,
  name: string,
  isFree: (pitch: Pitch) => boolean,
  make: (isFree: (pitch: Pitch) => boolean) => Embellished,
): Embellished {
  const byName = embellished.get(base) ?? new Lru<string, readonly SharedEmbellishing[]>(MAX_LINES * 4);
  embellished.set(base, byName);
  const known = byName.get(name) ?? [];
  const found = known.find(({ asked }) => [...asked.values()].every((one) => isFree(one.pitch) === one.isFree));
  if (found) return found.made;
  const asked = new Map<number, { readonly pitch: Pitch; readonly isFree: boolean }>();
  const made = make((pitch) => {
    const height = semitones(pitch);
    const before = asked.get(height);
    if (before) return before.isFree;
    const answer = isFree(pitch);
    asked.set(height, { pitch, isFree: answer });
    return answer;
  });
  byName.set(name, [...known.slice(-MAX_LINES), { asked, made }]);
  return made;
}
