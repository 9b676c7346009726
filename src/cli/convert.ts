import { resolve } from 'node:path';
import { writeJson } from '../core/formats/json/readJson';
import { writeMxl } from '../core/formats/musicxml/mxl';
import { tuneStaff, writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { soundingNotes } from '../core/score/sounding';
import type { Tune } from '../core/score/tune';
import { noMoreThan, parseArguments, required, UsageError } from './arguments';
import { readInput, writeAll } from './files';

/** `reed convert INPUT OUTPUT` */
export function convert(words: readonly string[]): unknown {
  const given = parseArguments(words, []);
  noMoreThan(given, 2);
  const input = required(given, 0, 'INPUT');
  const output = required(given, 1, 'OUTPUT');
  const write = writerFor(output);
  const { tune, warnings } = readInput(input);
  writeAll([{ path: resolve(output), data: write(tune) }]);
  return { input, output, bars: tune.bars.length, notes: soundingNotes(tune).length, warnings };
}

function writerFor(output: string): (tune: Tune) => string | Uint8Array {
  const name = output.toLowerCase();
  if (name.endsWith('.reed.json')) return writeJson;
  if (name.endsWith('.musicxml') || name.endsWith('.xml')) return (tune) => writeMusicXml(tuneStaff(tune));
  if (name.endsWith('.mxl')) return (tune) => writeMxl(writeMusicXml(tuneStaff(tune)));
  throw new UsageError(`OUTPUT ${output} has no known ending: use .musicxml, .xml, .mxl or .reed.json`);
}
