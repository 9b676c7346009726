/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import {
  act,
  alertText,
  button,
  choose,
  field,
  offered,
  press,
  screen,
  within,
  words,
  write,
} from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { key, tuneOf } from '../../../tests/given';
import type { Level } from '../../core/instruments/instrument';
import { recipesOf, type Work } from '../../core/work/work';
import type { PoolRow } from '../../engrave/poolRows';
import type { Draws } from '../work/useEngraving';
import { useImproviseStep } from './useImproviseStep';

const tune = tuneOf(
  '"Dm7" d2f2 a2f2|"G7" g2f2 d2B2|"Cmaj7" c2e2 g2e2|"Cmaj7" c8|"Am7" a2e2 c2e2|"D7" d2^f2 a2d2|"G7" g2f2 d2B2|"Cmaj7" c8|',
);
const work: Work = { tune, recipes: {} };

/** One row of bars of equal width; the heads are the engraver's. */
const pools: Draws['pools'] = async (score) => {
  const count = score.columns.length;
  const bars = Array.from({ length: count }, (_, k) => ({ x: 100 * k, width: 100 }));
  return [
    { from: 0, to: count, svg: '<svg></svg>', geometry: { width: 100 * count, height: 80, bars } },
  ] as unknown as readonly PoolRow[];
};
const open = (first = work) => openStep(useImproviseStep, first, { draws: { pools }, lanes: false });
const wishes = (now: Work, level: Level = 'beginner') => recipesOf(now)[level].improvise ?? {};
const tab = (name: string | RegExp) => screen.getByRole('tab', { name });
const chord = (level: Level, index: number) =>
  document.querySelector<HTMLElement>(`[data-chord="${level}-${index}"]`) as HTMLElement;

describe('what a level improvises with', () => {
  test('the school decides which pools are ticked; ticks of one’s own hold until another school is taken', async () => {
    const { user, work: now, said } = open();
    const ticked = () =>
      screen
        .getAllByRole<HTMLInputElement>('checkbox')
        .filter(({ checked }) => checked)
        .map((box) => words(box.parentElement ?? box));
    const first = ticked();
    await user.click(screen.getAllByRole('checkbox').find((box) => !(box as HTMLInputElement).checked) ?? button('x'));
    expect([ticked().length, wishes(now()).pools?.length]).toEqual([first.length + 1, first.length + 1]);
    await choose(user, 'School', 'chord tones from the start');
    expect([wishes(now()), said().at(-1)]).toEqual([{ school: 'chord-tones' }, 'Beginner: chord tones from the start']);
    await choose(user, 'School', 'one set over the whole form');
    expect([wishes(now()), ticked()]).toEqual([{}, first]);
  });

  test('another set over the whole form is taken, kept by its distance from home, and found again by itself', async () => {
    const { user, work: now } = open();
    const [take] = screen.getAllByRole('button', { name: 'take' });
    await user.click(take ?? button('take'));
    const { whole } = wishes(now());
    expect([typeof whole?.name, whole?.above !== undefined]).toEqual(['string', true]);
    await press(user, 'as found');
    expect(wishes(now())).toEqual({});
  });

  test('the set is opened step by step; the whole of it is no wish', async () => {
    const { user, work: now } = open();
    expect((await offered(user, 'How much of the set is open'))[1]).toBe('three notesC D E');
    await choose(user, 'How much of the set is open', /^three notes/);
    expect(wishes(now()).stage).toBe(0);
    await choose(user, 'How much of the set is open', /^the whole set/);
    expect(wishes(now())).toEqual({});
  });

  test('the style is said of the tune, not of the level; as found takes it back', async () => {
    const { user, work: now, said } = open();
    await choose(user, 'Style', 'modal');
    expect([now().tune.harmony, said()]).toEqual([{ style: 'modal' }, ['Style: modal']]);
    await choose(user, 'Style', /as the program finds/);
    expect(now().tune).not.toHaveProperty('harmony');
  });

  test('a word to the player is kept without its edges; nothing but spaces is none', async () => {
    const { user, work: now } = open();
    await write(user, 'A word to the player', '  Leave air.  ');
    expect(wishes(now()).advice).toBe('Leave air.');
    await write(user, 'A word to the player', '   ');
    expect(wishes(now())).toEqual({});
    expect(field('A word to the player').value).toBe('');
  });

  test('each level has wishes of its own', async () => {
    const { user, work: now } = open();
    await user.click(screen.getAllByRole('button', { name: 'Advanced' }).at(-1) ?? button('Advanced'));
    await write(user, 'A word to the player', 'Thirds first.');
    expect([wishes(now(), 'advanced').advice, wishes(now())]).toEqual(['Thirds first.', {}]);
  });
});

