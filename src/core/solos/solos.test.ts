import fc from 'fast-check';
import { lineDifficulty } from '../analysis/difficulty';
import { chordTones } from '../harmony/chordTones';
import { progressionChords } from '../harmony/form/progressionChords';
import { readForm } from '../harmony/form/readForm';
import { parseProgression } from '../harmony/progression';
import { INSTRUMENTS } from '../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument, type Level } from '../instruments/instrument';
import { partOfLine } from '../levels/parts/part';
import { chroma, semitones } from '../pitch/pitch';
import { readableInterval } from '../pitch/respell';
import { formIn, type ImprovisingForm } from '../pools/form';
import { poolsFor } from '../pools/poolsOf';
import { styleOfChords } from '../analysis/style';
import { scoreProblems } from '../score/validate';
import { barTicks, type Meter } from '../time/meter';
import { composeSolo, faultsOf, type Solo, type SoloRequest } from './solo';
import { evenBars, soloTune } from './soloTune';
import { isStrongAt } from './strong';
import type { PlacedWish } from './plan';
import { instrument as given, tuneOf } from '../../../tests/given';
import { HAND_SOLOS } from '../../../tests/handSolos';
import { readSolo } from './readSolo';

const FORMS = [
  'F7 | Bb7 | F7 | F7 | Bb7 | Bb7 | F7 | F7 | C7 | Bb7 | F7 | C7',
  'Dm7 | G7 | Cmaj7 | Cmaj7',
  'Am7b5 | D7b9 | Gm6 | Gm6 | Cm7 F7 | Bbmaj7 | Am7b5 D7 | Gm6',
  'C | Am | F | G7 | C | Am | Dm7 G7 | C',
  'Dm7 | Dm7 | Dm7 | Dm7 | Em7 | Em7 | Dm7 | Dm7',
  'Ebmaj7 | Cm7 | Fm7 | Bb7 | Gm7 C7 | Fm7 Bb7 | Eb6 | Eb6 | Am7b5 D7 | Gm7',
  'E | A | B7',
  'Bb6 G7 | Cm7 F7 | Bb6 Gm7 | Cm7 F7 | Fm7 Bb7 | Eb6 Abm6 | Bb6 F7 | Bb6',
] as const;
const METERS: readonly Meter[] = [
  { count: 4, unit: 4 },
  { count: 3, unit: 4 },
  { count: 6, unit: 8 },
  { count: 2, unit: 4 },
  { count: 5, unit: 4 },
];

function formOf(text: string, meter: Meter): ImprovisingForm {
  const parsed = parseProgression(text);
  if (!parsed.ok) throw new Error(text);
  const chords = progressionChords(parsed.value, meter);
  const reading = readForm(chords, { bars: parsed.value.length });
  return {
    key: reading.home,
    meter,
    places: chords.map(({ bar }) => ({ bar: bar + 1, barIndex: bar, beat: 1 })),
    reading,
    ...styleOfChords(reading, parsed.value.length),
    bars: parsed.value.map((_, index) => index + 1),
  };
}

function requestFor(
  text: string,
  level: Level,
  seed: number,
  instrument: Instrument = given('flute'),
  meter: Meter = { count: 4, unit: 4 },
): SoloRequest {
  const form = formOf(text, meter);
  return { form, bars: evenBars(form.bars.length, meter, barTicks(meter)), level, instrument, seed };
}

const partOf = (solo: Solo, { form, instrument, level }: SoloRequest) => {
  const tempo = {
    beat: { type: 'quarter', dots: 0 },
    perMinute: { beginner: 72, intermediate: 96, advanced: 112 }[level],
  } as const;
  const tune = soloTune(solo, { form, title: 'Solo', tempo });
  return { tune, part: partOfLine(tune, { level, instrument, keyAndTempo: { perMinute: tempo.perMinute } }) };
};

const aRequest = fc
  .record({
    text: fc.constantFrom(...FORMS),
    level: fc.constantFrom<Level>(...LEVELS),
    seed: fc.integer({ min: 0, max: 9_999 }),
    instrument: fc.constantFrom(...INSTRUMENTS),
    meter: fc.constantFrom(...METERS),
  })
  .map(({ text, level, seed, instrument, meter }) => requestFor(text, level, seed, instrument, meter));

