import {
  describeFingering,
  FINGER_SCHOOLS,
  type Fingering,
  fingeringsFor,
  fingerLine,
  type FingerSchool,
  isFingered,
  markOf,
  pinnedWays,
} from '../core/fingering';
import { fingerNotes, partFor, stringNames } from '../core/levels';
import { printKey, printPitch } from '../core/pitch';
import { barNumbers, metersOf, type SoundingNote, soundingNotes, type Tune } from '../core/score';
import { beatsOf } from '../core/time';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { readInput } from './files';
import { knownInstrument } from './instruments';

/** `reed finger INPUT --for ID [--school open|fourth|stay|lowest] [--pin BAR:BEAT:FINGER[,…]]` */
export function finger(words: readonly string[]): unknown {
  const given = parseArguments(words, ['for', 'school', 'pin']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const id = given.options.get('for');
  if (id === undefined) throw new UsageError('--for is missing: name an instrument, like --for violin');
  const instrument = knownInstrument(id);
  if (!isFingered(instrument))
    throw new UsageError(
      `--for ${id}: the ${instrument.name.toLowerCase()} has no fingerings to choose; use a wind, brass, bowed, fretted or barred instrument`,
    );
  const school = schoolOf(given);
  const pinWords = pinsOf(given);
  const { tune, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const { value: part } = partFor(tune, { level: 'advanced', instrument, shape: 'none' });
  const line = { bars: part.bars, meter: part.meter };
  const sounding = soundingNotes(line);
  const numbers = barNumbers(line);
  const places = sounding.map((note) => ({ bar: numbers[note.bar] ?? 0, beat: beatAt(note, line) }));
  const pins = new Map(
    pinWords.map(({ text, bar, beat, finger: wanted }) => {
      const index = places.findIndex((place) => place.bar === bar && Math.abs(place.beat - beat) < 0.01);
      const note = sounding[index];
      if (!note) throw new UsageError(`--pin ${text}: no note begins at bar ${bar}, beat ${beat}`);
      const ways = fingeringsFor(instrument, note.pitch);
      if (pinnedWays(ways, wanted).length === 0)
        throw new UsageError(
          `--pin ${text}: ${printPitch(note.pitch)} has no fingering "${wanted}" on the ${instrument.shortName}; use one of ${[...new Set(ways.map((way) => markOf(way.fingering)))].join(', ') || 'none'}`,
        );
      return [note.first.id, wanted];
    }),
  );
  const fingered = fingerLine(fingerNotes(line, part.tempo), instrument, school, pins);
  return {
    instrument: instrument.id,
    school,
    writtenKey: printKey(part.writtenKey),
    shifts: fingered.shifts,
    crossings: fingered.crossings,
    cost: rounded(fingered.cost),
    notes: fingered.notes.map((note, index) => ({
      ...places[index],
      pitch: sounding[index] ? printPitch(sounding[index].pitch) : null,
      mark: note.fingering ? markOf(note.fingering) : null,
      fingering: note.fingering ? facts(note.fingering) : null,
      words: note.fingering ? describeFingering(note.fingering, stringNames(instrument)) : null,
      shift: note.shift,
      crossing: note.crossing,
      pinned: note.pinned === true,
      cost: rounded(note.cost),
    })),
  };
}

function facts(fingering: Fingering) {
  const { kind: _, ...plain } = fingering;
  return plain;
}

const rounded = (value: number) => Math.round(value * 1000) / 1000;

function beatAt(note: SoundingNote, tune: Pick<Tune, 'bars' | 'meter'>): number {
  const meter = metersOf(tune)[note.bar] ?? tune.meter;
  const beats = beatsOf(meter);
  const index = beats.findLastIndex(({ start }) => start <= note.inBar);
  const beat = beats[index];
  return beat ? Math.round((index + 1 + (note.inBar - beat.start) / beat.length) * 1000) / 1000 : 1;
}

function schoolOf(given: Arguments): FingerSchool {
  const text = given.options.get('school') ?? FINGER_SCHOOLS[0];
  const school = FINGER_SCHOOLS.find((known) => known === text);
  if (!school) throw new UsageError(`--school ${text} is unknown: use ${FINGER_SCHOOLS.join(', ')}`);
  return school;
}

function pinsOf(
  given: Arguments,
): readonly { readonly text: string; readonly bar: number; readonly beat: number; readonly finger: string }[] {
  const text = given.options.get('pin');
  if (text === undefined) return [];
  return text.split(',').map((one) => {
    const [, bar, beat, wanted] = /^\s*(\d+):(\d+(?:\.\d+)?):(.+?)\s*$/.exec(one) ?? [];
    if (bar === undefined || beat === undefined || wanted === undefined)
      throw new UsageError(`--pin "${one}": write BAR:BEAT:FINGER, like 3:2.5:4`);
    return { text: one.trim(), bar: Number(bar), beat: Number(beat), finger: wanted };
  });
}
