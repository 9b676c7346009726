import fc from 'fast-check';
import { Chord, Note as PeerNote, Scale as PeerScale } from 'tonal';
import { chordTones } from '../harmony/chordTones';
import { parseChord, printChord } from '../harmony/chordSymbol';
import { progressionChords } from '../harmony/form/progressionChords';
import { readForm } from '../harmony/form/readForm';
import { parseProgression } from '../harmony/progression';
import { ALL_SCALE_NAMES, SCALE_DICTIONARY } from '../harmony/scaleDictionary';
import { hasLetterForEach, parseScale, printScale, readableScale, scaleOn } from '../harmony/scales';
import { INSTRUMENTS, instrumentById } from '../instruments/catalogue';
import { LEVELS } from '../instruments/instrument';
import { parseKey } from '../pitch/key';
import { chroma, printPitch, printPitchClass, semitones, type PitchClass } from '../pitch/pitch';
import { styleOfChords } from '../analysis/style';
import { readTune } from '../formats/readTune';
import { coverageWords, rubWords } from './advice';
import { alteredForChord } from './chordAltered';
import { firstSets } from './firstSet';
import { formIn, type ImprovisingForm } from './form';
import { guideLines } from './guideTones';
import { melodyBits, openingOf } from './opens';
import { poolsFor } from './poolsOf';
import { withProposedChords } from './proposeChords';
import { roleOf, rolesOver } from './roles';
import { EXTENTS, setLine } from './setLine';

