/** @jest-environment jsdom */
import { act, alertText, button, press, screen, shown, waitFor, within, words } from '../../../tests/screen';
import { refusal, serverStandIn, type Asked } from '../../../tests/serverStandIn';
import { tuneOf } from '../../../tests/given';
import { storedWork } from '../../core/work/stored/upgradeRecipe';
import type { Work } from '../../core/work/work';
import { ToastArea } from '../../ui/Toast';
import type { Bench } from '../work/step';
import { createWorkStore } from '../work/workStore';
import { HistoryDrawer } from './HistoryDrawer';
import type { Revision } from './revisions';

const now: Work = { tune: { ...tuneOf('CDEF GABc|c2e2 g2c2|B2d2 g2f2|'), title: 'Low Water' }, recipes: {} };
const then: Work = { ...now, tune: { ...tuneOf('CDEF GABc|c2e2 g4|B2d2 g2f2|'), title: 'Ebb' } };
const one = (more: Partial<Revision>): Revision => ({
  revision: 1,
  version: 1,
  kind: 'saved',
  name: '',
  what: '',
  savedAt: '2026-05-02T10:00:00.000Z',
  ...more,
});
const LIST: readonly Revision[] = [
  one({ revision: 4, version: 3, what: 'Key D major', savedAt: '2026-05-02T10:00:00.000Z' }),
  one({ revision: 3, version: 2, kind: 'refused', what: 'Title', savedAt: '2026-05-02T09:00:00.000Z' }),
  one({ revision: 2, version: 2, name: 'Spring concert', what: 'Tempo 96', savedAt: '2026-05-01T09:00:00.000Z' }),
  one({ revision: 1, version: 1, savedAt: '2026-05-01T08:00:00.000Z' }),
];

function opened({
  ways = {},
  flush = async () => true,
}: {
  readonly ways?: Parameters<typeof serverStandIn>[0];
  readonly flush?: () => Promise<boolean>;
} = {}) {
  let list = LIST;
  const usual: typeof ways = {
    'GET /api/tunes/t1/history/2/bars': () => ({ json: { svg: '<svg data-of="then"></svg>' } }),
    'GET /api/tunes/t1/history/4/bars': () => ({ json: { svg: '<svg data-of="now"></svg>' } }),
    'GET /api/tunes/t1/history/': () => ({ json: { work: storedWork(then) } }),
    'GET /api/tunes/t1/history': () => ({ json: { revisions: list } }),
    'PUT /api/tunes/t1/history/': ({ path, json }: Asked) => {
      const { name } = json as { name: string };
      list = list.map((revision) => (path.endsWith(`/${revision.revision}`) ? { ...revision, name } : revision));
      return { json: {} };
    },
  };
  // A test's own answers come first and stay.
  const asked = serverStandIn({ ...ways, ...usual, ...ways });
  const store = createWorkStore(now, 'written');
  const bench = { id: 't1', store } as unknown as Bench;
  const closed = jest.fn();
  const { user } = shown(
    <ToastArea>
      <HistoryDrawer bench={bench} onClose={closed} flush={flush} />
    </ToastArea>,
  );
  return { user, asked, store, closed };
}
const line = (text: RegExp) => screen.findByRole('button', { name: text });

test('versions stand by their days, newest first: what each changed, its name, and what was not taken', async () => {
  opened();
  await line(/Key D major/);
  const days = screen.getAllByRole('region').filter((region) => /2026$/.test(region.getAttribute('aria-label') ?? ''));
  expect(days.map((day) => day.getAttribute('aria-label'))).toEqual(['Saturday, 2 May 2026', 'Friday, 1 May 2026']);
  const lines = days.flatMap((day) =>
    within(day)
      .getAllByRole('listitem')
      .map((item) => words(item).replace(/^\d\d:\d\d/, '')),
  );
  expect(lines).toEqual([
    'Key D majornow',
    'not taken, since somebody else had saved: Titleversion 2',
    'Spring concertTempo 96version 2',
    'begunversion 1',
  ]);
});

test('a list that cannot be had says why', async () => {
  opened({ ways: { 'GET /api/tunes/t1/history': () => refusal(503, 'The database is away.') } });
  await waitFor(() => expect(alertText()).toBe('The database is away.'));
});

test('it is asked for anew once a change is saved, and not before', async () => {
  const { asked, store } = opened();
  await line(/Key D major/);
  const lists = () => asked.filter(({ path }) => path.endsWith('/history')).length;
  act(() => store.getState().change('Title', { ...now, tune: { ...now.tune, title: 'Lower' } }));
  expect(lists()).toBe(1);
  act(() => store.getState().setSave({ kind: 'saved' }));
  await waitFor(() => expect(lists()).toBe(2));
});

