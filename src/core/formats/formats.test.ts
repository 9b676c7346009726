import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { printKey } from '../pitch/key';
import { printChord } from '../harmony/chordSymbol';
import { midiNumber, printPitch } from '../pitch/pitch';
import { isNote, type Tune } from '../score/tune';
import { soundingNotes } from '../score/sounding';
import { TICKS_PER_QUARTER } from '../time/ticks';
import { readAbc } from './abc/readAbc';
import { writeAbc } from './abc/writeAbc';
import { readJson, writeJson } from './json/readJson';
import { fileSlug } from './fileSlug';
import { openMxl, writeMxl } from './musicxml/mxl';
import { readMusicXml } from './musicxml/readMusicXml';
import { writeMusicXml } from './musicxml/writeMusicXml';
import { formatProblemText } from './problem';
import { readTune } from './readTune';
import type { ReadResult } from './readResult';
import { tuneStaff } from './musicxml/scoreFile';

const opened = (result: ReadResult): Tune => {
  if (!result.ok) throw new Error(result.problem.map(formatProblemText).join('\n'));
  return result.value.tune;
};
const sentences = (result: ReadResult) => (result.ok ? result.value.warnings : result.problem).map(formatProblemText);
const line = (tune: Tune) =>
  tune.bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${event.length / TICKS_PER_QUARTER}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const abc = (body: string, head = 'M:4/4\nL:1/8\nK:C') => readAbc(`X:1\nT:T\n${head}\n${body}\n`);

test('a tune survives MusicXML, compressed MusicXML and JSON unchanged', () => {
  fc.assert(
    fc.property(anyTune, (tune) => {
      const xml = writeMusicXml(tuneStaff(tune));
      expect(opened(readMusicXml(xml))).toEqual(tune);
      const packed = openMxl(writeMxl(xml));
      expect(packed.ok && new TextDecoder().decode(packed.value.bytes)).toBe(xml);
      expect(opened(readJson(writeJson(tune)))).toEqual(tune);
    }),
  );
});

test('a tune survives ABC but for its rights, which are named', () => {
  fc.assert(
    fc.property(anyTune, (tune) => {
      const written = writeAbc(tune);
      expect(written.warnings.map(formatProblemText)).toEqual(['The format cannot hold the rights status "own"']);
      expect(opened(readAbc(written.text))).toEqual({ ...tune, rights: 'unknown' });
    }),
  );
});

test('words, marks, slurs, sections and signs of comment survive ABC', () => {
  const source = abc(
    'P:A\n"Bbm"!trill!B2 .c2 !>!d2 !fermata!e2 | (ef) {/g}a2 !breath!b4- | b4 z4 |1 !D.C.alfine!g8 :|2 g8 |] [M:3/4] uA2 vB2 c2 |]\nw: one_ two-three 50\\% *',
    'C:a % b\nM:4/4\nL:1/8\nQ:"Fast" 3/8=70\nK:Bbm',
  );
  const tune = opened(source);
  const written = writeAbc(tune);
  expect(opened(readAbc(written.text))).toEqual(tune);
  expect(
    tune.bars[0]?.events.flatMap((event) =>
      isNote(event) && event.lyrics ? event.lyrics.map(({ text }) => text) : [],
    ),
  ).toEqual(['one', 'two', 'three']);
});

