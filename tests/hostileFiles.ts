/**
 * Files made to be slow: each kind in any size. What they look like inside does not matter; how their reading grows
 * does.
 */
import { strToU8, zipSync } from 'fflate';

export interface HostileKind {
  readonly name: string;
  /** @param size how often its trick is repeated */
  readonly make: (size: number) => Uint8Array;
}

const HEAD = 'X:1\nT:Hostile\nM:4/4\nL:1/8\nK:C\n';
const abc = (body: string) => strToU8(HEAD + body);
const xmlScore = (measures: string, parts = '<score-part id="P1"><part-name>P</part-name></score-part>') =>
  `<score-partwise><part-list>${parts}</part-list><part id="P1">${measures}</part></score-partwise>`;
const ATTRIBUTES =
  '<attributes><divisions>8</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const note = (voice: string, duration = 8, more = '') =>
  `<note><pitch><step>C</step><octave>4</octave></pitch><duration>${duration}</duration><voice>${voice}</voice><type>quarter</type>${more}</note>`;
const times = (size: number, one: (index: number) => string) => Array.from({ length: size }, (_, k) => one(k)).join('');

function midi(tracks: readonly (readonly number[])[]): Uint8Array {
  const bytes: number[] = [];
  const word = (value: number) => [value >>> 24, (value >> 16) & 255, (value >> 8) & 255, value & 255];
  const push = (more: readonly number[]) => {
    for (const one of more) bytes.push(one);
  };
  push([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, tracks.length >> 8, tracks.length & 255, 1, 0xe0]);
  for (const track of tracks) {
    push([0x4d, 0x54, 0x72, 0x6b, ...word(track.length + 4)]);
    push(track);
    push([0, 0xff, 0x2f, 0]);
  }
  return Uint8Array.from(bytes);
}
const repeated = (size: number, one: (index: number) => readonly number[]) => {
  const bytes: number[] = [];
  for (let k = 0; k < size; k += 1) for (const byte of one(k)) bytes.push(byte);
  return bytes;
};

const tuneJson = (bars: readonly unknown[]) =>
  strToU8(
    JSON.stringify({
      format: 'reed-hook-tune',
      tune: {
        schema: 2,
        title: 'Hostile',
        rights: 'own',
        key: { tonic: { step: 'C', alter: 0 }, mode: 'major' },
        meter: { count: 4, unit: 4 },
        tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: 90 },
        bars,
      },
    }),
  );
const jsonNote = (id: string, length: number, graces = 0) => ({
  kind: 'note',
  id,
  length,
  pitch: { step: 'C', alter: 0, octave: 4 },
  ...(graces > 0 && { graces: Array.from({ length: graces }, () => ({ pitch: { step: 'D', alter: 0, octave: 4 } })) }),
});

