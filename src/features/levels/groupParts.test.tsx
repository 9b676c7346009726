/** @jest-environment jsdom */
import { alertText, button, choose, press, screen, shown, waitFor, within, words } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { tuneOf } from '../../../tests/given';
import { storedWork } from '../../core/work/stored/upgradeRecipe';
import { FIRST_RECIPES } from '../../core/work/recipe';
import type { SavedRecipe } from '../../core/work/savedRecipe';
import type { Work } from '../../core/work/work';
import { GroupPartsScreen } from './GroupPartsScreen';
import { GroupSounds } from './GroupSounds';

const refresh = jest.fn();
const router = { refresh, push: () => undefined };
jest.mock('next/navigation', () => ({ useRouter: () => router, usePathname: () => '/' }));
beforeEach(() => refresh.mockClear());

const row = (more: object) => ({
  id: 'p1',
  name: 'Ada',
  level: 'beginner' as const,
  instrument: 'Flute',
  reads: 'C major',
  sounds: 'C major',
  perMinute: 60,
  range: 'G4 to D5',
  difficulty: 'right',
  attention: [],
  ...more,
});
const SHEET = {
  rows: [
    row({}),
    row({ id: 'p2', name: '', instrument: 'Horn in F', reads: 'G major', level: 'advanced' }),
    row({ id: 'p3', name: 'Cy', perMinute: 0, attention: ['two notes are out of reach', 'no fingering for C♯7'] }),
  ],
  sets: [
    { levels: ['beginner', 'intermediate'] as const, key: 'C major', perMinute: 60, apart: '' },
    { levels: ['advanced'] as const, key: 'C major', perMinute: 96, apart: 'tempo' },
  ],
};
const NAMED: readonly SavedRecipe[] = [
  { id: 'r1', name: 'First-years', level: 'beginner', wishes: { rhythm: { shortest: 'half' } } },
  { id: 'r2', name: 'Autumn', level: 'advanced', wishes: { embellish: { density: 60 } } },
];
const work: Work = { tune: tuneOf('CDEF GABc|c8|'), recipes: {} };

function parts({ sheet = SHEET, rights = 'own' as const, saved = [] as readonly SavedRecipe[] } = {}) {
  return shown(
    <GroupPartsScreen
      id="t1"
      groupId="g1"
      title="Low Water"
      rights={rights}
      groupName="Thursday"
      sheet={sheet}
      saved={saved}
      recipes={FIRST_RECIPES}
    />,
  );
}
const link = (name: string) => screen.getByRole('link', { name }).getAttribute('href');

describe('parts for a group', () => {
  test('a row a player: what is read and what sounds, and what needs checking', () => {
    parts();
    const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1);
    expect(rows.map((one) => words(one))).toEqual([
      'AdaBeginnerFluteC major60G4 to D5rightnothingPrint',
      'Player 2AdvancedHorn in FG major (sounds C major)60G4 to D5rightnothingPrint',
      'CyBeginnerFluteC majorG4 to D5righttwo notes are out of reach; no fingering for C♯7Print',
    ]);
    expect(words()).toContain('3 parts, each at the player’s level'.replace('’', "'"));
    expect(words()).toContain('One part needs checking.');
  });

  test('who plays together, and what keeps the others apart', () => {
    parts();
    const sets = within(screen.getByRole('region', { name: 'Who plays together' })).getAllByRole('listitem');
    expect(sets.map((one) => words(one))).toEqual([
      'Beginner and Intermediate: C major sounding, 60 a minute.',
      'Advanced: C major sounding, 96 a minute — not with the first: tempo.',
    ]);
  });

  test('every file goes by the paper that was chosen', async () => {
    const { user } = parts();
    expect([link('Score'), link('Print Ada')]).toEqual([
      '/api/tunes/t1/groups/g1/score.pdf?paper=a4',
      '/api/tunes/t1/groups/g1/p1.pdf?paper=a4',
    ]);
    await choose(user, 'Paper', 'Letter');
    expect([link('All in one PDF'), link('All as PDF'), link('All as MusicXML'), link('Print player 2')]).toEqual([
      '/api/tunes/t1/groups/g1/all.pdf?paper=letter',
      '/api/tunes/t1/groups/g1/all.pdf.zip?paper=letter',
      '/api/tunes/t1/groups/g1/all.musicxml.zip',
      '/api/tunes/t1/groups/g1/p2.pdf?paper=letter',
    ]);
  });

  test.each([
    ['unknown', true],
    ['not-cleared', true],
    ['own', false],
    ['public-domain', false],
  ] as const)('with rights %s the word about permission stands there: %s', (rights, isThere) => {
    parts({ rights: rights as never });
    expect(words().includes('may need permission where you live')).toBe(isThere);
  });

  test('nobody in the group is said with the way to add somebody', () => {
    parts({ sheet: { rows: [], sets: [] } });
    expect([link('Add players'), words().includes('No part needs checking.')]).toEqual(['/groups', true]);
  });
});

