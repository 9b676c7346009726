/** @jest-environment jsdom */
import {
  alertText,
  button,
  choose,
  field,
  offered,
  press,
  screen,
  shown,
  waitFor,
  within,
  words,
  write,
} from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { key } from '../../../tests/given';
import { isNote, type Tune } from '../../core/score/tune';
import { TICKS_PER_QUARTER } from '../../core/time/ticks';
import { ToastArea } from '../../ui/Toast';
import { NewDrillSheet } from './NewDrillSheet';
import { NewProgressionSheet, NewTuneSheet } from './NewTuneSheet';
import { ShelfScreen } from './ShelfScreen';
import type { ShelfKind, ShelfTune } from './shelfPages';

const push = jest.fn();
const refresh = jest.fn();
const replace = jest.fn();
// The same object each time, as the framework gives it: a new one would set its effects going again.
const router = { push, refresh, replace };
jest.mock('next/navigation', () => ({ useRouter: () => router, usePathname: () => '/' }));
Object.assign(globalThis, {
  IntersectionObserver: class {
    observe() {}
    disconnect() {}
  },
});
beforeEach(() => [push, refresh, replace].forEach((one) => one.mockClear()));

const LOW: ShelfTune = {
  id: 'low',
  kind: 'tune',
  title: 'Low Water',
  composer: 'The Net Loft',
  keyName: 'G major',
  meter: '4/4',
  bars: 16,
  levels: ['beginner', 'advanced'],
  updatedAt: '2026-05-01T12:00:00.000Z',
};
const RUNGS: ShelfTune = { ...LOW, id: 'rungs', kind: 'drill', title: '', composer: '', bars: 1, levels: [] };
const TURN: ShelfTune = { ...LOW, id: 'turn', kind: 'lick', title: 'The turn', composer: '', bars: 1 };

function opened({
  tunes = [LOW, RUNGS],
  next,
  search = '',
  kind,
}: {
  readonly tunes?: readonly ShelfTune[];
  readonly next?: { readonly title: string; readonly id: string };
  readonly search?: string;
  readonly kind?: ShelfKind;
} = {}) {
  return shown(
    <ToastArea>
      <ShelfScreen studio="The Net Loft" first={{ tunes, ...(next && { next }) }} search={search} kind={kind} />
    </ToastArea>,
  );
}
const rows = () => within(screen.getByRole('list', { name: 'Tunes' })).getAllByRole('listitem');
const made = (json: unknown) => (json as { tune: Tune }).tune;

