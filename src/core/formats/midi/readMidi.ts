import { failure, success } from '../../result';
import { finishedTune, sizeProblems } from '../finish';
import type { FormatProblem } from '../problem';
import { lineOf, unreadable, type ReadOptions, type ReadResult } from '../readResult';
import { findKey } from '../../analysis';
import { type Key, keyWithSignature, spellInKey } from '../../pitch';
import { RIGHTS, type Tune, TUNE_SCHEMA } from '../../score';
import { barTicks, TICKS_PER_QUARTER } from '../../time';
import type { RawBar } from '../assemble';
import { cutText } from '../../plainText';
import { chosenLines, lineWarnings } from './chosenLines';
import type { MidiGuesses } from './guesses';
import { linesOfMidi, type MidiLine } from './lines';
import { barsUntil, COMMON_TIME, gridBeats, metersOfFile, withoutLead, type GridBar } from './meterGrid';
import { parseMidi, type MidiFile } from './midiFile';
import { barEvents, type Segment } from './pourBars';
import { quantise, type Quantised, type TimedNote } from './quantise';
import { temposOfFile, withTempos } from './tempos';

/**
 * Reads a line of a Standard MIDI file as a tune: meter, tempo and key from the file or worked out, notes moved to
 * printable places and spelled in the key. What was worked out comes back in `guesses`, and can be set in
 * `options.midi`.
 */
export function readMidi(bytes: Uint8Array, options: ReadOptions = {}): ReadResult {
  const parsed = parseMidi(bytes);
  if (!parsed.ok) return unreadable(parsed.problem);
  const { value: file } = parsed;
  const lines = linesOfMidi(file);
  const chosen = chosenLines(file, lines, options);
  if (!chosen.ok) return chosen;
  const { number, second, line, under } = chosen.value;
  const warnings = [...lineWarnings(file, lines, line, under)];
  const notes = timed(line, file.division);
  const meters = metersOfFile(file, notes, options);
  const grid = barsUntil(
    meters.changes,
    notes.reduce((last, { end }) => Math.max(last, end), 1),
  );
  const size = sizeProblems({ bars: grid.length, notes: notes.length });
  if (size.length > 0) return failure(size);
  const beats = grid.flatMap(gridBeats);
  const quantised = quantise(notes, beats, options.midi?.swing);
  const trimmed = withoutLead(grid, quantised.notes, options);
  warnings.push(...lossWarnings(notes.length - quantised.notes.length, trimmed.dropped));
  const underNotes = under && quantise(timed(under, file.division), beats, options.midi?.swing).notes;
  const key = keyOfFile(file, quantised, trimmed.bars, options);
  const tempos = temposOfFile(file, meters.changes[0]?.meter ?? COMMON_TIME, trimmed.bars, warnings, options);
  let tuplets = 0;
  const pour = (line_: readonly TimedNote[]) =>
    rawBars(line_, trimmed.bars, key.value, file, () => `t${(tuplets += 1)}`);
  const meter = trimmed.bars[0]?.meter ?? COMMON_TIME;
  const finished = finishedTune(
    {
      title: file.title || (lines.length === 1 ? line.name.replace(/^Track 1$/, '') : ''),
      key: key.value,
      meter,
      tempo: tempos.first,
      swing: quantised.swung ? { unit: 'eighth', ratio: 2 } : undefined,
      bars: withTempos(withFinalLine(pour(quantised.notes)), tempos),
      second: underNotes && pour(underNotes),
    },
    warnings,
  );
  if (!finished.ok) return finished;
  const guesses: MidiGuesses = {
    meter: { value: meter, source: meters.source },
    key,
    perMinute: { value: tempos.quarters, source: tempos.source },
    swing: { value: quantised.swung, source: options.midi?.swing === undefined ? 'guess' : 'set' },
    pickup: { value: trimmed.pickup, source: options.midi?.pickup === undefined ? 'guess' : 'set' },
    exact: quantised.isExact,
  };
  const pitchesOf = (one: MidiLine) => one.notes.map(({ pitch }) => spellInKey(pitch, key.value));
  return success({
    ...finished.value,
    guesses,
    choices: {
      tunes: [finished.value.tune.title],
      tune: 1,
      lines: lines.map((one, index) => lineOf(index + 1, one.name, pitchesOf(one))),
      line: number,
      ...(second !== undefined && { second }),
    },
  });
}

