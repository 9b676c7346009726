import { failure, success, type Result } from '../../result';
import { finishedTune, sizeProblems } from '../finish';
import type { FormatProblem } from '../problem';
import { lineOf, unreadable, type ReadOptions, type ReadResult } from '../readResult';
import { findKey } from '../../analysis/findKey';
import { keyWithSignature, type Key } from '../../pitch/key';
import { spellInKey } from '../../pitch/spell';
import { RIGHTS, TUNE_SCHEMA, type PlacedTempo, type Tempo, type Tune } from '../../score/tune';
import { barTicks, beatsOf, isCompound, isMeterUnit, weightAt, type Meter } from '../../time/meter';
import { valueTicks } from '../../time/noteValue';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';
import type { RawBar } from '../assemble';
import { cutText } from '../../plainText';
import { MOST_BARS } from '../limits';
import type { GuessSource, MidiGuesses } from './guesses';
import { hasPercussion, likelyMelody, linesOfMidi, type MidiLine } from './lines';
import { parseMidi, type MidiFile } from './midiFile';
import { barEvents, type Segment } from './pourBars';
import { quantise, type GridBeat, type Quantised, type TimedNote } from './quantise';

/** Changes of tempo smaller than this are a player's or a machine's, not the composer's. */
const TEMPO_STEP = 0.08;
const MOST_TEMPOS = 24;

/**
 * Reads a line of a Standard MIDI file as a tune: meter, tempo and key from the file or worked out, notes moved to printable
 * places and spelled in the key. What was worked out comes back in `guesses`, and can be set in `options.midi`.
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

const COMMON_TIME: Meter = { count: 4, unit: 4 };

/** The line that is read, and the one under it. */
function chosenLines(
  file: MidiFile,
  lines: readonly MidiLine[],
  options: ReadOptions,
): Result<
  {
    readonly number: number;
    readonly second: number | undefined;
    readonly line: MidiLine;
    readonly under: MidiLine | undefined;
  },
  readonly FormatProblem[]
> {
  if (lines.length === 0)
    return failure([
      {
        code: 'no-tune',
        place: {},
        found: hasPercussion(file) ? 'percussion alone' : 'no notes',
        right: 'it needs a track with notes',
      },
    ]);
  const number = options.line ?? likelyMelody(lines) + 1;
  const second = typeof options.second === 'number' ? options.second : secondOf(lines, options);
  const [line, under] = [lines[number - 1], second === undefined ? undefined : lines[second - 1]];
  if (!line || (second !== undefined && !under))
    return failure([
      {
        code: 'no-such-tune',
        place: {},
        found: String(line ? second : number),
        right: `it holds ${lines.length} lines`,
      },
    ]);
  const size = sizeProblems({ bars: 0, notes: line.notes.length });
  return size.length > 0 ? failure(size) : success({ number, second, line, under });
}

/** What of the file is not in the line that is read. */
function lineWarnings(
  file: MidiFile,
  lines: readonly MidiLine[],
  line: MidiLine,
  under: MidiLine | undefined,
): readonly FormatProblem[] {
  const warnings: FormatProblem[] = [];
  const tell = (code: FormatProblem['code'], found: string, right?: string) =>
    warnings.push({ code, place: {}, found, ...(right && { right }) });
  if (line.covered > 0) tell('chord-of-notes', `${line.covered} under others`, 'the top ones were taken');
  if (lines.some((one) => one !== line && one !== under))
    tell('other-voices', `${lines.length} lines`, `"${line.name}" was taken`);
  if (hasPercussion(file)) tell('left-out', 'percussion');
  if (file.lyrics.length > 0) tell('left-out', `${file.lyrics.length} syllables`, 'add the words on the bench');
  return warnings;
}

function lossWarnings(lost: number, dropped: number): readonly FormatProblem[] {
  const leftOut = (found: string): FormatProblem => ({ code: 'left-out', place: {}, found });
  return [
    ...(lost > 0 ? [leftOut(`${lost} notes that fell together with others`)] : []),
    ...(dropped > 0 ? [leftOut(`${dropped} empty bars at the beginning`)] : []),
  ];
}

function withTempos(bars: readonly RawBar[], { placed }: TemposRead): readonly RawBar[] {
  return bars.map((bar, index): RawBar => {
    const here = placed
      .filter(({ barIndex }) => barIndex === index)
      .map(({ at, tempo }): PlacedTempo => ({ at, tempo }));
    return here.length > 0 ? { ...bar, tempos: here } : bar;
  });
}

