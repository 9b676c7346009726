import { likelyTune } from '../../../../tests/likelyTune';
import { phrasesOf } from '../../analysis/phrases';
import { readAbc } from '../../formats/abc/readAbc';
import { instrumentById } from '../../instruments/catalogue';
import type { Instrument } from '../../instruments/instrument';
import { parsePitch, semitones } from '../../pitch/pitch';
import { printPitch } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { barTicks } from '../../time/meter';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { partFor } from '../parts/partFor';
import type { Aid, AidWishes, SyllableSchool } from '../../work/groups';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nQ:1/4=100\nK:G'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const instrument = (id: string) => instrumentById(id) as Instrument;
const printed = (tune: Tune, id: string, aids: AidWishes, syllables?: SyllableSchool) =>
  partFor(tune, {
    level: 'advanced',
    instrument: instrument(id),
    embellish: { density: 0 },
    page: { aids, ...(syllables && { syllables }) },
  })
    .value.bars.map(({ events }) =>
      events.flatMap((event) => (isNote(event) ? [event.lyrics?.at(-1)?.text ?? '-'] : [])).join(','),
    )
    .join('|');
const signs = (tune: Tune, id: string, aids: AidWishes) =>
  partFor(tune, {
    level: 'advanced',
    instrument: instrument(id),
    embellish: { density: 0 },
    articulation: { phrasing: 'none' },
    page: { aids },
  })
    .value.bars.map(({ events }) =>
      events.flatMap((event) => (isNote(event) ? [event.articulations?.join('+') ?? '-'] : [])).join(','),
    )
    .join('|');

const LINE = tuneOf('G2 A^c d4 | d3 B G2 z2 | G2 AB d4- | d8 |');

test('names and degrees are those of the page: a clarinet reads A where a flute reads G, and both read the first degree', () => {
  expect([printed(LINE, 'flute', { names: 'stays' }), printed(LINE, 'clarinet-bb', { names: 'stays' })]).toEqual([
    'G,A,C♯,D|D,B,G|G,A,B,D|-',
    'A,B,D♯,E|E,C♯,A|A,B,C♯,E|-',
  ]);
  expect([printed(LINE, 'flute', { degrees: 'stays' }), printed(LINE, 'alto-sax', { degrees: 'stays' })]).toEqual([
    '1,2,♯4,5|5,3,1|1,2,3,5|-',
    '1,2,♯4,5|5,3,1|1,2,3,5|-',
  ]);
});

test('beats of held notes are counted where they go by, over the barline anew', () => {
  const counts = (aids: AidWishes) =>
    partFor(LINE, { level: 'advanced', instrument: instrument('flute'), embellish: { density: 0 }, page: { aids } })
      .value.bars.map(({ counts: here = [] }) =>
        here.map(({ at, text }) => `${text}@${at / TICKS_PER_QUARTER}`).join(' '),
      )
      .join('|');
  expect(counts({ counts: 'stays' })).toBe('4@3|2@1|4@3|1@0 2@1 3@2 4@3');
  expect(counts({ degrees: 'stays', counts: 'first-half' })).toBe('4@3|2@1||');
});

test('syllables follow the rhythm in three schools, in simple and compound time', () => {
  const rhythm = tuneOf('G2 AB c/d/e/f/ g2 | (3GAB c3 d e2 |');
  expect([
    printed(rhythm, 'flute', { syllables: 'stays' }),
    printed(rhythm, 'flute', { syllables: 'stays' }, 'ta'),
    printed(rhythm, 'flute', { syllables: 'stays' }, 'sung'),
  ]).toEqual([
    '1,2,&,3,e,&,a,4|1,la,li,2,&,4',
    'ta,ti,ti,ti,ri,ti,ri,ta|tri,o,la,tam,ti,ta',
    'doo,doo,ba,doo,ba,ba,ba,doo|doo,dle,da,daah,ba,dat',
  ]);
  expect(printed(tuneOf('G3 A2B | c6 |', 'M:6/8\nL:1/8\nK:G'), 'flute', { syllables: 'stays' })).toBe('1,2,li|1');
});

test('an aid fades: where something is new, or in the first half alone', () => {
  expect(printed(LINE, 'flute', { names: 'first-time' })).toBe('G,A,C♯,D|-,B,-|-,-,-,-|-');
  expect(printed(LINE, 'flute', { names: 'first-half' })).toBe('G,A,C♯,D|D,B,G|-,-,-,-|-');
});