describe('ABC', () => {
  test('lengths, broken rhythm, tuplets, ties and octaves', () => {
    expect(line(opened(abc("C D2 E/2F/ G>A z2 | (3cde c'2- c'2 C,2 | z4 c3/2d/ e z |]")))).toBe(
      'C4:0.5 D4:1 E4:0.25 F4:0.25 G4:0.75 A4:0.25 z:1 | C5:⅓ D5:⅓ E5:⅓ C6:1~ C6:1 C3:1 | z:2 C5:0.75 D5:0.25 E5:0.5 z:0.5'.replaceAll(
        '⅓',
        String(1 / 3),
      ),
    );
  });

  test('an accidental holds to the barline in every octave, and over it by a tie', () => {
    expect(line(opened(abc('^F2 f2 F2 =f2 | ^c8- | c4 c4 |]')))).toBe('F#4:1 F#5:1 F#4:1 F5:1 | C#5:4~ | C#5:2 C5:2');
  });

  test('keys with modes and added accidentals', () => {
    expect(printKey(opened(abc('A8|', 'M:4/4\nL:1/8\nK:Ador')).key)).toBe('A dorian');
    expect(line(opened(abc('F8 | c8 |', 'M:4/4\nL:1/8\nK:D ^g =c')))).toBe('F#4:4 | C5:4');
  });

  test('a pickup is bar 0 and its counterpart may be short; a section may begin with one', () => {
    const tune = opened(abc('G2 | C8 | D6 :: E2 | F8 | G6 |]'));
    expect(tune.bars.map(({ partial }) => (partial ? partial / TICKS_PER_QUARTER : 4))).toEqual([1, 4, 3, 1, 4, 3]);
  });

  test('repeats and endings', () => {
    const ends = (body: string) =>
      opened(abc(body)).bars.flatMap(({ endingStops }, index) => (endingStops ? [index] : []));
    expect([
      ends('|: C8 |1 E8 :|2 F8 |: G8 |1 A8 :|2 B8 |]'),
      ends('|: C8 |1 E8 | F8 :|2 G8 | A8 | B8 | c8 |'),
    ]).toEqual([
      [1, 2, 4, 5],
      [2, 4],
    ]);
    const tune = opened(abc('|: C8 | D8 |1 E8 :|2 F8 |]'));
    expect(
      tune.bars.map(({ repeatStart, repeatEnd, ending, endingStops, barline }) => ({
        repeatStart,
        repeatEnd,
        ending,
        endingStops,
        barline,
      })),
    ).toEqual([
      { repeatStart: true },
      {},
      { repeatEnd: 2, ending: [1], endingStops: true },
      { ending: [2], endingStops: true, barline: 'final' },
    ]);
  });

  test('chord symbols stand where they are struck; words and syllables go with their notes', () => {
    const tune = opened(abc('"Am7"A2 B2 "F#m7b5/C"c4 | "N.C."z8 |\nw: sing-ing on'));
    expect(
      tune.bars.flatMap(({ chords }) =>
        chords.map(({ at, symbol }) => `${at / TICKS_PER_QUARTER}:${printChord(symbol)}`),
      ),
    ).toEqual(['0:Am7', '2:F#m7b5/C', '0:N.C.']);
    expect(tune.bars[0]?.events.map((event) => isNote(event) && event.lyrics)).toEqual([
      [{ verse: 1, text: 'sing', hyphen: true }],
      [{ verse: 1, text: 'ing' }],
      [{ verse: 1, text: 'on' }],
    ]);
  });

  test('grace notes and decorations are kept, others are named', () => {
    const result = abc('{gf}e2 .d2 Tc2 !f!B2 | !slide!A8 |');
    expect(
      opened(result).bars[0]?.events.map(
        (event) => isNote(event) && [event.graces?.length, event.articulations, event.ornaments, event.dynamic],
      ),
    ).toEqual([
      [2, undefined, undefined, undefined],
      [undefined, ['staccato'], undefined, undefined],
      [undefined, undefined, ['trill'], undefined],
      [undefined, undefined, undefined, 'f'],
    ]);
    expect(sentences(result)).toEqual(['line 6, column 24, bar 2: Left out: the mark !slide!']);
  });

  test('a chord that cannot be read is left out and asked for; the rest of the tune is there', () => {
    const result = abc('"H7"C8 | "Dmx"D8 | "G7"E8 |');
    expect(sentences(result)).toEqual([
      'line 6, column 1, bar 1, beat 1: The chord symbol "H7" cannot be read; it is left out: write it in like Am7 or F#m7b5/C; words begin with ^',
      'line 6, column 10, bar 2, beat 1: The chord symbol "Dmx" cannot be read; it is left out: write it in like Am7 or F#m7b5/C; words begin with ^',
    ]);
    expect(result.ok && result.value.tune.bars.map(({ chords, events }) => [chords.length, events.length])).toEqual([
      [0, 1],
      [0, 1],
      [1, 1],
    ]);
  });

  test.each<readonly [string, string, readonly string[]]>([
    ['a bar too long', 'C8 D2 | E8 |', ['line 6, bar 1: The bar holds 5 quarters; 4/4 has room for 4']],
    [
      'a foreign sign',
      'C8 & D8 | q8 |',
      [
        'line 6, column 11, bar 2: "q" means nothing here; notes are A–G and a–g, rests z, bars |',
        'line 6, column 12, bar 2: "8" means nothing here; notes are A–G and a–g, rests z, bars |',
      ],
    ],
    [
      'an unfinished tuplet',
      '(3CD |',
      ['line 6, column 1, bar 1: The tuplet "(3" has too few notes; 1 more should follow'],
    ],
  ])('%s is a problem at its place', (_, body, expected) => {
    const result = abc(body);
    expect(result.ok).toBe(false);
    expect(sentences(result)).toEqual(expected);
  });

  test('a short bar inside is filled up and named; a broken header is refused', () => {
    const result = abc('C8 | D4 | E8 |');
    expect(line(opened(result))).toBe('C4:4 | D4:2 z:2 | E4:4');
    expect(sentences(result)).toEqual([
      'line 6, bar 2: The bar holds only 2 of 4 quarters; it was filled up with a rest',
    ]);
    expect(sentences(readAbc('X:1\nK:H\nC8|'))).toEqual([
      'line 2: The field "K:H" cannot be read; a key is written like D, Bb, Em or A dorian',
    ]);
  });
});