describe('the shelf', () => {
  test('each document opens where it is worked on, and says what it is and which levels were made', () => {
    opened({ tunes: [LOW, RUNGS, TURN] });
    expect(
      screen.getAllByRole('link').flatMap((link) => link.getAttribute('href')?.match(/^\/tunes.*/)?.[0] ?? []),
    ).toEqual(['/tunes/low/levels', '/tunes/rungs/drills', '/tunes/turn/lick']);
    expect(rows().map((row) => words(row))).toEqual([
      'Low WaterThe Net LoftG major4/4 · 16 barsMade: beginner, advanced',
      'Untitleda drilldrilllaid out by levelNo level made yet',
      'The turna lickG major4/4 · 1 barMade: beginner, advanced',
    ]);
  });

  test('one that is removed is gone at once, told, and restored; a refusal leaves it where it is', async () => {
    let isHeld = true;
    const asked = serverStandIn({
      'DELETE /api/tunes/low': () => (isHeld ? refusal(409, 'Somebody writes in it.') : { json: {} }),
      'POST /api/tunes/low/restore': () => ({ json: {} }),
    });
    const { user } = opened();
    await press(user, 'Remove Low Water');
    expect(await screen.findByText('Somebody writes in it. “Low Water” was not removed.')).toBeTruthy();
    expect(rows().length).toBe(2);
    isHeld = false;
    await press(user, 'Remove Low Water');
    await press(user, 'Restore');
    expect([asked.map(({ method }) => method), refresh.mock.calls.length]).toEqual([['DELETE', 'DELETE', 'POST'], 2]);
  });

  test('a search goes to its own address a moment after the last letter, with the kind that is shown', async () => {
    const { user } = opened({ kind: 'tune' });
    await user.keyboard('/');
    expect(document.activeElement).toBe(screen.getByRole('textbox', { name: /^Search/ }));
    await user.keyboard('low');
    await waitFor(() => expect(replace.mock.calls).toEqual([['/?search=low&kind=tune']]));
  });

  test('kinds are addresses of their own, each with the words that are searched for', () => {
    opened({ search: 'low', kind: 'drill' });
    const kinds = within(screen.getByRole('navigation', { name: 'What is shown' })).getAllByRole('link');
    expect(kinds.map((one) => [words(one), one.getAttribute('href'), one.getAttribute('aria-current')])).toEqual([
      ['All', '/?search=low', null],
      ['Tunes', '/?search=low&kind=tune', null],
      ['Drills', '/?search=low&kind=drill', 'page'],
      ['Licks', '/?search=low&kind=lick', null],
    ]);
  });

  test('nothing found and nothing there are two things; both offer to bring one in', () => {
    opened({ tunes: [], search: 'xyz' });
    expect(words()).toContain('Nothing on the shelf is called “xyz”.');
  });

  test('an empty shelf', async () => {
    opened({ tunes: [] });
    expect(words()).toContain('The shelf is empty.');
    expect(screen.getAllByRole('button', { name: 'Bring in a tune' }).length).toBe(2);
  });

  test('more tunes come after the last one; what cannot be had is said and can be asked for again', async () => {
    let isAway = true;
    const asked = serverStandIn({ 'GET /api/tunes?': () => (isAway ? 'away' : { json: { tunes: [TURN, LOW] } }) });
    const { user } = opened({ next: { title: 'Low Water', id: 'low' } });
    await press(user, 'Show more tunes');
    expect([alertText(), rows().length]).toEqual(['The program does not answer.', 2]);
    isAway = false;
    await press(user, 'Show more tunes');
    // What came twice because the shelf moved meanwhile stands once.
    expect(rows().length).toBe(3);
    expect([
      new URLSearchParams(asked[1]?.path.split('?')[1]).get('afterId'),
      screen.queryByText('Show more tunes'),
    ]).toEqual(['low', null]);
  });

  test('a lick is begun where licks are shown', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'l1' } }) });
    const { user } = opened({ kind: 'lick', tunes: [TURN] });
    await press(user, 'New lick');
    expect([made(asked[0]?.json).lick, made(asked[0]?.json).bars.length, push.mock.calls]).toEqual([
      {},
      2,
      [['/tunes/l1/tune']],
    ]);
  });

  test.each([
    ['New tune', undefined, '/tunes/n1/tune#write'],
    ['New progression', 'C | F | G7 | C', '/tunes/n1/improvise'],
    ['New drill', undefined, '/tunes/n1/drills'],
  ])('%s opens where its work goes on', async (name, chords, address) => {
    serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n1' } }) });
    const { user } = opened();
    await press(user, name);
    if (chords) await user.type(field('Chords'), chords);
    await press(user, 'Save to the shelf');
    expect(push.mock.calls).toEqual([[address]]);
  });
});

describe('a new tune', () => {
  const sheet = (onMade = jest.fn()) => ({
    ...shown(<NewTuneSheet onClose={() => undefined} onMade={onMade} />),
    onMade,
  });

  test('has the key, meter, pickup and bars that were asked for, all of it rests', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n1' } }) });
    const { user, onMade } = sheet();
    await user.type(field('Title'), '  Ebb  ');
    await choose(user, 'Mode', 'dorian');
    await choose(user, 'Key', 'E');
    await choose(user, 'Meter', '6/8');
    await choose(user, 'Pickup', 'a dotted quarter');
    await write(user, 'Bars', '8');
    const tune = made(asked[0]?.json);
    expect([tune.title, tune.key.mode, tune.meter, onMade.mock.calls]).toMatchObject([
      'Ebb',
      'dorian',
      { count: 6, unit: 8 },
      [['n1']],
    ]);
    expect([tune.bars.length, tune.bars[0]?.partial, tune.bars.flatMap(({ events }) => events).some(isNote)]).toEqual([
      9,
      1.5 * TICKS_PER_QUARTER,
      false,
    ]);
  });

  test('pickups as long as a bar are not offered, and one that is too long by now is none', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n1' } }) });
    const { user } = sheet();
    await choose(user, 'Pickup', 'a dotted half');
    await choose(user, 'Meter', '2/4');
    expect([await offered(user, 'Pickup'), words(screen.getByRole('combobox', { name: 'Pickup' }))]).toEqual([
      ['none', 'an eighth', 'a quarter', 'a dotted quarter'],
      'none',
    ]);
    await press(user, 'Save to the shelf');
    expect(made(asked[0]?.json).bars[0]?.partial).toBeUndefined();
  });

  test('a mode that has no such key takes one that it has', async () => {
    const { user } = sheet();
    await choose(user, 'Key', /^G♭/);
    await choose(user, 'Mode', 'locrian');
    const now = words(screen.getByRole('combobox', { name: 'Key' }));
    expect((await offered(user, 'Key')).some((name) => name.startsWith(now))).toBe(true);
    expect(now).not.toBe('');
  });

  test.each(['0', '', 'many', '1000', '1.5'])(
    'with %p bars it says what is possible and makes nothing',
    async (bars) => {
      const { user } = sheet();
      await user.clear(field('Bars'));
      if (bars) await user.type(field('Bars'), bars);
      const isReady = !screen.getByRole<HTMLButtonElement>('button', { name: 'Save to the shelf' }).disabled;
      // The field takes three signs: of a thousand it keeps a hundred.
      expect([isReady, alertText() !== undefined]).toEqual(bars === '1000' ? [true, false] : [false, true]);
    },
  );

  test('a refusal keeps the sheet with all that was written', async () => {
    serverStandIn({ 'POST /api/tunes/new': () => refusal(422, 'The shelf is full.') });
    const { user, onMade } = sheet();
    await user.type(field('Title'), 'Ebb');
    await press(user, 'Save to the shelf');
    expect([alertText(), field('Title').value, onMade.mock.calls]).toEqual([
      'The shelf is full. Nothing was saved yet; please try again.',
      'Ebb',
      [],
    ]);
  });
});

