import { fileSlug, writeMusicXml } from '../core/formats';
import { parseNotes, printKey, printPitch, semitones } from '../core/pitch';
import { firstNotes, UNDER_PACES, type UnderPace, underPart } from '../core/levels';
import { partScore } from '../engrave/staves';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { inFolder, readInput, writeAll } from './files';
import { knownInstrument } from './instruments';
import { asWritten, keyFor, readKey } from './parts';

/** `reed under INPUT --for ID [--notes LIST|3|5] [--pace bar|half|beat] [--key KEY] [--out DIR]` */
export function under(words: readonly string[]): unknown {
  const given = parseArguments(words, ['for', 'notes', 'pace', 'key', 'out'], ['written']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const id = given.options.get('for');
  if (id === undefined) throw new UsageError('--for is missing: name an instrument, like --for violin');
  const instrument = knownInstrument(id);
  const notes = given.options.get('notes') ?? '3';
  const asked = notes === '3' || notes === '5' ? undefined : parseNotes(notes);
  if (asked && !asked.ok) throw new UsageError(`--notes ${asked.problem}`);
  const allowed = asked?.value ?? firstNotes(instrument, notes === '5' ? 5 : 3);
  if (allowed.length === 0) throw new UsageError('--notes names none: give 3, 5 or written notes, like G4,A4,B4');
  const { low, high } = instrument.range.full;
  const outside = allowed.find((pitch) => semitones(pitch) < semitones(low) || semitones(pitch) > semitones(high));
  if (outside)
    throw new UsageError(
      `--notes ${printPitch(outside)} is not on the ${instrument.name.toLowerCase()}: it goes from ${printPitch(low)} to ${printPitch(high)}, written`,
    );
  const pace = paceOf(given);
  const keyText = given.options.get('key');
  const toConcert = asWritten(given, instrument);
  if (keyText !== undefined) readKey(keyText, toConcert);
  const { tune, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const made = underPart(
    tune,
    instrument,
    allowed,
    pace,
    keyText === undefined ? tune.key : keyFor(tune, keyText, toConcert),
  );
  const file = inFolder(given.options.get('out') ?? '.', `${fileSlug(tune.title)}.${instrument.id}.under.musicxml`);
  writeAll([{ path: file, data: writeMusicXml(partScore(made.part, tune.rights)) }]);
  return {
    file,
    instrument: instrument.id,
    pace,
    concertKey: printKey(made.part.concertKey),
    writtenKey: printKey(made.part.writtenKey),
    bars: made.part.bars.length,
    notes: made.used.map(printPitch),
    noteCount: made.used.length,
    form: made.part.lead ?? [],
    roughness: Math.round(made.roughness * 100) / 100,
    fits: made.fits,
    betterKeys: made.better.map(printKey),
  };
}

function paceOf(given: Arguments): UnderPace {
  const text = given.options.get('pace') ?? 'bar';
  const pace = UNDER_PACES.find((known) => known === text);
  if (!pace) throw new UsageError(`--pace ${text} is unknown: use ${UNDER_PACES.join(', ')}`);
  return pace;
}