test('the version of now is looked at, and neither compared nor restored', async () => {
  const { user } = opened();
  await user.click(await line(/Key D major/));
  expect([button('Look'), screen.queryByRole('button', { name: 'Restore' })]).toEqual([expect.anything(), null]);
  expect(screen.queryByRole('button', { name: 'Compare with now' })).toBeNull();
  await user.click(await line(/Key D major/));
  expect(screen.queryByRole('button', { name: 'Look' })).toBeNull();
});

test('restoring is a change like any other: told, in the history, and taken back by undo', async () => {
  const { user, store } = opened();
  await user.click(await line(/Spring concert/));
  await press(user, 'Restore');
  expect(await screen.findByText('Version 2 is here again. Undo takes you back.')).toBeTruthy();
  expect([store.getState().document.tune.title, store.getState().past.map(({ name }) => name)]).toEqual([
    'Ebb',
    ['version 2 restored'],
  ]);
  act(() => store.getState().undo());
  expect(store.getState().document).toBe(now);
});

test('looking draws the whole tune as it was; from there it can be restored', async () => {
  const { user, store, asked } = opened();
  await user.click(await line(/Spring concert/));
  await press(user, 'Look');
  const sheet = await screen.findByRole('dialog', { name: 'Ebb, version 2' });
  await within(sheet).findByRole('img', { name: 'Version 2: bars 1 to 3 of the page' });
  expect(asked.some(({ path }) => /history\/2\/bars\?from=0&to=3&/.test(path))).toBe(true);
  await user.click(within(sheet).getByRole('button', { name: 'Restore version 2' }));
  expect([store.getState().document.tune.title, screen.queryByRole('dialog')]).toEqual(['Ebb', null]);
});

test('comparing saves first, then tells the head in words and the bars side by side', async () => {
  const flushed = jest.fn(async () => true);
  const { user } = opened({ flush: flushed });
  await user.click(await line(/Spring concert/));
  await press(user, 'Compare with now');
  const sheet = await screen.findByRole('dialog', { name: 'Version 2 and now' });
  expect(flushed.mock.calls.length).toBe(1);
  expect(words(within(sheet).getByRole('region', { name: 'Differences' }))).toMatch(
    /title: Ebb → Low Water.*Bar 2 changed/,
  );
  await within(sheet).findByRole('img', { name: 'Then: bar 2 of the page' });
  await within(sheet).findByRole('img', { name: 'Now: bar 2 of the page' });
});

test('what cannot be saved cannot be compared, and says so', async () => {
  const { user } = opened({ flush: async () => false });
  await user.click(await line(/Spring concert/));
  await press(user, 'Compare with now');
  expect(await screen.findByText('The tune could not be saved, so there is nothing to compare with.')).toBeTruthy();
  expect(screen.queryByRole('dialog')).toBeNull();
});

test('a version that is gone is told, and nothing is changed', async () => {
  const { user, store } = opened({
    ways: { 'GET /api/tunes/t1/history/2': () => refusal(404, 'There is no such version.') },
  });
  await user.click(await line(/Spring concert/));
  await press(user, 'Restore');
  expect(await screen.findByText('There is no such version.')).toBeTruthy();
  expect(store.getState().document).toBe(now);
});

test('a name keeps a version; a refusal leaves it as it was', async () => {
  let isFull = true;
  const { user, asked } = opened({
    ways: { 'PUT /api/tunes/t1/history/1': () => (isFull ? refusal(422, 'That is too long.') : { json: {} }) },
  });
  await user.click(await line(/begun/));
  await user.type(screen.getByRole('textbox'), '  First  {Enter}');
  expect(await screen.findByText('That is too long. The version has no other name now.')).toBeTruthy();
  isFull = false;
  await user.type(screen.getByRole('textbox'), 'First{Enter}');
  await waitFor(() => expect(asked.filter(({ method }) => method === 'PUT').length).toBe(2));
  expect(asked.find(({ method }) => method === 'PUT')?.json).toEqual({ name: 'First' });
});

test('a picture that cannot be drawn says why in its place', async () => {
  const { user } = opened({ ways: { 'GET /api/tunes/t1/history/2/bars': () => refusal(422, 'It has no bar.') } });
  await user.click(await line(/Spring concert/));
  await press(user, 'Look');
  const sheet = await screen.findByRole('dialog');
  expect((await within(sheet).findByRole('alert')).textContent).toBe('It has no bar.');
});

test('it closes by its button', async () => {
  const { user, closed } = opened();
  await press(user, 'Close');
  expect(closed.mock.calls.length).toBe(1);
});
