import fc from 'fast-check';
import { anyEnsemble } from '../../../tests/anyEnsemble';
import { ensembleFaults } from '../../../tests/ensembleRules';
import { instrument, key, tuneOf } from '../../../tests/given';
import { likelyTune } from '../../../tests/likelyTune';
import { LEVELS, type Level } from '../instruments';
import { printPitch, semitones } from '../pitch';
import { barLength, isNote, metersOf, type PartRole, type TogetherNotes, type Tune } from '../score';
import type { Ensemble } from './arranged';
import { arrange } from './ensemble';
import { partOfVoice, performedPart } from './parts';
import type { EnsemblePlayer } from './player';

const player = (id: string, level: Level, role?: PartRole): EnsemblePlayer => ({
  id: `${id}-${level}-${role ?? ''}`,
  instrument: instrument(id),
  level,
  ...(role && { role }),
});
const FOUR = [
  player('flute', 'intermediate'),
  player('clarinet-bb', 'intermediate'),
  player('alto-sax', 'beginner'),
  player('cello', 'beginner'),
];
const ROPE = tuneOf(
  'D2|"G"G3A B2AG|"C"E2c2 "D7"B2A2|"G"B3A G2D2|"D7"A6D2|"G"G3A B2AG|"C"E2c2 "Am"e2dc|"G"B2G2 "D7"A2F2|"G"G6|]',
  'M:4/4\nL:1/8\nQ:1/4=96\nK:G',
);
const namesIn = ({ voices }: Ensemble, part: number, bar: number) =>
  voices[part]?.tune.bars[bar]?.events.map((event) => (isNote(event) ? printPitch(event.pitch) : '-')).join(' ');
const cellsOf = ({ voices }: Ensemble) => voices.map(({ cells }) => cells.join(' '));
const arranged = (notes: TogetherNotes = {}, tune: Tune = ROPE, players = FOUR) => arrange(tune, { players, notes });

test('ranges, levels, chord tones on strong beats, no parallels untold, the bass lowest, roles as they are meant', () => {
  fc.assert(
    fc.property(anyEnsemble, ({ tune, players, key: best }) => {
      const made = arrange(tune, { players, notes: { key: best } });
      expect(ensembleFaults(made)).toEqual([]);
    }),
    // Hundreds are tried by `npm run fuzz -- properties`.
    { numRuns: Math.ceil(Number(process.env['PROPERTY_RUNS'] ?? 30)) },
  );
});

test('two who lead at once, each as their level has the tune, never rub: the easier one rests there', () => {
  const players = [
    player('flute', 'advanced', 'tune'),
    player('clarinet-bb', 'beginner', 'tune'),
    player('cello', 'intermediate', 'bass'),
  ];
  const made = Array.from({ length: 24 }, (_, k) => arrange(likelyTune(5_000 + k), { players }));
  expect(made.flatMap(({ measures }) => measures.clashes)).toEqual([]);
  const rests = made.map((one) => partOfVoice(one, 1).reasons.filter(({ why }) => /left to another/.test(why)).length);
  expect(rests.some((count) => count > 0)).toBe(true);
  expect(
    made.every(({ voices }) => voices.every(({ cells }, k) => k === 2 || cells.every((cell) => cell === 'tune'))),
  ).toBe(true);
});

test('the same request gives the same notes, and a seed others', () => {
  fc.assert(
    fc.property(anyEnsemble, fc.integer({ min: 1, max: 999 }), ({ tune, players }, seed) => {
      const notes = (more: TogetherNotes) => JSON.stringify(arrange(tune, { players, notes: more }).voices);
      expect(notes({ seed })).toBe(notes({ seed }));
    }),
    { numRuns: 12 },
  );
  const lines = [0, 1, 2, 3].map((seed) => JSON.stringify(arranged({ seed }).voices.map(({ line }) => line)));
  expect(new Set(lines).size).toBeGreaterThan(2);
});

