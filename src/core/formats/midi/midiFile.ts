import { failure, success, type Result } from '../../result';
import { spend } from '../effort';
import type { FormatProblem } from '../problem';

/** A note of a track: times in the file's own ticks. */
export interface MidiNote {
  readonly start: number;
  readonly end: number;
  /** 0–127, 60 is middle C. */
  readonly pitch: number;
  readonly velocity: number;
  /** 0–15; 9 is percussion. */
  readonly channel: number;
}

interface MidiTrack {
  readonly name: string;
  readonly notes: readonly MidiNote[];
}

export interface MidiFile {
  /** File ticks in a quarter note. */
  readonly division: number;
  readonly tracks: readonly MidiTrack[];
  readonly tempos: readonly { readonly at: number; readonly microsecondsPerQuarter: number }[];
  readonly meters: readonly { readonly at: number; readonly count: number; readonly unit: number }[];
  readonly keys: readonly { readonly at: number; readonly fifths: number; readonly isMinor: boolean }[];
  readonly markers: readonly { readonly at: number; readonly text: string }[];
  readonly lyrics: readonly { readonly at: number; readonly text: string; readonly track: number }[];
  readonly title: string;
  readonly copyright: string;
  /** The latest event of all. */
  readonly end: number;
}

const MAX_TRACKS = 256;
/** A performance of hours at the finest division; beyond it a delta is nonsense. */
const LATEST = 2 ** 31;

class Refused extends Error {
  constructor(readonly problem: FormatProblem) {
    super(problem.code);
  }
}

/**
 * Reads the chunks of a Standard MIDI File, type 0 or 1 (Complete MIDI 1.0 Detailed Specification, "Standard MIDI Files
 * 1.0"). A note that is never let go ends with its track. Tracks of foreign chunks are passed over, as the standard
 * asks.
 */
export function parseMidi(bytes: Uint8Array): Result<MidiFile, FormatProblem> {
  try {
    return success(new MidiParser(bytes).file());
  } catch (error) {
    if (error instanceof Refused) return failure(error.problem);
    throw error;
  }
}

function refuse(at: number, found: string, right: string): never {
  throw new Refused({ code: 'bad-midi', place: {}, found: `${found} at byte ${at}`, right });
}

/** A note that may not have ended yet; then its end is its start. */
type OpenNote = { -readonly [Field in keyof MidiNote]: MidiNote[Field] };

/** One key of one channel: what was pressed, in order, and how many of these were let go. */
interface Held {
  pressed: OpenNote[];
  released: number;
}

const UTF8 = new TextDecoder('utf-8');
const LATIN = new TextDecoder('windows-1252');

/** Marks of one kind that are read; the rest of them is passed over. A long work has some hundreds. */
const MAX_MARKS = 5_000;

/** The notes of a track, and which of them are held. */
class HeldKeys {
  private readonly notes: OpenNote[] = [];
  private readonly open = new Map<number, Held>();
  private lastKey = -1;
  private last: Held | undefined;

  /** A key that is pressed, or let go where the velocity is 0. */
  event(channel: number, pitch: number, velocity: number, now: number): void {
    const key = (channel << 7) | pitch;
    // In a line a note is let go before another is pressed: it is the one of last time that is asked for.
    if (key !== this.lastKey) {
      this.lastKey = key;
      this.last = this.open.get(key);
    }
    if (velocity === 0) {
      if (this.last) release(this.last, now);
      return;
    }
    const note = { start: now, end: now, pitch, velocity, channel };
    this.notes.push(note);
    if (this.last) press(this.last, note);
    else {
      this.last = { pressed: [note], released: 0 };
      this.open.set(key, this.last);
    }
  }

  /** All notes in order; those that are still held end now. */
  notesUntil(now: number): readonly MidiNote[] {
    for (const held of this.open.values()) while (held.released < held.pressed.length) release(held, now);
    // Most files have nothing to be put in order: notes come as they begin.
    return areInOrder(this.notes) ? this.notes : this.notes.filter(isHeard).sort(byStart);
  }
}

function press(held: Held, note: OpenNote): void {
  if (held.released < held.pressed.length) held.pressed.push(note);
  else {
    // Nothing of it is held any more: there is nothing to remember.
    if (held.pressed.length === 1) held.pressed[0] = note;
    else held.pressed = [note];
    held.released = 0;
  }
}

/** The note that was pressed first of those that are held ends. */
function release(held: Held, now: number): void {
  const note = held.pressed[held.released];
  if (!note) return;
  held.released += 1;
  note.end = now;
}

