/** @jest-environment jsdom */
import { alertText, choose, field, offered, press, screen, shown, within, words } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { instrument, pitch } from '../../../tests/given';
import { INSTRUMENTS } from '../../core/instruments/catalogue';
import type { CustomInstrument } from '../../core/instruments/customInstrument';
import { printPitch } from '../../core/pitch/pitch';
import { ToastArea } from '../../ui/Toast';
import { ChartScreen, type ChartNote } from './ChartScreen';
import { InstrumentsScreen } from './InstrumentsScreen';
import { WrittenKeysScreen } from './WrittenKeysScreen';

const push = jest.fn();
const router = { push, refresh: () => undefined };
jest.mock('next/navigation', () => ({ useRouter: () => router, usePathname: () => '/instruments' }));
beforeEach(() => push.mockClear());

const NOTES: readonly ChartNote[] = [
  { name: 'G4', level: 'beginner', ways: [{ svg: '<svg></svg>', words: 'three fingers' }] },
  {
    name: 'B♭4',
    level: 'intermediate',
    ways: [
      { svg: '', words: 'a' },
      { svg: '', words: 'b', when: 'in a trill' },
    ],
  },
  { name: 'C♯7', level: 'beyond', ways: [] },
];
const LOW: CustomInstrument = { id: 'own-low', name: 'Low reed', base: 'clarinet-bb' };

function chart({
  id = 'flute',
  custom = undefined as CustomInstrument | undefined,
  systems = [] as Parameters<typeof ChartScreen>[0]['systems'],
} = {}) {
  return shown(
    <ToastArea>
      <ChartScreen id={id} custom={custom} notes={NOTES} systems={systems} system={systems[0]?.id} />
    </ToastArea>,
  );
}
const refill = async (user: ReturnType<typeof chart>['user'], name: string, text: string) => {
  await user.clear(field(name));
  if (text) await user.type(field(name), text);
};

describe('a chart', () => {
  test('notes stand under the level that has them first, with other ways and when; what charts differ in is said', () => {
    chart();
    const sections = ['First notes', 'Then', 'Beyond'].map((name) => words(screen.getByRole('region', { name })));
    expect(sections.map((text) => /G4|B♭4|C♯7/.exec(text)?.[0])).toEqual(['G4', 'B♭4', 'C♯7']);
    expect([sections[1]?.includes('in a trill'), sections[2]?.includes('charts differ: ask the teacher')]).toEqual([
      true,
      true,
    ]);
    const { low, high } = instrument('flute').range.beginner;
    expect(sections[0]).toContain(`${printPitch(low)} to ${printPitch(high)}`);
    expect(screen.queryByRole('region', { name: 'Later' })).toBeNull();
  });

  test('an instrument that is not there shows nothing', () => {
    chart({ id: 'kazoo' });
    expect(words()).toBe('');
  });

  test('other systems of fingering are addresses of their own', () => {
    chart({
      id: 'recorder-descant',
      systems: [
        { id: 'baroque', name: 'baroque' },
        { id: 'german', name: 'german' },
      ] as never,
    });
    const links = screen.getAllByRole('link', { name: /^(Baroque|German)$/ });
    expect(links.map((link) => [link.getAttribute('href'), link.getAttribute('aria-current')])).toEqual([
      ['/instruments/recorder-descant?system=baroque', 'true'],
      ['/instruments/recorder-descant?system=german', null],
    ]);
  });

  test('a custom one is removed, told, and restored as it was', async () => {
    let isUsed = true;
    const asked = serverStandIn({
      'DELETE /api/instruments/own-low': () => (isUsed ? refusal(409, 'Somebody changes it.') : { json: {} }),
      'PUT /api/instruments/own-low': () => ({ json: {} }),
    });
    const { user } = chart({ id: 'own-low', custom: LOW });
    await press(user, 'Remove');
    expect(await screen.findByText('Somebody changes it. “Low reed” was not removed.')).toBeTruthy();
    isUsed = false;
    await press(user, 'Remove');
    await press(user, 'Restore');
    expect([push.mock.calls, asked.at(-1)]).toEqual([
      [['/instruments']],
      { method: 'PUT', path: '/api/instruments/own-low', json: LOW },
    ]);
  });
});

