/** @jest-environment jsdom */
import { strToU8, zipSync } from 'fflate';
import { button, field, press, screen, shown, within, words } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { ToastArea } from '../../ui/Toast';
import { StudioScreen } from './StudioScreen';
import { daysLeft, type BinItem } from './studioWords';

const refresh = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh }), usePathname: () => '/studio' }));
beforeEach(() => refresh.mockClear());

const NOW = '2026-05-01T12:00:00.000Z';
const BIN: readonly BinItem[] = [
  { kind: 'tune', id: 't1', name: 'Low Water', until: '2026-05-11T12:00:00.000Z' },
  { kind: 'group', id: 'g1', name: '', until: '2026-05-01T13:00:00.000Z' },
];

function opened(bin = BIN, { parts = 1, more = 0 } = {}) {
  return shown(
    <ToastArea>
      <StudioScreen studio="The Net Loft" parts={parts} bin={bin} more={more} now={NOW} />
    </ToastArea>,
  );
}

test('what lies in the bin: its kind, its name, and how long it can be restored', () => {
  opened();
  const rows = within(screen.getByRole('region', { name: 'Bin' })).getAllByRole('listitem');
  expect(rows.map((row) => words(row))).toEqual([
    'tuneLow Water10 more daysRestoreDelete',
    'groupUntitledone more dayRestoreDelete',
  ]);
});

test.each([
  ['2026-05-01T12:00:00.001Z', 'one more day'],
  ['2026-05-01T12:00:00.000Z', 'deleted today'],
  ['2026-04-30T12:00:00.000Z', 'deleted today'],
  ['2026-05-02T12:00:00.001Z', '2 more days'],
])('until %s it says: %s', (until, expected) => {
  expect(daysLeft(until, NOW)).toBe(expected);
});

test('an empty bin says so', () => {
  opened([]);
  expect(words(screen.getByRole('region', { name: 'Bin' }))).toContain('The bin is empty.');
});

test('restoring asks the server for just this one and tells what it said', async () => {
  let isFull = true;
  const asked = serverStandIn({
    'POST /api/bin/': () => (isFull ? refusal(409, 'The shelf is full.') : { json: {} }),
  });
  const { user } = opened();
  await press(user, 'Restore Low Water');
  expect(await screen.findByText('The shelf is full. (“Low Water”)')).toBeTruthy();
  isFull = false;
  await press(user, 'Restore Untitled');
  expect(await screen.findByText('“Untitled” was restored.')).toBeTruthy();
  expect([asked.map(({ method, path }) => `${method} ${path}`), refresh.mock.calls.length]).toEqual([
    ['POST /api/bin/tune/t1', 'POST /api/bin/group/g1'],
    2,
  ]);
});

test('deleting for good is asked about first and can be kept; another row asked about takes the question with it', async () => {
  const asked = serverStandIn({ 'DELETE /api/bin/': () => ({ json: {} }) });
  const { user } = opened();
  await press(user, 'Delete Low Water');
  expect(words()).toContain('For good?');
  await press(user, 'Keep');
  expect([asked.length, words().includes('For good?')]).toEqual([0, false]);
  await press(user, 'Delete Low Water');
  await press(user, 'Delete Untitled');
  expect(screen.getAllByText('For good?').length).toBe(1);
  await press(user, 'Delete');
  expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual(['DELETE /api/bin/group/g1']);
});

test('a name is deleted everywhere: how many had it, and that older files still hold it', async () => {
  const asked = serverStandIn({ 'DELETE /api/names': () => ({ json: { players: 2 } }) });
  const { user } = opened();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Delete everywhere' }).disabled).toBe(true);
  await user.type(field('The name to delete'), 'Ada');
  await press(user, 'Delete everywhere');
  expect(words()).toContain(
    'The name was taken from 2 players. Backups and files that were made before still hold it.',
  );
  expect([asked[0]?.json, field('The name to delete').value, refresh.mock.calls.length]).toEqual([
    { name: 'Ada' },
    '',
    1,
  ]);
});

test('a name that nobody took away stays in its field, with what was wrong', async () => {
  serverStandIn({ 'DELETE /api/names': () => 'away' });
  const { user } = opened();
  await user.type(field('The name to delete'), 'Ada{Enter}');
  expect([words().includes('The program does not answer.'), field('The name to delete').value]).toEqual([true, 'Ada']);
});