const isHeard = ({ start, end }: MidiNote) => end > start;
const byStart = (a: MidiNote, b: MidiNote) => a.start - b.start || b.pitch - a.pitch;

/** Whether all notes last, and those that begin together stand with the highest first. */
function areInOrder(notes: readonly MidiNote[]): boolean {
  let before: MidiNote | undefined;
  for (const note of notes) {
    if (!isHeard(note) || (before && byStart(before, note) > 0)) return false;
    before = note;
  }
  return true;
}

function endsInside(at: number): never {
  return refuse(at, 'a track that ends inside an event', 'copy the file again');
}

function byteAt(bytes: Uint8Array, at: number, to: number): number {
  return at < to ? (bytes[at] ?? 0) : endsInside(at);
}

/** A data byte: seven bits. */
function dataAt(bytes: Uint8Array, at: number, to: number): number {
  const data = byteAt(bytes, at, to);
  return data < 0x80 ? data : refuse(at, `a data byte 0x${data.toString(16)}`, 'data bytes are below 0x80');
}

class MidiParser {
  private at = 0;
  private readonly view: DataView;
  private readonly tempos: { at: number; microsecondsPerQuarter: number }[] = [];
  private readonly meters: { at: number; count: number; unit: number }[] = [];
  private readonly keys: { at: number; fifths: number; isMinor: boolean }[] = [];
  private readonly markers: { at: number; text: string }[] = [];
  private readonly lyrics: { at: number; text: string; track: number }[] = [];
  /** Of the track that is being read. */
  private name = '';
  private copyright = '';
  private end = 0;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  file(): MidiFile {
    if (this.bytes.length < 14 || this.text(0, 4) !== 'MThd')
      refuse(0, 'no MThd header', 'a MIDI file begins with one');
    const length = this.view.getUint32(4);
    const type = this.view.getUint16(8);
    const trackCount = this.view.getUint16(10);
    const division = this.division(this.view.getUint16(12));
    if (length < 6 || type > 2) refuse(8, `a header of type ${type}`, 'type 0 and type 1 are read');
    if (type === 2) refuse(8, 'type 2, patterns without an order', 'save it as type 1');
    if (trackCount > MAX_TRACKS) refuse(10, `${trackCount} tracks`, `at most ${MAX_TRACKS} are read`);
    this.at = 8 + length;
    const tracks: MidiTrack[] = [];
    while (this.at < this.bytes.length && tracks.length < Math.max(1, trackCount)) {
      if (this.at + 8 > this.bytes.length)
        refuse(this.at, 'the file ends inside a chunk header', 'copy the file again');
      const name = this.text(this.at, 4);
      const size = this.view.getUint32(this.at + 4);
      const from = this.at + 8;
      if (from + size > this.bytes.length)
        refuse(this.at, `a track of ${size} bytes that is cut off`, 'copy the file again');
      if (name === 'MTrk') tracks.push(this.track(from, from + size, tracks.length));
      this.at = from + size;
    }
    if (tracks.length < trackCount)
      refuse(this.bytes.length, `${tracks.length} of ${trackCount} tracks`, 'copy the file again');
    const byTime = <Event extends { readonly at: number }>(events: readonly Event[]) =>
      events.toSorted((a, b) => a.at - b.at);
    return {
      division,
      tracks,
      tempos: byTime(this.tempos),
      meters: byTime(this.meters),
      keys: byTime(this.keys),
      markers: byTime(this.markers),
      lyrics: byTime(this.lyrics),
      title: type === 1 ? (tracks[0]?.name ?? '') : '',
      copyright: this.copyright,
      end: this.end,
    };
  }

  /**
   * Ticks a quarter; a division in frames a second counts as 120 quarters a minute, which is what such files are played
   * at.
   */
  private division(word: number): number {
    if (word & 0x8000) {
      const frames = 256 - (word >> 8);
      const perFrame = word & 0xff;
      if (![24, 25, 29, 30].includes(frames) || perFrame === 0)
        refuse(12, `a division of ${frames} frames`, '24, 25, 29 or 30 frames a second');
      return Math.max(1, Math.round((frames * perFrame) / 2));
    }
    if (word === 0) refuse(12, 'a division of 0', 'a quarter has at least one tick');
    return word;
  }

  private text(from: number, length: number): string {
    return String.fromCharCode(...this.bytes.subarray(from, from + length));
  }

  /** Names and words: UTF-8 where it is valid, else Latin-1. */
  private words(from: number, length: number): string {
    const bytes = this.bytes.subarray(from, Math.min(from + length, from + 500));
    const text = UTF8.decode(bytes);
    return (text.includes('\uFFFD') ? LATIN.decode(bytes) : text).replace(/\p{Cc}+/gu, ' ').trim();
  }