test('on any form, meter, instrument, level and seed a solo keeps every rule', () => {
  fc.assert(
    fc.property(aRequest, (request) => {
      const solo = composeSolo(request);
      // A range of a few notes may hold no note of the tonic chord.
      if (!solo) return;
      const { form, level, instrument } = request;
      expect(faultsOf(solo, request)).toEqual([]);
      const { tune, part } = partOf(solo, request);
      expect(scoreProblems(tune)).toEqual([]);
      const written = formIn(form, readableInterval(form.key, instrument.transposition));
      const set = new Set(poolsFor(written, level).overall[0]?.scale.notes.map(chroma));
      const tones = (chord: number) =>
        chordTones(written.reading.chords[chord]?.chord.symbol ?? { kind: 'no chord' }).map(({ pitchClass }) =>
          chroma(pitchClass),
        );
      solo.notes.forEach((note, k) => {
        const next = solo.notes[k + 1];
        expect(outsideBy(note.pitch, instrument.range[level])).toBe(0);
        if (level !== 'advanced') expect(note.length).toBeGreaterThanOrEqual(5_040);
        if (level === 'beginner') expect(set.has(chroma(note.pitch))).toBe(true);
        if (level === 'intermediate' && note.device !== 'anticipation')
          expect(set.has(chroma(note.pitch)) || tones(note.chord).includes(chroma(note.pitch))).toBe(true);
        if (note.role === 'home' && note.device !== 'anticipation')
          expect(tones(note.chord)).toContain(chroma(note.pitch));
        if (
          note.role === 'outside' ||
          (note.role === 'rub' && (note.length > 5_040 || isStrongAt(note.at, solo.bars)))
        ) {
          expect(note.device).toBeDefined();
          const size = next ? Math.abs(semitones(next.pitch) - semitones(note.pitch)) : 99;
          const twoOn = solo.notes[k + 2];
          expect(size <= 3 || (note.device === 'enclosure' && twoOn !== undefined)).toBe(true);
        }
      });
      // What the file holds is what is told.
      const struck = part.bars
        .flatMap(({ events }) => events)
        .filter(
          (event, k, all) =>
            event.kind === 'note' && !(all[k - 1]?.kind === 'note' && (all[k - 1] as { tied?: true }).tied),
        );
      expect(struck.map((event) => (event.kind === 'note' ? semitones(event.pitch) : 0))).toEqual(
        solo.notes.map(({ pitch }) => semitones(pitch)),
      );
    }),
  );
});

test('the plan is kept: the same is the same, what is varied begins alike, what is moved has its rhythm and shape', () => {
  fc.assert(
    fc.property(aRequest, (request) => {
      const solo = composeSolo(request);
      solo?.phrases.forEach(({ start, end, kind, of }) => {
        const model = of === undefined ? undefined : solo.phrases[of];
        if (!model) return;
        const words = (from: number, to: number) =>
          solo.notes
            .filter(({ at }) => at >= from && at < to)
            .map((note) => ({ at: note.at - from, length: note.length, height: semitones(note.pitch) }));
        const [now, then] = [words(start, end), words(model.start, model.end)];
        // An early first note stands before its phrase; those are left out here.
        if (now.length === 0 || then.length === 0 || now.some(({ at }) => at < 0)) return;
        if (kind === 'same') expect(now).toEqual(then);
        const half = (end - start) / 2;
        if (kind === 'varied') expect(now.filter(({ at }) => at < half)).toEqual(then.filter(({ at }) => at < half));
        if (kind === 'moved') {
          expect(now.map(({ at, length }) => [at, length])).toEqual(then.map(({ at, length }) => [at, length]));
          const shape = (line: typeof now) =>
            line.slice(1).map(({ height }, k) => Math.sign(height - (line[k]?.height ?? 0)));
          expect(shape(now)).toEqual(shape(then));
        }
      });
    }),
  );
});

test('the same seed gives the same solo, another seed another, and levels rise in difficulty', () => {
  for (const text of FORMS.slice(0, 6)) {
    const totals = LEVELS.map((level) => {
      const request = requestFor(text, level, 7);
      const [once, twice, other] = [composeSolo(request), composeSolo(request), composeSolo({ ...request, seed: 8 })];
      expect(JSON.stringify(once)).toBe(JSON.stringify(twice));
      expect(JSON.stringify(once?.notes)).not.toBe(JSON.stringify(other?.notes));
      return once ? lineDifficulty(partOf(once, request).part.difficulty).total : 0;
    });
    expect(totals).toEqual(totals.toSorted((a, b) => a - b));
    expect(new Set(totals).size).toBe(3);
  }
});

