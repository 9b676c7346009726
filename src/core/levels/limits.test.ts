import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { anySeed, richTune } from '../../../tests/richTune';
import { phrasesOf } from '../analysis/phrases';
import { readAbc } from '../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument } from '../instruments/instrument';
import { printPitch, semitones, staffPosition, type Pitch } from '../pitch/pitch';
import { transpose } from '../pitch/transpose';
import { soundingNotes, type SoundingNote } from '../score/sounding';
import { isNote, type Bar, type Tune } from '../score/tune';
import { unfold } from '../score/unfold';
import { scoreProblems } from '../score/validate';
import { beatsOf } from '../time/meter';
import { TICKS_PER_QUARTER as Q } from '../time/ticks';
import { joinChoruses } from './form/form';
import { formedPart } from './form/formedPart';
import { withinLeap } from './fit/leaps';
import { beatsRead } from './simplify/slots';
import { formedPartOfLevel, partOfLevel } from './levelPart';
import { partFor, type Part } from './parts/partFor';
import { ARTICULATION_STYLES, LEAPS } from '../work/groups';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nQ:1/4=90\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const flute = instrumentById('flute') as Instrument;
const show = (bars: readonly Bar[]) =>
  bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? `${event.slurStarts ? '(' : ''}${event.articulations?.includes('staccato') ? '.' : ''}${printPitch(event.pitch)}${event.slurEnds ? ')' : ''}` : 'z'}:${event.length / Q}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const lengthOf = (events: Bar['events']) => events.reduce((sum, { length }) => sum + length, 0);
const notesOf = (part: Part): readonly SoundingNote[] => soundingNotes({ bars: part.soundingBars, meter: part.meter });
const anyCase = fc.record({
  tune: anyTune,
  player: fc.constantFrom(...INSTRUMENTS),
  level: fc.constantFrom(...LEVELS),
  melody: fc.constantFrom('simplified' as const, 'as written' as const, 'embellished' as const),
});
const lean = (note: SoundingNote, part: Part) => {
  const beat = beatsRead(part.meter).findLast(({ start }) => start <= note.inBar);
  return beat !== undefined && note.inBar > beat.start && note.inBar + note.length > beat.start + beat.length;
};