function lossWarnings(lost: number, dropped: number): readonly FormatProblem[] {
  const leftOut = (found: string): FormatProblem => ({ code: 'left-out', place: {}, found });
  return [
    ...(lost > 0 ? [leftOut(`${lost} notes that fell together with others`)] : []),
    ...(dropped > 0 ? [leftOut(`${dropped} empty bars at the beginning`)] : []),
  ];
}

/** A file has no barlines; a tune ends with one. */
function withFinalLine(bars: readonly RawBar[]): readonly RawBar[] {
  return bars.map((bar, index) => (index === bars.length - 1 ? { ...bar, barline: 'final' } : bar));
}

function timed({ notes }: MidiLine, division: number): readonly TimedNote[] {
  const ticks = (time: number) => Math.round((time * TICKS_PER_QUARTER) / division);
  return notes.map(({ start, end, pitch }) => ({
    start: ticks(start),
    end: Math.max(ticks(start) + 1, ticks(end)),
    pitch,
  }));
}

function keyOfFile(
  file: MidiFile,
  quantised: Quantised,
  bars: readonly GridBar[],
  options: ReadOptions,
): MidiGuesses['key'] {
  const heard = findKey(plainTune(quantised.notes, bars));
  const others = [heard.key, ...heard.runnersUp.map(({ key }) => key)];
  const set = options.midi?.key;
  if (set) return { value: set, source: 'set', others };
  const said = file.keys[0];
  // Many programs write C major when they know nothing; then what is heard counts where it is sure.
  const isDefault = said?.fifths === 0 && !said.isMinor && heard.confidence > 0.8;
  if (said && !isDefault)
    return { value: keyWithSignature(said.fifths, said.isMinor ? 'minor' : 'major'), source: 'file', others };
  return { value: heard.key, source: 'guess', others: others.slice(1) };
}

/** Just enough of a tune for its key to be found. */
function plainTune(notes: readonly TimedNote[], bars: readonly GridBar[]): Tune {
  const c: Key = { tonic: { step: 'C', alter: 0 }, mode: 'major' };
  const meter = bars[0]?.meter ?? { count: 4, unit: 4 };
  return {
    schema: TUNE_SCHEMA,
    title: '',
    rights: RIGHTS[3],
    key: c,
    meter,
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: 120 },
    bars: bars.map((bar, index) => ({
      id: `b${index}`,
      chords: [],
      partial: bar.length,
      events: notes
        .filter(({ start }) => start >= bar.start && start < bar.start + bar.length)
        .map(({ start, end, pitch }, k) => ({
          kind: 'note',
          id: `n${index}.${k}`,
          length: Math.min(end, bar.start + bar.length) - start,
          pitch: spellInKey(pitch, c),
        })),
    })),
  };
}

/** The line laid into bars: notes over a barline are tied, gaps are rests. */
function rawBars(
  notes: readonly TimedNote[],
  bars: readonly GridBar[],
  key: Key,
  file: MidiFile,
  freshTuplet: () => string,
): readonly RawBar[] {
  let cursor = 0;
  const markers = file.markers
    .filter(({ text }) => text !== '')
    .map(({ at, text }) => ({ at: Math.round((at * TICKS_PER_QUARTER) / file.division), text }));
  let nextMarker = 0;
  return bars.map((bar, index): RawBar => {
    const end = bar.start + bar.length;
    const segments: Segment[] = [];
    let at = bar.start;
    while (cursor < notes.length) {
      const note = notes[cursor];
      if (!note || note.start >= end) break;
      const from = Math.max(note.start, bar.start);
      const to = Math.min(note.end, end);
      if (to > from) {
        if (from > at) segments.push({ start: at - bar.start, length: from - at });
        segments.push({
          start: from - bar.start,
          length: to - from,
          pitch: spellInKey(note.pitch, key, notes[cursor + 1]?.pitch),
          tied: note.end > end,
        });
        at = to;
      }
      if (note.end > end) break;
      cursor += 1;
    }
    if (at < end) segments.push({ start: at - bar.start, length: end - at });
    const offset = index === 0 && bar.length < barTicks(bar.meter) ? barTicks(bar.meter) - bar.length : 0;
    while ((markers[nextMarker]?.at ?? Infinity) < bar.start) nextMarker += 1;
    const here = markers[nextMarker];
    const marker = here && here.at < end ? here : undefined;
    return {
      events: barEvents(segments, offset, bar.meter, freshTuplet),
      chords: [],
      place: {},
      declaredPartial: bar.length < barTicks(bar.meter),
      ...((index === 0 || bar.changesMeter) && { meter: bar.meter }),
      ...(marker && { section: cutText(marker.text, 40) }),
    };
  });
}
