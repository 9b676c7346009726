import { readAbc } from './abc/readAbc';
import { readJson } from './json/readJson';
import { MOST_BYTES } from './limits';
import { openMxl } from './musicxml/mxl';
import { readMusicXml } from './musicxml/readMusicXml';
import { unreadable, type ReadResult } from './readResult';

export type TuneFormat = 'abc' | 'musicxml' | 'mxl' | 'midi' | 'json';

/** The format of a file by what is in it; its name only decides where the content does not. */
export function detectFormat(bytes: Uint8Array, name = ''): TuneFormat | undefined {
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

/** Text in UTF-8, UTF-16 (by its mark) or, where it is not valid UTF-8, Latin-1. */
export function decodeText(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  const text = new TextDecoder('utf-8').decode(bytes);
  // The replacement character stands where bytes are no UTF-8; text that holds a real one is not known.
  return text.includes('\uFFFD') ? new TextDecoder('windows-1252').decode(bytes) : text;
}

/**
 * Reads a tune from a file of any format that this program reads.
 * @param name the file's name, looked at only where the content leaves the format open
 */
export function readTune(bytes: Uint8Array, name = ''): ReadResult {
  if (bytes.length > MOST_BYTES) {
    return unreadable({ code: 'too-large', place: {}, found: `${(bytes.length / 1_048_576).toFixed(1)} MB`, right: `at most ${MOST_BYTES / 1_048_576} MB are read` });
  }
  if (bytes.length === 0 || decodeText(bytes.subarray(0, 4096)).trim() === '') {
    return unreadable({ code: 'empty-file', place: {}, right: 'bring ABC or MusicXML' });
  }
  const format = detectFormat(bytes, name);
  switch (format) {
    case 'abc': return readAbc(decodeText(bytes));
    case 'musicxml': return readMusicXml(decodeText(bytes));
    case 'json': return readJson(decodeText(bytes));
    case 'mxl': {
      const opened = openMxl(bytes);
      return opened.ok ? readMusicXml(decodeText(opened.bytes)) : unreadable(opened.problem);
    }
    case 'midi': return unreadable({ code: 'unknown-format', place: {}, found: 'a MIDI file', right: 'save the tune as ABC or MusicXML' });
    case undefined: return unreadable({ code: 'unknown-format', place: {}, found: name || 'no name', right: 'bring ABC, MusicXML (.musicxml, .xml, .mxl) or .reed.json' });
  }
}
