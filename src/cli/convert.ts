import { resolve } from 'node:path';
import { formatProblemText, tuneStaff, writeAbc, writeJson, writeMidi, writeMusicXml, writeMxl } from '../core/formats';
import { soundingNotes, type Tune } from '../core/score';
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
  const written = write(tune);
  writeAll([{ path: resolve(output), data: written.data }]);
  return {
    input,
    output,
    bars: tune.bars.length,
    notes: soundingNotes(tune).length,
    warnings: [...warnings, ...written.warnings],
  };
}

interface Written {
  readonly data: string | Uint8Array;
  readonly warnings: readonly string[];
}

function writerFor(output: string): (tune: Tune) => Written {
  const name = output.toLowerCase();
  const whole = (data: string | Uint8Array): Written => ({ data, warnings: [] });
  if (name.endsWith('.reed.json')) return (tune) => whole(writeJson(tune));
  if (name.endsWith('.musicxml') || name.endsWith('.xml')) return (tune) => whole(writeMusicXml(tuneStaff(tune)));
  if (name.endsWith('.mxl')) return (tune) => whole(writeMxl(writeMusicXml(tuneStaff(tune))));
  if (name.endsWith('.abc'))
    return (tune) => {
      const { text, warnings } = writeAbc(tune);
      return { data: text, warnings: warnings.map(formatProblemText) };
    };
  if (/\.midi?$/.test(name))
    return (tune) => {
      const { data, warnings } = writeMidi(tune);
      return { data, warnings: warnings.map(formatProblemText) };
    };
  throw new UsageError(`OUTPUT ${output} has no known ending: use .abc, .musicxml, .xml, .mxl, .mid or .reed.json`);
}
