/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import { act, button, choose, press, screen, within, words } from '../../../tests/screen';
import { key, pitch, tuneOf } from '../../../tests/given';
import type { Group } from '../../core/keys/group';
import { recipesOf, type Work } from '../../core/work/work';
import { LEVELS } from '../../core/instruments/instrument';
import { printKey } from '../../core/pitch/key';
import { useKeysStep } from './useKeysStep';

const tune = tuneOf('G2|c2e2 g2c2|B2d2 g2f2|e2c2 G2E2|C6|', 'M:4/4\nL:1/8\nK:C');
const ROOM: Group = {
  name: 'Thursday',
  players: [
    { id: 'p1', name: 'Pell', instrument: 'clarinet-bb', level: 'beginner' },
    { id: 'p2', name: 'Oda', instrument: 'flute', level: 'beginner' },
    { id: 'p3', name: '', instrument: 'flute', level: 'advanced' },
  ],
};
const work: Work = { tune, recipes: {} };
const open = (first = work, options: Parameters<typeof openStep>[2] = {}) => openStep(useKeysStep, first, options);
const withRoom = { studio: { groups: [{ id: 'room', group: ROOM }] }, groupId: 'room' };
const keysNow = (now: Work) => LEVELS.map((level) => printKey(recipesOf(now)[level].keyAndTempo?.key ?? now.tune.key));
const rows = () => within(screen.getByRole('grid')).getAllByRole('row');
const cell = (row: number, column: number) =>
  document.querySelector<HTMLElement>(`[data-cell="${row}/${column}"]`) as HTMLElement;

describe('the table of keys', () => {
  test('a row for each player, twelve keys, the total last; one is best, one is the tune’s own', () => {
    open(work, withRoom);
    const [head = document.body, ...players] = rows();
    const heads = within(head).getAllByRole('columnheader').slice(1);
    expect([players.length, heads.length]).toEqual([4, 12]);
    const marked = (mark: string) =>
      heads.filter((one) => words(one).startsWith(mark) || words(one).includes(`· ${mark}`));
    expect([marked('best').length, heads.filter((one) => /tune/.test(words(one))).length]).toEqual([1, 1]);
    expect(within(players[0] ?? head).getAllByRole('gridcell').length).toBe(12);
    expect(words(players[2])).toContain('Flute');
  });

  test('a key is set for all levels by a press, for one level where that is chosen', async () => {
    const { user, work: now, said } = open();
    await user.click(cell(0, 1));
    const [first, ...others] = keysNow(now());
    expect([others, said()[0]?.startsWith('All levels: ')]).toEqual([[first, first], true]);
    await choose(user, 'Levels whose key changes', 'advanced');
    await user.click(cell(0, 4));
    const [beginner, intermediate, advanced] = keysNow(now());
    expect([beginner, intermediate, advanced === first]).toEqual([first, first, false]);
    expect(said()[1]).toMatch(/^Advanced: /);
  });

  test('arrows, Home and End go through the cells and tell each; Enter takes the key', async () => {
    const { user, work: now } = open(work, withRoom);
    act(() => cell(0, 0).focus());
    await user.keyboard('{ArrowRight}{ArrowDown}');
    expect(document.activeElement).toBe(cell(1, 1));
    expect(words()).toMatch(/Oda, if .* sounds:/);
    await user.keyboard('{End}{ArrowRight}{Home}{ArrowLeft}{ArrowUp}{ArrowUp}{ArrowUp}');
    expect(document.activeElement).toBe(cell(0, 0));
    await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{ArrowDown}{ArrowDown}');
    expect(document.activeElement).toBe(cell(3, 0));
    expect(words()).toMatch(/ for all: /);
    await user.keyboard('{Enter}');
    expect(new Set(keysNow(now())).size).toBe(1);
    expect(cell(0, 0).getAttribute('aria-selected')).toBe('true');
  });

  test('who has gone elsewhere is not fetched back to the table by what changes there', async () => {
    const { user } = open(work, withRoom);
    act(() => cell(0, 0).focus());
    await user.keyboard('{ArrowRight}');
    await press(user, 'Play together');
    expect(document.activeElement).toBe(button('Play together'));
  });

  test('by half steps the keys stand from C up', async () => {
    const { user } = open();
    await choose(user, 'Order of the keys', 'chromatically');
    const names = within(rows()[0] ?? document.body)
      .getAllByRole('columnheader')
      .slice(1)
      .map((one) => words(one).replace(/^(best|tune|rec\.|\s|·)+/, ''));
    expect([names[0], names[2], names[7], names[11]]).toEqual(['C', 'D', 'G', 'B']);
  });

  test('a level that nobody in the group plays says so instead of an empty table', async () => {
    const { user } = open(work, withRoom);
    await choose(user, 'Levels whose key changes', 'intermediate');
    expect(words()).toContain('Nobody plays at this level in the group; choose another level or group.');
  });
});