test('a tune in four parts as one would write it: who has what, the bass, the seventh that falls, the last chord whole', () => {
  const made = arranged();
  expect(cellsOf(made)).toEqual(['tune second', 'second tune', 'pad pad', 'bass bass']);
  expect(made.measures).toMatchObject({ parallels: [], clashes: [], foreign: [], bassRoots: 1 });
  // In sixths under the tune, as the tune moves.
  expect(namesIn(made, 1, 1)).toBe('B3 C4 D4 C4 B3');
  expect([1, 2, 3, 4].map((bar) => namesIn(made, 3, bar))).toEqual(['G3', 'C3 D3', 'G3', 'D3']);
  const last = made.voices.map(({ line }) => (line.at(-1)?.height ?? 0) % 12);
  expect([last[3], last.includes(11), last.includes(7)]).toEqual([7, true, true]);
  expect(partOfVoice(made, 1).reasons.find(({ bar }) => bar === 1)).toMatchObject({
    what: 'sixth below the tune',
    why: 'a second voice goes with the tune',
  });
  expect(partOfVoice(made, 2).reasons.find(({ bar }) => bar === 4)?.what).toMatch(/^A, seventh of B7; falls to G♯/);
});

test('who is absent changes no lead of another, and nobody’s bass is left empty', () => {
  fc.assert(
    fc.property(anyEnsemble, fc.nat({ max: 7 }), ({ tune, players }, at) => {
      fc.pre(players.length > 2);
      const gone = players[at % players.length]?.id ?? '';
      const [before, after] = [[], [gone]].map((absent) => arrange(tune, { players, notes: { absent } }));
      before?.voices.forEach(({ cells, player: { id } }, k) =>
        cells.forEach((cell, section) => {
          const now = after?.voices[k]?.cells[section];
          if (id === gone) expect(now).toBe('out');
          else if (cell === 'tune') expect(now).toBe('tune');
        }),
      );
      after?.sections.forEach((_, section) =>
        expect(after.voices.some(({ cells }) => cells[section] === 'tune')).toBe(true),
      );
    }),
    { numRuns: 25 },
  );
});

test('cells and bars by hand stand, whatever else is changed, and follow the key', () => {
  const [, second] = ROPE.bars.filter((_, index) => index === 0 || index === 5).map(({ id }) => id);
  const bar = ROPE.bars[1]?.id ?? '';
  const sax = FOUR[2]?.id ?? '';
  const own = tuneOf('D4 B4|', 'M:4/4\nL:1/8\nK:G').bars[0]?.events ?? [];
  const notes: TogetherNotes = {
    cells: { [second ?? '']: { [sax]: 'out' } },
    bars: { [sax]: { [bar]: { kind: 'own', events: own, key: key('G') } } },
  };
  const made = arranged(notes);
  expect(made.voices[2]?.cells).toEqual(['pad', 'out']);
  expect(namesIn(made, 2, 6)).toBe('-');
  expect(namesIn(made, 2, 1)).toBe('D4 B4');
  expect(namesIn(arranged({ ...notes, key: key('A'), seed: 3 }), 2, 1)).toBe('E4 C#5');
  const plain = arranged();
  // Bars of the tune itself too.
  const flute = FOUR[0]?.id ?? '';
  const inLead = (choice: 'octave-up' | 'rest') =>
    namesIn(arranged({ bars: { [flute]: { [bar]: { kind: choice } } } }), 0, 1);
  expect([inLead('octave-up'), inLead('rest')]).toEqual(['G5 A5 B5 A5 G5', '-']);
  for (const choice of ['octave-down', 'rest', 'simpler'] as const)
    expect(namesIn(arranged({ bars: { [FOUR[1]?.id ?? '']: { [bar]: { kind: choice } } } }), 1, 1)).toBe(
      choice === 'rest' ? '-' : choice === 'simpler' ? 'B3 D4' : 'B2 C3 D3 C3 B2',
    );
  expect(namesIn(plain, 1, 1)).toBe('B3 C4 D4 C4 B3');
});

