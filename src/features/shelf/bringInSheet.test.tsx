/** @jest-environment jsdom */
import {
  alertText,
  button,
  choose,
  offered,
  screen,
  shown,
  waitFor,
  within,
  words,
  write,
} from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { MAX_BYTES } from '../../core/score/limits';
import { BringInSheet } from './BringInSheet';
import { ImportChoices } from './ImportChoices';
import { previewOf, type Chosen, type FileGuesses } from './importPreview';

/** The worker's own reading, here in the same thread; `started` counts how often it was begun. */
let started = 0;
class NoWorker {
  constructor() {
    started += 1;
  }
  terminate() {}
}
Object.assign(globalThis, { Worker: NoWorker });
jest.mock('comlink', () => ({
  wrap: () => ({
    read: async (bytes: Uint8Array, name: string, chosen: Chosen) => {
      const read = previewOf(bytes, name, chosen);
      return read.ok ? { ok: true, value: read.value.preview } : read;
    },
    rows: async () => ['<svg></svg>'],
  }),
}));
beforeEach(() => {
  started = 0;
});

const ABC = 'X:1\nT:Low Water\nC:The Net Loft\nM:4/4\nL:1/4\nK:G\nGABc|d4|]\n';
const BOOK = `${ABC}\nX:2\nT:Ebb\nM:3/4\nL:1/4\nK:D\nDFA|d3|]\n`;

function opened() {
  const saved = jest.fn();
  const brought = jest.fn();
  const { user, container } = shown(<BringInSheet onClose={() => undefined} onSaved={saved} onBroughtBack={brought} />);
  const paste = async (text: string) => {
    await user.click(screen.getByRole('textbox', { name: /^Paste it here/ }));
    await user.paste(text);
  };
  const pick = async (name: string, data: BlobPart = ABC) => {
    const input = document.querySelector<HTMLInputElement>('input[type="file"]');
    await user.upload(input ?? document.createElement('input'), new File([data], name));
  };
  return { user, container, saved, brought, paste, pick };
}
const save = () => screen.getByRole<HTMLButtonElement>('button', { name: /^(Save to the shelf|Bring it back)$/ });

test('nothing can be saved before something was understood; then title, facts and its first lines are seen', async () => {
  const { paste } = opened();
  expect([save().disabled, words()]).toEqual([true, expect.stringContaining('What was understood is shown here.')]);
  await paste(ABC);
  expect(await screen.findByRole('heading', { name: 'Low Water' })).toBeTruthy();
  expect([save().disabled, words().includes('The Net Loft · G major · 4/4 · 2 bars')]).toEqual([false, true]);
  expect(words()).toContain('All of it was understood.');
});

test('the worker is begun with the first reading, once', async () => {
  const { user, paste } = opened();
  expect(started).toBe(0);
  await paste(ABC);
  await screen.findByRole('heading', { name: 'Low Water' });
  await user.clear(screen.getByRole('textbox', { name: /^Paste it here/ }));
  expect(words()).toContain('What was understood is shown here.');
  await paste(BOOK);
  await screen.findByRole('heading', { name: 'Low Water' });
  expect(started).toBe(1);
});

test('what cannot be read is said line by line, and stays to be corrected', async () => {
  const { paste } = opened();
  await paste('X:1\nM:4/4\nL:1/4\nK:C\nCDEFG|\n');
  await waitFor(() => expect(alertText()).toMatch(/This cannot be read yet.*bar 1/i));
  expect([
    save().disabled,
    screen.getByRole<HTMLTextAreaElement>('textbox', { name: /^Paste/ }).value.includes('CDEFG'),
  ]).toEqual([true, true]);
});

test('what is saved are the bytes that were brought, with what was chosen of them', async () => {
  const asked = serverStandIn({ 'POST /api/tunes?': () => ({ json: { id: 'n1' } }) });
  const { user, saved, paste } = opened();
  await paste(BOOK);
  await screen.findByRole('heading', { name: 'Low Water' });
  await choose(user, 'Tune of the book', 'Ebb');
  expect(await screen.findByRole('heading', { name: 'Ebb' })).toBeTruthy();
  await user.click(save());
  await waitFor(() => expect(saved.mock.calls).toEqual([['n1']]));
  const bytes = asked[0]?.json as Uint8Array;
  expect([new TextDecoder().decode(bytes), new URLSearchParams(asked[0]?.path.split('?')[1]).get('tune')]).toEqual([
    BOOK,
    '2',
  ]);
});

test('a refusal by the server tells why; what was brought is still there', async () => {
  serverStandIn({ 'POST /api/tunes?': () => refusal(422, 'The shelf is full.') });
  const { user, saved, paste } = opened();
  await paste(ABC);
  await screen.findByRole('heading', { name: 'Low Water' });
  await user.click(save());
  await waitFor(() => expect(alertText()).toContain('The shelf is full.'));
  expect([alertText()?.includes('what you brought is still here'), saved.mock.calls.length]).toEqual([true, 0]);
});

test('a file takes the place of the text and gives it back; dropped or picked is the same', async () => {
  const { user, pick } = opened();
  await pick('low.abc');
  expect(await screen.findByRole('heading', { name: 'Low Water' })).toBeTruthy();
  expect(words()).toContain('low.abc');
  await user.click(button('Paste text instead'));
  expect([screen.getByRole('textbox', { name: /^Paste/ }), save().disabled]).toEqual([expect.anything(), true]);
});

