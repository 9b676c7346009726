import { readAbc } from './abc/readAbc';
import { TooMuchWork, withinEffort } from './effort';
import { readJson } from './json/readJson';
import { MAX_BYTES } from '../score';
import { openMxl } from './musicxml/mxl';
import { readMidi } from './midi/readMidi';
import { readMusicXml } from './musicxml/readMusicXml';
import { success } from '../result';
import { unreadable, type ReadOptions, type ReadResult } from './readResult';

type TuneFormat = 'abc' | 'musicxml' | 'mxl' | 'midi' | 'json';

/** The format of a file by what is in it; its name only decides where the content does not. */
function detectFormat(bytes: Uint8Array, name = ''): TuneFormat | undefined {
  const starts = (...codes: readonly number[]) => codes.every((code, k) => bytes[k] === code);
  if (starts(0x50, 0x4b, 0x03, 0x04)) return 'mxl';
  if (starts(0x4d, 0x54, 0x68, 0x64)) return 'midi';
  const head = decodeText(bytes.subarray(0, 4096)).trimStart();
  if (head.startsWith('<')) return 'musicxml';
  if (head.startsWith('{')) return 'json';
  if (/^[XK]:/m.test(head) || /\.abc$/i.test(name)) return 'abc';
  if (/\.(musicxml|xml)$/i.test(name)) return 'musicxml';
  return undefined;
}

/** Text in UTF-8, UTF-16 (by its mark, or by every other byte being zero) or, where it is not valid UTF-8, Latin-1. */
function decodeText(bytes: Uint8Array): string {
  const wide = wideEncoding(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  const text = new TextDecoder('utf-8').decode(bytes);
  // The replacement character stands where bytes are no UTF-8; text that holds a real one is not known.
  return text.includes('\uFFFD') ? new TextDecoder('windows-1252').decode(bytes) : text;
}

/**
 * Reads a tune from a file of any format that this program reads.
 * @param name the file's name, looked at only where the content leaves the format open
 */
export function readTune(bytes: Uint8Array, name = '', options: ReadOptions = {}): ReadResult {
  try {
    return withinEffort(bytes.length, () => readAny(bytes, name, options)).value;
  } catch (error) {
    if (!(error instanceof TooMuchWork)) throw error;
    return unreadable({
      code: 'too-large',
      place: {},
      found: 'too much in it to be read',
      right: 'a file of one tune works',
    });
  }
}

function readAny(bytes: Uint8Array, name: string, options: ReadOptions): ReadResult {
  if (bytes.length > MAX_BYTES) {
    return unreadable({
      code: 'too-large',
      place: {},
      found: `${(bytes.length / 1_048_576).toFixed(1)} MB`,
      right: `at most ${MAX_BYTES / 1_048_576} MB are read`,
    });
  }
  if (bytes.length === 0 || decodeText(bytes.subarray(0, 4096)).trim() === '') {
    return unreadable({ code: 'empty-file', place: {}, right: 'bring ABC, MusicXML or MIDI' });
  }
  const format = detectFormat(bytes, name);
  switch (format) {
    case 'abc':
      return readAbc(decodeText(bytes), options);
    case 'musicxml':
      return readMusicXml(decodeText(bytes), options);
    case 'json':
      return readJson(decodeText(bytes));
    case 'mxl': {
      const opened = openMxl(bytes);
      if (!opened.ok) return unreadable(opened.problem);
      const read = readMusicXml(decodeText(opened.value.bytes), options);
      const { warnings } = opened.value;
      return read.ok && warnings.length > 0
        ? success({ ...read.value, warnings: [...warnings, ...read.value.warnings] })
        : read;
    }
    case 'midi':
      return readMidi(bytes, options);
    case undefined:
      return unreadable({
        code: 'unknown-format',
        place: {},
        found: name || 'no name',
        right: 'bring ABC, MusicXML (.musicxml, .xml, .mxl), MIDI (.mid) or .reed.json',
      });
  }
}

function wideEncoding(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | undefined {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  // Without a mark: the texts read here begin with signs of ASCII, so one byte of each pair is zero.
  const head = bytes.subarray(0, Math.min(bytes.length, 64) & ~1);
  if (head.length < 4) return undefined;
  const zeros = (from: number) => head.filter((byte, index) => index % 2 === from && byte === 0).length;
  const most = head.length / 2;
  if (zeros(1) >= 0.9 * most && zeros(0) === 0) return 'utf-16le';
  return zeros(0) >= 0.9 * most && zeros(1) === 0 ? 'utf-16be' : undefined;
}
