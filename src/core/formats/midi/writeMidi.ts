import { type Key, midiNumber, signatureOf } from '../../pitch';
import {
  type Bar,
  firstLyric,
  hasSecondPart,
  isNote,
  keysOf,
  loudnessOf,
  metersOf,
  quartersPerMinute,
  secondPartBars,
  type SoundingNote,
  soundingNotes,
  type Tune,
  unfold,
  unfoldProblemText,
  USUAL_LOUDNESS,
} from '../../score';
import {
  barTicks,
  type Meter,
  METER_UNITS,
  sameMeter,
  type Ticks,
  TICKS_PER_QUARTER,
  TICKS_PER_WHOLE,
} from '../../time';
import type { FormatProblem } from '../problem';

export interface MidiWritten {
  readonly data: Uint8Array;
  readonly warnings: readonly FormatProblem[];
}

/**
 * Writes a tune as a Standard MIDI file of type 1 as it sounds: repeats and jumps played out, full notated lengths, the
 * melody alone on its track, a second part on another. Pickups and other short bars stand as bars of their own meter.
 */
export function writeMidi(tune: Tune): MidiWritten {
  const warnings = whatIsLost(tune);
  const { order, passes, problems } = unfold(tune.bars);
  for (const problem of problems) warnings.push({ code: 'left-out', place: {}, found: unfoldProblemText(problem) });
  const melody = played(tune, order);
  const division = divisionFor(tune);
  const conductor = new TrackWriter(division);
  conductor.text(0, 0x03, tune.title);
  if (tune.composer) conductor.text(0, 0x01, tune.composer);
  conductor.tempo(0, quartersPerMinute(tune.tempo));
  writeStructure(conductor, tune, order);
  const lead = new TrackWriter(division);
  lead.text(0, 0x03, 'Melody');
  writeNotes(lead, melody, 0, order, passes, tune);
  const tracks = [conductor, lead];
  if (hasSecondPart(tune)) {
    const second = new TrackWriter(division);
    second.text(0, 0x03, 'Second part');
    const under = { ...tune, bars: secondPartBars(tune.bars) };
    writeNotes(second, played(under, order), 1, order, passes, under);
    tracks.push(second);
  }
  const end = order.reduce((sum, index) => sum + lengthOf(tune, index), 0);
  const chunks = tracks.map((track) => track.chunk(end));
  const header = Uint8Array.from([
    ...ascii('MThd'),
    0,
    0,
    0,
    6,
    0,
    1,
    0,
    chunks.length,
    division >> 8,
    division & 0xff,
  ]);
  const data = new Uint8Array(header.length + chunks.reduce((sum, chunk) => sum + chunk.length, 0));
  let at = 0;
  for (const part of [header, ...chunks]) {
    data.set(part, at);
    at += part.length;
  }
  return { data, warnings };
}

function ascii(text: string): readonly number[] {
  return [...text].map((letter) => letter.charCodeAt(0));
}

function whatIsLost(tune: Tune): FormatProblem[] {
  const events = tune.bars.flatMap((bar) => [...bar.events, ...(bar.second ?? [])]);
  const notes = events.filter(isNote);
  const lost: readonly (readonly [boolean, string, string?])[] = [
    [tune.bars.some(({ chords }) => chords.length > 0), 'chord symbols'],
    [
      tune.bars.some((bar) => bar.repeatStart || bar.repeatEnd !== undefined || bar.ending || bar.jumps),
      'repeat signs and jumps',
      'they are played out',
    ],
    [notes.some(({ graces }) => graces), 'grace notes'],
    [notes.some(({ ornaments }) => ornaments), 'ornaments'],
    [notes.some(({ articulations }) => articulations), 'articulations'],
    [notes.some(({ slurStarts }) => slurStarts), 'slurs'],
    [events.some(({ fermata }) => fermata), 'fermatas'],
    [notes.some(({ hairpin }) => hairpin), 'hairpins'],
    [notes.some(({ dynamic }) => dynamic), 'dynamics as signs', 'they are loudness now'],
    [events.some(({ optional }) => optional), 'the brackets of optional passages'],
    [notes.some(({ phrase }) => phrase), 'phrase marks set by hand'],
    [tune.swing !== undefined, 'swing', 'it is written straight'],
    [tune.recordingKey !== undefined, 'the key of the recording'],
    [tune.harmony !== undefined, 'the style and the readings of chords'],
    [
      tune.tempo.words !== undefined || tune.bars.some((bar) => bar.tempos?.some(({ tempo }) => tempo.words)),
      'words of tempo',
    ],
    [notes.some(({ pitch }) => pitch.alter !== 0), 'the spelling of sharps and flats'],
    [tune.rights !== 'unknown', `the rights status "${tune.rights}"`],
    [tune.source !== undefined, 'where the tune came from'],
    [tune.bars.some(({ barline }) => barline === 'double'), 'double bars'],
  ];
  return lost.flatMap(([isThere, found, right]): FormatProblem[] =>
    isThere ? [{ code: 'cannot-hold', place: {}, found, ...(right && { right }) }] : [],
  );
}