describe('MusicXML', () => {
  const part = (measures: string) =>
    `<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Horn</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`;
  const note = (step: string, octave: number, duration: number, more = '') =>
    `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>${duration}</duration><voice>1</voice>${more}</note>`;
  const head = (transpose = '') =>
    `<attributes><divisions>1</divisions><key><fifths>1</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time>${transpose}</attributes>`;

  test('a transposing part is brought to concert pitch, key and chords too', () => {
    const harmony = '<harmony><root><root-step>D</root-step></root><kind>dominant</kind></harmony>';
    const tune = opened(
      readMusicXml(
        part(
          `<measure number="1">${head('<transpose><diatonic>-4</diatonic><chromatic>-7</chromatic></transpose>')}${harmony}${note('G', 4, 4)}</measure>`,
        ),
      ),
    );
    expect([line(tune), printKey(tune.key), tune.bars[0]?.chords.map(({ symbol }) => printChord(symbol))]).toEqual([
      'C4:4',
      'C',
      ['G7'],
    ]);
  });

  test('the voice with most notes is taken and its gaps become rests', () => {
    const result = readMusicXml(
      part(
        `<measure number="1">${head()}<forward><duration>1</duration></forward>${note('C', 5, 1)}${note('D', 5, 2)}<backup><duration>4</duration></backup>${note('C', 3, 4).replace('<voice>1', '<voice>2')}</measure>`,
      ),
    );
    expect(line(opened(result))).toBe('z:1 C5:1 D5:2');
    expect(sentences(result)).toEqual(['The file has more than one voice (2 lines); "Horn, voice 1" was taken']);
  });

  test.each<readonly [string, string, RegExp]>([
    [
      'an entity bomb',
      '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "bb">]><a>&b;</a>',
      /line 1: The file declares XML entities; take the DOCTYPE/,
    ],
    [
      'broken XML',
      '<score-partwise>\n<part id="P1"></score-partwise>',
      /line 2, column \d+: The XML is broken: unexpected close tag/,
    ],
    ['something else in XML', '<html></html>', /This XML is no MusicXML \(<html>\); it begins with <score-partwise>/],
    ['a deep tree', '<a>'.repeat(60), /elements nested too deeply/],
    [
      'a bar too long',
      part(`<measure number="1">${head()}${note('C', 4, 5)}</measure>`),
      /bar 1: The bar holds 5 quarters; 4\/4 has room for 4/,
    ],
    [
      'an unknown chord',
      part(
        `<measure number="1">${head()}<harmony><root><root-step>C</root-step></root><kind>Tristan</kind></harmony>${note('C', 4, 4)}</measure>`,
      ),
      /bar 1, beat 1: The chord symbol "C Tristan" cannot be read/,
    ],
  ])('%s is refused with a reason', (_, text, expected) => {
    const result = readMusicXml(text);
    expect(result.ok).toBe(false);
    expect(sentences(result).join('\n')).toMatch(expected);
  });

  test('markup in a title is text, and comes back as it was', () => {
    const tune = { ...opened(abc('C8 |')), title: '<b>&amp; "x"</b>' };
    const xml = writeMusicXml(tuneStaff(tune));
    expect(xml).toContain('<work-title>&lt;b&gt;&amp;amp; &quot;x&quot;&lt;/b&gt;</work-title>');
    expect(opened(readMusicXml(xml)).title).toBe(tune.title);
  });
});

