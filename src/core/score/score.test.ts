import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { readAbc } from '../formats/abc/readAbc';
import { alterInSignature, signatureOf } from '../pitch/key';
import { printPitch, staffPosition } from '../pitch/pitch';
import { TICKS_PER_QUARTER as Q } from '../time/ticks';
import { accidentalsFor } from './accidentals';
import { clefFor } from './clef';
import { idMaker } from './identify';
import { barSpans, soundingNotes } from './sounding';
import {
  barNumbers,
  barOffset,
  countedBars,
  hasPickup,
  isNote,
  keysOf,
  placedEvents,
  quartersPerMinute,
  type Note,
  type Tune,
} from './tune';
import { scoreProblems, scoreProblemText } from './validate';
import { usualTempo } from './usualTempo';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const withEvents = (tune: Tune, bar: number, change: (note: Note) => Note): Tune => ({
  ...tune,
  bars: tune.bars.map((one, index) =>
    index === bar ? { ...one, events: one.events.map((event) => (isNote(event) ? change(event) : event)) } : one,
  ),
});

describe('accidentals', () => {
  const signs = (body: string, head?: string) => {
    const tune = tuneOf(body, head);
    const table = accidentalsFor(tune);
    return tune.bars.map((bar) =>
      bar.events
        .map((event) => {
          const sign = table.get(event.id);
          const text = sign ? ({ '-1': 'b', '0': 'n', '1': '#' }[String(sign.alter)] ?? '?') : '-';
          return sign?.courtesy ? `(${text})` : text;
        })
        .join(' '),
    );
  };

  test('one holds to the end of its bar, in its own octave', () => {
    expect(signs('^F2 F2 =F2 ^F2 |')).toEqual(['# - n #']);
    expect(signs('^F2 ^f2 F2 ^f2 |')).toEqual(['# # - -']);
  });

  test('the next bar reminds of what is over, and only once', () => {
    expect(signs('^F2 G2 A4 | F2 F2 A4 | F8 |')).toEqual(['# - -', '(n) - -', '-']);
    expect(signs('B2 c2 d4 | _B8 |', 'M:4/4\nL:1/8\nK:C')).toEqual(['- - -', 'b']);
  });

  test('a tie carries its sign over the barline for its own note alone', () => {
    expect(signs('A4 ^F4- | F4 ^F4 | A8 |')).toEqual(['- #', '- #', '-']);
  });

  test('another octave of an altered letter is reminded of', () => {
    expect(signs('^F2 =f2 G4 |')).toEqual(['# (n) -']);
  });

  test('what is printed is enough to read every note: a reader by the rules gets the pitches', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const table = accidentalsFor(tune);
        const keys = keysOf(tune);
        const wrong: string[] = [];
        let tied: Note | undefined;
        tune.bars.forEach((bar, index) => {
          const inForce = new Map<number, number>();
          const read = (id: string, pitch: Note['pitch']) => {
            const place = staffPosition(pitch);
            const printed = table.get(id);
            if (printed) inForce.set(place, printed.alter);
            const alter = inForce.get(place) ?? alterInSignature(pitch.step, signatureOf(keys[index] ?? tune.key));
            if (alter !== pitch.alter) wrong.push(`${id}: ${printPitch(pitch)} reads ${alter}`);
          };
          for (const event of bar.events) {
            if (!isNote(event)) {
              tied = undefined;
              continue;
            }
            event.graces?.forEach((grace, k) => read(`${event.id}/${k}`, grace.pitch));
            // A tie's second note is read as the first, whatever stands in force.
            if (!(tied && staffPosition(tied.pitch) === staffPosition(event.pitch))) read(event.id, event.pitch);
            tied = event.tied ? event : undefined;
          }
        });
        expect(wrong).toEqual([]);
      }),
    );
  });
});

