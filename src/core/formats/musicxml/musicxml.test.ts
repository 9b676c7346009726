import { FOR_ENGRAVER } from './target';
import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { parseChord, printChord, type ChordSymbol } from '../../harmony/chordSymbol';
import { printKey } from '../../pitch/key';
import { printPitch } from '../../pitch/pitch';
import { isNote, type Tune } from '../../score/tune';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { readAbc } from '../abc/readAbc';
import { formatProblemText } from '../problem';
import type { ReadResult } from '../readResult';
import { harmonyKind, kindOfHarmony } from './chordKinds';
import { openMxl } from './mxl';
import { readMusicXml } from './readMusicXml';
import { writeMusicXml } from './writeMusicXml';
import { readXml } from './xmlTree';
import { tuneStaff } from './scoreFile';
import { escapeXml } from './escapeXml';

const part = (measures: string, name = 'Horn') =>
  `<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`;
const note = (step: string, duration: number, more = '', before = '') =>
  `<note>${before}<pitch><step>${step}</step><octave>4</octave></pitch><duration>${duration}</duration><voice>1</voice>${more}</note>`;
const head = (more = '', divisions = 2) =>
  `<attributes><divisions>${divisions}</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time>${more}</attributes>`;
const measure = (content: string, number = '1', more = '') => `<measure number="${number}"${more}>${content}</measure>`;
const opened = (result: ReadResult): Tune => {
  if (!result.ok) throw new Error(result.problem.map(formatProblemText).join('\n'));
  return result.value.tune;
};
const said = (result: ReadResult) => (result.ok ? result.value.warnings : result.problem).map(formatProblemText);
const line = (tune: Tune) =>
  tune.bars
    .map((bar) =>
      bar.events
        .map((event) => `${isNote(event) ? printPitch(event.pitch) : 'z'}:${event.length / TICKS_PER_QUARTER}`)
        .join(' '),
    )
    .join(' | ');
const fromAbc = (body: string, header = 'M:4/4\nL:1/8\nK:C'): Tune => opened(readAbc(`X:1\nT:T\n${header}\n${body}\n`));