  private track(from: number, to: number, track: number): MidiTrack {
    // Everything that changes is a variable of this function and of no function inside it: that is what makes the loop
    // fast.
    const { bytes } = this;
    const keys = new HeldKeys();
    this.name = '';
    let at = from;
    let now = 0;
    let status = 0;
    let steps = 0;
    while (at < to) {
      steps += 1;
      let wait = bytes[at] ?? 0;
      at += 1;
      if (wait >= 0x80) {
        wait = this.number(at - 1, to);
        ({ at } = this);
      }
      now += wait;
      if (now > LATEST) refuse(at, `a time of ${now} ticks`, 'the file is damaged');
      const first = byteAt(bytes, at, to);
      if (first >= 0xf0) {
        const isLast = this.systemEvent(first, at + 1, to, now, track);
        ({ at } = this);
        if (isLast) break;
        continue;
      }
      // Data without an event before it belongs to one more of the last kind.
      if (first >= 0x80) {
        status = first;
        at += 1;
      } else if (status === 0) refuse(at, 'data without an event before it', 'copy the file again');
      const data = dataAt(bytes, at, to);
      at += 1;
      const kind = status >> 4;
      if (kind === 0xc || kind === 0xd) continue;
      const second = dataAt(bytes, at, to);
      at += 1;
      if (kind === 0x8 || kind === 0x9) keys.event(status & 0x0f, data, kind === 0x9 ? second : 0, now);
    }
    // Events are no more than the bytes of the track: it is soon enough to tell of them at its end.
    spend(steps);
    this.end = Math.max(this.end, now);
    return { name: this.name, notes: keys.notesUntil(now) };
  }

  /** A mark of the file or data of a system; `this.at` is where it ends. Whether the track ends with it. */
  private systemEvent(first: number, from: number, to: number, now: number, track: number): boolean {
    if (first !== 0xff && first !== 0xf0 && first !== 0xf7)
      refuse(from - 1, `an event 0x${first.toString(16)} that no file may hold`, 'copy the file again');
    const isMark = first === 0xff;
    const type = isMark ? byteAt(this.bytes, from, to) : 0;
    const length = this.number(isMark ? from + 1 : from, to);
    const { at } = this;
    if (at + length > to)
      refuse(at, isMark ? 'a text or mark that is cut off' : 'system data that is cut off', 'copy the file again');
    if (isMark) this.mark(type, at, length, now, track);
    this.at = at + length;
    return isMark && type === 0x2f;
  }

  /** A number of up to four bytes, seven bits in each; `this.at` is where it ends. */
  private number(from: number, to: number): number {
    let value = 0;
    for (let at = from; at < from + 4; at += 1) {
      if (at >= to) endsInside(at);
      const next = this.bytes[at] ?? 0;
      value = value * 128 + (next & 0x7f);
      if (next < 0x80) {
        this.at = at + 1;
        return value;
      }
    }
    return refuse(from + 4, 'a number of more than four bytes', 'copy the file again');
  }

  private mark(type: number, at: number, length: number, now: number, track: number): void {
    switch (type) {
      case 0x02:
        this.copyright ||= this.words(at, length);
        return;
      case 0x03:
        this.name ||= this.words(at, length);
        return;
      case 0x05:
        if (length > 0 && this.lyrics.length < MAX_MARKS)
          this.lyrics.push({ at: now, text: this.words(at, length), track });
        return;
      case 0x06:
        if (this.markers.length < MAX_MARKS) this.markers.push({ at: now, text: this.words(at, length) });
        return;
      case 0x51: {
        if (length !== 3) return;
        const microsecondsPerQuarter = (this.view.getUint16(at) << 8) | (this.bytes[at + 2] ?? 0);
        if (microsecondsPerQuarter > 0 && this.tempos.length < MAX_MARKS)
          this.tempos.push({ at: now, microsecondsPerQuarter });
        return;
      }
      case 0x58: {
        if (length < 2 || this.meters.length >= MAX_MARKS) return;
        this.meters.push({ at: now, count: this.bytes[at] ?? 0, unit: 2 ** Math.min(10, this.bytes[at + 1] ?? 0) });
        return;
      }
      case 0x59: {
        const fifths = this.view.getInt8(at);
        if (length === 2 && Math.abs(fifths) <= 7 && this.keys.length < MAX_MARKS)
          this.keys.push({ at: now, fifths, isMinor: this.bytes[at + 1] === 1 });
      }
    }
  }
}
