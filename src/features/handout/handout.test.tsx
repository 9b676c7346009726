/** @jest-environment jsdom */
import { screen, shown, words } from '../../../tests/screen';
import { HandoutScreen } from './HandoutScreen';

const one = (id: string, name: string) => ({
  id,
  name,
  level: 'beginner' as const,
  instrument: 'Flute',
  goals: [],
  caution: 'Rest after 10 minutes.',
  sheets: ['Part'],
  tunes: [{ id: 'rope', title: 'Rope', files: ['slow', 'musicxml'] as const }],
});

test('a pack for one has its pages, its sounds and the stand, all at its own address', () => {
  shown(<HandoutScreen token="t" title="Ada" date="2027-03-01" note="Sing it." recipients={[one('ada', 'Ada')]} />);
  expect(words(document.body)).toMatch(/Ada.*Flute, beginner, from 1 March.*Sing it\..*Rest after 10 minutes/);
  const addresses = [...document.querySelectorAll('a, audio')].map(
    (found) => found.getAttribute('href') ?? found.getAttribute('src'),
  );
  expect(addresses).toEqual([
    '/h/t/files/pages.pdf?for=ada',
    '/h/t/files/everything.zip?for=ada',
    '/h/t/stand?for=ada&tune=rope',
    '/h/t/files/slow.mp3?for=ada&tune=rope',
    '/h/t/files/part.musicxml?for=ada&tune=rope',
  ]);
});

test('of a group everybody opens their own', () => {
  shown(
    <HandoutScreen
      token="t"
      title="Band"
      date="2027-03-01"
      note={undefined}
      recipients={[one('a', 'Ada'), one('b', '')]}
    />,
  );
  const all = screen.getAllByText(/^(?:Ada|Player 2)$/);
  expect(all.map(({ tagName }) => tagName)).toEqual(['SPAN', 'SPAN']);
  expect(document.querySelectorAll('details[name="whose"]:not([open])')).toHaveLength(2);
});