describe('reading', () => {
  test('of notes that stand together the top one is taken; cues and unpitched notes are named', () => {
    const chord =
      note('C', 4) +
      '<note><chord/><pitch><step>G</step><octave>4</octave></pitch><duration>4</duration><voice>1</voice></note>';
    const result = readMusicXml(
      part(
        measure(
          head() +
            chord +
            '<note><unpitched/><duration>2</duration><voice>1</voice></note>' +
            '<note><cue/><pitch><step>C</step><octave>4</octave></pitch><duration>2</duration><voice>1</voice></note>',
        ),
      ),
    );
    expect(line(opened(result))).toBe('G4:2 z:1 z:1');
    expect(said(result)).toEqual([
      'bar 1: Left out: the lower notes of chords',
      'bar 1: Left out: an unpitched note (as a rest)',
      'bar 1: Left out: a cue note',
    ]);
  });

  test('a triplet is known by its ratio alone, and its length is exact though the divisions are not', () => {
    const ratio =
      '<type>eighth</type><time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>';
    const tune = opened(
      readMusicXml(
        part(
          measure(
            head('', 256) +
              note('C', 85, ratio) +
              note('D', 85, ratio) +
              note('E', 86, ratio) +
              note('F', 768, '<type>half</type><dot/>'),
          ),
        ),
      ),
    );
    expect(tune.bars[0]?.events.map(({ length, tuplet }) => [length, tuplet?.id])).toEqual([
      [3360, 't1'],
      [3360, 't1'],
      [3360, 't1'],
      [30240, undefined],
    ]);
  });

  test('a score by time is turned round', () => {
    const timewise = `<score-timewise><part-list><score-part id="A"><part-name>Flute</part-name></score-part></part-list><measure number="1"><part id="A">${head()}${note('C', 8)}</part></measure><measure number="2"><part id="A">${note('D', 8)}</part></measure></score-timewise>`;
    expect(line(opened(readMusicXml(timewise)))).toBe('C4:4 | D4:4');
  });

  test('the second part is read when it is asked for; a third is not there', () => {
    const two = part(measure(head() + note('C', 8)))
      .replace('</part-list>', '<score-part id="P2"><part-name>Bass</part-name></score-part></part-list>')
      .replace('</score-partwise>', `<part id="P2">${measure(head() + note('E', 8))}</part></score-partwise>`);
    expect([line(opened(readMusicXml(two))), line(opened(readMusicXml(two, { line: 2 })))]).toEqual(['C4:4', 'E4:4']);
    expect(said(readMusicXml(two, { line: 3 }))).toEqual(['There is no tune number 3 here; it holds 2 lines']);
  });

  test('endings, repeats, sections, jumps, tempo and words come along', () => {
    const tune = opened(
      readMusicXml(
        part(
          [
            measure(
              `${head()}<barline location="left"><repeat direction="forward"/></barline><direction><direction-type><rehearsal>A</rehearsal></direction-type></direction><direction><direction-type><words>Slow</words></direction-type><direction-type><metronome><beat-unit>half</beat-unit><per-minute>44</per-minute></metronome></direction-type></direction>${note('C', 8)}`,
            ),
            measure(
              `<barline location="left"><ending number="1" type="start"/></barline>${note('D', 8)}<barline location="right"><ending number="1" type="stop"/><repeat direction="backward"/></barline>`,
              '2',
            ),
            measure(
              `<barline location="left"><ending number="2" type="start"/></barline>${note('E', 8)}<direction><direction-type><words>D.C. al Fine</words></direction-type></direction><barline location="right"><bar-style>light-heavy</bar-style><ending number="2" type="stop"/></barline>`,
              '3',
            ),
          ].join(''),
        ),
      ),
    );
    expect(tune.tempo).toEqual({ beat: { type: 'quarter', dots: 0 }, perMinute: 88, words: 'Slow' });
    expect(tune.bars.map(({ id: _, events: __, chords: ___, ...marks }) => marks)).toEqual([
      { repeatStart: true, section: 'A' },
      { ending: [1], endingStops: true, repeatEnd: 2 },
      { ending: [2], endingStops: true, barline: 'final', jumps: ['dc-al-fine'] },
    ]);
  });

  test('a part in seven sharps sounds, as a clarinet, in a key that can be read', () => {
    const tune = opened(
      readMusicXml(
        part(
          measure(
            `<attributes><divisions>1</divisions><key><fifths>-6</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose></attributes><note><pitch><step>G</step><alter>-1</alter><octave>4</octave></pitch><duration>4</duration></note>`,
          ),
        ),
      ),
    );
    expect([printKey(tune.key), line(tune)]).toEqual(['E', 'E4:4']);
  });

  test.each<readonly [string, string, RegExp]>([
    [
      'quarter tones',
      measure(
        head() + '<note><pitch><step>C</step><alter>0.5</alter><octave>4</octave></pitch><duration>8</duration></note>',
      ),
      /line 1, bar 1: The element <pitch> cannot be read; alterations are whole semitones/,
    ],
    [
      'no meter',
      measure('<attributes><divisions>1</divisions></attributes>' + note('C', 4)),
      /bar 1: There is no meter; the first measure needs a <time> element/,
    ],
    [
      'music without meter',
      measure('<attributes><divisions>1</divisions><time><senza-misura/></time></attributes>' + note('C', 4)),
      /<time> cannot be read; music without meter cannot be barred/,
    ],
    [
      'absurd divisions',
      measure(
        '<attributes><divisions>99999999</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' +
          note('C', 4),
      ),
      /divisions go from 1 to 1,000,000/,
    ],
    ['a duration of nothing', measure(head() + note('C', 0)), /a note needs a duration above zero/],
    ['a part of rests alone', measure(''), /There is no tune here \(a score without notes\)/],
  ])('%s: refused with the place', (_, measures, expected) => {
    const result = readMusicXml(part(measures));
    expect(result.ok).toBe(false);
    expect(said(result)[0]).toMatch(expected);
  });
});