describe('the map', () => {
  test('a chord is picked by a press or by arrows, opens in the drawer, and is picked in the music too', async () => {
    const { user, store } = open();
    await screen.findByRole('button', { name: /^Bar 1, Dm7, ii/ });
    await user.click(chord('beginner', 1));
    expect([tab('Bar 2').getAttribute('aria-selected'), store.getState().selection]).toEqual([
      'true',
      { lane: 'beginner', bar: 1 },
    ]);
    await user.keyboard('{ArrowRight}{ArrowRight}{ArrowLeft}');
    expect([document.activeElement, chord('beginner', 2).getAttribute('aria-pressed')]).toEqual([
      chord('beginner', 2),
      'true',
    ]);
    await user.keyboard('{ArrowLeft}{ArrowLeft}{ArrowLeft}{ArrowLeft}');
    expect(document.activeElement).toBe(chord('beginner', 0));
  });

  test('a bar picked elsewhere picks the chord that sounds there', async () => {
    const { store } = open();
    await screen.findByRole('button', { name: /^Bar 1, Dm7/ });
    act(() => store.getState().select({ lane: 'tune', bar: 5 }));
    expect([chord('beginner', 5).getAttribute('aria-pressed'), tab('Bar 6') !== null]).toEqual(['true', true]);
  });

  test('all three levels stand under one another; a chord of one opens that level', async () => {
    const { user } = open();
    await press(user, 'All three');
    expect(screen.getAllByRole('region', { name: /notes to improvise with$/ }).length).toBe(3);
    await user.click(chord('advanced', 4));
    const pressed = within(screen.getByRole('group', { name: 'Level' }))
      .getAllByRole('button')
      .filter((one) => one.getAttribute('aria-pressed') === 'true');
    expect([pressed.map((one) => words(one)), tab('Bar 5') !== null]).toEqual([['Advanced'], true]);
  });

  test('chords that were proposed are taken with one press', async () => {
    const { user, work: now, said } = open({ tune: tuneOf('c2e2 g2e2|g2f2 d2B2|c2e2 g2e2|c8|'), recipes: {} });
    await press(user, 'Take them');
    expect([now().tune.bars.some(({ chords }) => chords.length > 0), said()]).toEqual([
      true,
      ['Take the proposed chords'],
    ]);
    expect(screen.queryByRole('button', { name: 'Take them' })).toBeNull();
  });

  test('over nothing it says what is wanted', () => {
    open({ tune: tuneOf('z8|z8|'), recipes: {} });
    expect(words()).toContain('There is nothing to improvise over yet: write some notes or chords on the Tune step.');
  });
});

describe('one chord', () => {
  async function picked(index: number, level: Level = 'beginner', first = work) {
    const opened = open(first);
    await screen.findByRole('button', { name: /^Bar 1, / });
    if (level !== 'beginner')
      await opened.user.click(screen.getAllByRole('button', { name: /^Advanced$/ })[0] ?? button('x'));
    await opened.user.click(chord(level, index));
    return opened;
  }

  test('a note is struck and comes back as found; what is left says nothing', async () => {
    const { user, work: now, said } = await picked(0, 'advanced');
    const scale = screen.getAllByRole('button', { name: /strike it here$/ }).at(-1);
    const name = scale?.getAttribute('aria-label')?.split(',')[0];
    await user.click(scale ?? button('x'));
    const [place] = Object.values(wishes(now(), 'advanced').chords ?? {});
    expect([place?.struck?.length, said().at(-1)]).toEqual([1, `Advanced: Bm7 in bar 1: without ${name}`]);
    await user.click(screen.getAllByRole('button', { name: 'as found' })[0] ?? button('x'));
    expect(wishes(now(), 'advanced')).toEqual({});
  });

  test('a note is added; struck again it is neither added nor struck', async () => {
    const { user, work: now } = await picked(0, 'advanced');
    const adding = screen.getAllByRole('combobox', { name: /^Add a note to/ })[0];
    const label = adding?.getAttribute('aria-label') ?? '';
    const [, first = ''] = await offered(user, label);
    await choose(user, label, first);
    expect(Object.values(wishes(now(), 'advanced').chords ?? {})[0]?.added?.length).toBe(1);
    const [added] = screen.getAllByRole('button', { name: new RegExp(`^${first}, .*strike it here$`) });
    await user.click(added ?? button('x'));
    expect(wishes(now(), 'advanced').chords).toBeUndefined();
  });

  test('another scale is taken for this chord alone', async () => {
    const { user, work: now } = await picked(1, 'advanced');
    const others = screen.getByRole('region', { name: 'Scales over this chord' });
    await user.click(within(others).getAllByRole('button', { name: 'take' })[0] ?? others);
    const chords = wishes(now(), 'advanced').chords ?? {};
    expect([Object.keys(chords).length, Object.values(chords)[0]?.set !== undefined]).toEqual([1, true]);
    await user.click(
      within(screen.getByRole('region', { name: 'Scales over this chord' })).getByRole('button', { name: 'as found' }),
    );
    expect(wishes(now(), 'advanced').chords).toBeUndefined();
  });

  test('how it is read is corrected in the tune: the key from here, what the chord does, and as found again', async () => {
    const { user, work: now, said } = await picked(4);
    await choose(user, 'What the chord does', 'passing');
    expect(now().tune.harmony?.readings).toMatchObject([{ bar: tune.bars[4]?.id, function: 'passing' }]);
    await choose(user, 'Key from here', /^G major/);
    const [reading] = now().tune.harmony?.readings ?? [];
    expect([reading?.key, reading?.function, now().tune.harmony?.readings?.length, said().length]).toEqual([
      key('G'),
      'passing',
      1,
      2,
    ]);
    await user.click(
      within(screen.getByRole('region', { name: 'How it is read' })).getByRole('button', { name: 'as found' }),
    );
    expect(now().tune).not.toHaveProperty('harmony');
  });

  test('what is read in an instrument’s pitch is said of the tune in the tune’s own key', async () => {
    const { user, work: now } = await picked(4, 'beginner', {
      tune,
      recipes: { beginner: { instrument: 'clarinet-bb' } },
    });
    expect(words()).toContain('written for clarinet in D major');
    await choose(user, 'Key from here', /^A major/);
    expect(now().tune.harmony?.readings?.[0]?.key).toEqual(key('G'));
  });
});

