import type { GroupPlayer } from '../../keys/group';
import { parsePitch } from '../../pitch/pitch';
import { playersFromCsv, playersToCsv } from './groupCsv';

const pitch = (text: string) => {
  const read = parsePitch(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};

test('a group goes out to a spreadsheet and comes back as it was, formulas as plain names', () => {
  const players: readonly GroupPlayer[] = [
    {
      id: 'a',
      name: '=SUM(A1)',
      instrument: 'clarinet-bb',
      level: 'beginner',
      high: pitch('A4'),
      known: [pitch('E4'), pitch('F4'), pitch('G4')],
    },
    {
      id: 'b',
      name: 'Ines, "the tall one"',
      instrument: 'cello',
      level: 'advanced',
      low: pitch('C2'),
      high: pitch('A4'),
      marks: 'none',
    },
  ];
  const csv = playersToCsv(players);
  expect(csv.split('\r\n')[1]).toMatch(/^"?'=SUM/);
  const read = playersFromCsv(`\uFEFF${csv}`, []);
  expect(read.ok && read.value).toEqual(players.map(({ id: _, ...player }) => player));
});

test('everything that is wrong is told with its line, and nothing is taken', () => {
  const read = playersFromCsv(
    'Name,Instrument,Level,Lowest,Highest\nA,flute,beginner,,\nB,bagpipe,beginner,,\nC,Violin,expert,H4,\nD,viola,beginner,G5,C4\n',
    [],
  );
  expect(read).toEqual({
    ok: false,
    problem: [
      expect.stringContaining('Line 3: the instrument "bagpipe"'),
      expect.stringContaining('Line 4: the level "expert"'),
      expect.stringContaining('Line 4: the lowest note "H4"'),
      expect.stringContaining('Line 5: the lowest note G5 is not below'),
    ],
  });
  expect(playersFromCsv('a;b\n1;2', [])).toMatchObject({
    ok: false,
    problem: [expect.stringContaining('name and instrument and level are missing')],
  });
});
