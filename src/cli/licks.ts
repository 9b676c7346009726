import { printChord } from '../core/harmony';
import { printKey, printPitch } from '../core/pitch';
import { formOf } from '../core/pools';
import { hasPickup, type Tune } from '../core/score';
import { lickAt, lickFacts, lickPlaces, liftLick, MAX_LICK_BARS, readSolo } from '../core/solos';
import { type Ticks, TICKS_PER_QUARTER } from '../core/time';
import { noMoreThan, parseArguments, required, UsageError } from './arguments';
import { readInput } from './files';
import { improvisingForm } from './pools';

/**
 * `reed licks INPUT --bars A-B [--over INPUT|"CHORDS"] [--key KEY]`: some bars of a line as a lick, what it fits, and
 * where it fits into other chords.
 */
export function licks(words: readonly string[]): unknown {
  const given = parseArguments(words, ['bars', 'over', 'key']);
  noMoreThan(given, 1);
  const { tune, warnings } = readInput(required(given, 0, 'INPUT'));
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const lick = cutFrom(tune, given.options.get('bars'));
  const facts = lickFacts(lick);
  const read = readSolo(lick);
  if (!facts || !read)
    throw new UsageError(
      'INPUT: these bars have no chords over them: give bars with chord symbols, for a lick is found by them',
    );
  const keyText = given.options.get('key');
  const over = given.options.get('over');
  if (keyText !== undefined && over === undefined)
    throw new UsageError('--key: give it with --over, whose chords it moves');
  return {
    title: lick.title,
    concertKey: printKey(lick.key),
    bars: facts.bars,
    fits: facts.fits,
    numerals: facts.numerals,
    chords: formOf(lick).reading.chords.map(({ chord }) => printChord(chord.symbol)),
    notes: read.notes.map(({ at, length, concert, degree, role, device }) => ({
      ...inQuarters(at, length),
      concert: printPitch(concert),
      degree: degree.replaceAll('♭', 'b').replaceAll('♯', '#'),
      role,
      ...(device && { device }),
    })),
    ...(over !== undefined && { places: placesOver(lick, over, keyText) }),
  };
}

function placesOver(lick: Tune, over: string, keyText: string | undefined) {
  const { form, bars } = improvisingForm(over, keyText, undefined);
  return lickPlaces(lick, form, bars).map((place) => ({
    fromBar: place.from + 1,
    toBar: place.to,
    stretch: place.stretch,
    notes: lickAt(lick, place).map(({ at, length, pitch }) => ({
      ...inQuarters(at, length),
      concert: printPitch(pitch),
    })),
  }));
}

function cutFrom(tune: Tune, text: string | undefined): Tune {
  const pickup = hasPickup(tune) ? 1 : 0;
  const count = tune.bars.length - pickup;
  if (text === undefined && count <= MAX_LICK_BARS) return liftLick(tune, pickup, tune.bars.length, tune.title);
  const [, first, last] = /^(\d{1,4})(?:-(\d{1,4}))?$/.exec(text ?? '') ?? [];
  const [from, to] = [Number(first), Number(last ?? first)];
  if (!first || from < 1 || to < from || to > count || to - from >= MAX_LICK_BARS)
    throw new UsageError(
      `--bars ${text ?? 'is missing'}: give one to ${MAX_LICK_BARS} bars between 1 and ${count}, like 3-4`,
    );
  return liftLick(tune, from - 1 + pickup, to + pickup, tune.title);
}

/** From the start of the lick. */
function inQuarters(at: Ticks, length: Ticks) {
  const round = (ticks: Ticks) => Math.round((ticks / TICKS_PER_QUARTER) * 10_000) / 10_000;
  return { at: round(at), length: round(length) };
}