describe('recipes for a whole group', () => {
  const stored = () => ({ json: { version: 3, work: storedWork(work) } });

  test('levels that somebody plays take named recipes together, on top of what is saved', async () => {
    const asked = serverStandIn({ 'GET /api/tunes/t1': stored, 'PUT /api/tunes/t1': () => ({ json: { version: 4 } }) });
    const { user } = parts({ saved: NAMED });
    const use = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Use (it|them) for the group$/ });
    expect([use().disabled, screen.queryByRole('combobox', { name: 'Intermediate: recipe for the group' })]).toEqual([
      true,
      null,
    ]);
    await choose(user, 'Beginner: recipe for the group', 'First-years');
    expect(words(use())).toBe('Use it for the group');
    await choose(user, 'Advanced: recipe for the group', 'Autumn');
    expect(words(use())).toBe('Use them for the group');
    await user.click(use());
    await waitFor(() => expect(refresh.mock.calls.length).toBe(1));
    const put = asked.find(({ method }) => method === 'PUT')?.json as { version: number; work: Work };
    expect([put.version, put.work.recipes.beginner?.rhythm, put.work.recipes.advanced?.embellish]).toEqual([
      3,
      { shortest: 'half' },
      { density: 60 },
    ]);
  });

  test('somebody saved in between: it is made anew on top of that', async () => {
    let tries = 0;
    const asked = serverStandIn({
      'GET /api/tunes/t1': stored,
      'PUT /api/tunes/t1': () => ((tries += 1) === 1 ? refusal(409, 'Too late.') : { json: { version: 5 } }),
    });
    const { user } = parts({ saved: NAMED });
    await choose(user, 'Beginner: recipe for the group', 'First-years');
    await press(user, 'Use it for the group');
    await waitFor(() => expect(refresh.mock.calls.length).toBe(1));
    expect(asked.map(({ method }) => method)).toEqual(['GET', 'PUT', 'GET', 'PUT']);
  });

  test('a refusal is told and what was chosen stays', async () => {
    serverStandIn({ 'GET /api/tunes/t1': () => refusal(404, 'The tune is gone.') });
    const { user } = parts({ saved: NAMED });
    await choose(user, 'Beginner: recipe for the group', 'First-years');
    await press(user, 'Use it for the group');
    await waitFor(() => expect(alertText()).toBe('The tune is gone. Nothing was changed.'));
    expect(words(screen.getByRole('combobox', { name: 'Beginner: recipe for the group' }))).toBe('First-years');
  });

  test('without named recipes there is nothing to choose', () => {
    parts();
    expect(screen.queryByRole('region', { name: 'Recipes' })).toBeNull();
  });
});

describe('everybody’s sounds', () => {
  /** An answer that comes in pieces, each let go of by the test. */
  function inPieces(of: number) {
    const waiting: ((piece: { done: boolean; value?: Uint8Array }) => void)[] = [];
    let isAborted = false;
    globalThis.fetch = async (_, init) =>
      ({
        ok: true,
        headers: { get: () => String(of) },
        body: {
          getReader: () => ({
            read: () =>
              new Promise((done, fail) => {
                waiting.push(done as never);
                init?.signal?.addEventListener('abort', () => {
                  isAborted = true;
                  fail(new Error('aborted'));
                });
              }),
          }),
        },
      }) as never;
    return {
      give: async (piece: { done: boolean; value?: Uint8Array }) => {
        await waitFor(() => expect(waiting.length).toBeGreaterThan(0));
        waiting.shift()?.(piece);
      },
      isAborted: () => isAborted,
    };
  }

  test('how far it has come is told; it can be given up, and begun again', async () => {
    const sounds = inPieces(8);
    const { user } = shown(<GroupSounds address="/api/x" name="x.zip" />);
    await press(user, 'All as sound');
    await sounds.give({ done: false, value: new Uint8Array(10) });
    await waitFor(() => expect(words(screen.getByRole('status'))).toBe('0 of 8 sound files'));
    await press(user, 'Stop making sound files');
    await waitFor(() => expect(button('All as sound')).toBeTruthy());
    expect([sounds.isAborted(), alertText()]).toEqual([true, undefined]);
  });

  test('leaving the page gives it up', async () => {
    const sounds = inPieces(8);
    const { user, unmount } = shown(<GroupSounds address="/api/x" name="x.zip" />);
    await press(user, 'All as sound');
    await sounds.give({ done: false, value: new Uint8Array(10) });
    await waitFor(() => expect(words(screen.getByRole('status'))).toBe('0 of 8 sound files'));
    unmount();
    expect(sounds.isAborted()).toBe(true);
  });

  test('when whole it is saved under its name', async () => {
    const sounds = inPieces(1);
    const saved: (readonly [string, number])[] = [];
    Object.assign(URL, { createObjectURL: (blob: Blob) => `blob:${blob.size}`, revokeObjectURL: () => undefined });
    jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function click(this: HTMLAnchorElement) {
      saved.push([this.download, Number(this.href.split(':')[1])]);
    });
    const { user } = shown(<GroupSounds address="/api/x" name="low-water.sounds.zip" />);
    await press(user, 'All as sound');
    await sounds.give({ done: false, value: new Uint8Array(10) });
    await sounds.give({ done: false, value: new Uint8Array(5) });
    await sounds.give({ done: true });
    await waitFor(() => expect(saved).toEqual([['low-water.sounds.zip', 15]]));
  });

  test('a refusal is said in its own words, a broken line in ours', async () => {
    serverStandIn({ 'GET /api/x': () => refusal(503, 'The sounds are being made for somebody else.') });
    const { user } = shown(<GroupSounds address="/api/x" name="x.zip" />);
    await press(user, 'All as sound');
    await waitFor(() => expect(alertText()).toBe('The sounds are being made for somebody else.'));
    serverStandIn({ 'GET /api/x': () => 'away' });
    await press(user, 'All as sound');
    await waitFor(() => expect(alertText()).toBe('The archive broke off: nothing was saved. Please try again.'));
  });
});
