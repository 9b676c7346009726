import { type Instrument, instrumentById, INSTRUMENTS, type WrittenRange } from '../core/instruments';
import { printPitch } from '../core/pitch';
import { noMoreThan, parseArguments, UsageError } from './arguments';

/** `reed instruments [ID]` */
export function instruments(words: readonly string[]): unknown {
  const given = parseArguments(words, []);
  noMoreThan(given, 1);
  const id = given.positional[0];
  return id === undefined ? INSTRUMENTS.map(instrumentFacts) : instrumentFacts(knownInstrument(id));
}

/** The instrument of an id, or an error that lists what there is. */
export function knownInstrument(id: string): Instrument {
  const instrument = instrumentById(id);
  if (!instrument)
    throw new UsageError(`unknown instrument "${id}": use one of ${INSTRUMENTS.map((one) => one.id).join(', ')}`);
  return instrument;
}

function instrumentFacts({ id, name, family, clef, transposition, range }: Instrument) {
  const pair = ({ low, high }: WrittenRange) => [printPitch(low), printPitch(high)];
  return {
    id,
    name,
    family,
    clef,
    transposition,
    range: {
      full: pair(range.full),
      beginner: pair(range.beginner),
      intermediate: pair(range.intermediate),
      advanced: pair(range.advanced),
    },
  };
}
