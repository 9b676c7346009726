import { instrument, tuneOf } from '../../../tests/given';
import { likelyTune } from '../../../tests/likelyTune';
import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { phrasesOf } from '../analysis/phrases';
import { printChord } from '../harmony/chordSymbol';
import { INSTRUMENTS } from '../instruments/catalogue';
import { LEVELS, outsideBy, type Level } from '../instruments/instrument';
import { nameKey, parseKey, signatureOf, type Key } from '../pitch/key';
import { chroma, printPitch, semitones } from '../pitch/pitch';
import { soundingNotes } from '../score/sounding';
import { barLength, isNote, keysOf, metersOf, placedEvents, type Tune } from '../score/tune';
import { scoreProblems } from '../score/validate';
import { beatsOf, isCompound } from '../time/meter';
import { TICKS_PER_QUARTER as Q } from '../time/ticks';
import { describeChange } from '../work/change';
import { readableKey } from './fit/inKey';
import { partFor } from './parts/partFor';
import { simplify } from './simplify/simplify';
import { withKey, withMeter, withRecipe } from '../work/work';

const keyOf = (text: string): Key => {
  const parsed = parseKey(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const show = (bars: Tune['bars']) =>
  bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${event.length / Q}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const anyInstrument = fc.constantFrom(...INSTRUMENTS);
const anyLevel = fc.constantFrom<Level>(...LEVELS);
const anyTonic = fc.constantFrom('C', 'G', 'D', 'A', 'E', 'B', 'F#', 'F', 'Bb', 'Eb', 'Ab', 'Db', 'Gb');

test('a clarinet in B♭ reads D major when the band plays C; a concert E♭ is F, C and B♭ for clarinet, alto and horn', () => {
  const scale = tuneOf('E8 | ', 'M:4/4\nL:1/8\nK:Eb');
  const read = (id: string) => partFor(scale, { level: 'intermediate', instrument: instrument(id) }).value;
  expect(
    ['clarinet-bb', 'alto-sax', 'horn-f', 'tenor-sax', 'cello'].map((id) => {
      const note = read(id).bars[0]?.events[0];
      return note && isNote(note) ? `${nameKey(read(id).writtenKey)}: ${printPitch(note.pitch)}` : '';
    }),
  ).toEqual(['F major: F4', 'C major: C5', 'B♭ major: Bb4', 'F major: F5', 'E♭ major: Eb3']);
  expect(
    nameKey(
      partFor(tuneOf('C8|', 'M:4/4\nL:1/8\nK:C'), { level: 'advanced', instrument: instrument('clarinet-bb') }).value
        .writtenKey,
    ),
  ).toBe('D major');
});

test('a leading note stays a leading note, and chords move with it', () => {
  const tune = tuneOf('"E7"^G4 "Am/C"A4 |', 'M:4/4\nL:1/8\nK:Am');
  const part = partFor(tune, {
    level: 'advanced',
    instrument: instrument('alto-sax'),
    keyAndTempo: { key: keyOf('Bbm') },
    melody: 'as written',
  }).value;
  expect([show(part.bars), nameKey(part.writtenKey)]).toEqual(['F#5:2 G5:2', 'G minor']);
  expect(part.bars[0]?.chords.map(({ symbol }) => printChord(symbol))).toEqual(['D7', 'Gm/Bb']);
});

test('passing notes go and arrivals stay: quarters from eighths over a chord', () => {
  expect(show(simplify(tuneOf('"Bb"B,C DE F4 | F8 |', 'M:4/4\nL:1/8\nK:Bb')).tune.bars)).toBe('Bb3:1 D4:1 F4:2 | F4:4');
});

test('a syncopated note moves to the beat it leans on', () => {
  expect(show(simplify(tuneOf('"Bb"FB zd- d2 BG | F8 |', 'M:4/4\nL:1/8\nK:Bb')).tune.bars)).toBe(
    'F4:2 D5:1 Bb4:1 | F4:4',
  );
});

test('players who have other notes out of reach share the simplified bars that are the same for both', () => {
  const tune = tuneOf('C2 DE F2 G2 | A2 BA G2 F2 | E2 FG A2 B2 | c8 |]');
  const lost = tune.bars[1]?.events.at(-1)?.id ?? '';
  const [all, fewer] = [new Set<string>(), new Set([lost])].map((one) => simplify(tune, undefined, one).tune.bars);
  expect(all?.map((bar, k) => bar === fewer?.[k])).toEqual([true, false, true, true]);
});

test('bars that a beginner can read already come back as they are', () => {
  const tune = tuneOf('C2 D2 E4 | F6 z2 | G4 z4 | C8 |', 'M:4/4\nL:1/8\nK:C');
  expect(simplify(tune)).toEqual({ tune, phrases: phrasesOf(tune), changes: [] });
});

/** Nothing is added: what is compared is the tune itself. */
const PLAIN = { embellish: { density: 0 } } as const;

describe('for any tune, instrument, level and key', () => {
  const anyCase = fc.record({ tune: anyTune, player: anyInstrument, level: anyLevel, tonic: anyTonic });
  const made = ({
    tune,
    player,
    level,
    tonic,
  }: {
    tune: Tune;
    player: (typeof INSTRUMENTS)[number];
    level: Level;
    tonic: string;
  }) => {
    const key = readableKey({ ...tune.key, tonic: keyOf(tonic).tonic });
    // A beginner reads eighths where a tune of them is slow.
    const rhythm = level === 'beginner' ? { shortest: 'quarter' as const } : {};
    return { key, ...partFor(tune, { level, instrument: player, keyAndTempo: { key }, rhythm }) };
  };

  test('bars add up, signatures hold six at most, chords and form stand as in the tune', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const { value: part } = made(one);
        const asTune: Tune = { ...one.tune, key: part.writtenKey, bars: part.bars };
        expect(scoreProblems(asTune)).toEqual([]);
        for (const key of [...keysOf(asTune), part.concertKey])
          expect(Math.abs(signatureOf(key))).toBeLessThanOrEqual(6);
        const form = (bars: Tune['bars']) =>
          bars.map(({ repeatStart, repeatEnd, ending, partial, chords }) => ({
            repeatStart,
            repeatEnd,
            ending,
            partial,
            at: chords.map(({ at }) => at),
          }));
        expect(form(part.bars)).toEqual(form(one.tune.bars));
      }),
    );
  });

  test('what is read sounds, by the instrument, as the other staff says; equal in every note', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const { value: part } = made(one);
        const [written, sounding] = [part.bars, part.soundingBars].map((bars) =>
          placedEvents(bars).flatMap(({ event }) => (isNote(event) ? [semitones(event.pitch)] : [])),
        );
        expect(sounding?.map((height) => height + one.player.transposition.chromatic)).toEqual(written);
      }),
    );
  });

  test('a beginner reads allowed words alone, inside the range, without ornaments or double accidentals', () => {
    fc.assert(
      fc.property(
        fc.record({ tune: anyTune, player: anyInstrument, level: fc.constant<Level>('beginner'), tonic: anyTonic }),
        (one) => {
          const { value: part } = made(one);
          const meters = metersOf(one.tune);
          const faults = part.bars.flatMap((bar, index) => {
            const meter = meters[index] ?? one.tune.meter;
            const shortest =
              isCompound(meter) || (beatsOf(meter)[0]?.length ?? Q) < Q || barLength(bar, meter) % Q !== 0 ? Q / 2 : Q;
            return bar.events.filter(
              (event) =>
                event.tuplet ||
                event.length < shortest ||
                (isNote(event) &&
                  (event.graces ||
                    event.ornaments ||
                    outsideBy(event.pitch, one.player.range.beginner) !== 0 ||
                    Math.abs(event.pitch.alter) > 1)),
            );
          });
          expect(faults).toEqual([]);
        },
      ),
    );
  });

  test('the first note and the last of each phrase keep their pitch class', () => {
    fc.assert(
      fc.property(anyTune, anyInstrument, (tune, player) => {
        const before = soundingNotes(tune);
        const { value: part } = partFor(tune, { level: 'beginner', instrument: player });
        const after = new Map(
          soundingNotes({ bars: part.soundingBars, meter: tune.meter }).map((note) => [note.first.id, note]),
        );
        const anchors = [0, ...phrasesOf(tune).map(({ to }) => to - 1)].flatMap((index) =>
          before[index] ? [before[index]] : [],
        );
        for (const anchor of anchors) {
          const kept = after.get(anchor.first.id);
          // Two anchors inside one slot cannot both be struck; the phrase end is then the one that stays.
          if (kept) expect(chroma(kept.pitch)).toBe(chroma(anchor.pitch));
        }
        const lost = anchors.filter((anchor) => !after.has(anchor.first.id));
        expect(lost.length).toBeLessThanOrEqual(anchors.length / 2);
      }),
    );
  });

  test('a bar without a change is the bar of the tune, moved by whole octaves', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const { value: part, changes } = partFor(one.tune, { level: one.level, instrument: one.player });
        const changed = new Set(changes.map(({ barIndex }) => barIndex));
        part.soundingBars.forEach((bar, index) => {
          if (changed.has(index)) return;
          const source = one.tune.bars[index];
          const steps = bar.events.map((event, k) => {
            const other = source?.events[k];
            return isNote(event) && other && isNote(other) ? semitones(event.pitch) - semitones(other.pitch) : 0;
          });
          expect(bar.events.map(({ length, kind }) => ({ length, kind }))).toEqual(
            source?.events.map(({ length, kind }) => ({ length, kind })),
          );
          expect(steps.every((step) => step % 12 === 0)).toBe(true);
        });
        for (const change of changes) {
          const { what, why } = describeChange(change, part.written);
          expect([what.length > 3, why.length > 3]).toEqual([true, true]);
        }
      }),
    );
  });

  test('the same request gives the same part, and another key and back is home', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        expect(made(one)).toEqual(made(one));
        const there = partFor(one.tune, {
          level: one.level,
          instrument: one.player,
          keyAndTempo: { key: made(one).key },
          ...PLAIN,
        }).value;
        const back = partFor(
          { ...one.tune, key: there.concertKey, bars: one.level === 'beginner' ? one.tune.bars : there.soundingBars },
          { level: one.level, instrument: one.player, keyAndTempo: { key: there.concertKey }, ...PLAIN },
        );
        if (one.level !== 'beginner')
          expect(back.value.bars.map(({ events }) => events.map(({ length }) => length))).toEqual(
            there.bars.map(({ events }) => events.map(({ length }) => length)),
          );
      }),
    );
  });
});

