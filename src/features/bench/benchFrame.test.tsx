/** @jest-environment jsdom */
import { act, alertText, button, press, screen, shown, waitFor, within, words } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { playerStandIn } from '../../../tests/playerStandIn';
import { tuneOf } from '../../../tests/given';
import { drillTune } from '../../core/drills/sketch';
import type { Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import { lanesFor } from '../../engrave/lanes';
import type { Saver } from '../work/document/saver';
import type { Bench, ViewContent } from '../work/step';
import { createWorkStore } from '../work/workStore';
import { BenchFoot } from './BenchFoot';
import { BenchHeader } from './BenchHeader';
import type { BenchStep } from './steps';
import { WorkConflict } from './WorkConflict';

jest.mock('../work/sound/player', () => ({
  Player: function Player() {
    return playerStandIn().player;
  },
}));

const tune: Tune = { ...tuneOf('G2|c2e2 g2c2|B2d2 g2f2|c6|'), title: 'Low Water', composer: 'The Net Loft' };
const lick: Tune = { ...tune, lick: {} };

function header(of: Tune = tune, step: BenchStep = 'levels') {
  const store = createWorkStore({ tune: of, recipes: {} }, 'written');
  const asked: string[] = [];
  const steps: string[] = [];
  const onHistory = jest.fn();
  const bench = { id: 't1', store, openPage: (page: string) => asked.push(page) } as unknown as Bench;
  const { user } = shown(
    <BenchHeader
      bench={bench}
      step={step}
      onStep={(next) => steps.push(next)}
      onHistory={onHistory}
      onVersions={() => steps.push('versions')}
      versionsOpen={false}
    />,
  );
  return { user, store, asked, steps, onHistory };
}
const stepLinks = () => within(screen.getByRole('navigation', { name: 'Steps' })).getAllByRole('link');

describe('the head of the bench', () => {
  test('what is worked on: who wrote it, its bars and pickup, its meter and key', () => {
    header();
    expect([words(screen.getByRole('heading')), words()]).toEqual([
      'Low Water',
      expect.stringContaining('The Net Loft · 3 bars and a pickup · 4/4 · C major'),
    ]);
  });

  test('one bar is a bar', () => {
    header({ ...tune, bars: tune.bars.slice(1, 2) });
    expect(words()).toContain('The Net Loft · 1 bar · 4/4 · C major');
  });

  test.each<readonly [string, Tune, readonly string[]]>([
    ['a tune', tune, ['Tune', 'Keys', 'Levels', 'Together', 'Improvise', 'Solo', 'Drills']],
    ['a drill', drillTune({ steps: [{ set: 'major', pattern: 'thirds' }] }), ['Drill', 'Keys', 'Levels']],
    ['a lick', lick, ['Lick', 'Tune', 'Levels']],
  ])('%s has its own steps', (_, of, expected) => {
    header(of);
    expect(stepLinks().map((link) => words(link))).toEqual(expected);
  });

  test('a ladder says how many exercises it has', () => {
    const step = { set: 'major', pattern: 'thirds' } as const;
    header(drillTune({ steps: [step, step, step] }));
    expect(words()).toContain('a ladder of 3 exercises');
  });

  test('a step opens here by a press, and as a page of its own where the browser is asked for one', async () => {
    const { user, steps } = header();
    const [first, second] = stepLinks();
    await user.click(second ?? button('x'));
    expect([steps, first?.getAttribute('href'), stepLinks()[2]?.getAttribute('aria-current')]).toEqual([
      ['keys'],
      '/tunes/t1/tune',
      'step',
    ]);
    first?.addEventListener('click', (event) => event.preventDefault());
    await user.keyboard('{Control>}');
    await user.click(first ?? button('x'));
    await user.keyboard('{/Control}');
    expect(steps).toEqual(['keys']);
  });

  test('rehearsing goes to the picked level, with the solo or the pool where those are open', async () => {
    const levels = header();
    act(() => levels.store.getState().select({ lane: 'advanced', bar: 1 }));
    await press(levels.user, 'Rehearse');
    expect(levels.asked).toEqual(['stand?level=advanced']);
  });

  test.each([
    ['solo', 'stand?level=beginner&what=solo'],
    ['improvise', 'stand?level=beginner&what=pool'],
  ] as const)('from %s', async (step, page) => {
    const { user, asked } = header(tune, step);
    await press(user, 'Rehearse');
    expect(asked).toEqual([page]);
  });

  test('while the tune is written there is nothing to rehearse yet', () => {
    header(tune, 'tune');
    expect(screen.queryByRole('button', { name: 'Rehearse' })).toBeNull();
  });

  test('undo and redo say what; after a click the keys go back to the music, after a key they stay', async () => {
    const { user, store, onHistory } = header();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Nothing to undo' }).disabled).toBe(true);
    act(() => store.getState().change('Title', { tune: { ...tune, title: 'Ebb' }, recipes: {} }));
    await press(user, 'Undo: Title');
    expect([words(screen.getByRole('heading')), onHistory.mock.calls.length]).toEqual(['Low Water', 1]);
    act(() => button('Redo: Title').focus());
    await user.keyboard('{Enter}');
    expect([words(screen.getByRole('heading')), onHistory.mock.calls.length]).toEqual(['Ebb', 1]);
  });

  test('whose pitch is on screen, and the versions', async () => {
    const { user, store, steps } = header();
    await press(user, 'Concert');
    expect([store.getState().view, button('Concert').getAttribute('aria-pressed')]).toEqual(['sounding', 'true']);
    await press(user, 'History: versions of this tune');
    expect(steps).toEqual(['versions']);
  });
});

describe('the foot of the bench', () => {
  function foot(view: Partial<ViewContent> = {}) {
    const store = createWorkStore({ tune, recipes: {} }, 'written');
    const { infos, numbers } = lanesFor({ tune, recipes: {} }, 'written', 900);
    const retried = jest.fn();
    const { user } = shown(
      <BenchFoot
        bench={{ id: 't1', store } as unknown as Bench}
        view={{ drawer: () => null, ...view }}
        infos={infos}
        numbers={numbers}
        onRetry={retried}
      />,
    );
    return { user, store, retried };
  }

  test('where one stands: lane and bar as the tune counts it, and the pitch', () => {
    const { store } = foot();
    expect(words()).toContain('no bar selected · written pitch');
    act(() => store.getState().select({ lane: 'tune', bar: 0 }));
    expect(words()).toContain('pickup, the tune · written pitch');
    act(() => {
      store.getState().select({ lane: 'intermediate', bar: 2 });
      store.getState().setView('sounding');
    });
    expect(words()).toContain('bar 2, intermediate · concert pitch');
  });

  test('a step may say itself where it stands', () => {
    foot({ status: <span>bar 1, beat 2</span> });
    expect([words().includes('bar 1, beat 2'), words().includes('no bar selected')]).toEqual([true, false]);
  });

  test('how saving goes; what is not saved can be tried again', async () => {
    const { user, store, retried } = foot();
    expect(words()).toContain('saved');
    act(() => store.getState().setSave({ kind: 'waiting', message: 'The database is away.' }));
    expect(words()).toContain('Not saved yet: The database is away. Your work is safe in this browser');
    await press(user, 'Try now');
    expect(retried.mock.calls.length).toBe(1);
    act(() => store.getState().setSave({ kind: 'refused', message: 'It is too large.' }));
    expect(words()).toContain('Not saved: It is too large.');
  });
});

describe('two versions of a tune', () => {
  const theirs: Work = {
    tune: { ...tune, title: '', bars: tune.bars.slice(0, 2) },
    recipes: { beginner: { instrument: 'flute' } },
  };
  function conflict(title = 'Low Water') {
    const store = createWorkStore({ tune: { ...tune, title }, recipes: {} }, 'written');
    const said: unknown[] = [];
    const saver = {
      adopt: (version: unknown) => {
        said.push(['adopt', version]);
        store.getState().setSave({ kind: 'saved' });
      },
      overwrite: (version: number) => said.push(['overwrite', version]),
    } as unknown as Saver<Work>;
    const { user } = shown(<WorkConflict store={store} saver={saver} />);
    expect(screen.queryByRole('dialog')).toBeNull();
    act(() => store.getState().setSave({ kind: 'conflict', version: 7, theirs }));
    return { user, said, store };
  }

  test('what each has is told, and there is no way past the question', async () => {
    const { user } = conflict();
    expect(
      within(screen.getByRole('dialog'))
        .getAllByRole('listitem')
        .map((item) => words(item)),
    ).toEqual(['Mine: “Low Water”, 3 bars, 0 levels set', 'Saved elsewhere: “Untitled”, 1 bar, 1 level set']);
    await user.keyboard('{Escape}');
    expect(screen.getByRole('dialog')).toBeTruthy();
  });

  test('the other one is used, or mine is saved over it', async () => {
    const { user, said } = conflict();
    await press(user, 'Save mine over it');
    await press(user, 'Use the other one');
    expect(said).toEqual([
      ['overwrite', 7],
      ['adopt', { version: 7, document: theirs }],
    ]);
  });

  test('a copy is made first; where that fails nothing is changed', async () => {
    let isFull = true;
    const asked = serverStandIn({
      'POST /api/tunes/new': () => (isFull ? refusal(422, 'The shelf is full.') : { json: { id: 'n' } }),
    });
    const { user, said } = conflict();
    await press(user, 'Save mine as a copy');
    await waitFor(() =>
      expect(alertText()).toBe('The copy could not be made, and nothing was changed: The shelf is full.'),
    );
    expect(said).toEqual([]);
    isFull = false;
    await press(user, 'Save mine as a copy');
    await waitFor(() => expect(said).toEqual([['adopt', { version: 7, document: theirs }]]));
    expect((asked.at(-1)?.json as Work).tune.title).toBe('Low Water (my version)');
  });

  test('a title that is as long as can be is cut between characters', async () => {
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'n' } }) });
    const { user } = conflict(`${'x'.repeat(499)}🌊🌊`);
    await press(user, 'Save mine as a copy');
    await waitFor(() => expect(asked.length).toBe(1));
    const { title } = (asked[0]?.json as Work).tune;
    expect([title.length <= 500, /[\ud800-\udbff]$/.test(title)]).toEqual([true, false]);
  });
});