/** 480 ticks a quarter, as usual, where all lengths are whole in it; else our own division, in which they are. */
function divisionFor(tune: Tune): number {
  const coarse = TICKS_PER_QUARTER / 480;
  const isWhole = tune.bars.every((bar) =>
    [...bar.events, ...(bar.second ?? [])].every(({ length }) => length % coarse === 0),
  );
  return isWhole ? 480 : TICKS_PER_QUARTER;
}

function lengthOf(tune: Pick<Tune, 'bars' | 'meter'>, index: number): Ticks {
  return tune.bars[index]?.events.reduce((sum, { length }) => sum + length, 0) ?? 0;
}

/** The notes in playing order. A tie is held where the next bar played is the one it leads to. */
function played(tune: Tune, order: readonly number[]): readonly SoundingNote[] {
  const bars = order.map((index, place): Bar => {
    const bar = tune.bars[index];
    if (!bar) throw new RangeError(`no bar ${index}`);
    const jumps = order[place + 1] !== index + 1;
    const last = bar.events.at(-1);
    const next = tune.bars[order[place + 1] ?? -1]?.events[0];
    if (!jumps || !last || !isNote(last) || !last.tied) return { ...bar, partial: lengthOf(tune, index) };
    const goesOn = next && isNote(next) && midiNumber(next.pitch) === midiNumber(last.pitch);
    const { tied: _, ...untied } = last;
    return {
      ...bar,
      partial: lengthOf(tune, index),
      events: goesOn ? bar.events : [...bar.events.slice(0, -1), untied],
    };
  });
  return soundingNotes({ bars, meter: tune.meter });
}

function writeStructure(track: TrackWriter, tune: Tune, order: readonly number[]): void {
  const meters = metersOf(tune);
  const keys = keysOf(tune);
  let now: Ticks = 0;
  let meter: Meter | undefined;
  let key: Key | undefined;
  let skip = 0;
  let quarters = quartersPerMinute(tune.tempo);
  order.forEach((index, place) => {
    const bar = tune.bars[index];
    const full = meters[index] ?? tune.meter;
    const length = lengthOf(tune, index);
    if (place > 0 && index === 0 && quarters !== quartersPerMinute(tune.tempo)) {
      quarters = quartersPerMinute(tune.tempo);
      track.tempo(now, quarters);
    }
    const after = lengthOf(tune, order[place + 1] ?? -1);
    // The two halves of a bar cut by a repeat are one bar to a listener.
    const isHalf = length < barTicks(full) && length + after === barTicks(full) && place > 0;
    const here = skip > 0 ? meter : length === barTicks(full) || isHalf ? full : meterOfLength(length);
    skip = skip > 0 ? 0 : isHalf ? 1 : 0;
    if (here && (!meter || !sameMeter(here, meter))) {
      track.meter(now, here);
      meter = here;
    }
    const own = keys[index] ?? tune.key;
    if (key !== own) track.key(now, own);
    key = own;
    if (bar?.section) track.text(now, 0x06, bar.section);
    for (const { at, tempo } of bar?.tempos ?? []) {
      quarters = quartersPerMinute(tempo);
      track.tempo(now + at, quarters);
    }
    now += length;
  });
}