test('a note that a level lacks is swapped where it must be and reported where it may stay', () => {
  const high = tuneOf('"C"C2 G2 c2 g2 | "C"E2 c2 e2 g2 | C8 |', 'M:4/4\nL:1/8\nK:C');
  const trumpet = partFor(high, { level: 'beginner', instrument: instrument('trumpet-bb') });
  expect(
    soundingNotes({ bars: trumpet.value.bars, meter: high.meter }).every(
      ({ pitch }) => outsideBy(pitch, instrument('trumpet-bb').range.beginner) === 0,
    ),
  ).toBe(true);
  expect(trumpet.changes.length).toBeGreaterThan(0);
  // A step beyond the usual range is left and named; a fifth beyond it is another note.
  const wide = tuneOf("D2 A2 d'2 e'2 | D2 A2 d'2 a'2 | d8 |", 'M:4/4\nL:1/8\nK:D');
  const flute = partFor(wide, { level: 'intermediate', instrument: instrument('flute') });
  expect(flute.value.outside.map(({ bar, pitch }) => [bar, printPitch(pitch)])).toEqual([[1, 'E6']]);
  expect(flute.changes.filter(({ bar }) => bar === 2).map(({ detail }) => detail.kind)).toContain('note-octave');
});

test('a note that is named for the edge of a range lies beyond that edge; one that goes along could have stayed', () => {
  const kinds = new Set<string>();
  for (let seed = 80; seed < 100; seed += 1)
    for (const id of ['trombone', 'trumpet-bb', 'flute']) {
      const player = instrument(id);
      for (const { detail } of partFor(likelyTune(seed), { level: 'beginner', instrument: player }).changes) {
        if (detail.kind === 'note-octave') expect(Math.sign(detail.octaves)).toBe(detail.isLow ? 1 : -1);
        kinds.add(detail.kind);
      }
    }
  expect(kinds).toContain('along');
});