export const HOSTILE: readonly HostileKind[] = [
  { name: 'ABC: voice fields that never close', make: (size) => abc('[V:'.repeat(size)) },
  {
    name: 'ABC: voice fields that never close, after a voice',
    make: (size) => abc(`V:1\nCDEF|\nV:2\n${'[V:'.repeat(size)}`),
  },
  { name: 'ABC: graces that never close', make: (size) => abc('{'.repeat(size)) },
  { name: 'ABC: colons', make: (size) => abc(':'.repeat(size)) },
  { name: 'ABC: signs of a comment and an odd line end', make: (size) => abc(`${'%'.repeat(size)}\u2028`) },
  { name: 'ABC: backslashes', make: (size) => abc('\\ '.repeat(size)) },
  { name: 'ABC: marks that never close', make: (size) => abc('!a'.repeat(size)) },
  { name: 'ABC: as many voices as lines', make: (size) => abc(times(size, (k) => `V:${k}\nCDEF|\n`)) },
  { name: 'ABC: one line of notes', make: (size) => abc('C'.repeat(size)) },
  { name: 'ABC: bars without end', make: (size) => abc('C8|'.repeat(size)) },
  { name: 'ABC: stacked notes', make: (size) => abc(`[${'CE'.repeat(size)}]`) },
  { name: 'ABC: open brackets', make: (size) => abc('['.repeat(size)) },
  { name: 'ABC: tuplets that never fill', make: (size) => abc('(9'.repeat(size)) },
  { name: 'ABC: broken rhythm', make: (size) => abc(`C${'>'.repeat(size)}D`) },
  { name: 'ABC: graces on one note', make: (size) => abc(`{${'c'.repeat(size)}}C8|`) },
  { name: 'ABC: graces before every note', make: (size) => abc('{cdef}C'.repeat(size)) },
  { name: 'ABC: verses under one line', make: (size) => abc(`CDEF|\n${'w:la la la la\n'.repeat(size)}`) },
  { name: 'ABC: syllables without notes', make: (size) => abc(`CDEF|\nw:${'la-'.repeat(size)}\n`) },
  { name: 'ABC: tunes in a book', make: (size) => strToU8(`X:1\nT:a\nK:C\nCDEF|\n\n`.repeat(size)) },
  { name: 'ABC: slurs that never close', make: (size) => abc('(C'.repeat(size)) },
  { name: 'ABC: endings', make: (size) => abc(`|${'1,'.repeat(size)}1 CDEF|`) },
  { name: 'ABC: chord symbols on one note', make: (size) => abc(`${'"Am"'.repeat(size)}C8|`) },
  { name: 'ABC: fields inside the line', make: (size) => abc('[M:3/4][L:1/8]'.repeat(size)) },
  {
    name: 'MIDI: a key that is pressed and never let go',
    make: (size) => midi([repeated(size, () => [0, 0x90, 60, 64])]),
  },
  {
    name: 'MIDI: a key pressed often, then let go as often',
    make: (size) => midi([[...repeated(size, () => [1, 0x90, 60, 64]), ...repeated(size, () => [1, 0x80, 60, 0])]]),
  },
  { name: 'MIDI: markers', make: (size) => midi([repeated(size, () => [0, 0xff, 0x06, 1, 65])]) },
  {
    name: 'MIDI: markers along the way',
    make: (size) => midi([repeated(size, () => [100, 0xff, 0x06, 1, 65, 0, 0x90, 60, 64, 100, 0x80, 60, 0])]),
  },
  {
    name: 'MIDI: lyrics',
    make: (size) => midi([repeated(size, () => [1, 0xff, 0x05, 1, 65, 0, 0x90, 60, 64, 60, 0x80, 60, 0])]),
  },
  {
    name: 'MIDI: meters',
    make: (size) =>
      midi([repeated(size, (k) => [96, 0xff, 0x58, 4, 1 + (k % 7), 2, 24, 8, 0, 0x90, 60, 64, 60, 0x80, 60, 0])]),
  },
  {
    name: 'MIDI: tempos',
    make: (size) => midi([repeated(size, (k) => [96, 0xff, 0x51, 3, 7, k & 127, 0, 0, 0x90, 60, 64, 60, 0x80, 60, 0])]),
  },
  {
    name: 'MIDI: chords of a hundred notes',
    make: (size) => midi([repeated(size, (k) => [k % 100 === 0 ? 120 : 0, 0x90, 20 + (k % 100), 64])]),
  },
  {
    name: 'MIDI: grace-fast notes',
    make: (size) => midi([repeated(size, (k) => [1, 0x90, 40 + (k % 40), 64, 1, 0x80, 40 + (k % 40), 0])]),
  },
  {
    name: 'MXL: a voice for every note',
    make: (size) =>
      zipSync({
        'a.xml': strToU8(
          xmlScore(
            `<measure number="1">${ATTRIBUTES}${times(size, (k) => `${note(String(k))}<backup><duration>8</duration></backup>`)}</measure>`,
          ),
        ),
      }),
  },
  {
    name: 'MusicXML: a part for every note',
    make: (size) =>
      strToU8(
        `<score-partwise><part-list>${times(size, (k) => `<score-part id="P${k}"><part-name>P</part-name></score-part>`)}</part-list>${times(size, (k) => `<part id="P${k}"><measure number="1">${ATTRIBUTES}${note('1', 32)}</measure></part>`)}</score-partwise>`,
      ),
  },
  {
    name: 'MusicXML: one measure of notes',
    make: (size) => strToU8(xmlScore(`<measure number="1">${ATTRIBUTES}${times(size, () => note('1'))}</measure>`)),
  },
  {
    name: 'MusicXML: hairpins in one measure',
    make: (size) =>
      strToU8(
        xmlScore(
          `<measure number="1">${ATTRIBUTES}${times(size, (k) => `<direction><direction-type><wedge type="${k % 2 === 0 ? 'crescendo' : 'stop'}"/></direction-type></direction>${note('1')}`)}</measure>`,
        ),
      ),
  },
  {
    name: 'MusicXML: measures',
    make: (size) =>
      strToU8(
        xmlScore(times(size, (k) => `<measure number="${k}">${k === 0 ? ATTRIBUTES : ''}${note('1', 32)}</measure>`)),
      ),
  },
  {
    name: 'MusicXML: chord symbols',
    make: (size) =>
      strToU8(
        xmlScore(
          `<measure number="1">${ATTRIBUTES}${times(size, () => '<harmony><root><root-step>C</root-step></root><kind>major</kind></harmony>')}${note('1', 32)}</measure>`,
        ),
      ),
  },
  {
    name: 'MusicXML: graces',
    make: (size) =>
      strToU8(
        xmlScore(
          `<measure number="1">${ATTRIBUTES}${times(size, () => '<note><grace/><pitch><step>D</step><octave>4</octave></pitch><voice>1</voice><type>eighth</type></note>')}${note('1', 32)}</measure>`,
        ),
      ),
  },
  {
    name: 'MusicXML: elements nobody knows',
    make: (size) =>
      strToU8(xmlScore(`<measure number="1">${'<x/>'.repeat(size)}${ATTRIBUTES}${note('1', 32)}</measure>`)),
  },
  {
    name: 'MusicXML: attributes of one element',
    make: (size) => strToU8(`<score-partwise ${times(size, (k) => `a${k}="1" `)}></score-partwise>`),
  },
  {
    name: 'MusicXML: text without end',
    make: (size) =>
      strToU8(`<score-partwise><work><work-title>${'a&amp;'.repeat(size)}</work-title></work></score-partwise>`),
  },
  {
    name: 'JSON: notes with graces in one bar',
    make: (size) =>
      tuneJson([{ id: 'b', chords: [], events: Array.from({ length: size }, (_, k) => jsonNote(`n${k}`, 315, 16)) }]),
  },
  {
    name: 'JSON: bars',
    make: (size) =>
      tuneJson(
        Array.from({ length: size }, (_, k) => ({ id: `b${k}`, chords: [], events: [jsonNote(`n${k}`, 40_320)] })),
      ),
  },
  {
    name: 'JSON: tuplets in tuplets',
    make: (size) =>
      strToU8(
        `{"format":"reed-hook-tune","tune":{"schema":2,"bars":[{"id":"b","chords":[],"events":[{"kind":"rest","id":"r","length":1,"tuplet":${'{"id":"t","actual":3,"normal":2,"outer":'.repeat(size)}null${'}'.repeat(size)}}]}]}}`,
      ),
  },
  {
    name: 'JSON: lists in lists',
    make: (size) => strToU8(`{"format":"reed-hook-tune","tune":${'['.repeat(size)}${']'.repeat(size)}}`),
  },
];