describe('writing', () => {
  const xml = (tune: Tune) => writeMusicXml(tuneStaff(tune));

  test('lengths, beams, tuplet brackets and tied notes', () => {
    const text = xml(fromAbc('C/D/E (3FGA B2- B2 | z8 |'));
    expect(text.match(/<beam number="1">(begin|continue|end)/g)?.length).toBe(6);
    expect(text).toContain('<tuplet type="start" number="1" bracket="no"/>');
    expect(text).toContain('<tie type="stop"/><voice>1</voice><type>quarter</type>');
    expect(text).toContain('<rest measure="yes"/>');
    expect(xml(fromAbc('(3C2D2E2 F4 |'))).toContain('bracket="yes"');
  });

  test('no more divisions than the tune needs', () => {
    const divisions = (body: string) => /<divisions>(\d+)/.exec(xml(fromAbc(body)))?.[1];
    expect([divisions('C8 |'), divisions('C2 D6 |'), divisions('C/D/E F6 |'), divisions('(3CDE F6 |')]).toEqual([
      '1',
      '1',
      '4',
      '3',
    ]);
  });

  test('a chord between two notes keeps its place by an offset', () => {
    const tune = fromAbc('"C"C8 |');
    const chord = parseChord('F/A');
    const [bar] = tune.bars;
    if (!chord.ok || !bar) throw new Error('broken test');
    const between: Tune = {
      ...tune,
      bars: [{ ...bar, chords: [...bar.chords, { at: 2 * TICKS_PER_QUARTER, symbol: chord.value }] }],
    };
    expect(xml(between)).toContain('<offset>2</offset>');
    expect(opened(readMusicXml(xml(between)))).toEqual(between);
  });

  test('a row alone, for the engraver: its own clef and key, ids, no meter, no ends of ties that are elsewhere', () => {
    const score = tuneStaff(fromAbc('C4 D4- | D4 E4- | E8 |'));
    const row = writeMusicXml(score, { target: FOR_ENGRAVER, from: 1, to: 2 });
    expect(row.match(/<measure /g)?.length).toBe(1);
    expect(row).toContain('<clef>');
    expect(row).toContain('id="P1:b2"');
    expect(row).not.toMatch(/<time>|<tied/);
  });

  test('signs that XML cannot hold are left out, the others come back', () => {
    expect(escapeXml('a\u0000b<&>"\u0007')).toBe('ab&lt;&amp;&gt;&quot;');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 30 }), (text) => {
        const read = readXml(`<a>${escapeXml(text)}</a>`);
        expect(read.ok).toBe(true);
      }),
    );
  });

  test('any part of any tune is XML in which measures, beams and slurs are balanced', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const text = xml(tune);
        const read = readXml(text);
        const count = (pattern: RegExp) => text.match(pattern)?.length ?? 0;
        expect(read.ok).toBe(true);
        expect(count(/<measure /g)).toBe(tune.bars.length);
        expect(count(/<beam number="1">begin/g)).toBe(count(/<beam number="1">end/g));
        expect(count(/<tuplet type="start"/g)).toBe(count(/<tuplet type="stop"/g));
        expect(count(/<tied type="start"/g)).toBe(count(/<tied type="stop"/g));
      }),
    );
  });
});

test('every chord symbol goes through a MusicXML kind and back', () => {
  const kinds = [
    '',
    'm',
    '6',
    'm6',
    '7',
    'maj7',
    'm7',
    'm7b5',
    '°',
    '°7',
    'sus2',
    'sus4',
    '7sus4',
    '9',
    'maj9',
    'm9',
    '11',
    '13',
    'maj13',
    '7b9',
    '7#9',
    '7b5',
    '9#11',
    '13b9',
    'maj7#11',
    '7alt',
    '+',
    '+7',
    'mmaj7',
    '6/9',
    'm6/9',
    'add9',
    'm7add11',
    '5',
    '9sus4',
    '13sus4',
    '7no3',
    'mmaj9',
  ];
  for (const kind of kinds) {
    const parsed = parseChord(`Bb${kind}`);
    if (!parsed.ok || parsed.value.kind !== 'chord') throw new Error(kind);
    const written = harmonyKind(parsed.value);
    const quality = kindOfHarmony(written.kind, written.text, written.degrees);
    const back: ChordSymbol | undefined = quality && { kind: 'chord', root: parsed.value.root, quality };
    expect([kind, back && printChord(back)]).toEqual([kind, printChord(parsed.value)]);
  }
});

test.each<readonly [string, Uint8Array]>([
  ['random bytes', Uint8Array.from({ length: 200 }, (_, k) => (k * 73) % 256)],
  ['a zip cut short', new Uint8Array([0x50, 0x4b, 3, 4, 20, 0, 0, 0, 8, 0])],
  ['an empty zip', new Uint8Array([0x50, 0x4b, 5, 6, ...Array<number>(18).fill(0)])],
])('%s is no compressed score', (_, bytes) => {
  const result = openMxl(bytes);
  expect(!result.ok && formatProblemText(result.problem)).toMatch(/^The compressed file cannot be opened: /);
});