test('a tune without chords gets proposals, and they are told', () => {
  const bare = tuneOf('G4 B4|c4 A4|B4 G4|A4 F4|G8|]', 'M:4/4\nL:1/8\nK:G');
  const made = arranged({}, bare);
  expect(made.hasProposedChords).toBe(true);
  expect(made.ground.chords.length).toBeGreaterThan(2);
  expect(ensembleFaults(made)).toEqual([]);
});

test('two players, one, sixty; a tune below every bass; meters that change; nobody at all', () => {
  expect(cellsOf(arranged({}, ROPE, FOUR.slice(0, 1)))).toEqual(['tune tune']);
  expect(
    cellsOf(
      arranged(
        {},
        ROPE,
        [FOUR[0], FOUR[3]].flatMap((one) => one ?? []),
      ),
    ),
  ).toEqual(['tune tune', 'bass bass']);
  const sixty = Array.from({ length: 60 }, (_, k) => ({
    ...player(['flute', 'clarinet-bb', 'trumpet-bb', 'cello'][k % 4] ?? 'flute', LEVELS[k % 3] ?? 'beginner'),
    id: `p${k}`,
  }));
  expect(ensembleFaults(arranged({}, ROPE, sixty))).toEqual([]);
  const low = tuneOf('"G"G,,4 B,,4|"D7"D,4 A,,4|"G"G,,8|]', 'M:4/4\nL:1/8\nK:G');
  const under = arranged({}, low, [player('tuba', 'advanced', 'tune'), player('flute', 'beginner', 'bass')]);
  expect(under.voices[1]?.line.length).toBeGreaterThan(0);
  const odd = tuneOf('"G"G2 B2|[M:3/4]"C"c4 e2|[M:5/8]"D"d3 A2|[M:4/4]"G"G8|]', 'M:2/4\nL:1/8\nK:G');
  expect(ensembleFaults(arranged({}, odd))).toEqual([]);
  expect(() => arrange(ROPE, { players: [] })).toThrow('1 to 60 players');
  expect(() => arrange(ROPE, { players: [player('flute', 'beginner', 'pad')] })).toThrow('nobody has the tune');
});

test('form: introduction, first time thin, solos, an ending; all parts bar by bar alike, and every bar full', () => {
  const forms: readonly TogetherNotes[] = [
    { intro: 'count' },
    { intro: 'two', closing: 'tag' },
    { intro: 'four', thinFirst: true, closing: 'slowed' },
    { solos: true, closing: 'held' },
  ];
  const lengths = forms.map((notes) => {
    const made = arranged(notes);
    const parts = made.voices.map((_, index) => performedPart(made, index, notes).part);
    const shape = ({ soundingBars, meter }: (typeof parts)[number]) =>
      soundingBars.map((bar, k) => barLength(bar, metersOf({ bars: soundingBars, meter })[k] ?? meter));
    parts.forEach((part) => {
      expect(shape(part)).toEqual(parts.map(shape)[0]);
      part.soundingBars.forEach((bar, k) =>
        expect(bar.events.reduce((sum, { length }) => sum + length, 0)).toBe(shape(part)[k]),
      );
      expect(new Set(part.bars.map(({ id }) => id)).size).toBe(part.bars.length);
    });
    return parts[0]?.bars.length;
  });
  expect(lengths).toEqual([9, 13, 22, 26]);
  const thin = arranged({ thinFirst: true });
  const sax = performedPart(thin, 2, { thinFirst: true }).part;
  expect(sax.bars.slice(0, 9).every(({ events }) => events.every(({ kind }) => kind === 'rest'))).toBe(true);
  expect(performedPart(thin, 0, { thinFirst: true }).part.words?.get(1)).toBeUndefined();
});

test('a second voice of a first-year player is chord tones in long notes', () => {
  const made = arranged({}, ROPE, [player('flute', 'advanced', 'tune'), player('violin', 'beginner', 'second')]);
  const line = made.voices[1]?.line ?? [];
  expect(line.every(({ kind }) => kind === 'chord')).toBe(true);
  expect(line.map(({ height }) => height)).not.toEqual([]);
  expect(line.every(({ height }) => height <= semitones({ step: 'C', alter: 0, octave: 6 }))).toBe(true);
});