describe('bars and their numbers', () => {
  test('a pickup is bar 0, halves of a cut bar share a number, a last short bar has its own', () => {
    const tune = tuneOf('G2 | C8 | D6 :: E2 | F8 | G6 |]');
    expect([barNumbers(tune), hasPickup(tune), countedBars(tune)]).toEqual([[0, 1, 2, 2, 3, 4], true, 4]);
    expect(tune.bars.map((_, index) => barOffset(tune, index, tune.meter) / Q)).toEqual([3, 0, 0, 3, 0, 0]);
    expect(barNumbers(tuneOf('C8 | D8 |'))).toEqual([1, 2]);
  });

  test('tied notes sound as one, wherever the barlines are', () => {
    const notes = soundingNotes(tuneOf('G2- | G8- | G4 z2 G2 |'));
    expect(notes.map(({ start, length, bar, inBar }) => [start / Q, length / Q, bar, inBar / Q])).toEqual([
      [0, 7, 0, 3],
      [8, 1, 2, 3],
    ]);
  });

  test('bars follow one another without gaps, and every event lies in its bar', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const spans = barSpans(tune);
        spans
          .slice(1)
          .forEach((span, index) => expect(span.start).toBe((spans[index]?.start ?? 0) + (spans[index]?.length ?? 0)));
        const late = placedEvents(tune.bars).filter(
          ({ event, bar, start }) => start + event.length > (spans[bar]?.length ?? 0),
        );
        expect(late).toEqual([]);
      }),
    );
  });

  test('new ids go on after those in use', () => {
    const ids = idMaker(tuneOf('C2 D2 E4 | (3FGA B2 c4 |').bars);
    expect([ids.event(), ids.bar(), ids.tuplet()]).toEqual(['n9', 'b3', 't2']);
  });
});

describe('a broken document is told by its place', () => {
  const sound = tuneOf('"C"C2 D2 E4 | F4- F4 | G8 |');
  const said = (tune: Tune) => scoreProblems(tune).map(scoreProblemText);
  const [first] = sound.bars;
  if (!first) throw new Error('no bar');

  test.each<readonly [string, Tune, readonly string[]]>([
    ['nothing', sound, []],
    ['no bars', { ...sound, bars: [] }, ['The tune has no bars: it needs at least one.']],
    [
      'a note too many',
      {
        ...sound,
        bars: [
          { ...first, events: [...first.events, ...first.events.map((event) => ({ ...event, id: `x${event.id}` }))] },
        ],
      },
      ['bar 1 holds 8 quarters; it should hold 4 in 4/4'],
    ],
    [
      'a length that no note has',
      withEvents(sound, 2, (note) => ({ ...note, length: note.length + 1 })),
      [
        'bar 3, beat 1: a length of 4.000 quarters cannot be printed; write one printed value; tie two for anything else',
        'bar 3 holds 4.000 quarters; it should hold 4 in 4/4',
      ],
    ],
    [
      'a tie to another pitch',
      withEvents(sound, 2, (note) => ({ ...note, tied: true as const })),
      ['bar 3: a tie leads nowhere; it needs the same pitch right after it'],
    ],
    [
      'an id twice',
      withEvents(sound, 2, (note) => ({ ...note, id: 'n1' })),
      ['bar 3: the id "n1" is used twice; give each bar and note its own'],
    ],
    [
      'a chord after the bar',
      { ...sound, bars: [{ ...first, chords: first.chords.map((chord) => ({ ...chord, at: 4 * Q })) }] },
      ['bar 1: a chord 4 quarters in lies outside the bar; it needs a place inside the bar'],
    ],
  ])('%s', (_, tune, expected) => expect(said(tune)).toEqual(expected));
});

test('the clef is the one with the fewest ledger lines, the first offered on a tie', () => {
  const pitches = (body: string) =>
    tuneOf(body).bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  expect([clefFor(pitches('c8 |')), clefFor(pitches('C,,8 |')), clefFor(pitches("c''8 |")), clefFor([])]).toEqual([
    'treble',
    'bass',
    'treble-8va',
    'treble',
  ]);
});

test('a tempo is counted in quarters whatever is counted on the page', () => {
  expect(quartersPerMinute({ beat: { type: 'quarter', dots: 1 }, perMinute: 80 })).toBe(120);
  expect([usualTempo({ count: 6, unit: 8 }).beat.dots, usualTempo({ count: 2, unit: 2 }).beat.type]).toEqual([
    1,
    'half',
  ]);
});
