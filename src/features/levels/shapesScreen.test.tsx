/** @jest-environment jsdom */
import { choose, screen, shown, within, words } from '../../../tests/screen';
import { instrument, key } from '../../../tests/given';
import { ShapesScreen } from './ShapesScreen';

const rows = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((row) =>
      within(row)
        .getAllByRole('cell')
        .concat(within(row).getAllByRole('rowheader'))
        .map((cell) => words(cell)),
    );

test('one shape goes up the neck fret by fret, each time with the names to be said', async () => {
  const { user } = shown(
    <ShapesScreen id="t1" title="Low Water" concertKey={key('C')} instrument={instrument('guitar')} />,
  );
  const frets = rows().map(([fret]) => Number(fret?.replace('fret ', '')));
  expect(frets).toEqual([...frets].sort((a, b) => a - b));
  const names = rows().map(([, said = '']) => said.split(/\s+/));
  expect([new Set(names.map(({ length }) => length)).size, new Set(rows().map(([, , name]) => name)).size]).toEqual([
    1,
    rows().length,
  ]);
  await choose(user, 'Order of the keys', 'next key, round the fourths');
  expect(words(screen.getByRole('heading', { level: 1 }))).toBe('Same shape, next key');
  expect(
    rows()
      .map(([fret]) => fret)
      .toSorted(),
  ).toEqual(frets.map((fret) => `fret ${fret}`).toSorted());
});

test('one who reads another pitch is told what sounds', () => {
  shown(<ShapesScreen id="t1" title="" concertKey={key('C')} instrument={instrument('guitar')} />);
  expect([words().includes('Untitled · Guitar · C major'), words().includes('sounding')]).toEqual([true, false]);
});

test('strings that lie too far apart for one shape are said to', () => {
  shown(<ShapesScreen id="t1" title="Low Water" concertKey={key('C')} instrument={instrument('violin')} />);
  expect([words().includes('lie too far apart for one shape'), screen.queryByRole('table')]).toEqual([true, null]);
});