test('an archive is brought back: what came, what was there, what could not be read; a file that is none changes nothing', async () => {
  let isArchive = true;
  const asked = serverStandIn({
    'POST /api/archive': () =>
      isArchive
        ? {
            json: {
              tunes: 2,
              groups: 1,
              pupils: 0,
              recipes: 0,
              instruments: 0,
              already: 1,
              problems: ['tunes/x.json is no tune'],
            },
          }
        : refusal(422, 'This is no archive.'),
  });
  const { user } = opened();
  const take = async (text: string) =>
    user.upload(screen.getByLabelText<HTMLInputElement>('An archive to bring back'), new File([text], 'studio.zip'));
  await take('zip');
  const list = () =>
    within(screen.getByRole('region', { name: 'Everything in one archive' }))
      .getAllByRole('listitem')
      .map((item) => words(item));
  expect(await screen.findByText('Came back: 2 tunes, 1 group.')).toBeTruthy();
  expect([list(), asked.length]).toEqual([
    ['Came back: 2 tunes, 1 group.', '1 was there already, and left as it is.', 'Not read: tunes/x.json is no tune'],
    1,
  ]);
  isArchive = false;
  await take('no zip');
  expect(await screen.findByText('This is no archive.')).toBeTruthy();
  expect([list()[1], button(/Bring back an archive/)]).toEqual(['Nothing was changed.', expect.anything()]);
});

/** What the server sends as an export. */
function exporting(files: Readonly<Record<string, string>>) {
  const asked: string[] = [];
  const zip = zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
  globalThis.fetch = (path) => {
    asked.push(String(path));
    const pieces = [{ done: false, value: zip }, { done: true }];
    const answer = {
      ok: true,
      status: 200,
      headers: new Headers({ 'x-reed-files': '3', 'content-disposition': 'attachment; filename="studio.zip"' }),
      body: { getReader: () => ({ read: () => Promise.resolve(pieces.shift()) }) },
    };
    return Promise.resolve(answer as unknown as Response);
  };
  return asked;
}

describe('exporting everything', () => {
  const saved: string[] = [];
  beforeEach(() => {
    saved.length = 0;
    URL.createObjectURL = () => 'blob:studio';
    URL.revokeObjectURL = () => undefined;
    jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      saved.push(this.download);
    });
  });
  afterEach(() => jest.restoreAllMocks());
  const told = () => words(screen.getByRole('region', { name: 'Everything in one archive' }));

  test('what is whole is said to be', async () => {
    const asked = exporting({ 'tunes/a.reed.json': '{}' });
    const { user } = opened();
    await press(user, 'Export everything');
    expect(await screen.findByText('Exported, all of it.')).toBeTruthy();
    expect([asked, saved]).toEqual([['/api/archive?part=1'], ['studio.zip']]);
  });

  test('what was damaged is named, in the words of the archive', async () => {
    exporting({ 'tunes/a.reed.json': '{}', 'left-out.json': '["The tune “Low Water” is damaged: no bars."]' });
    const { user } = opened();
    await press(user, 'Export everything');
    expect(await screen.findByText('The tune “Low Water” is damaged: no bars.')).toBeTruthy();
    expect(told()).toContain('Exported, except for what is listed here.');
  });

  test('a large studio is exported part by part, and says so', async () => {
    const asked = exporting({ 'tunes/a.reed.json': '{}' });
    const { user } = opened(BIN, { parts: 2 });
    await press(user, 'Export part 2 of 2');
    expect(await screen.findByText('Exported, all of it.')).toBeTruthy();
    expect([asked, told().includes('exported in 2 archives')]).toEqual([['/api/archive?part=2'], true]);
  });
});

test('what of the bin is not listed is counted', () => {
  opened(BIN, { more: 3 });
  expect(words(screen.getByRole('region', { name: 'Bin' }))).toContain('3 more things are in the bin.');
});

test('? opens the help, and not while something is typed', async () => {
  const { user } = opened();
  await user.type(field('The name to delete'), '?');
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.tab();
  (document.activeElement as HTMLElement | null)?.blur();
  await user.keyboard('?');
  expect(screen.getByRole('dialog')).toBeTruthy();
});