const chord = (text: string) => {
  const parsed = parseChord(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const names = (notes: readonly PitchClass[]) => notes.map(printPitchClass).join(' ');
const scale = (text: string) => {
  const parsed = parseScale(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};

function formOf(text: string, keyText?: string): ImprovisingForm {
  const parsed = parseProgression(text);
  if (!parsed.ok) throw new Error(text);
  const meter = { count: 4, unit: 4 } as const;
  const chords = progressionChords(parsed.value, meter);
  const key = keyText === undefined ? undefined : parseKey(keyText);
  const bars = parsed.value.length;
  const reading = readForm(chords, { bars, ...(key?.ok && { key: key.value }) });
  return {
    key: reading.home,
    meter,
    places: chords.map(({ bar, at }) => ({ bar: bar + 1, barIndex: bar, beat: 1 + at / 10_080 })),
    reading,
    ...styleOfChords(reading, bars),
    bars: parsed.value.map((_, index) => index + 1),
  };
}

const melodyOf = (notes: string) =>
  notes.split(' ').reduce((bits, note) => bits | (1 << chroma({ step: note as 'C', alter: 0 })), 0);

const FORMS = [
  'Dm7 | G7 | Cmaj7 | %',
  'F7 | Bb7 | F7 | % | Bb7 | B°7 | F7 | Am7b5 D7 | Gm7 | C7 | F7 D7 | Gm7 C7',
  'Gm | Cm7 F7 | Bbmaj7 Ebmaj7 | Am7b5 D7b9 | Gm6 | Ab7 | Gm | N.C.',
  'Em7 | Fmaj7 | Em7 | Fmaj7',
  'Abmaj7 | Db7 C7alt | Fm7 Bb13 | Bbm7 Eb7sus4 | Ab6/9 | E+ | A/C# | Gb(#11)',
];
/** Spellings from standard texts (Kostka and Payne, ch. 4; Levine, ch. 3–4), written out by hand. */
const SPELLED: Readonly<Record<string, string>> = {
  'C major': 'C D E F G A B',
  'F# dorian': 'F# G# A B C# D# E',
  'Eb melodic minor': 'Eb F Gb Ab Bb C D',
  'B harmonic minor': 'B C# D E F# G A#',
  'G altered': 'G Ab Bb Cb Db Eb F',
  'Bb lydian dominant': 'Bb C D E F G Ab',
  'A phrygian dominant': 'A Bb C# D E F G',
  'D locrian natural 2': 'D E F G Ab Bb C',
  'C whole-tone': 'C D E F# G# Bb',
  'C diminished': 'C D Eb F Gb Ab A B',
  'G half-whole diminished': 'G Ab A# B C# D E F',
  'C bebop dominant': 'C D E F G A Bb B',
  'C bebop major': 'C D E F G G# A B',
  'A minor pentatonic': 'A C D E G',
  'E blues': 'E G A Bb B D',
  'F major blues': 'F G Ab A C D',
  'F lydian augmented': 'F G A B C# D E',
  'Db major': 'Db Eb F Gb Ab Bb C',
};

test('sets are spelled as in standard texts', () => {
  for (const [name, notes] of Object.entries(SPELLED)) expect([name, names(scale(name).notes)]).toEqual([name, notes]);
});

test('every set is read under all its names, whatever capitals and signs it is written with', () => {
  for (const name of ALL_SCALE_NAMES)
    for (const text of [
      name,
      ...(SCALE_DICTIONARY[name].also ?? []),
      name.toUpperCase(),
      name.replace(/flat (?=\d)/, '♭'),
    ])
      expect([text, parseScale(`Bb ${text}`)]).toMatchObject([text, { ok: true, value: { name } }]);
  expect(parseScale('H major')).toEqual({ ok: false, problem: { code: 'unknown-tonic', found: 'H major' } });
  expect(parseScale('C jolly')).toEqual({ ok: false, problem: { code: 'unknown-set', found: 'jolly' } });
});

test('sets hold the same notes as another library has for their names', () => {
  const theirs: Readonly<Record<string, string>> = {
    'blues scale': 'minor blues',
    'natural minor': 'aeolian',
    'dorian flat 2': 'dorian b2',
    'mixolydian flat 6': 'mixolydian b6',
    'locrian natural 2': 'locrian #2',
    'whole-tone': 'whole tone',
    'bebop dominant': 'bebop',
    'dorian sharp 4': 'dorian #4',
    'ionian augmented': 'ionian augmented',
  };
  let compared = 0;
  const differ = ALL_SCALE_NAMES.flatMap((name) => {
    const other = PeerScale.get(`C ${theirs[name] ?? name}`);
    if (other.empty) return [];
    compared += 1;
    const own = scaleOn({ step: 'C', alter: 0 }, name)
      .notes.map(chroma)
      .toSorted((a, b) => a - b);
    const peer = other.notes.map((note) => PeerNote.chroma(note) ?? -1).toSorted((a, b) => a - b);
    return own.join() === peer.join() ? [] : [`${name}: ${own.join()} against ${peer.join()}`];
  });
  expect(differ).toEqual([]);
  expect(compared).toBeGreaterThan(25);
});

test('a set of seven has each letter once; no set has a double accidental that another spelling would spare', () => {
  for (const name of ALL_SCALE_NAMES)
    for (let place = 0; place < 12; place += 1) {
      const tonic = scaleOn({ step: 'C', alter: 0 }, 'chromatic').notes[place];
      if (!tonic) throw new Error('twelve tonics');
      const { notes } = readableScale(tonic, name);
      expect(new Set(notes.map(chroma)).size).toBe(notes.length);
      if (hasLetterForEach(name)) expect(new Set(notes.map(({ step }) => step)).size).toBe(7);
      else expect(notes.every(({ alter }) => Math.abs(alter) <= 1)).toBe(true);
    }
});

test('roles over a chord: tones rest, what leans on them names its way out', () => {
  const over = (symbol: string, notes: string) => {
    const roles = rolesOver(chord(symbol));
    return notes.split(' ').map((text) => {
      const note = { step: text[0], alter: text.length > 1 ? (text[1] === 'b' ? -1 : 1) : 0 } as PitchClass;
      const out = roles.wayOut[chroma(note)];
      return `${text} ${roleOf(note, roles)}${out ? ` ${printPitchClass(out)}` : ''}`;
    });
  };
  expect(over('C', 'C D F F# A B Eb')).toEqual([
    'C home',
    'D colour',
    'F rub E',
    'F# colour',
    'A colour',
    'B colour',
    'Eb rub E',
  ]);
  expect(over('Dm7', 'E G B Bb C#')).toEqual(['E colour', 'G colour', 'B colour', 'Bb rub A', 'C# rub C']);
  expect(over('G7b9', 'Ab C E Eb')).toEqual(['Ab home', 'C rub B', 'E colour', 'Eb rub D']);
});

test('laws of roles: a chord tone never rubs, a colour lies no half step above one, a way out is a tone', () => {
  const kinds = [
    '',
    'm',
    '7',
    'maj7',
    'm7',
    'm7b5',
    '°7',
    '6',
    'm6',
    '9',
    '13',
    '7b9',
    '7#9',
    '7alt',
    'sus4',
    '9sus4',
    '+',
    '5',
    'add9',
    'maj7#11',
    'mmaj7',
    '/D',
  ];
  for (const kind of kinds) {
    const symbol = chord(`F${kind}`);
    const roles = rolesOver(symbol);
    const tones = new Set(chordTones(symbol).map(({ pitchClass }) => chroma(pitchClass)));
    for (let note = 0; note < 12; note += 1) {
      const bit = 1 << note;
      expect([roles.home, roles.colour, roles.rub].filter((bits) => bits & bit)).toHaveLength(1);
      if (tones.has(note)) expect(roles.home & bit).toBe(bit);
      const isBass = symbol.kind === 'chord' && symbol.bass && chroma(symbol.bass) === note;
      if (roles.colour & bit && !isBass) expect(tones.has((note + 11) % 12)).toBe(false);
      const out = roles.wayOut[note];
      if (roles.rub & bit) expect(out && tones.has(chroma(out))).toBe(true);
    }
  }
});

test('a set is bent by the fewest half steps that give it the chord’s third and seventh', () => {
  const bent = (set: string, symbol: string) => {
    const made = alteredForChord(scale(set).notes, chord(symbol));
    return `${names(made.notes)}: ${made.bends.map(({ from, to }) => `${printPitchClass(from)}>${printPitchClass(to)}`).join(' ')}`;
  };
  expect(bent('G minor pentatonic', 'G7')).toBe('G B C D F: Bb>B');
  expect(bent('C major pentatonic', 'Dm7')).toBe('C D F G A: E>F');
  expect(bent('C major', 'Cmaj7')).toBe('C D E F G A B: ');
  fc.assert(
    fc.property(
      fc.constantFrom(...Object.keys(SPELLED)),
      fc.constantFrom('Dm7', 'G7', 'Ebmaj7', 'F#m7b5', 'A6', 'B°7'),
      (set, symbol) => {
        const made = alteredForChord(scale(set).notes, chord(symbol));
        const has = new Set(made.notes.map(chroma));
        const wanted = chordTones(chord(symbol)).filter(({ degree }) => degree === 3 || degree === 7);
        expect(wanted.every(({ pitchClass }) => has.has(chroma(pitchClass)))).toBe(true);
        expect(made.bends.length).toBeLessThanOrEqual(2);
      },
    ),
  );
});

test('guide tones go on by the smallest steps', () => {
  const parsed = parseProgression('Dm7 | G7 | Cmaj7 | A7');
  if (!parsed.ok) throw new Error('chords');
  const lines = guideLines(progressionChords(parsed.value, { count: 4, unit: 4 }));
  expect(
    lines.map(({ upper, lower }) => `${upper ? printPitchClass(upper) : ''}/${lower ? printPitchClass(lower) : ''}`),
  ).toEqual(['F/C', 'F/B', 'E/B', 'G/C#']);
});

test.each(LEVELS)('moving a form and then looking for its notes is looking first and moving then (%s)', (level) => {
  fc.assert(
    fc.property(
      fc.constantFrom(...FORMS),
      fc.constantFrom(
        ...([
          [1, 2],
          [5, 9],
          [4, 7],
          [-1, -2],
          [2, 3],
          [-2, -4],
        ] as const),
      ),
      (text, [diatonic, chromatic]) => {
        const form = formOf(text);
        const interval = { diatonic, chromatic };
        const here = poolsFor(form, level);
        const there = poolsFor(formIn(form, interval), level);
        const moved = (note: PitchClass) => (chroma(note) + chromatic + 24) % 12;
        expect(there.overall.map((set) => [set.scale.name, chroma(set.scale.tonic), set.restsIn])).toEqual(
          here.overall.map((set) => [set.scale.name, moved(set.scale.tonic), set.restsIn]),
        );
        here.chords.forEach((chordPools, index) => {
          const other = there.chords[index];
          expect(other?.pools.map((pool) => pool.notes.map(({ note, role }) => [chroma(note), role]))).toEqual(
            chordPools.pools.map((pool) => pool.notes.map(({ note, role }) => [moved(note), role])),
          );
          for (const { scale: first } of chordPools.pools)
            if (first && level === 'advanced')
              for (const tone of chordPools.tones)
                expect([
                  printChord(chordPools.reading.chord.symbol),
                  first.name,
                  first.notes.map(chroma).includes(chroma(tone.pitchClass)),
                ]).toEqual([printChord(chordPools.reading.chord.symbol), first.name, true]);
        });
      },
    ),
  );
});

test('the whole form has few sets, and words that say where they rest and rub', () => {
  const { overall } = poolsFor(formOf('Dm7 | G7 | Cmaj7 | %'), 'beginner');
  expect(overall.map(({ scale: set }) => printScale(set))).toEqual([
    'C major pentatonic',
    'C major',
    'E minor pentatonic',
  ]);
  expect(overall[0] && coverageWords(overall[0])).toBe(
    'C major pentatonic rests on 3 of 4 bars; it rubs in bar 2, where C leans on B',
  );
  const blues = poolsFor(formOf('F7 | % | % | % | Bb7 | % | F7 | % | C7 | Bb7 | F7 | C7'), 'beginner');
  expect(blues.overall.slice(0, 2).map(({ scale: set }) => printScale(set))).toEqual(['F minor pentatonic', 'F blues']);
  expect(blues.stages.map(({ notes }) => names(notes))).toEqual([
    'F Ab Bb',
    'F Ab Bb C Eb',
    'F Ab Bb Cb C Eb',
    'F G Ab Bb C D Eb',
  ]);
});

test('chord scales follow the function of a chord', () => {
  const { chords } = poolsFor(formOf('Cmaj7 | Em7 A7 | Dm7 Fm7 | Em7 Eb7 | Dm7 G7 | Cmaj7', 'C'), 'advanced');
  expect(chords.map(({ pools }) => pools[0]?.name)).toEqual([
    'C major',
    'E phrygian',
    'A phrygian dominant',
    'D dorian',
    'F dorian',
    'E phrygian',
    'E♭ lydian dominant',
    'D dorian',
    'G mixolydian',
    'C major',
  ]);
  expect(rubWords(chords[9] ?? chords[0]!)).toEqual(['F over Cmaj7: let it fall to E']);
});

test('what a teacher decides for a chord stands, in every key', () => {
  const wish = {
    set: 'altered',
    struck: [{ diatonic: 6, chromatic: 10 }],
    added: [{ diatonic: 4, chromatic: 7 }],
  } as const;
  const form = formOf('Dm7 | G7 | Cmaj7 | %');
  const decided = (one: ImprovisingForm) =>
    poolsFor(one, 'advanced', {}, (index) => (index === 1 ? wish : undefined)).chords[1]?.pools[0]?.notes.map(
      ({ note }) => chroma(note),
    );
  expect(decided(form)).toEqual([7, 8, 10, 11, 1, 2, 3]);
  expect(decided(formIn(form, { diatonic: 1, chromatic: 2 }))).toEqual([9, 10, 0, 1, 3, 4, 5]);
});

test('a set lies in the range it is given, and goes from the lowest tonic or the lowest note', () => {
  const flute = instrumentById('flute');
  if (!flute) throw new Error('flute');
  const line = setLine(scale('G blues'), flute.range.beginner, '1');
  expect(line?.up.map(printPitch)).toEqual(['G4', 'Bb4', 'C5', 'C#5', 'D5', 'F5', 'G5']);
  expect(line?.down.map(printPitch)).toEqual(['G5', 'F5', 'D5', 'Db5', 'C5', 'Bb4', 'G4']);
  fc.assert(
    fc.property(
      fc.constantFrom(...INSTRUMENTS),
      fc.constantFrom(...LEVELS),
      fc.constantFrom(...Object.keys(SPELLED)),
      fc.constantFrom(...EXTENTS),
      (instrument, level, name, extent) => {
        const { low, high } = instrument.range[level];
        const made = setLine(scale(name), { low, high }, extent);
        if (!made) return;
        const heights = made.up.map(semitones);
        expect(heights.every((height) => height >= semitones(low) && height <= semitones(high))).toBe(true);
        expect(heights.every((height, k) => k === 0 || height > (heights[k - 1] ?? 0))).toBe(true);
        // A blue note at the bottom is a raised fourth going up, a lowered fifth coming down.
        expect(made.down.map(semitones).at(-1)).toBe(heights[0]);
        expect(made.down[0]).toEqual(made.up.at(-1));
        if (extent !== 'full') expect(chroma(made.up[0] ?? low)).toBe(chroma(scale(name).tonic));
      },
    ),
  );
});

test('a tune is opened by a set in the key where it lacks fewest notes', () => {
  const of = (notes: string) => {
    const read = readTune(new TextEncoder().encode(`X:1\nT:Few\nM:4/4\nL:1/4\nK:D\n${notes}|]\n`), 'a.abc');
    if (!read.ok) throw new Error('abc');
    return melodyBits(read.value.tune);
  };
  expect(openingOf(of('D E F A'), 'major pentatonic')).toEqual({ missing: 0, moved: -2 });
  expect(openingOf(of('D E F G'), 'major pentatonic')?.missing).toBe(1);
  expect(openingOf(of('z4'), 'major')).toBeUndefined();
});

test('a first set lies in the first range, keeps off the break, and is the sooner offered the more it opens', () => {
  const clarinet = instrumentById('clarinet-bb');
  if (!clarinet) throw new Error('clarinet');
  const sets = firstSets(clarinet, []);
  expect(sets).toHaveLength(6);
  expect(sets.every(({ reasons }) => !reasons.some((words) => words.includes('break')))).toBe(true);
  const pentatonic = melodyOf('C D E G A');
  const shelf = Array.from({ length: 12 }, () => pentatonic);
  const before = firstSets(clarinet, []).findIndex(({ scale: set }) => set.name === 'major pentatonic');
  expect(firstSets(clarinet, shelf)[0]?.scale.name).toBe('major pentatonic');
  expect(before).not.toBe(0);
});

test('proposed chords come from the key, fit the melody and end at home', () => {
  const read = readTune(
    new TextEncoder().encode('X:1\nT:Plain\nM:4/4\nL:1/4\nK:G\nG B d B|A c e c|d2 A F|G4|]\n'),
    'a.abc',
  );
  if (!read.ok) throw new Error('abc');
  const made = withProposedChords(read.value.tune);
  expect(made.bars.map(({ chords }) => chords.map(({ symbol }) => printChord(symbol)).join(' '))).toEqual([
    'G',
    'Am',
    'D',
    'G',
  ]);
  expect(withProposedChords(made)).toBe(made);
});

test('chord tones agree with another library on what both can name', () => {
  const roots = ['C', 'Eb', 'F#', 'Ab'];
  const kinds = [
    'maj7',
    'm7',
    '7',
    'm7b5',
    'dim7',
    '6',
    'm6',
    '9',
    'maj9',
    'm9',
    '7b9',
    '7#9',
    '7#11',
    '13',
    '7sus4',
    'mMaj7',
    'aug',
    'add9',
  ];
  const differ = roots.flatMap((root) =>
    kinds.flatMap((kind) => {
      const own = chordTones(chord(root + kind))
        .map(({ pitchClass }) => printPitchClass(pitchClass))
        .toSorted()
        .join(' ');
      const peer = Chord.get(root + kind)
        .notes.toSorted()
        .join(' ');
      return own === peer ? [] : [`${root}${kind}: ${own} against ${peer}`];
    }),
  );
  expect(differ).toEqual([]);
});