test('a document that does not add up is refused on reading', () => {
  const tune = opened(abc('C8 | D8 |'));
  const short = { ...tune, bars: tune.bars.map((bar) => ({ ...bar, events: bar.events.slice(1) })) };
  expect(readJson(writeJson(short as Tune)).ok).toBe(false);
  expect(sentences(readJson('{"format":"reed-hook-tune","tune":{"schema":99}}'))).toEqual([
    'The document is not a tune: schema 99; this version reads up to 2; update it',
  ]);
  expect(sentences(readJson('{'))[0]).toMatch(/^The JSON is broken: /);
});

test('the format is told from the content; UTF-16 and Latin-1 text is read', () => {
  const text = 'X:1\nT:Größe\nM:4/4\nL:1/4\nK:C\nCDEF|\n';
  const utf16 = new Uint8Array([
    0xff,
    0xfe,
    ...[...text].flatMap((sign) => [sign.charCodeAt(0) & 255, sign.charCodeAt(0) >> 8]),
  ]);
  const latin = Uint8Array.from([...text].map((sign) => sign.charCodeAt(0)));
  for (const bytes of [utf16, latin, new TextEncoder().encode(text)])
    expect(opened(readTune(bytes, 'x.musicxml')).title).toBe('Größe');
  expect(sentences(readTune(new Uint8Array(5 * 1024 * 1024)))[0]).toMatch(/too large/);
  expect(sentences(readTune(new TextEncoder().encode('hello'), 'a.txt'))[0]).toMatch(
    /no format that can be read \(a\.txt\)/,
  );
});

test('readers never throw on damaged files', () => {
  const xml = writeMusicXml(tuneStaff(opened(abc('"Am7"A2 {g}B2 (3cde f2 | g8 |'))));
  fc.assert(
    fc.property(
      fc.constantFrom(xml, 'X:1\nT:T\nM:6/8\nL:1/8\nK:Em\n|:"Em"E2B {c}BAG|1 (3EFG E3:|2 [CEG]2~A B3|]\n'),
      fc.nat(2000),
      fc.nat(40),
      fc.string({ maxLength: 6 }),
      (text, at, cut, put) => {
        const place = at % text.length;
        const damaged = text.slice(0, place) + put + text.slice(place + cut);
        const result = readTune(new TextEncoder().encode(damaged), '');
        if (result.ok) result.value.tune.bars.forEach((bar) => expect(bar.events.length).toBeGreaterThan(0));
        else expect(result.problem.length).toBeGreaterThan(0);
      },
    ),
  );
});

test('file names are safe whatever the title', () => {
  expect(['', '../../etc/passwd', '🎺', "The Gannet's Turn", 'Ä'.repeat(200)].map(fileSlug)).toEqual([
    'tune',
    'etc-passwd',
    'tune',
    'the-gannets-turn',
    'a'.repeat(60),
  ]);
});

test('grace and tied notes count once as they sound', () => {
  expect(
    soundingNotes(opened(abc('C8- | C4 {d}E4 |'))).map(({ pitch, length }) => [
      midiNumber(pitch),
      length / TICKS_PER_QUARTER,
    ]),
  ).toEqual([
    [60, 6],
    [64, 2],
  ]);
});