describe('what a level may be limited to', () => {
  test('leaps become notes of the chord, or are told where the ends of a phrase leave them', () => {
    const tune = tuneOf('"C"C2 c2 G2 E2 | "F"F2 f2 c4 |');
    const { value, changes } = partFor(tune, {
      level: 'advanced',
      instrument: flute,
      melody: 'as written',
      limits: { leap: 4 },
      articulation: { phrasing: 'none' },
    });
    expect(show(value.bars)).toBe('C4:1 E4:1 G4:1 E4:1 | F4:1 A4:1 C5:2');
    expect(changes.map(({ detail }) => detail.kind)).toContain('leap');
  });

  test('in any tune, inside a phrase no leap is larger unless it is told; ends of phrases keep their note; what changed is the player’s', () => {
    fc.assert(
      fc.property(anyCase, fc.constantFrom(...LEAPS), ({ tune, player, level }, leap) => {
        const phrases = phrasesOf(tune);
        const isFree = (pitch: Pitch) => outsideBy(transpose(pitch, player.transposition), player.range[level]) === 0;
        const near = withinLeap(tune, phrases, leap, isFree);
        expect(scoreProblems(near.tune)).toEqual([]);
        const [before, after] = [soundingNotes(tune), soundingNotes(near.tune)];
        expect(after.map(({ start, length }) => [start, length])).toEqual(
          before.map(({ start, length }) => [start, length]),
        );
        const starts = new Set(phrases.map(({ from }) => from));
        const isFar = (k: number) =>
          !starts.has(k) &&
          k > 0 &&
          Math.abs(
            staffPosition((after[k - 1] as SoundingNote).pitch) - staffPosition((after[k] as SoundingNote).pitch),
          ) > leap;
        expect(after.filter((_, k) => isFar(k))).toHaveLength(
          near.changes.filter(({ detail }) => detail.kind === 'leap-stays').length,
        );
        const fixed = new Set([0, ...phrases.map(({ to }) => to - 1)]);
        after.forEach(({ pitch }, k) => {
          const was = (before[k] as SoundingNote).pitch;
          if (fixed.has(k)) expect(Math.abs(semitones(pitch) - semitones(was)) % 12).toBe(0);
          if (semitones(pitch) !== semitones(was)) expect(isFree(pitch)).toBe(true);
        });
      }),
    );
  });

  test('a part with limits is the same each time, and adds up', () => {
    fc.assert(
      fc.property(anyCase, fc.constantFrom(...LEAPS), ({ tune, player, level, melody }, leap) => {
        const wishes = { level, instrument: player, melody, limits: { leap }, rhythm: { ties: false } } as const;
        const made = partFor(tune, wishes);
        expect(scoreProblems({ ...tune, bars: made.value.soundingBars })).toEqual([]);
        expect(partFor(tune, wishes)).toEqual(made);
      }),
    );
  });

  test('where notes off the beat wait, none leans over a beat; where ties wait, none is held over a barline', () => {
    fc.assert(
      fc.property(anyCase, ({ tune, player, level, melody }) => {
        const calm = partFor(tune, {
          level,
          instrument: player,
          melody,
          rhythm: { offBeat: false, ties: false },
        }).value;
        expect(scoreProblems({ ...tune, bars: calm.soundingBars })).toEqual([]);
        for (const note of notesOf(calm)) {
          expect(lean(note, calm)).toBe(false);
          expect(note.inBar + note.length).toBeLessThanOrEqual(
            beatsOf(calm.meter).reduce((sum, { length }) => sum + length, 0),
          );
        }
      }),
    );
    const free = tuneOf('G G2 G c4- | c2 B2 A4 |');
    expect(
      show(
        partFor(free, {
          level: 'advanced',
          instrument: flute,
          melody: 'as written',
          rhythm: { offBeat: false, ties: false },
        }).value.bars,
      ),
    ).toMatch(/^G4:\d.* \| (z|B4|C5).* A4:2$/);
  });

  test('where dotted rhythms wait, what is held over a beat is held to the next one, in any tune', () => {
    fc.assert(
      fc.property(anyTune, fc.constantFrom('eighth' as const, '16th' as const), (tune, shortest) => {
        const part = partFor(tune, {
          level: 'intermediate',
          instrument: flute,
          melody: 'simplified',
          rhythm: { shortest, dotted: false },
        }).value;
        for (const { inBar, length } of notesOf(part)) {
          const beats = beatsRead(part.meter);
          const ends = beats.find(({ start, length: beat }) => inBar + length > start && inBar + length < start + beat);
          expect(ends === undefined || inBar >= ends.start).toBe(true);
        }
      }),
    );
    const words = (dotted: boolean) =>
      show(
        partFor(tuneOf('G3 A B2 c2 | G3 F E4 |'), {
          level: 'beginner',
          instrument: flute,
          rhythm: { shortest: 'eighth', ...(!dotted && { dotted }) },
        }).value.bars,
      );
    expect(words(true)).toMatch(/^G4:1.5 A4:0.5/);
    expect(words(false)).toMatch(/^G4:(1|2) (A4:1 )?B4:1 C5:1/);
  });

  test('a range and known notes of the recipe hold for its level', () => {
    const tune = tuneOf('CDEF GABc | c8 |');
    const pitches = (recipe: Parameters<typeof partOfLevel>[2]['beginner']) =>
      partOfLevel(tune, 'beginner', { beginner: recipe as NonNullable<typeof recipe> }).value.bars.flatMap(
        ({ events }) => events.filter(isNote).map(({ pitch }) => printPitch(pitch)),
      );
    const p = (step: 'C' | 'D' | 'E' | 'G' | 'A', octave: number) => ({ step, alter: 0, octave });
    const low = pitches({ instrument: 'flute', limits: { range: { low: p('G', 4), high: p('A', 5) } } });
    expect(low.every((name) => /^(G4|A4|B4|[C-G]5|A5)$/.test(name))).toBe(true);
    const known = pitches({ instrument: 'flute', limits: { known: [p('G', 4), p('A', 4), p('C', 5)] } });
    expect(new Set(known)).toEqual(new Set(known.filter((name) => ['G4', 'A4', 'C5'].includes(name))));
  });
});

