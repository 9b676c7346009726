/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import { alertText, button, choose, field, offered, press, screen, within, words, write } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { instrument, noteName, tuneOf } from '../../../tests/given';
import { drillTune } from '../../core/drills/sketch';
import { PATTERNS } from '../../core/drills/pattern';
import { DRILL_LIMITS, type DrillIdea } from '../../core/score/drillIdea';
import { storedWork } from '../../core/work/stored/upgradeRecipe';
import type { Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import { useDrillKeysStep } from './useDrillKeysStep';
import { useDrillsStep } from './useDrillsStep';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh: () => undefined }) }));
beforeEach(() => push.mockClear());

const THIRDS: DrillIdea = { steps: [{ set: 'major', pattern: 'thirds' }] };
const LADDER: DrillIdea = {
  steps: [
    { set: 'major', pattern: 'scale' },
    { set: 'major', pattern: 'thirds' },
    { set: 'major', pattern: 'triads', rhythm: 'triplet' },
  ],
};
const workOf = (idea: DrillIdea): Work => ({ tune: drillTune(idea), recipes: {} });
const groups = [
  {
    id: 'g',
    group: {
      name: 'Thursday',
      players: [
        { id: '1', name: 'Oda', instrument: 'flute', level: 'beginner' as const },
        { id: '2', name: 'Tam', instrument: 'guitar', level: 'intermediate' as const },
      ],
    },
  },
];
const inGroup = { studio: { groups }, groupId: 'g' };
const open = (idea = THIRDS, options: Parameters<typeof openStep>[2] = {}) => {
  const opened = openStep(useDrillsStep, workOf(idea), { lanes: false, ...options });
  return { ...opened, idea: () => opened.work().tune.drill as DrillIdea };
};
const tab = (name: string) => screen.getByRole('tab', { name });

describe('the sentence of an exercise', () => {
  test('each word changes its own field and nothing else; what goes by level is no wish', async () => {
    const { user, idea, said } = open();
    await choose(user, 'Set', 'dorian');
    await choose(user, 'Direction', 'down and up');
    await choose(user, 'How far', 'over two octaves');
    await choose(user, 'Rhythm', 'triplets');
    expect(idea().steps).toEqual([
      { set: 'dorian', pattern: 'thirds', direction: 'down-up', extent: 'two', rhythm: 'triplet' },
    ]);
    await choose(user, 'How far', 'as far as each level goes');
    await choose(user, 'Rhythm', 'the rhythm of each level');
    expect([idea().steps, said().slice(-2)]).toEqual([
      [{ set: 'dorian', pattern: 'thirds', direction: 'down-up' }],
      ['How far: by level', 'Rhythm: by level'],
    ]);
  });

  test('a cell of one’s own: degrees are read, and what is none is said at the field', async () => {
    const { user, idea } = open();
    await choose(user, 'Pattern', /^A cell of my own/);
    expect(idea().steps[0].pattern).toBe('cell:1 2 3 5');
    await write(user, 'Degrees of the cell', 'do re mi');
    expect([alertText() !== undefined, idea().steps[0].pattern]).toEqual([true, 'cell:1 2 3 5']);
    await write(user, 'Degrees of the cell', '5 3 1');
    expect([alertText(), idea().steps[0].pattern]).toEqual([undefined, 'cell:5 3 1']);
  });

  test('patterns over chords are offered where there is a form, the hand where somebody has frets', async () => {
    const { user } = open();
    const over = PATTERNS.filter(({ pattern }) => pattern.kind === 'chords' || pattern.kind === 'guide-tones').length;
    expect((await offered(user, 'Pattern')).length).toBe(PATTERNS.length - over + 2);
    expect(screen.queryByRole('combobox', { name: 'Hand' })).toBeNull();
  });

  test('for a room with a guitar', async () => {
    const { user, idea } = open(THIRDS, inGroup);
    await choose(user, 'Hand', 'in one shape, moved from key to key');
    expect(idea().steps[0].hand).toBe('shape');
    await choose(user, 'Hand', 'wherever the hand lies best');
    expect(idea().steps[0]).not.toHaveProperty('hand');
  });

  test('a rhythm that is borrowed comes from a tune of the shelf', async () => {
    serverStandIn({
      'GET /api/tunes?search=': () => ({ json: { tunes: [{ id: 'l', title: 'The Lender', meter: '4/4' }] } }),
      'GET /api/tunes/l': () => ({
        json: { version: 1, work: storedWork({ tune: tuneOf('c4 c2c2|c2c2 c4|'), recipes: {} }) },
      }),
    });
    const { user, idea, said } = open();
    await choose(user, 'Rhythm', 'a borrowed rhythm');
    expect(idea().steps[0]).not.toHaveProperty('rhythm');
    await user.click(await screen.findByRole('button', { name: /The Lender/ }));
    expect([idea().steps[0].rhythm, idea().borrowed?.length, said()]).toEqual([
      'borrowed',
      6,
      ['The rhythm of The Lender'],
    ]);
  });
});