test('ranges are nested for every instrument, and every level has all twelve notes', () => {
  for (const { id, range } of INSTRUMENTS) {
    const order = [range.full, range.advanced, range.intermediate, range.beginner];
    order.slice(1).forEach((inner, index) => {
      const outer = order[index] ?? range.full;
      expect([id, outsideBy(inner.low, outer), outsideBy(inner.high, outer)]).toEqual([id, 0, 0]);
      expect(semitones(inner.high) - semitones(inner.low)).toBeGreaterThanOrEqual(11);
    });
  }
});

describe('what a teacher sets', () => {
  const tune = tuneOf('|: C2 D2 E2 F2 | G8 :| A4 B4 | c8 |]', 'M:4/4\nL:1/8\nK:C');
  const work = { tune, recipes: {} };

  test('a new meter bars the tune anew, with ties over barlines, or is refused with the reason', () => {
    const plain = { tune: tuneOf('C2 D2 E2 F2 | G8 | A4 B4 |', 'M:4/4\nL:1/8\nK:C'), recipes: {} };
    const barred = withMeter(plain, { count: 3, unit: 4 });
    expect(barred.ok && show(barred.value.tune.bars)).toBe('C4:1 D4:1 E4:1 | F4:1 G4:2~ | G4:2 A4:1~ | A4:1 B4:2');
    expect(barred.ok && scoreProblems(barred.value.tune)).toEqual([]);
    expect(withMeter(work, { count: 3, unit: 4 })).toEqual({
      ok: false,
      problem: { code: 'mark-inside-bar', bar: 2, meter: '3/4' },
    });
    expect(withMeter(work, { count: 2, unit: 2, sign: 'cut' }).ok).toBe(true);
  });

  test('rebarring any tune keeps its sound, and never makes a bar that does not add up', () => {
    fc.assert(
      fc.property(
        anyTune,
        fc.constantFrom({ count: 4, unit: 4 } as const, { count: 3, unit: 4 } as const, { count: 6, unit: 8 } as const),
        (any, meter) => {
          const barred = withMeter({ tune: any, recipes: {} }, meter);
          if (!barred.ok) return;
          expect(scoreProblems(barred.value.tune)).toEqual([]);
          const heard = (one: Tune) => soundingNotes(one).map(({ pitch, start, length }) => [pitch, start, length]);
          expect(heard(barred.value.tune)).toEqual(heard(any));
        },
      ),
    );
  });

  test('a new mode is taken over by the levels, and a field set back is gone', () => {
    const set = withRecipe(work, 'beginner', { keyAndTempo: { key: keyOf('G'), perMinute: 60 } });
    expect(withKey(set, keyOf('A dorian')).recipes.beginner).toEqual({
      instrument: 'flute',
      keyAndTempo: { key: keyOf('G dorian'), perMinute: 60 },
    });
    expect(withRecipe(set, 'beginner', { keyAndTempo: { key: undefined } }).recipes.beginner).toEqual({
      instrument: 'flute',
      keyAndTempo: { perMinute: 60 },
    });
  });
});