test('a file that is larger than is read is refused before it is looked into', async () => {
  const { pick } = opened();
  await pick('huge.abc', new Uint8Array(MAX_BYTES + 1));
  await waitFor(() =>
    expect(alertText()).toMatch(new RegExp(`The file has .* MB; at most ${MAX_BYTES / 1_048_576} MB are read\\.`)),
  );
  expect(started).toBe(0);
});

test('the archive of a studio goes by its name and is brought back as a whole, once', async () => {
  const back = { tunes: 2, groups: 0, pupils: 0, recipes: 0, instruments: 0, already: 0, problems: [] };
  const asked = serverStandIn({ 'POST /api/archive': () => ({ json: back }) });
  const { user, brought, pick } = opened();
  await pick('studio.zip', new Uint8Array([80, 75, 3, 4]));
  expect(await screen.findByRole('heading', { name: 'The archive of a studio' })).toBeTruthy();
  await user.click(button('Bring it back'));
  expect(await screen.findByText('Came back: 2 tunes.')).toBeTruthy();
  expect([asked.length, brought.mock.calls.length, save().disabled, started]).toEqual([1, 1, true, 0]);
});

test('an archive that is none changes nothing and says so', async () => {
  serverStandIn({ 'POST /api/archive': () => refusal(422, 'This is no archive of a studio.') });
  const { user, brought, pick } = opened();
  await pick('other.zip', new Uint8Array([1, 2, 3]));
  await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
  await waitFor(() => expect(alertText()).toContain('Nothing was changed.'));
  expect(brought.mock.calls.length).toBe(0);
});

describe('what can be chosen of a file', () => {
  const one = { tunes: ['Low Water'], tune: 1, lines: [], line: 1, second: undefined } as never;
  const guesses: FileGuesses = {
    meter: { value: '4/4', source: 'file' },
    key: {
      value: 'D',
      name: 'D major',
      source: 'guess',
      others: [
        { value: 'D', name: 'D major' },
        { value: 'Bm', name: 'B minor' },
      ],
    },
    tempo: { value: 96.4, source: 'file' },
    swing: { value: false, source: 'guess' },
    pickup: { value: 0.75, source: 'set' },
    exact: false,
  };
  const choices = (of: Parameters<typeof ImportChoices>[0]['choices'], more?: FileGuesses) => {
    const taken: (readonly [string, string])[] = [];
    const { user } = shown(
      <ImportChoices
        choices={of}
        {...(more && { guesses: more })}
        onChoose={(name, value) => taken.push([name, value])}
      />,
    );
    return { user, taken };
  };

  test('a file with one tune in one line leaves nothing to choose', () => {
    choices(one);
    expect(words()).toBe('');
  });

  test('a line is the melody, another may be the second part; the melody itself is not offered there', async () => {
    const lines = [
      { number: 1, name: 'Flute', notes: 40, range: 'G4 to D6' },
      { number: 2, name: 'Cello', notes: 20, range: 'C2 to G3' },
      { number: 3, name: 'Drums', notes: 0, range: '' },
    ];
    const { user, taken } = choices({ ...(one as object), lines, line: 2 } as never);
    expect(await offered(user, 'Second part')).toEqual(['none', 'Flute40 notes, G4 to D6', 'Drumsrests']);
    await choose(user, 'Melody', /^Flute/);
    await choose(user, 'Second part', /^Drums/);
    expect(taken).toEqual([
      ['line', '1'],
      ['second', '3'],
    ]);
  });

  test('what was guessed says so beside what stood in the file and what was set', () => {
    choices(one, guesses);
    const rows = [...screen.getByRole('region', { name: 'What to take' }).querySelectorAll('p')].map((row) =>
      words(row),
    );
    expect(rows).toEqual([
      'Meter4/4from the file',
      'KeyD majora guess',
      'Tempo quarters a minutefrom the file',
      'Eighthsas playeda guess',
      'Pickup0.75 quartersset by you',
      'It was played by hand: each note was moved to the nearest likely place.',
    ]);
  });

  test('likely keys come first, each key once; a tempo is a figure', async () => {
    const { user, taken } = choices(one, guesses);
    const keys = await offered(user, 'Key');
    expect([keys.slice(0, 2), new Set(keys.map((name) => name.replace(/likely$/, ''))).size === keys.length]).toEqual([
      ['D major', 'B minorlikely'],
      true,
    ]);
    await write(user, 'Quarters a minute', '120');
    await choose(user, 'Pickup', '1 quarter');
    await choose(user, 'Eighths', /^swung/);
    await choose(user, 'Meter', '6/8');
    expect(taken).toEqual([
      ['tempo', '120'],
      ['pickup', '1'],
      ['swing', 'yes'],
      ['meter', '6/8'],
    ]);
  });
});

test('a title that a file lacks, and a book of tunes by number', async () => {
  const { user, paste } = opened();
  await paste(BOOK.replace('T:Ebb\n', '').replace('T:Low Water\n', ''));
  expect(await screen.findByRole('heading', { name: 'Untitled' })).toBeTruthy();
  expect(within(screen.getByRole('region', { name: 'What to take' })).getByText('One of 2 tunes')).toBeTruthy();
  expect(await offered(user, 'Tune of the book')).toEqual(['Number 1', 'Number 2']);
});