test('winds breathe where phrases end, and before their breath is out; strings do not', () => {
  const long = tuneOf('G2A2B2c2|d2c2B4|G2A2B2c2|d8|e2d2c2B2|c2B2A4|G2A2B2A2|G8|', 'M:4/4\nL:1/8\nQ:1/4=60\nK:G');
  const marks = signs(long, 'flute', { breaths: 'stays' }).split('|');
  expect(marks.filter((bar) => bar.endsWith('breath')).length).toBeGreaterThanOrEqual(2);
  expect(marks[3]).toBe('breath');
  expect(marks.at(-1)).toBe('-');
  expect(signs(long, 'violin', { breaths: 'stays' })).not.toContain('breath');
});

const slursOf = (tune: Tune, id: string) =>
  partFor(tune, {
    level: 'advanced',
    instrument: instrument(id),
    embellish: { density: 0 },
    articulation: { phrasing: 'none' },
    page: { aids: { bowing: 'stays' } },
  })
    .value.bars.map(({ events }) =>
      events
        .map((event) =>
          isNote(event) ? `${event.slurStarts ? '(' : ''}${printPitch(event.pitch)}${event.slurEnds ? ')' : ''}` : 'z',
        )
        .join(' '),
    )
    .join(' | ');

test('the bow comes down on the first beat: an upbeat goes up, and of three strokes the weak two go under one bow', () => {
  expect(signs(tuneOf('D2|G2A2B2c2|d2c2B2A2|', 'M:4/4\nL:1/8\nK:G'), 'violin', { bowing: 'stays' })).toBe(
    'up-bow|-,-,-,-|-,-,-,-',
  );
  expect(signs(tuneOf('G2A2B2|c2B2A2|', 'M:3/4\nL:1/8\nK:G'), 'violin', { bowing: 'stays' })).toBe(
    'down-bow,-,-|-,-,-',
  );
  expect(slursOf(tuneOf('G2A2B2|c2B2A2|c6|', 'M:3/4\nL:1/8\nK:G'), 'violin')).toBe('G4 (A4 B4) | C5 (B4 A4) | C5');
  expect(slursOf(tuneOf('G4A2B2|c4B2A2|c8|', 'M:4/4\nL:1/8\nK:G'), 'violin')).toBe('G4 (A4 B4) | C5 (B4 A4) | C5');
  // Notes of one pitch, detached notes and notes after a rest have bows of their own: then the bow is lifted.
  expect(slursOf(tuneOf('G2A2A2|c2.B2.A2|c6|', 'M:3/4\nL:1/8\nK:G'), 'violin')).toBe('(G4 A4) A4 | C5 B4 A4 | C5');
  expect(signs(tuneOf('(G2A2)B2|(c2B2)A2|', 'M:3/4\nL:1/8\nK:G'), 'violin', { bowing: 'stays' })).toBe(
    'down-bow,-,-|-,-,-',
  );
  expect(signs(tuneOf('G2A2B2|', 'M:3/4\nL:1/8\nK:G'), 'flute', { bowing: 'stays' })).toBe('-,-,-');
});

test('breaths stand a bar and a half apart at least, never inside a slur, at the ends of phrases before other places', () => {
  let [marks, ends] = [0, 0];
  for (let seed = 0; seed < 50; seed += 1) {
    const tune = likelyTune(seed);
    for (const id of ['flute', 'trombone', 'alto-sax']) {
      const { value } = partFor(tune, {
        level: 'beginner',
        instrument: instrument(id),
        page: { aids: { breaths: 'stays' } },
      });
      const notes = soundingNotes({ bars: value.bars, meter: tune.meter });
      const starts = new Set(phrasesOf(tune).map(({ from }) => soundingNotes(tune)[from]?.start));
      let last = -Infinity;
      notes.forEach((note, k) => {
        const next = notes[k + 1];
        const place = note.start + note.length;
        const rests = next !== undefined && next.start > place;
        if (rests) last = next.start;
        const written = value.bars.flatMap(({ events }) => events).find((event) => event.id === note.first.id);
        if (!written || !isNote(written) || !written.articulations?.includes('breath')) return;
        marks += 1;
        if (starts.has(next?.start)) ends += 1;
        expect(place - last).toBeGreaterThanOrEqual(1.5 * barTicks(tune.meter) - TICKS_PER_QUARTER / 2);
        last = place;
      });
    }
  }
  expect(marks).toBeGreaterThan(200);
  expect(ends / marks).toBeGreaterThan(0.35);
});