describe('slurs and dots', () => {
  const cases: readonly (readonly [(typeof ARTICULATION_STYLES)[number], string, string, string])[] = [
    ['tongued', 'M:4/4\nL:1/8\nK:C', '(CDE F) (GA) z2 |', 'C4:0.5 D4:0.5 E4:0.5 F4:0.5 (G4:0.5 A4):0.5 z:1'],
    ['smooth', 'M:4/4\nL:1/8\nK:C', 'C2 D2 E2 E2 |', '(C4:1 D4):1 E4:1 E4:1'],
    ['crisp', 'M:4/4\nL:1/8\nK:C', 'CD E2 (GA) B2 |', '.C4:0.5 .D4:0.5 E4:1 (G4:0.5 A4):0.5 B4:1'],
    ['swung', 'M:4/4\nL:1/8\nK:C', 'CD EF G2 A z |', 'C4:0.5 (D4:0.5 E4):0.5 (F4:0.5 G4):1 .A4:0.5 z:0.5'],
    ['lilting', 'M:6/8\nL:1/8\nK:C', 'CDE FGA |', '(C4:0.5 D4):0.5 E4:0.5 (F4:0.5 G4):0.5 A4:0.5'],
  ];
  test.each(cases)('%s', (style, head, body, expected) => {
    const { value, changes } = partFor(tuneOf(body, head), {
      level: 'advanced',
      instrument: flute,
      melody: 'as written',
      articulation: { style: style },
    });
    expect(show(value.bars)).toBe(expected);
    expect(changes.map(({ detail }) => detail.kind)).toEqual(['articulation']);
  });

  test('any tune sounds the same notes in any style, its slurs in pairs and never over one pitch', () => {
    fc.assert(
      fc.property(anyCase, fc.constantFrom(...ARTICULATION_STYLES), ({ tune, player, level, melody }, style) => {
        const plain = partFor(tune, { level, instrument: player, melody }).value;
        const { value } = partFor(tune, { level, instrument: player, melody, articulation: { style: style } });
        const heard = (part: Part) =>
          notesOf(part).map(({ pitch, start, length }) => [semitones(pitch), start, length]);
        expect(heard(value)).toEqual(heard(plain));
        let open = 0;
        for (const event of value.bars.flatMap(({ events }) => events)) {
          if (!isNote(event)) {
            if (style !== 'as-written') expect(open).toBe(0);
            continue;
          }
          open += (event.slurStarts ?? 0) - (event.slurEnds ?? 0);
          expect(open).toBeGreaterThanOrEqual(0);
        }
        expect(open).toBe(0);
      }),
    );
  });
});