test('above the first year phrases are of unequal lengths, and nearly all solos come home by step on the keynote or its third', () => {
  const [lengths, ends]: [Set<number>, boolean[]] = [new Set(), []];
  for (let seed = 0; seed < 20; seed += 1)
    for (const text of [FORMS[0], FORMS[3], FORMS[5]]) {
      const request = requestFor(text, 'advanced', seed);
      const solo = composeSolo(request);
      if (!solo) continue;
      const barAt = (at: number) => request.bars.filter(({ start }) => start < at).length;
      for (const { start, end } of solo.phrases) lengths.add(barAt(end) - barAt(start));
      const [last, before] = [solo.notes.at(-1), solo.notes.at(-2)];
      const above = last ? (chroma(last.concert) - chroma(request.form.key.tonic) + 12) % 12 : -1;
      const step = last && before ? Math.abs(semitones(last.pitch) - semitones(before.pitch)) : 99;
      ends.push([0, 3, 4].includes(above) && step <= 2);
    }
  expect([...lengths].toSorted((a, b) => a - b)).toEqual(expect.arrayContaining([1, 2, 3, 4]));
  expect(ends.filter(Boolean).length).toBeGreaterThan(0.8 * ends.length);
});

test('no note is shorter than the instrument speaks at the tempo', () => {
  for (let seed = 0; seed < 10; seed += 1) {
    const solo = composeSolo({ ...requestFor(FORMS[0], 'advanced', seed, given('trombone')), shortest: 5_040 });
    expect(Math.min(...(solo?.notes ?? []).map(({ length }) => length))).toBeGreaterThanOrEqual(5_040);
  }
});

test('locked phrases stay as they are while the rest is composed anew, whatever they do', () => {
  fc.assert(
    fc.property(aRequest, fc.integer({ min: 0, max: 3 }), (request, index) => {
      const first = composeSolo(request);
      if (!first) return;
      // A phrase is kept in the plan that it was made in.
      const barAt = (at: number) => request.bars.filter(({ start }) => start < at).length;
      const plan = first.phrases.map(({ start, end, kind, of }): PlacedWish => ({
        bars: barAt(end) - barAt(start),
        kind,
        ...(of !== undefined && { of }),
      }));
      const before = composeSolo({ ...request, plan });
      const phrase = before?.phrases[index];
      if (!before || !phrase || phrase.kind === 'rest') return;
      const inside = (solo: Solo) => solo.notes.filter(({ at }) => at >= phrase.start && at < phrase.end);
      const kept = inside(before).map(({ at, length, pitch }) => ({ at: at - phrase.start, length, pitch }));
      const after = composeSolo({ ...request, plan, seed: request.seed + 1, given: new Map([[index, kept]]) });
      if (!after) return;
      const words = (solo: Solo) => inside(solo).map(({ at, length, pitch }) => [at, length, semitones(pitch)]);
      // What follows may come an eighth early, into the end of the phrase.
      expect(words(after).slice(0, kept.length)).toEqual(words(before));
      expect(after.phrases[index]?.isGiven).toBe(true);
    }),
  );
});

test('a plan, targets, a borrowed rhythm and the amount of each device are as asked', () => {
  const plan: readonly PlacedWish[] = [
    { bars: 2, kind: 'idea', rhythm: { lengths: [15_120, 5_040, -10_080], from: 'a tune' } },
    { bars: 1, kind: 'rest' },
    { bars: 3, kind: 'moved', of: 0 },
    { bars: 4, kind: 'answer' },
    { bars: 2, kind: 'idea', height: 1 },
  ];
  for (const seed of [1, 2, 3]) {
    const request = requestFor(FORMS[0], 'intermediate', seed);
    const planned = composeSolo({ ...request, plan });
    expect(planned?.phrases.map(({ kind, start, end }) => `${kind} ${(end - start) / 40_320}`)).toEqual([
      'idea 2',
      'rest 1',
      // Three bars cannot say again what took two.
      'answer 3',
      'answer 4',
      'idea 2',
    ]);
    expect(planned?.notes.slice(0, 4).map(({ at, length }) => [at, length])).toEqual([
      [0, 15_120],
      [15_120, 5_040],
      [30_240, 15_120],
      [45_360, 5_040],
    ]);
    expect(planned?.notes.filter(({ at }) => at >= 80_640 && at < 115_920)).toEqual([]);
    const aimed = composeSolo({
      ...request,
      targets: [
        { bar: 5, degree: 3 },
        { bar: 9, degree: 7 },
      ],
    });
    expect(aimed?.missed).toEqual([]);
    const onBar = (bar: number) =>
      aimed?.notes.find(({ at, length }) => at >= (bar - 1) * 40_320 - 5_040 && at + length > (bar - 1) * 40_320);
    expect([onBar(5)?.degree, onBar(9)?.degree]).toEqual(['3', '♭7']);
  }
  const devices = (tools: SoloRequest['tools']) =>
    Array.from({ length: 6 }, (_, seed) => {
      const solo = composeSolo({ ...requestFor(FORMS[2], 'advanced', seed), ...(tools && { tools }) });
      const notes = solo?.notes ?? [];
      return [
        notes.filter(({ device }) => device === 'anticipation').length,
        notes.filter(({ device }) => device === 'enclosure').length,
        notes.filter(({ isTriplet }) => isTriplet).length,
        notes.filter(({ length }) => length < 5_040 && length !== 3_360).length,
      ];
    }).reduce((sums, counts) => sums.map((sum, k) => sum + (counts[k] ?? 0)));
  expect(devices({ early: 0, 'ways-in': 0, triplets: 0, 'double-time': 0 })).toEqual([0, 0, 0, 0]);
  const usual = devices(undefined);
  const more = (['early', 'ways-in', 'triplets', 'double-time'] as const).map(
    (tool, k) => (devices({ [tool]: 3 })[k] ?? 0) > (usual[k] ?? 0),
  );
  expect(more).toEqual([true, true, true, true]);
});

