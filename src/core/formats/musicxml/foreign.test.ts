import { printPitch } from '../../pitch/pitch';
import { isNote, type Note, type Tune } from '../../score/tune';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { formatProblemText } from '../problem';
import { OpenSlurs } from './openSlurs';
import { readMusicXml } from './readMusicXml';
import { readXml, type XmlElement } from './xmlTree';

/**
 * Files of other programs: what they may hold that ours never writes. Divisions are 4 to a quarter, the meter is 4/4.
 */

const HEAD =
  '<attributes><divisions>4</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const file = (...measures: readonly string[]) =>
  `<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Horn</part-name></score-part></part-list><part id="P1">${measures
    .map((content, k) => `<measure number="${k + 1}">${k === 0 ? HEAD : ''}${content}</measure>`)
    .join('')}</part></score-partwise>`;
const note = (step: string, duration: number, more = '') =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>${duration}</duration><voice>1</voice>${more}</note>`;
const WHOLE = note('C', 16);
const read = (...measures: readonly string[]) => {
  const result = readMusicXml(file(...measures));
  if (!result.ok) throw new Error(result.problem.map(formatProblemText).join('\n'));
  return { tune: result.value.tune, told: result.value.warnings.map(formatProblemText).join('\n') };
};
const refused = (...measures: readonly string[]) => {
  const result = readMusicXml(file(...measures));
  return result.ok ? 'it was taken' : result.problem.map(formatProblemText).join('\n');
};
const notes = ({ bars }: Tune) => bars.flatMap(({ events }) => events.filter(isNote));
const first = (tune: Tune): Note => {
  const [found] = notes(tune);
  if (!found) throw new Error('no note');
  return found;
};
const direction = (content: string, more = '') =>
  `<direction><direction-type>${content}</direction-type>${more}</direction>`;

describe('marks over the staff', () => {
  test('rehearsal letters, signs and jumps in words', () => {
    const { tune } = read(
      direction('<rehearsal> A </rehearsal>') + WHOLE,
      direction('<segno/>') + WHOLE,
      WHOLE + direction('<words>D.S. al Coda</words>'),
      direction('<coda/>') + WHOLE,
    );
    expect(tune.bars.map(({ section, jumps }) => [section, jumps])).toMatchObject([
      ['A', undefined],
      [undefined, ['segno']],
      [undefined, [expect.stringMatching(/coda/)]],
      [undefined, ['coda']],
    ]);
  });

  test('a metronome mark is a tempo, said in the beat of the meter; one in words alone is told', () => {
    const { tune } = read(
      direction('<metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>66</per-minute></metronome>') +
        WHOLE,
    );
    expect(tune.tempo).toMatchObject({ beat: { type: 'quarter', dots: 0 }, perMinute: 99 });
    expect(
      read(direction('<metronome><beat-unit>half</beat-unit><per-minute>fast</per-minute></metronome>') + WHOLE).told,
    ).toMatch(/a metronome mark without a number/);
  });

  test('a dynamic waits for its note; one that nobody knows is told', () => {
    expect(first(read(direction('<dynamics><mp/></dynamics>') + WHOLE).tune).dynamic).toBe('mp');
    const odd = read(direction('<dynamics><other-dynamics/></dynamics>') + WHOLE);
    expect([first(odd.tune).dynamic, odd.told]).toEqual([
      undefined,
      expect.stringMatching(/the dynamic other-dynamics/),
    ]);
  });

  test('hairpins lie from note to note', () => {
    const { tune } = read(
      direction('<wedge type="crescendo"/>') + note('C', 8) + note('D', 8),
      direction('<wedge type="stop"/>') + WHOLE,
    );
    expect(notes(tune).some(({ hairpin }) => hairpin === 'crescendo')).toBe(true);
  });

  test('a tempo for playing alone is taken at the head, and told where it changes on the way', () => {
    expect(read(`<sound tempo="72"/>${WHOLE}`).tune.tempo.perMinute).toBe(72);
    expect(read(WHOLE, direction('<words></words>', '<sound tempo="90"/>') + WHOLE).told).toMatch(
      /tempo for playing alone/,
    );
  });
});

describe('marks on notes', () => {
  const marked = (notations: string, more = '') => read(note('C', 16, `<notations>${notations}</notations>${more}`));

  test('articulations and ornaments that are known stand on the note, others are told', () => {
    const { tune, told } = marked(
      '<articulations><staccato/><falloff/></articulations><ornaments><mordent/><schleifer/></ornaments>',
    );
    expect(first(tune)).toMatchObject({ articulations: ['staccato'], ornaments: ['mordent'] });
    expect(told).toMatch(/a falloff mark[\s\S]*a schleifer mark/);
  });

  test('what another program means by a mark of its own is not guessed', () => {
    expect(marked('<other-notation type="single">wobble</other-notation>').told).toMatch(/a mark "wobble"/);
  });

  test('verses stand in their order; of two with one number the first counts', () => {
    const lyric = (number: string, text: string, more = '') =>
      `<lyric number="${number}">${more}<text>${text}</text></lyric>`;
    const { tune } = read(
      note('C', 16, lyric('2', 'two') + lyric('1', 'one', '<syllabic>begin</syllabic>') + lyric('2', 'other')),
    );
    expect(first(tune).lyrics).toEqual([
      { verse: 1, text: 'one', hyphen: true },
      { verse: 2, text: 'two' },
    ]);
  });

  test('slurs that cross are nested, and it is told', () => {
    const slur = (type: string, number: string) => `<slur type="${type}" number="${number}"/>`;
    const { told } = read(
      note('C', 4, `<notations>${slur('start', '1')}</notations>`) +
        note('D', 4, `<notations>${slur('start', '2')}</notations>`) +
        note('E', 4, `<notations>${slur('stop', '1')}</notations>`) +
        note('F', 4, `<notations>${slur('stop', '2')}</notations>`),
    );
    expect(told).toMatch(/the crossing of two slurs/);
  });
});

describe('slurs of a voice', () => {
  const slurred = (...slurs: readonly (readonly [string, string])[]): XmlElement => {
    const parsed = readXml(
      `<note><notations>${slurs.map(([type, number]) => `<slur type="${type}" number="${number}"/>`).join('')}</notations></note>`,
    );
    if (!parsed.ok) throw new Error('no note');
    return parsed.value;
  };

  test('one may end and the next begin on the same note, whichever the file names first', () => {
    const open = new OpenSlurs();
    expect([
      open.follow(slurred(['start', '1']), 'a'),
      open.follow(slurred(['start', '2'], ['stop', '1']), 'a'),
      open.follow(slurred(['stop', '2']), 'a'),
    ]).toEqual([false, false, false]);
  });

  test('another voice’s slurs do not matter', () => {
    const open = new OpenSlurs();
    open.follow(slurred(['start', '1']), 'a');
    open.follow(slurred(['start', '2']), 'b');
    expect(open.follow(slurred(['stop', '1']), 'a')).toBe(false);
  });
});

describe('groups of notes', () => {
  const time = (actual: number, normal: number) =>
    `<type>eighth</type><time-modification><actual-notes>${actual}</actual-notes><normal-notes>${normal}</normal-notes></time-modification>`;
  const lengths = (tune: Tune) => tune.bars[0]?.events.map(({ length }) => length / TICKS_PER_QUARTER);

  test('triplets whose durations were rounded have their printed lengths', () => {
    const { tune } = read(
      note('C', 1, time(3, 2)) + note('D', 1, time(3, 2)) + note('E', 2, time(3, 2)) + note('G', 12),
    );
    expect(lengths(tune)?.slice(0, 3)).toEqual([1 / 3, 1 / 3, 1 / 3]);
    expect(new Set(tune.bars[0]?.events.slice(0, 3).map(({ tuplet }) => tuplet?.id)).size).toBe(1);
  });

  test('two groups one after the other are two, though no mark says where the second begins', () => {
    const three = [1, 1, 2].map((duration) => note('C', duration, time(3, 2))).join('');
    const { tune } = read(three + three + note('G', 8));
    expect(new Set(tune.bars[0]?.events.flatMap(({ tuplet }) => tuplet?.id ?? [])).size).toBe(2);
  });

  test('a ratio that no music has is none', () => {
    const { tune } = read(note('C', 8, time(0, 2)) + note('D', 8, time(99, 2)));
    expect(tune.bars[0]?.events.map(({ tuplet }) => tuplet)).toEqual([undefined, undefined]);
  });
});

describe('notes', () => {
  test('the top note of a chord is taken, wherever it stands', () => {
    const chord = (step: string) => note(step, 16, '').replace('<note>', '<note><chord/>');
    const { tune, told } = read(note('C', 16) + chord('G') + chord('E'));
    expect([notes(tune).map(({ pitch }) => printPitch(pitch)), told]).toEqual([
      ['G4'],
      expect.stringMatching(/lower notes of chords/),
    ]);
  });

  test('cue notes are left out and keep their time; grace notes wait for theirs', () => {
    const cue = note('B', 8).replace('<note>', '<note><cue/>');
    const { tune, told } = read(
      cue +
        '<note><grace slash="yes"/><pitch><step>D</step><octave>4</octave></pitch><voice>1</voice></note>' +
        note('C', 8),
    );
    expect(told).toMatch(/a cue note/);
    expect(first(tune)).toMatchObject({ graces: [{ slashed: true, pitch: { step: 'D' } }] });
    expect(tune.bars[0]?.events[0]?.kind).toBe('rest');
  });

  test('a rest of a whole bar fills its bar, whatever the file says it lasts', () => {
    const rest = '<note><rest measure="yes"/><duration>64</duration><voice>1</voice></note>';
    expect(read(WHOLE, rest).tune.bars[1]?.events.map(({ length }) => length / TICKS_PER_QUARTER)).toEqual([4]);
  });

  test.each([
    ['quarter tones', note('C', 16).replace('</step>', '</step><alter>0.5</alter>'), /quarter tones cannot be held/],
    ['an octave that there is not', note('C', 16).replace('<octave>4', '<octave>14'), /a step A–G and an octave 0–9/],
    ['no duration', note('C', 0), /a note needs a duration above zero/],
    ['a duration of no printed note', note('C', 16).replace('<duration>16', '<duration>15.37'), /fits no printed note/],
    [
      'a meter without beats',
      `<attributes><time><senza-misura/></time></attributes>${WHOLE}`,
      /music without meter cannot be barred/,
    ],
    [
      'a key of nine sharps',
      `<attributes><key><fifths>9</fifths></key></attributes>${WHOLE}`,
      /a key has −7 to 7 fifths/,
    ],
    ['divisions of nothing', `<attributes><divisions>0</divisions></attributes>${WHOLE}`, /divisions go from 1/],
    [
      'a chord without a root',
      `<harmony><kind>major</kind></harmony>${WHOLE}`,
      /a <root> and a known <kind> are needed/,
    ],
  ])('%s are refused with the place and what would be right', (_, content, words) => {
    expect(refused(content)).toMatch(words);
    expect(refused(content)).toMatch(/line 1|bar 1/);
  });
});

describe('barlines', () => {
  test('an ending for several times, a repeat played more than twice, a double line', () => {
    const { tune } = read(
      '<barline location="left"><repeat direction="forward"/></barline>' + WHOLE,
      '<barline location="left"><ending number="1, 2" type="start"/></barline>' +
        WHOLE +
        '<barline location="right"><ending number="1, 2" type="stop"/><repeat direction="backward" times="3"/></barline>',
      '<barline location="left"><ending number="3" type="start"/></barline>' +
        WHOLE +
        '<barline><bar-style>light-light</bar-style></barline>',
      WHOLE,
    );
    expect(
      tune.bars.map(({ repeatStart, repeatEnd, ending, barline }) => [repeatStart, repeatEnd, ending, barline]),
    ).toMatchObject([
      [true, undefined, undefined, undefined],
      [undefined, 3, [1, 2], undefined],
      [undefined, undefined, [3], 'double'],
      [undefined, undefined, undefined, undefined],
    ]);
  });

  test('what nobody can count is counted as twice, and never more than sixteen times', () => {
    const times = (text: string) =>
      read(`${WHOLE}<barline><repeat direction="backward" times="${text}"/></barline>`, WHOLE).tune.bars[0]?.repeatEnd;
    expect([times('often'), times('1'), times('400')]).toEqual([2, 2, 16]);
  });
});
