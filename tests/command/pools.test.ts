import { reed } from '../reed';

interface Facts {
  readonly writtenKey: string;
  readonly overall: readonly { readonly name: string; readonly notes: readonly string[] }[];
  readonly chords: readonly {
    readonly bar: number;
    readonly beat: number;
    readonly symbol: string;
    readonly concertSymbol: string;
    readonly chordTones: Readonly<Record<string, string>>;
    readonly sets: readonly {
      readonly name: string;
      readonly notes: readonly string[];
      readonly roles: Readonly<Record<string, string>>;
      readonly change: string | null;
    }[];
  }[];
}

test('pools: chords on the command line, in written pitch beside what sounds', () => {
  const made = reed('pools', 'Dm7 G7 | Cmaj7', '--for', 'alto-sax', '--level', 'intermediate');
  expect([made.status, made.errors]).toEqual([0, []]);
  const facts = JSON.parse(made.out) as Facts;
  expect(facts.writtenKey).toBe('A');
  expect(
    facts.chords.map(({ bar, beat, symbol, concertSymbol }) => `${bar}.${beat} ${symbol} ${concertSymbol}`),
  ).toEqual(['1.1 Bm7 Dm7', '1.3 E7 G7', '2.1 Amaj7 Cmaj7']);
  expect(facts.chords[1]?.chordTones).toEqual({ '1': 'E', '3': 'G#', '5': 'B', '7': 'D' });
  expect(facts.overall[0]).toMatchObject({ name: 'A major pentatonic', notes: ['A', 'B', 'C#', 'E', 'F#'] });
  for (const { sets } of facts.chords)
    for (const { notes, roles } of sets) expect(Object.keys(roles).toSorted()).toEqual([...notes].toSorted());
  expect(facts.chords[1]?.sets[0]?.change).toMatch(/^let A become G♯, let C♯ become D$/);
});

test('pools and scale refuse in one line what they cannot read', () => {
  for (const [words, says] of [
    [['pools', 'Dm7 | Hx', '--for', 'flute', '--level', 'beginner'], /bar 2: .*"Hx"/],
    [['pools', 'nothing.abc', '--for', 'flute', '--level', 'beginner'], /nothing\.abc cannot be opened/],
    [['pools', 'Dm7', '--for', 'flute', '--level', 'expert'], /--level expert/],
    [['scale', 'C jolly', '--for', 'flute'], /"jolly" is unknown/],
    [['scale', 'C major', '--for', 'flute', '--octaves', '3'], /--octaves 3/],
    [['scale', 'C major', '--for', 'kazoo'], /kazoo/],
  ] as const) {
    const made = reed(...words);
    expect([made.status, made.out, made.errors.length]).toEqual([2, '', 1]);
    expect(made.errors[0]).toMatch(says);
  }
});

test('scale: up and down on an instrument, both spelled as they are read', () => {
  expect(JSON.parse(reed('scale', 'Eb melodic minor', '--for', 'clarinet-bb').out)).toMatchObject({
    set: 'Eb melodic minor',
    concertTonic: 'Eb',
    writtenTonic: 'F',
    notes: ['F', 'G', 'Ab', 'Bb', 'C', 'D', 'E'],
    up: ['F3', 'G3', 'Ab3', 'Bb3', 'C4', 'D4', 'E4', 'F4'],
    down: ['F4', 'Eb4', 'Db4', 'C4', 'Bb3', 'Ab3', 'G3', 'F3'],
  });
  expect(JSON.parse(reed('scale', 'D# major', '--for', 'flute,viola').out)).toMatchObject([
    { set: 'Eb major', writtenTonic: 'Eb' },
    { writtenTonic: 'Eb' },
  ]);
});
