import { readAbc } from '../src/core/formats/abc/readAbc';
import { instrumentById } from '../src/core/instruments/catalogue';
import type { Instrument } from '../src/core/instruments/instrument';
import { parseKey, type Key } from '../src/core/pitch/key';
import { parsePitch, pitchClassOf, type Pitch, type PitchClass } from '../src/core/pitch/pitch';
import type { Tune } from '../src/core/score/tune';
import { apply, type Command } from '../src/core/work/command';
import type { Work } from '../src/core/work/work';

/** What a test is given, by its shortest name; an error where there is no such thing. */

export function tuneOf(body: string, head = 'M:4/4\nL:1/8\nK:C'): Tune {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
}

export function instrument(id: string): Instrument {
  const found = instrumentById(id);
  if (!found) throw new Error(id);
  return found;
}

export function key(text: string): Key {
  const parsed = parseKey(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
}

/** A pitch by its name, like `Bb3`. */
export function pitch(name: string): Pitch {
  const parsed = parsePitch(name);
  if (!parsed.ok) throw new Error(name);
  return parsed.value;
}

/** A note name without its octave, like `Bb`. */
export function noteName(name: string): PitchClass {
  return pitchClassOf(pitch(`${name}4`));
}

/** A work with a command carried out on it; an error where it is refused. */
export function withCommand(work: Work, command: Command): Work {
  const applied = apply(work, command);
  if (!applied.ok) throw new Error(applied.problem);
  return applied.value.work;
}