/** A file has no barlines; a tune ends with one. */
function withFinalLine(bars: readonly RawBar[]): readonly RawBar[] {
  return bars.map((bar, index) => (index === bars.length - 1 ? { ...bar, barline: 'final' } : bar));
}

/** A file of our own names its second track. */
function secondOf(lines: readonly MidiLine[], options: ReadOptions): number | undefined {
  if (options.second === 'none' || options.line !== undefined) return undefined;
  const index = lines.findIndex(({ name }) => name === 'Second part');
  return index > 0 ? index + 1 : undefined;
}

function timed({ notes }: MidiLine, division: number): readonly TimedNote[] {
  const ticks = (time: number) => Math.round((time * TICKS_PER_QUARTER) / division);
  return notes.map(({ start, end, pitch }) => ({
    start: ticks(start),
    end: Math.max(ticks(start) + 1, ticks(end)),
    pitch,
  }));
}

interface MeterChange {
  readonly at: Ticks;
  readonly meter: Meter;
}

function metersOfFile(
  file: MidiFile,
  notes: readonly TimedNote[],
  options: ReadOptions,
): { readonly changes: readonly MeterChange[]; readonly source: GuessSource } {
  const set = options.midi?.meter;
  if (set) return { changes: [{ at: 0, meter: set }], source: 'set' };
  const changes: MeterChange[] = [];
  for (const { at, count, unit } of file.meters) {
    const ticks = Math.round((at * TICKS_PER_QUARTER) / file.division);
    if (!isMeterUnit(unit) || count < 1 || count > 32) continue;
    const meter: Meter = { count, unit };
    if (changes.at(-1)?.at === ticks) changes.pop();
    changes.push({ at: ticks, meter });
  }
  if (changes[0]?.at === 0) return { changes, source: 'file' };
  return { changes: [{ at: 0, meter: likelyMeter(notes) }, ...changes], source: 'guess' };
}

/** Meters that a file without one may be in, and how readily each is believed. */
const LIKELY_METERS: readonly (readonly [Meter, number])[] = [
  [{ count: 4, unit: 4 }, 1.06],
  [{ count: 3, unit: 4 }, 1],
  [{ count: 6, unit: 8 }, 0.97],
  [{ count: 2, unit: 4 }, 0.94],
];

/** The meter on whose strong places long notes begin. */
function likelyMeter(notes: readonly TimedNote[]): Meter {
  const scores = LIKELY_METERS.map(([meter, readiness]) => {
    const bar = barTicks(meter);
    let [sum, total] = [0, 0];
    notes.forEach((note, index) => {
      const reach = Math.min(2 * TICKS_PER_QUARTER, (notes[index + 1]?.start ?? note.end) - note.start);
      const grid = TICKS_PER_QUARTER / 4;
      const place = (Math.round(note.start / grid) * grid) % bar;
      sum += reach * weightAt(meter, place);
      total += reach;
    });
    const usual = beatsOf(meter).length === 2 ? 0.62 : 0.55;
    return { meter, score: total === 0 ? 0 : (sum / total / usual) * readiness };
  });
  return scores.reduce((best, next) => (next.score > best.score ? next : best)).meter;
}

/** The beats of a bar; longer ones of a simple meter in quarters, so that each may have its own grid. A pickup has the last beats of its bar. */
function gridBeats({ start, length, meter }: GridBar, index: number): readonly GridBeat[] {
  const offset = index === 0 ? Math.max(0, barTicks(meter) - length) : 0;
  const beats = beatsOf(meter).flatMap((beat): readonly GridBeat[] => {
    const parts = isCompound(meter) ? 1 : Math.max(1, beat.length / TICKS_PER_QUARTER);
    return Array.from({ length: parts }, (_, k) => ({
      start: beat.start + (k * beat.length) / parts,
      length: beat.length / parts,
      isCompound: isCompound(meter),
    }));
  });
  return beats.flatMap((beat): readonly GridBeat[] => {
    const [from, to] = [Math.max(beat.start, offset), Math.min(beat.start + beat.length, offset + length)];
    return to > from
      ? [{ start: start - offset + from, length: to - from, isCompound: beat.isCompound && to - from === beat.length }]
      : [];
  });
}

interface GridBar {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly meter: Meter;
  readonly changesMeter: boolean;
}