describe('the keys', () => {
  test('an order, its first key, a list of one’s own, and by level again', async () => {
    const { user, idea } = open();
    await choose(user, 'Keys', 'round the fourths');
    await choose(user, 'First key, concert', 'E♭');
    expect([idea().keys, idea().start]).toEqual(['fourths', noteName('Eb')]);
    await choose(user, 'First key, concert', 'the easiest key of the level');
    expect(idea()).not.toHaveProperty('start');
    await choose(user, 'Keys', 'in the keys');
    expect([idea().keys, screen.queryByRole('combobox', { name: 'First key, concert' })]).toEqual([
      ['C', 'F', 'G'].map(noteName),
      null,
    ]);
    await write(user, 'Concert tonics', 'C H');
    expect(alertText()).toBe(`Give 1 to ${DRILL_LIMITS.keys} concert tonics, like C F B♭.`);
    await write(user, 'Concert tonics', 'd, Bb F♯');
    expect([idea().keys, alertText()]).toEqual([['D', 'Bb', 'F#'].map(noteName), undefined]);
    await choose(user, 'Keys', 'in as many keys as each level has');
    expect(idea()).not.toHaveProperty('keys');
  });

  test('keys that suit a group are offered where there is one', async () => {
    const { user, idea, said } = open(THIRDS, inGroup);
    await choose(user, 'Keys', 'in keys that suit Thursday');
    expect([Array.isArray(idea().keys), (idea().keys as readonly unknown[]).length, said()]).toEqual([
      true,
      6,
      ['Keys for Thursday'],
    ]);
  });

  test('articulation is said of the whole drill', async () => {
    const { user, idea } = open();
    await choose(user, 'Articulation', 'slurred in fours');
    expect(idea().articulation).toBe('slurred-4');
  });
});

describe('a ladder', () => {
  const patterns = (idea: DrillIdea) => idea.steps.map(({ pattern }) => pattern);

  test('another step is harder than the last; steps change places and go, the last one stays', async () => {
    const { user, idea } = open();
    await press(user, 'Make a ladder: another step');
    await press(user, 'Another step');
    expect(patterns(idea())).toEqual(['thirds', 'up-two-down-one', '1-2-3-5']);
    await press(user, 'Move exercise 3 up');
    await press(user, 'Move exercise 1 down');
    expect(patterns(idea())).toEqual(['1-2-3-5', 'thirds', 'up-two-down-one']);
    await press(user, 'Remove exercise 2');
    await press(user, 'Remove exercise 2');
    expect([patterns(idea()), screen.queryByRole('button', { name: 'Remove exercise 1' })]).toEqual([
      ['1-2-3-5'],
      null,
    ]);
  });

  test('its ends cannot be moved over', () => {
    open(LADDER);
    const isDisabled = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name }).disabled;
    expect(['Move exercise 1 up', 'Move exercise 3 down', 'Move exercise 2 up'].map(isDisabled)).toEqual([
      true,
      true,
      false,
    ]);
  });

  test('when to go on: after rounds without a mistake, or each time', async () => {
    const { user, idea } = open(LADDER);
    await choose(user, 'Rounds without a mistake', '4 rounds');
    expect(idea().movingOn).toEqual({ when: 'mastered', rounds: 4 });
    await choose(user, 'When to go on', /^each time/);
    expect([idea().movingOn?.when, screen.queryByRole('combobox', { name: 'Rounds without a mistake' })]).toEqual([
      'in-turn',
      null,
    ]);
  });

  test('a full ladder takes no more steps', () => {
    const [first] = THIRDS.steps;
    open({ steps: [first, ...Array.from({ length: DRILL_LIMITS.steps - 1 }, () => first)] });
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Another step' }).disabled).toBe(true);
  });
});