describe('the recording', () => {
  test('its key is told of every level, marked in the table, and can be unknown again', async () => {
    const { user, work: now } = open();
    await choose(user, 'Key of the recording', /^D major/);
    expect(now().tune.recordingKey).toEqual(key('D'));
    expect(words(rows()[0])).toContain('rec.');
    const told = within(screen.getByRole('region', { name: 'Together' })).getAllByRole('listitem');
    expect(told.filter((one) => /recording/.test(words(one))).map((one) => words(one).split(':')[0])).toEqual([
      'Beginner',
      'Intermediate',
      'Advanced',
    ]);
    await choose(user, 'Key of the recording', 'no known key');
    expect(now().tune).not.toHaveProperty('recordingKey');
  });
});

describe('playing together', () => {
  const apart: Work = {
    tune,
    recipes: {
      beginner: { instrument: 'flute', keyAndTempo: { key: key('D'), perMinute: 60 } },
      intermediate: { instrument: 'flute', keyAndTempo: { perMinute: 90 } },
      advanced: { instrument: 'flute', keyAndTempo: { perMinute: 90 } },
    },
  };

  test('who can play at the same time is told with what keeps the others apart', () => {
    open(apart);
    const together = screen.getByRole('region', { name: 'Together' });
    expect(
      within(together)
        .getAllByRole('listitem')
        .map((one) => words(one)),
    ).toEqual(['Beginner alone: D major, 60 a minute.', 'Intermediate and Advanced together: C major, 90 a minute.']);
    expect(words(together)).toContain('Apart by ');
  });

  test('one press puts all in one key and tempo and tells the price; another gives each its own; undo takes both back', async () => {
    const { user, work: now, said, undo } = open(apart);
    await press(user, 'Play together');
    expect([new Set(keysNow(now())).size, said()]).toEqual([1, ['Play together']]);
    expect(words(screen.getByRole('region', { name: 'Together' }))).toMatch(/All three levels, in /);
    expect(screen.getAllByRole('status').some((one) => words(one).length > 10)).toBe(true);
    await press(user, 'Each level its own');
    expect(said().at(-1)).toBe('Each level its own key, tempo and form');
    undo();
    undo();
    expect(now()).toEqual(apart);
  });

  test('together already costs nothing, and says so', async () => {
    const { user } = open();
    await press(user, 'Play together');
    await press(user, 'Play together');
    expect(words()).toContain('All levels play together as they are.');
  });
});

describe('the accompanist', () => {
  test('players who would say the same share a sentence; all of them are copied', async () => {
    const { user } = open(work, withRoom);
    const sentences = within(screen.getByRole('region', { name: 'Accompanist' })).getAllByRole('listitem');
    expect(sentences.map((one) => words(one).split(':')[0])).toEqual(['Pell', 'Oda', 'flute']);
    await press(user, 'Copy all sentences');
    expect(await screen.findByText('Copied.')).toBeTruthy();
    expect((await navigator.clipboard.readText()).split('\n').map((line) => line.split(':')[0])).toEqual([
      'Pell',
      'Oda',
      'flute',
    ]);
  });

  test('a browser that does not allow it is told', async () => {
    const { user } = open();
    jest.spyOn(navigator.clipboard, 'writeText').mockRejectedValue(new Error('no'));
    await press(user, 'Copy all sentences');
    expect(await screen.findByText('The browser did not let it be copied.')).toBeTruthy();
  });
});

describe('notes out of reach', () => {
  const low = tuneOf('G2|c2e2 g2c2|G,2B,2 d2c2|G,8|', 'M:4/4\nL:1/8\nK:C');
  const known: Work = {
    tune: low,
    recipes: {
      intermediate: {
        instrument: 'flute',
        melody: 'as written',
        limits: { range: { low: pitch('G4'), high: pitch('D5') } },
      },
    },
  };

  test('each has its bar as the tune counts it and four ways out; one that was taken can be taken back', async () => {
    const { user, work: now, said, asked } = open(known);
    const region = () => screen.getByRole('region', { name: 'Out of reach' });
    const [first] = within(region()).queryAllByRole('button', { name: /leave out$/ });
    if (!first) throw new Error('every note is in reach');
    const place = /in bar (\d+)/.exec(first.getAttribute('aria-label') ?? '')?.[1];
    await user.click(first);
    expect(said().at(-1)).toMatch(/: leave out$/);
    // The pickup is bar 0: what was decided is told at the same bar as the note was.
    expect(words(region())).toContain(`bar ${place}: leave out`);
    await user.click(within(region()).getAllByRole('button', { name: `Undo: leave out, bar ${place}` })[0] ?? first);
    expect(LEVELS.every((level) => recipesOf(now())[level].limits?.remedies === undefined)).toBe(true);
    expect(asked).toEqual([]);
  });
});

test('a group is chosen by name, and without groups there is a way to make one', async () => {
  const { user } = open(work, { studio: withRoom.studio });
  expect(words()).toContain('For the three lanes');
  await choose(user, 'Group', 'Thursday');
  expect([rows().length, button('Play together')]).toEqual([5, expect.anything()]);
});

test('without a group the way to one is offered', () => {
  open();
  expect(screen.getByRole('link', { name: 'make one' }).getAttribute('href')).toBe('/groups');
});