describe('a new progression', () => {
  const sheet = () => shown(<NewProgressionSheet onClose={() => undefined} onMade={() => undefined} />);
  const keyNow = () =>
    `${words(screen.getByRole('combobox', { name: 'Key' }))} ${words(screen.getByRole('combobox', { name: 'Mode' }))}`;

  test('the key is the one that the chords speak for, until somebody says another', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n1' } }) });
    const { user } = sheet();
    await user.type(field('Chords'), 'Fm7 | Bb7 | Ebmaj7 | %');
    expect([keyNow(), words()]).toEqual(['E♭ major', expect.stringContaining('4 bars')]);
    await choose(user, 'Key', /^B♭/);
    await user.type(field('Chords'), ' | Am7 | D7 | Gmaj7 | %');
    expect(keyNow()).toBe('B♭ major');
    await press(user, 'Save to the shelf');
    const tune = made(asked[0]?.json);
    expect([tune.bars.length, tune.key, tune.bars.every(({ chords }) => chords.length === 1)]).toEqual([
      8,
      key('Bb'),
      true,
    ]);
  });

  test('what cannot be read is said bar by bar, and nothing can be saved', async () => {
    const { user } = sheet();
    const save = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Save to the shelf' });
    expect(save().disabled).toBe(true);
    await user.type(field('Chords'), 'C | Hm7 | G7 | Xx');
    expect([alertText()?.match(/bar 2/) !== null, alertText()?.match(/bar 4/) !== null, save().disabled]).toEqual([
      true,
      true,
      true,
    ]);
    await user.clear(field('Chords'));
    await user.type(field('Chords'), 'C');
    expect([alertText(), save().disabled, words().includes('1 bar')]).toEqual([undefined, false, true]);
  });
});

describe('a new drill', () => {
  test('is one sentence: a pattern through a set; patterns over a tune wait for a tune', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'd1' } }) });
    const onMade = jest.fn();
    const { user } = shown(<NewDrillSheet onClose={() => undefined} onMade={onMade} />);
    expect((await offered(user, 'Pattern')).some((name) => /over a tune$/.test(name))).toBe(false);
    await choose(user, 'Pattern', 'Triads');
    await choose(user, 'Set', 'dorian');
    await press(user, 'Save to the shelf');
    expect([made(asked[0]?.json).drill?.steps, onMade.mock.calls]).toEqual([
      [{ set: 'dorian', pattern: 'triads' }],
      [['d1']],
    ]);
  });

  test('a refusal is told on the sheet', async () => {
    serverStandIn({ 'POST /api/tunes/new': () => 'away' });
    const { user } = shown(<NewDrillSheet onClose={() => undefined} onMade={() => undefined} />);
    await press(user, 'Save to the shelf');
    expect([alertText(), button('Save to the shelf')]).toEqual([
      'The program does not answer. Nothing was saved yet; please try again.',
      expect.anything(),
    ]);
  });
});