test('another ending that begins within a beat of triplets leaves the whole beat out', () => {
  const request = requestFor(FORMS[0], 'advanced', 5, given('violin'), { count: 2, unit: 4 });
  const solo = composeSolo(request);
  expect(solo && scoreProblems(partOf(solo, request).tune)).toEqual([]);
});

test('triplets go in groups of four across the beats where there is a bar of them', () => {
  const runs = Array.from({ length: 24 }, (_, seed) => {
    const { notes = [] } = composeSolo({ ...requestFor(FORMS[3], 'advanced', seed), tools: { triplets: 3 } }) ?? {};
    return notes.flatMap((_note, from) => {
      const run = notes.slice(from, from + 12);
      const isBar =
        run.length === 12 &&
        (run[0]?.at ?? 1) % 40_320 === 0 &&
        run.every(({ isTriplet, at }, k) => isTriplet && at === (run[0]?.at ?? 0) + k * 3_360);
      return isBar
        ? [run.slice(1).map(({ pitch }, k) => Math.sign(semitones(pitch) - semitones(run[k]?.pitch ?? pitch)))]
        : [];
    });
  }).flat();
  expect(runs.length).toBeGreaterThan(1);
  for (const moves of runs) {
    const way = moves[0] ?? 0;
    expect(moves).toEqual([way, way, way, -way, way, way, way, -way, way, way, way]);
  }
});

/** Bands of docs/solos.md: hand-written choruses lie in them, and so do composed ones on the whole. */
const BANDS = {
  beginner: { home: 0.75, again: [0.3, 0.85], leaps: 1 },
  intermediate: { home: 0.75, again: [0.3, 0.85], leaps: 1 },
  advanced: { home: 0.7, again: [0.3, 0.85], leaps: 1.5 },
} as const;

test('choruses written by hand and composed ones lie in the same bands', () => {
  for (const level of LEVELS) {
    const hand = HAND_SOLOS.filter((one) => one.level === level).map(({ body, head }) => readSolo(tuneOf(body, head)));
    const composed = Array.from({ length: 16 }, (_, seed) =>
      composeSolo(requestFor(FORMS[seed % 4] ?? FORMS[0], level, seed)),
    );
    for (const solos of [hand, composed]) {
      const all = solos.flatMap((solo) => (solo ? [solo.measures] : []));
      expect(all.length).toBeGreaterThanOrEqual(3);
      const mean = (of: (measures: (typeof all)[number]) => number) =>
        all.reduce((sum, one) => sum + of(one), 0) / all.length;
      const { home, again, leaps } = BANDS[level];
      expect(mean(({ strongBeatHome }) => strongBeatHome)).toBeGreaterThanOrEqual(home);
      expect(mean(({ repeatedIdeas }) => repeatedIdeas)).toBeGreaterThanOrEqual(again[0]);
      expect(mean(({ repeatedIdeas }) => repeatedIdeas)).toBeLessThanOrEqual(again[1]);
      expect(mean(({ leapsOverSixth }) => leapsOverSixth)).toBeLessThanOrEqual(leaps);
    }
  }
});

test('a solo brought in is read as ours are: what leans, how, and which phrases come again', () => {
  const solo = readSolo(tuneOf('"F7"z2z^G A2F2|"F7"c2z2 z4|"F7"z2z^G A2F2|"C7"e2f^d e2z2|', 'M:4/4\nL:1/8\nK:F'));
  expect(solo?.notes.map(({ role, device }) => `${role}${device ? `/${device}` : ''}`).join(' ')).toBe(
    'outside/approach home home home outside/approach home home home rub/enclosure outside/enclosure home',
  );
  expect(solo?.phrases.map(({ kind }) => kind)).toEqual(['idea', 'varied']);
});