test('slurs of the bow do not fade half-way down the page; the note of the tune and what was added to it go under one bow', () => {
  const tune = tuneOf('G2A2B2|c2B2A2|G2A2B2|c2B2A2|G2A2B2|c2B2A2|B2A2F2|G6|', 'M:3/4\nL:1/8\nK:G');
  const slurs = partFor(tune, {
    level: 'advanced',
    instrument: instrument('violin'),
    embellish: { density: 0 },
    page: { aids: { bowing: 'first-half' } },
  }).value.bars.map(({ events }) => events.filter((event) => isNote(event) && event.slurStarts).length);
  expect(slurs).toEqual([1, 1, 1, 1, 1, 1, 1, 0]);
  const { value } = partFor(tuneOf('"C"C4 E4 | G4 E4 | C8 |', 'M:4/4\nL:1/8\nK:C'), {
    level: 'advanced',
    instrument: instrument('viola'),
    embellish: { devices: ['passing'], density: 100 },
  });
  const [first, second] = value.bars[0]?.events.filter(isNote) ?? [];
  expect([first?.slurStarts, second?.slurEnds]).toEqual([1, 1]);
});

test('a player who knows five notes gets those alone, and is told which were others', () => {
  const known = ['G4', 'A4', 'B4', 'C5', 'D5'].flatMap((text) => {
    const pitch = parsePitch(text);
    return pitch.ok ? [pitch.value] : [];
  });
  const heights = new Set(known.map(semitones));
  const { value, changes } = partFor(tuneOf('"G"G2B2 d2g2 | "C"e2c2 G2E2 | "D7"F2A2 c2A2 | "G"G8 |'), {
    level: 'beginner',
    instrument: instrument('flute'),
    limits: { known },
  });
  expect(
    value.bars.flatMap(({ events }) => events.filter(isNote)).every(({ pitch }) => heights.has(semitones(pitch))),
  ).toBe(true);
  expect(changes.some(({ detail }) => detail.kind === 'not-known')).toBe(true);
});

test('a bar whose aids were chosen by hand has those, unfaded, and no others', () => {
  const ids = LINE.bars.map(({ id }) => id);
  const page = (aids: AidWishes, own: Readonly<Record<number, readonly Aid[]>>, id = 'flute') =>
    partFor(LINE, {
      level: 'advanced',
      instrument: instrument(id),
      embellish: { density: 0 },
      page: { aids, barAids: Object.fromEntries(Object.entries(own).map(([bar, list]) => [ids[Number(bar)], list])) },
    }).value;
  const texts = (part: ReturnType<typeof page>) =>
    part.bars
      .map(({ events }) => events.flatMap((event) => (isNote(event) ? [event.lyrics?.at(-1)?.text ?? '-'] : [])).join())
      .join('|');
  expect(texts(page({ names: 'first-time' }, { 1: [], 2: ['names'] }))).toBe('G,A,C♯,D|-,-,-|G,A,B,D|-');
  expect(texts(page({ names: 'stays' }, { 1: ['degrees'] }))).toBe('G,A,C♯,D|5,3,1|G,A,B,D|-');
  const { bars } = page({}, { 0: ['counts'], 3: ['breaths'] });
  expect(bars.map(({ counts = [] }) => counts.map(({ text }) => text).join(''))).toEqual(['4', '', '', '']);
  // A player without breath to mark has none of them.
  const marks = (id: string, aids: AidWishes = {}) =>
    page(aids, { 0: ['breaths', 'bowing'] }, id).bars.map(({ events }) =>
      events.flatMap((event) => (isNote(event) ? (event.articulations ?? []) : [])).join(),
    );
  const everywhere = signs(LINE, 'violin', { bowing: 'stays' }).split('|');
  expect(everywhere[0]).toContain('bow');
  expect(marks('violin').map((mark) => mark !== '')).toEqual([true, false, false, false]);
  expect(marks('flute').join('')).not.toContain('bow');
});