describe('patterns and variants', () => {
  test('a pattern from the shelf takes the first step’s place; the others stay', async () => {
    const { user, idea } = open(LADDER);
    const shelf = within(screen.getByRole('tabpanel', { name: 'Patterns' })).getAllByRole('button');
    expect(shelf.filter((one) => one.getAttribute('aria-pressed') === 'true').length).toBe(1);
    const other = shelf.find((one) => words(one) === PATTERNS.find(({ id }) => id === 'sevenths')?.name);
    await user.click(other ?? button('x'));
    expect(idea().steps.map(({ pattern }) => pattern)).toEqual(['sevenths', 'thirds', 'triads']);
  });

  test('what is ticked becomes the steps in the order of the table; too many are refused', async () => {
    const { user, idea, said } = open({ ...THIRDS, spoken: true });
    await user.click(tab('Variants'));
    const box = (name: string) => screen.getByRole('checkbox', { name });
    await user.click(box('eighths, over an octave, down'));
    await user.click(box('quarters, over two octaves, up'));
    await user.click(box('quarters, over five notes, up'));
    await user.click(box('quarters, over five notes, up'));
    await press(user, 'Make them the 2 steps');
    expect([idea().steps, idea().spoken, said()]).toEqual([
      [
        { set: 'major', pattern: 'thirds', rhythm: 'quarter', extent: 'two', direction: 'up' },
        { set: 'major', pattern: 'thirds', rhythm: 'eighth', extent: 'octave', direction: 'down' },
      ],
      true,
      ['2 variants'],
    ]);
    for (const one of screen.getAllByRole<HTMLInputElement>('checkbox').slice(0, DRILL_LIMITS.steps + 2))
      if (!one.checked) await user.click(one);
    expect([/are ticked; a drill has \d+ steps at most/.test(alertText() ?? ''), said().length]).toEqual([true, 1]);
  });
});

describe('paper', () => {
  test('level, paper, names and keys stand in the file that is asked for', async () => {
    const { user, asked } = open();
    await user.click(tab('Paper'));
    await press(user, 'Print');
    await choose(user, 'Level', 'advanced');
    await choose(user, 'Paper', 'Letter');
    await choose(user, 'Names of the keys', /^covered/);
    await choose(user, 'Keys on paper', 'all twelve keys');
    await press(user, 'PDF');
    expect(asked).toEqual(['beginner.pdf?paper=a4', ['advanced.pdf?paper=letter&names=covered&keys=all', true]]);
  });

  test('dates begin today by the calendar on the wall, from another day when said so, and go again', async () => {
    jest.useFakeTimers({
      now: new Date(2026, 4, 3, 23, 30),
      doNotFake: [
        'setTimeout',
        'setInterval',
        'queueMicrotask',
        'nextTick',
        'setImmediate',
        'performance',
        'requestAnimationFrame',
      ],
    });
    const { user, idea } = open();
    await user.click(tab('Paper'));
    await choose(user, 'Dates', 'A key a week');
    expect(idea().dates).toEqual({ every: 'week', from: '2026-05-03' });
    await choose(user, 'Dates', 'A key a day');
    expect(idea().dates).toEqual({ every: 'day', from: '2026-05-03' });
    await choose(user, 'Dates', 'No dates');
    expect(idea()).not.toHaveProperty('dates');
    jest.useRealTimers();
  });

  test('three steps before the music; parts for the group', async () => {
    const { user, idea, asked } = open(THIRDS, inGroup);
    await user.click(tab('Paper'));
    await choose(user, 'Three steps', 'printed');
    await press(user, 'Parts for Thursday');
    expect([idea().spoken, asked]).toEqual([true, ['group/g']]);
  });

  test('a book: drills in the order in which they are ticked, twelve at most', async () => {
    const drills = Array.from({ length: 14 }, (_, k) => ({ id: k === 0 ? 't1' : `d${k}`, title: `Drill ${k}` }));
    serverStandIn({ 'GET /api/drills': () => ({ json: { drills } }) });
    const opened: string[] = [];
    window.open = (address) => {
      opened.push(String(address));
      return null;
    };
    const { user } = open();
    await user.click(tab('Paper'));
    await press(user, /A book of drills/);
    const box = async (name: string) => screen.findByRole<HTMLInputElement>('checkbox', { name });
    await user.click(await box('Drill 3'));
    await user.click(await box('Drill 1'));
    await choose(user, 'Instrument', instrument('oboe').name);
    await press(user, 'Open the book');
    const asked = new URLSearchParams(opened[0]?.split('?')[1]);
    expect([asked.get('ids'), asked.get('instrument'), asked.get('paper')]).toEqual(['t1,d3,d1', 'oboe', 'a4']);
    for (const name of [2, 4, 5, 6, 7, 8, 9, 10, 11]) await user.click(await box(`Drill ${name}`));
    expect([(await box('Drill 12')).disabled, (await box('Drill 11')).disabled]).toEqual([true, false]);
    for (const name of [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]) await user.click(await box(`Drill ${name}`));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Open the book' }).disabled).toBe(true);
  });
});

