import { fileSlug, writeMusicXml } from '../core/formats';
import { type Level, LEVELS } from '../core/instruments';
import { markOf } from '../core/fingering';
import { BOW_RHYTHMS, type BowRhythm, hasGrips, stringChords, usualBowRhythm } from '../core/levels';
import { printKey, printPitch } from '../core/pitch';
import { partScore } from '../engrave/staves';
import { noMoreThan, parseArguments, required, UsageError } from './arguments';
import { inFolder, readInput, writeAll } from './files';
import { knownInstrument } from './instruments';
import { asWritten, keyFor, readKey } from './parts';

/** `reed chords INPUT --for ID [--level LEVEL] [--rhythm long|shuffle|quick] [--key KEY] [--out DIR]` */
export function chords(words: readonly string[]): unknown {
  const given = parseArguments(words, ['for', 'level', 'rhythm', 'key', 'out'], ['written']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const id = given.options.get('for');
  if (id === undefined) throw new UsageError('--for is missing: name an instrument with strings, like --for violin');
  const instrument = knownInstrument(id);
  if (!hasGrips(instrument))
    throw new UsageError(
      `--for ${id} has no two strings to sound together: use a bowed or plucked instrument, like violin`,
    );
  const level = levelOf(given.options.get('level') ?? 'beginner');
  const rhythm = rhythmOf(given.options.get('rhythm') ?? usualBowRhythm(level));
  const keyText = given.options.get('key');
  const toConcert = asWritten(given, instrument);
  if (keyText !== undefined) readKey(keyText, toConcert);
  const { tune, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  if (!tune.bars.some((bar) => bar.chords.length > 0))
    throw new UsageError(`${input} has no chord symbols: grips are made from them`);
  const made = stringChords(
    tune,
    instrument,
    level,
    rhythm,
    keyText === undefined ? tune.key : keyFor(tune, keyText, toConcert),
  );
  const file = inFolder(
    given.options.get('out') ?? '.',
    `${fileSlug(tune.title)}.${instrument.id}.${level}.chords.musicxml`,
  );
  writeAll([{ path: file, data: writeMusicXml(partScore(made.part, tune.rights)) }]);
  return {
    file,
    instrument: instrument.id,
    level,
    rhythm,
    concertKey: printKey(made.part.concertKey),
    writtenKey: printKey(made.part.writtenKey),
    bars: made.part.bars.length,
    grips: made.grips.map(({ symbol, grip }) => ({
      symbol,
      low: printPitch(grip.low),
      high: printPitch(grip.high),
      fingers: [markOf(grip.lowFinger), markOf(grip.highFinger)],
    })),
    missing: made.missing,
  };
}

function levelOf(text: string): Level {
  const level = LEVELS.find((known) => known === text);
  if (!level) throw new UsageError(`--level ${text} is unknown: use ${LEVELS.join(', ')}`);
  return level;
}

function rhythmOf(text: string): BowRhythm {
  const rhythm = BOW_RHYTHMS.find((known) => known === text);
  if (!rhythm) throw new UsageError(`--rhythm ${text} is unknown: use ${BOW_RHYTHMS.join(', ')}`);
  return rhythm;
}