describe('the form', () => {
  const played = (bars: readonly Bar[], meter: Tune['meter']) => {
    const { order } = unfold(bars);
    return order.flatMap((index) =>
      soundingNotes({ bars: bars.slice(index, index + 1), meter }).map(({ pitch }) => printPitch(pitch)),
    );
  };

  test('twice through any tune is the tune’s notes twice, in bars that add up', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          anyTune,
          anySeed.map((seed) => richTune(seed, { oddTuplets: true, ownMarks: true, second: false })),
        ),
        (tune) => {
          const { bars } = tune;
          const joined = joinChoruses(
            [
              { bars, name: 'one' },
              { bars, name: 'two' },
            ],
            tune,
          );
          expect(scoreProblems({ ...tune, bars: joined.bars })).toEqual([]);
          expect(joined.source).toHaveLength(joined.bars.length);
          const once = played(bars, tune.meter);
          expect(played(joined.bars, tune.meter)).toEqual([...once, ...once]);
        },
      ),
    );
  });

  test('a pickup goes into the bar before it; jumps are written out', () => {
    const tune = tuneOf('G2 | c4 e4 | d6 |]', 'M:4/4\nL:1/8\nK:C');
    const joined = joinChoruses(
      [
        { bars: tune.bars, name: 'First time' },
        { bars: tune.bars, name: 'Second time' },
      ],
      tune,
    );
    expect(show(joined.bars)).toBe('G4:1 | C5:2 E5:2 | D5:3 | G4:1 | C5:2 E5:2 | D5:3');
    const full = tuneOf('G2 | c4 e4 | d8 |]', 'M:4/4\nL:1/8\nK:C');
    expect(
      show(
        joinChoruses(
          [
            { bars: full.bars, name: 'a' },
            { bars: full.bars, name: 'b' },
          ],
          full,
        ).bars,
      ),
    ).toBe('G4:1 | C5:2 E5:2 | D5:3 G4:1 | C5:2 E5:2 | D5:4');
    const jumping = tuneOf('c4 e4 !fine!| d8 !D.C.alfine!|]', 'M:4/4\nL:1/8\nK:C');
    expect(jumping.bars.some(({ jumps }) => jumps)).toBe(true);
    const written = joinChoruses(
      [
        { bars: jumping.bars, name: 'a' },
        { bars: jumping.bars, name: 'b' },
      ],
      jumping,
    );
    expect(written.bars.some(({ jumps }) => jumps)).toBe(false);
    expect(written.source.map(({ bar }) => bar)).toEqual([0, 1, 0, 0, 1, 0]);
  });

  test('in any tune the second time has all that the first has, or more rhythm words, and more', () => {
    fc.assert(
      fc.property(anyTune, fc.constantFrom('intermediate' as const, 'advanced' as const), (tune, at) => {
        const { part, source } = formedPartOfLevel(tune, at, {
          [at]: { instrument: 'flute', form: { plays: 'twice' } },
        });
        // The pickup of the second time may stand at the end of the first: it is no bar of either then.
        const isMoved = part.bars.length < 2 * tune.bars.length;
        const pickup = isMoved ? lengthOf(tune.bars[0]?.events ?? []) : 0;
        const struck = (chorus: number) => {
          const bars = part.bars.filter((_, k) => source[k]?.chorus === chorus && !(isMoved && k === 0));
          return bars
            .flatMap(({ events }, k) => {
              const end = lengthOf(events) - (k === bars.length - 1 ? pickup : 0);
              return events.filter((_, at) => lengthOf(events.slice(0, at)) < end);
            })
            .reduce((sum, event, at, all) => {
              if (!isNote(event)) return sum;
              const before = all[at - 1];
              const isStruck = !(before && isNote(before) && before.tied);
              return sum + Number(isStruck) + (event.graces?.length ?? 0) + (event.ornaments?.length ?? 0);
            }, 0);
        };
        expect(struck(1)).toBeGreaterThanOrEqual(struck(0));
      }),
    );
  });

  test('room for a solo has the chords and no notes; the second time is embellished; fingers go along', () => {
    const tune = tuneOf('"C"C2 E2 G2 c2 | "G7"B2 G2 "C"c4 |');
    const solo = formedPartOfLevel(tune, 'beginner', { beginner: { instrument: 'violin', form: { plays: 'solo' } } });
    expect(solo.part.bars).toHaveLength(6);
    expect(solo.part.bars.slice(2, 4).map(({ events, chords }) => [events.some(isNote), chords.length])).toEqual([
      [false, 1],
      [false, 2],
    ]);
    expect(solo.part.bars.map(({ section }) => section)).toEqual([
      'Melody',
      undefined,
      'Solo',
      undefined,
      'Melody again',
      undefined,
    ]);
    const twice = formedPartOfLevel(tune, 'intermediate', {
      intermediate: { instrument: 'violin', form: { plays: 'twice' }, page: { marks: 'all' } },
    });
    const [first, second] = [twice.part.bars.slice(0, 2), twice.part.bars.slice(2)].map((bars) =>
      bars.flatMap(({ events }) => events.filter(isNote)),
    );
    expect(second?.length).toBeGreaterThan(first?.length ?? 0);
    for (const { id } of [...(first ?? []), ...(second ?? [])])
      expect(twice.part.fingered?.marks.get(id)).toBeDefined();
    expect(twice.part.difficulty).toHaveLength(4);
    const again = partFor(tune, { level: 'beginner', instrument: flute }).value;
    expect(formedPart('once', () => again, {}).part).toBe(again);
  });
});