/** A meter that is as long as an incomplete bar, if there is one. */
function meterOfLength(length: Ticks): Meter | undefined {
  const unit = METER_UNITS.find(
    (one) => one >= 4 && length % (TICKS_PER_WHOLE / one) === 0 && length / (TICKS_PER_WHOLE / one) <= 32,
  );
  return unit === undefined ? undefined : { count: length / (TICKS_PER_WHOLE / unit), unit };
}

function writeNotes(
  track: TrackWriter,
  notes: readonly SoundingNote[],
  channel: number,
  order: readonly number[],
  passes: readonly number[],
  tune: Tune,
): void {
  const loudness = loudnessOf(tune.bars);
  for (const note of notes) {
    const pitch = Math.max(0, Math.min(127, midiNumber(note.pitch)));
    const verse = passes[note.bar] ?? 1;
    const lyric = note.first.lyrics?.find((one) => one.verse === verse) ?? firstLyric(note.first);
    if (lyric && channel === 0) track.text(note.start, 0x05, lyric.text + (lyric.hyphen ? '-' : ' '));
    track.note(note.start, note.length, pitch, loudness.get(note.first.id) ?? USUAL_LOUDNESS, channel);
  }
}

/** Collects events with their times and writes them as a track chunk. */
class TrackWriter {
  /** `order` settles what comes first at one time: marks, then ends of notes, then beginnings. */
  private readonly events: { readonly at: Ticks; readonly order: number; readonly bytes: readonly number[] }[] = [];

  constructor(private readonly division: number) {}

  private meta(at: Ticks, type: number, bytes: readonly number[]): void {
    this.events.push({ at, order: 0, bytes: [0xff, type, ...variable(bytes.length), ...bytes] });
  }

  text(at: Ticks, type: number, text: string): void {
    if (text) this.meta(at, type, [...new TextEncoder().encode(text)]);
  }

  tempo(at: Ticks, quarters: number): void {
    const microseconds = Math.min(0xffffff, Math.max(1, Math.round(60_000_000 / quarters)));
    this.meta(at, 0x51, [microseconds >> 16, (microseconds >> 8) & 0xff, microseconds & 0xff]);
  }

  meter(at: Ticks, { count, unit }: Meter): void {
    this.meta(at, 0x58, [count, Math.log2(unit), 24, 8]);
  }

  key(at: Ticks, key: Key): void {
    const minor = key.mode === 'minor' || key.mode === 'aeolian' || key.mode === 'dorian' || key.mode === 'phrygian';
    this.meta(at, 0x59, [(signatureOf(key) + 256) % 256, minor ? 1 : 0]);
  }

  note(at: Ticks, length: Ticks, pitch: number, velocity: number, channel: number): void {
    this.events.push(
      { at, order: 2, bytes: [0x90 | channel, pitch, velocity] },
      { at: at + length, order: 1, bytes: [0x80 | channel, pitch, 64] },
    );
  }

  chunk(end: Ticks): Uint8Array {
    const bytes: number[] = [];
    const ticks = (time: Ticks) => Math.round((time * this.division) / TICKS_PER_QUARTER);
    let now = 0;
    for (const { at, bytes: event } of this.events.toSorted((a, b) => a.at - b.at || a.order - b.order)) {
      const time = ticks(at);
      for (const byte of variable(time - now)) bytes.push(byte);
      for (const byte of event) bytes.push(byte);
      now = time;
    }
    bytes.push(...variable(Math.max(0, ticks(end) - now)), 0xff, 0x2f, 0);
    const size = bytes.length;
    return Uint8Array.from([
      ...ascii('MTrk'),
      size >>> 24,
      (size >> 16) & 0xff,
      (size >> 8) & 0xff,
      size & 0xff,
      ...bytes,
    ]);
  }
}

/** A number in groups of seven bits, the last one without the high bit. */
function variable(value: number): readonly number[] {
  const bytes = [value & 0x7f];
  for (let rest = value >> 7; rest > 0; rest >>= 7) bytes.unshift((rest & 0x7f) | 0x80);
  return bytes;
}