/** Bars from the start of the file until its end. A change inside a bar cuts it. A short first meter is a pickup to the next. */
function barsUntil(changes: readonly MeterChange[], end: Ticks): readonly GridBar[] {
  const bars: GridBar[] = [];
  changes.forEach(({ at, meter }, index) => {
    const until = changes[index + 1]?.at ?? Infinity;
    for (let start = at; start < Math.min(until, end) && bars.length <= MOST_BARS; start += barTicks(meter)) {
      bars.push({
        start,
        length: Math.min(barTicks(meter), until - start),
        meter,
        changesMeter: start === at && index > 0,
      });
    }
  });
  const [first, next] = [bars[0], bars[1]];
  if (first && next?.changesMeter && first.length < barTicks(next.meter)) {
    bars[0] = { ...first, meter: next.meter };
    bars[1] = { ...next, changesMeter: false };
  }
  return bars;
}

interface Lead {
  readonly bars: readonly GridBar[];
  readonly dropped: number;
  readonly pickup: Ticks;
}

/** Without empty bars at the head; a first bar that is silent for half its length or more is a pickup. */
function withoutLead(grid: readonly GridBar[], notes: readonly TimedNote[], options: ReadOptions): Lead {
  const start = notes[0]?.start ?? 0;
  const dropped = Math.max(
    0,
    grid.findIndex((bar) => bar.start + bar.length > start),
  );
  const bars = grid.slice(dropped);
  const first = bars[0];
  if (!first) return { bars, dropped, pickup: 0 };
  const full = barTicks(first.meter);
  const set = options.midi?.pickup;
  if (set !== undefined) {
    if (set > 0 && set < first.length)
      return {
        bars: [{ ...first, start: first.start + first.length - set, length: set }, ...bars.slice(1)],
        dropped,
        pickup: set,
      };
    return { bars, dropped, pickup: first.length < full ? first.length : 0 };
  }
  const silent = start - first.start;
  if (silent * 2 >= first.length && silent > 0 && bars.length > 1) {
    return {
      bars: [{ ...first, start, length: first.length - silent }, ...bars.slice(1)],
      dropped,
      pickup: first.length - silent,
    };
  }
  return { bars, dropped, pickup: first.length < full ? first.length : 0 };
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

interface TemposRead {
  readonly first: Tempo;
  readonly quarters: number;
  readonly source: GuessSource;
  readonly placed: readonly (PlacedTempo & { readonly barIndex: number })[];
}

/** The default of the standard where a file names no tempo, in quarters a minute. */
const USUAL_QUARTERS = 120;

function temposOfFile(
  file: MidiFile,
  meter: Meter,
  bars: readonly GridBar[],
  warnings: FormatProblem[],
  options: ReadOptions,
): TemposRead {
  const beat: Tempo['beat'] = isCompound(meter)
    ? { type: 'quarter', dots: 1 }
    : meter.unit === 2
      ? { type: 'half', dots: 0 }
      : { type: 'quarter', dots: 0 };
  const counted = (quarters: number): Tempo => ({
    beat,
    perMinute: Math.max(1, Math.round((quarters * TICKS_PER_QUARTER) / valueTicks(beat))),
  });
  const start = bars[0]?.start ?? 0;
  const all = file.tempos.map(({ at, microsecondsPerQuarter }) => ({
    at: Math.round((at * TICKS_PER_QUARTER) / file.division),
    quarters: 60_000_000 / microsecondsPerQuarter,
  }));
  const opening = all.findLast(({ at }) => at <= start) ?? all[0];
  const quarters = options.midi?.perMinute ?? opening?.quarters ?? USUAL_QUARTERS;
  const placed: (PlacedTempo & { barIndex: number })[] = [];
  let current = quarters;
  let left = 0;
  let barIndex = 0;
  for (const { at, quarters: next } of options.midi?.perMinute === undefined
    ? all.filter((one) => one.at > start)
    : []) {
    if (Math.abs(next / current - 1) < TEMPO_STEP || placed.length >= MOST_TEMPOS) {
      if (Math.abs(next / current - 1) > 0.001) left += 1;
      continue;
    }
    barIndex = barHolding(bars, at, barIndex);
    const bar = bars[barIndex];
    if (!bar) break;
    if (at < bar.start) continue;
    current = next;
    placed.push({ barIndex, at: at - bar.start, tempo: counted(next) });
  }
  if (left > 0) warnings.push({ code: 'left-out', place: {}, found: `${left} small changes of tempo` });
  return {
    first: counted(quarters),
    quarters: Math.round(quarters * 100) / 100,
    source: options.midi?.perMinute !== undefined ? 'set' : all.length > 0 ? 'file' : 'guess',
    placed,
  };
}

/** The first bar from an index on that ends after a place. */
function barHolding(bars: readonly GridBar[], at: Ticks, from: number): number {
  let index = from;
  for (let bar = bars[index]; bar && at >= bar.start + bar.length; bar = bars[index]) index += 1;
  return index;
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