describe('to take away', () => {
  test('paper, covered names and the reference page stand in what is asked for', async () => {
    const { user, asked } = open();
    await user.click(tab('Hand out'));
    await choose(user, 'Paper', 'Letter');
    await press(user, 'Print');
    await press(user, 'MusicXML');
    await press(user, 'Print with names covered');
    await press(user, 'Print the reference page');
    await choose(user, 'Set in twelve keys', 'minor pentatonic');
    await choose(user, 'How far', 'two octaves');
    await press(user, 'Print the reference page');
    expect(asked).toEqual([
      'beginner.pools.pdf?paper=letter',
      ['beginner.pools.musicxml', true],
      'beginner.pools.pdf?paper=letter&names=covered',
      'beginner.sets.pdf?paper=letter&extent=full',
      'beginner.sets.pdf?paper=letter&extent=2&set=minor%20pentatonic',
    ]);
  });
});

describe('what a set opens', () => {
  test('tunes of the shelf: whole, and all but one or two notes; refused it says why', async () => {
    let answers = false;
    const asked = serverStandIn({
      'GET /api/sets?set=': () =>
        answers
          ? {
              json: {
                whole: 1,
                of: 3,
                tunes: [
                  { id: 'a', title: 'Low Water', keyName: 'G major', missing: 0 },
                  { id: 'b', title: '', keyName: 'D major', missing: 1 },
                  { id: 'c', title: 'Slip', keyName: 'C major', missing: 2 },
                ],
              },
            }
          : refusal(400, 'There is no such set.'),
    });
    const { user } = open();
    await press(user, /^Which tunes does the/);
    expect(alertText()).toBe('There is no such set.');
    answers = true;
    await press(user, /^Which tunes does the/);
    const region = screen.getByRole('region', { name: 'What sets open' });
    expect(
      within(region)
        .getAllByRole('listitem')
        .map((one) => words(one)),
    ).toEqual(['Low Water whole, G major', 'Untitled all but one note, D major', 'Slip all but two notes, C major']);
    expect([words(region).includes('1 of 3 tunes on the shelf whole'), alertText(), asked.length]).toEqual([
      true,
      undefined,
      2,
    ]);
  });

  test('beginners are told which set comes first on their instrument', async () => {
    const asked = serverStandIn({
      'GET /api/sets?for=': () => ({
        json: { sets: [{ name: 'G major pentatonic', reasons: ['five notes', 'no fork'], opens: 2 }] },
      }),
    });
    const { user } = open({ tune, recipes: { beginner: { instrument: 'trumpet-bb' } } });
    await press(user, 'Which set first on the trumpet in B♭?');
    expect([words(), asked[0]?.path]).toEqual([
      expect.stringContaining('G major pentatonic five notes · no fork'),
      '/api/sets?for=trumpet-bb',
    ]);
    await user.click(screen.getAllByRole('button', { name: 'Intermediate' }).at(-1) ?? button('x'));
    expect(screen.queryByRole('button', { name: /^Which set first/ })).toBeNull();
  });
});