describe('the keys of a drill, weighed', () => {
  const openKeys = (idea: DrillIdea = THIRDS, options: Parameters<typeof openStep>[2] = {}) => {
    const opened = openStep(useDrillKeysStep, workOf(idea), { lanes: false, ...options });
    return { ...opened, idea: () => opened.work().tune.drill as DrillIdea };
  };
  const order = () =>
    within(screen.getByRole('list', { name: 'Keys in their order' }))
      .getAllByRole('listitem')
      .map((one) => words(one).replace(/^\d+\./, ''));

  test('the easiest keys for all who play are taken together', async () => {
    const { user, idea, said } = openKeys(THIRDS, inGroup);
    await choose(user, 'How many keys', '3 keys');
    await press(user, 'Take these keys');
    expect([(idea().keys as readonly unknown[]).length, said()]).toEqual([3, ['The 3 easiest keys for Thursday']]);
    await choose(user, 'Group', 'the three lanes');
    expect(screen.getByRole('list', { name: 'Keys in their order' })).toBeTruthy();
  });

  test('keys change places, go, and are put in an order; the last one stays', async () => {
    const { user, idea } = openKeys({ ...THIRDS, keys: ['C', 'D', 'G'].map(noteName), start: noteName('C') });
    await press(user, 'D earlier');
    expect(order()).toEqual(['D', 'C', 'G']);
    // The list says where it begins: a first key of its own would say it again.
    expect(idea()).not.toHaveProperty('start');
    await press(user, 'round the fifths');
    expect(order()).toEqual(['D', 'C', 'G']);
    await press(user, 'round the fourths');
    expect(order()).toEqual(['D', 'G', 'C']);
    await press(user, 'Take D out');
    await press(user, 'Take G out');
    expect([order(), screen.getByRole<HTMLButtonElement>('button', { name: 'Take C out' }).disabled]).toEqual([
      ['C'],
      true,
    ]);
  });

  test('each level can have its own again', async () => {
    const { user, idea } = openKeys({ ...THIRDS, keys: 'fourths' });
    await press(user, 'Let each level have its own keys');
    expect([idea(), words()]).toEqual([
      THIRDS,
      expect.stringContaining('Each level goes through its own keys, the easiest first.'),
    ]);
  });

  test('a key of the table is pressed in and out', async () => {
    const { user, idea, said } = openKeys({ ...THIRDS, keys: ['C', 'G'].map(noteName) });
    const table = screen.getByRole('table', { name: /keys/i });
    const pressed = () =>
      within(table)
        .getAllByRole('button')
        .filter((one) => one.getAttribute('aria-pressed') === 'true').length;
    expect(pressed()).toBe(2);
    const others = within(table).getAllByRole('button');
    await user.click(others.find((one) => one.getAttribute('aria-pressed') === 'false') ?? table);
    expect([pressed(), (idea().keys as readonly unknown[]).length]).toEqual([3, 3]);
    for (const one of within(table)
      .getAllByRole('button')
      .filter((key) => key.getAttribute('aria-pressed') === 'true'))
      await user.click(one);
    // A drill goes through one key at least.
    expect([(idea().keys as readonly unknown[]).length, said().length]).toEqual([1, 3]);
  });
});

describe('drills from a tune', () => {
  const tune: Tune = {
    ...tuneOf('"Dm7" d2f2 a2f2|"G7" g2f2 d2B2|"Cmaj7" c2e2 g2e2|"Cmaj7" c8|'),
    title: 'Low Water',
  };
  const openTune = () => openStep(useDrillsStep, { tune, recipes: { beginner: { instrument: 'oboe' } } });

  test('each proposal says why; one that is made is a document for the same instruments', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n1' } }) });
    const { user } = openTune();
    const items = within(screen.getByRole('complementary', { name: 'Drawer' })).getAllByRole('listitem');
    expect(items.length).toBeGreaterThan(1);
    await user.click(within(items[0] ?? document.body).getByRole('button', { name: 'Make this drill' }));
    const { tune: drill, recipes } = asked[0]?.json as { tune: Tune; recipes: Work['recipes'] };
    expect([drill.source, drill.drill !== undefined, recipes.beginner?.instrument, push.mock.calls]).toEqual([
      'From Low Water',
      true,
      'oboe',
      [['/tunes/n1/drills']],
    ]);
  });

  test('a refusal is told, and another try is possible', async () => {
    serverStandIn({ 'POST /api/tunes/new': () => refusal(422, 'The shelf is full.') });
    const { user } = openTune();
    await user.click(screen.getAllByRole('button', { name: 'Make this drill' })[0] ?? button('x'));
    expect([alertText(), push.mock.calls.length]).toEqual([
      'The shelf is full. Nothing was saved; please try again.',
      0,
    ]);
    expect(screen.getAllByRole<HTMLButtonElement>('button', { name: 'Make this drill' })[0]?.disabled).toBe(false);
  });
});

test('a field that is left as it was changes nothing', async () => {
  const { user, said } = open({ ...THIRDS, keys: ['C'].map(noteName) });
  await user.click(field('Concert tonics'));
  await user.tab();
  expect(said()).toEqual([]);
});