describe('one of one’s own', () => {
  test('begins as what it is made from and is saved under a new id', async () => {
    const asked = serverStandIn({ 'PUT /api/instruments/own-': () => ({ json: {} }) });
    const { user } = chart({ id: 'horn-f' });
    await press(user, 'Make a custom one from it');
    const { range, transposition } = instrument('horn-f');
    expect([
      field('Name').value,
      field('Reads so many half steps above what sounds').value,
      field('Beginner').value,
    ]).toEqual([
      'Horn in F, custom',
      String(transposition.chromatic),
      `${printPitch(range.beginner.low)} ${printPitch(range.beginner.high)}`,
    ]);
    await refill(user, 'Name', 'Hand horn');
    await refill(user, 'Reads so many half steps above what sounds', '-3');
    await press(user, 'Save instrument');
    const made = asked[0]?.json as CustomInstrument;
    expect(made).toMatchObject({
      name: 'Hand horn',
      base: 'horn-f',
      transposition: { chromatic: -3, diatonic: -2 },
      range: { beginner: range.beginner },
    });
    expect([made.id.startsWith('own-'), push.mock.calls, asked[0]?.path]).toEqual([
      true,
      [[`/instruments/${made.id}`]],
      `/api/instruments/${made.id}`,
    ]);
  });

  test.each([
    ['12', 7],
    ['-12', -7],
    ['9', 5],
    ['14', 8],
    ['-1', -1],
    ['0', 0],
  ])('%s half steps are %i letters', async (steps, letters) => {
    const asked = serverStandIn({ 'PUT /api/instruments/own-': () => ({ json: {} }) });
    const { user } = chart();
    await press(user, 'Make a custom one from it');
    await refill(user, 'Reads so many half steps above what sounds', steps);
    await press(user, 'Save instrument');
    expect((asked[0]?.json as CustomInstrument).transposition?.diatonic).toBe(letters);
  });

  test('all that is wrong is said at once, and nothing is sent', async () => {
    const asked = serverStandIn({});
    const { user } = chart({ id: 'guitar' });
    await press(user, 'Make a custom one from it');
    await refill(user, 'Reads so many half steps above what sounds', 'up');
    await refill(user, 'Open strings as written, lowest first', 'E3 X A3');
    await refill(user, 'Advanced', 'E3');
    await press(user, 'Save instrument');
    const said = within(screen.getByRole('alert'))
      .getAllByRole('listitem')
      .map((item) => words(item));
    expect([said, asked.length]).toEqual([
      [
        '"up" is no number of half steps from -48 to 48',
        'the string "X" cannot be read; write letter, sign and octave, like E2',
        'advanced: write the lowest and the highest note, like G3 D5',
      ],
      0,
    ]);
  });

  test('what each field says alone may still not go together: a name, a wide enough range, one inside the next', async () => {
    const { user } = chart();
    await press(user, 'Make a custom one from it');
    await refill(user, 'Name', '  ');
    await refill(user, 'Beginner', 'C5 D5');
    await press(user, 'Save instrument');
    expect([alertText()?.includes('it needs a name'), alertText()?.includes('beginner: the range needs')]).toEqual([
      true,
      true,
    ]);
  });

  test('strings are asked of what has strings', async () => {
    const asked = serverStandIn({ 'PUT /api/instruments/own-': () => ({ json: {} }) });
    const { user } = chart({ id: 'violin' });
    await press(user, 'Make a custom one from it');
    await refill(user, 'Open strings as written, lowest first', 'A3, E4 A4 E5');
    await press(user, 'Save instrument');
    expect((asked[0]?.json as CustomInstrument).strings).toEqual(['A3', 'E4', 'A4', 'E5'].map(pitch));
  });

  test('a change keeps its id and its base; a refusal keeps the sheet', async () => {
    let isFull = true;
    const asked = serverStandIn({
      'PUT /api/instruments/own-low': () => (isFull ? refusal(422, 'There is one of that name.') : { json: {} }),
    });
    const { user } = chart({ id: 'own-low', custom: LOW });
    await press(user, 'Change this one');
    await refill(user, 'Name', 'Lower reed');
    await press(user, 'Save instrument');
    expect([alertText(), field('Name').value]).toEqual([
      'There is one of that name.Nothing was saved yet.',
      'Lower reed',
    ]);
    isFull = false;
    await press(user, 'Save instrument');
    expect([asked.at(-1)?.json, screen.queryByRole('dialog')]).toMatchObject([
      { id: 'own-low', base: 'clarinet-bb', name: 'Lower reed' },
      null,
    ]);
  });
});

describe('everybody’s written key', () => {
  const row = (name: string) => words(screen.getByRole('rowheader', { name }).parentElement ?? document.body);

  test('when a key sounds, each reads its own', async () => {
    const { user } = shown(<WrittenKeysScreen custom={[]} asked="D" />);
    expect([row('Flute'), row('Alto saxophone'), row('Horn in F')]).toEqual([
      'FluteD major2 sharps',
      'Alto saxophoneB major5 sharps',
      'Horn in FA major3 sharps',
    ]);
    await choose(user, 'Mode', 'minor');
    expect([words(screen.getByRole('heading', { level: 1 })), row('Flute')]).toEqual([
      'When D minor sounds',
      'FluteD minor1 flat',
    ]);
    await choose(user, 'Concert key', /^G minor/);
    expect(row('Alto saxophone')).toBe('Alto saxophoneE minor1 sharp');
  });

  test('what is asked for in the address and is no key is B flat; modes with too many signs are not offered', async () => {
    const { user } = shown(<WrittenKeysScreen custom={[LOW]} asked="nonsense" />);
    expect([words(screen.getByRole('heading', { level: 1 })), row('Low reed')]).toEqual([
      'When B♭ major sounds',
      'Low reedC majorno sharps or flats',
    ]);
    await choose(user, 'Concert key', /^G♭ major/);
    expect(await offered(user, 'Mode')).not.toContain('locrian');
  });
});

test('the list: every instrument of the catalogue once, own ones first, each a way to its chart', () => {
  shown(<InstrumentsScreen custom={[LOW]} />);
  const tables = screen.getAllByRole('table');
  const links = within(screen.getByRole('main')).getAllByRole('link');
  expect([
    words(tables[0]?.querySelector('caption') ?? document.body),
    links.length,
    links[0]?.getAttribute('href'),
  ]).toEqual(['Custom', INSTRUMENTS.length + 1, '/instruments/own-low']);
  expect(new Set(links.map((link) => link.getAttribute('href'))).size).toBe(INSTRUMENTS.length + 1);
});
