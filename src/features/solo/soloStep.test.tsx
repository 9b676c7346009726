/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import {
  alertText,
  button,
  choose,
  field,
  offered,
  press,
  screen,
  shown,
  within,
  words,
  write,
} from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { tuneOf } from '../../../tests/given';
import { storedWork } from '../../core/work/stored/upgradeRecipe';
import { recipesOf, type Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import { LickSheet } from './LickSheet';
import { useLickStep } from './useLickStep';
import { useSoloStep } from './useSoloStep';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh: () => undefined }) }));
beforeEach(() => push.mockClear());

const tune = tuneOf(
  '"Dm7" d2f2 a2f2|"G7" g2f2 d2B2|"Cmaj7" c2e2 g2e2|"Cmaj7" c8|"Dm7" a2f2 d2f2|"G7" B2d2 g2f2|"Cmaj7" e2g2 e2c2|"Cmaj7" c8|',
);
const work: Work = { tune, recipes: {} };
const open = (first = work) => openStep(useSoloStep, first, { lanes: false });
const soloOf = (now: Work, level: 'beginner' | 'intermediate' | 'advanced' = 'beginner') =>
  recipesOf(now)[level].solo ?? {};
const tab = (name: string) => screen.getByRole('tab', { name });
const stored = (of: Tune) => storedWork({ tune: of, recipes: {} }).tune;

describe('takes', () => {
  test('three stand under one another; one is kept, stands first and can be let go of', async () => {
    const { user, work: now, said } = open();
    const takes = () => screen.getAllByRole('button', { name: /^Keep take/ }).map((one) => words(one));
    const before = takes();
    expect(before.length).toBe(3);
    await press(user, before[1] ?? '');
    const { seed } = soloOf(now());
    expect([`Keep take ${seed}`, said()]).toEqual([before[1], [`Beginner: solo ${seed}`]]);
    expect(words(screen.getAllByRole('heading', { level: 2 })[0])).toBe(
      `Take ${seed}kept: it stands between melody and melody`,
    );
    await press(user, 'Do not keep it');
    expect([soloOf(now()), said().at(-1)]).toEqual([{}, 'Beginner: no solo kept']);
  });

  test('other takes are other ones; all three levels stand beside each other', async () => {
    const { user, work: now } = open();
    const names = () => screen.getAllByRole('region', { name: /^Take / }).map((one) => one.getAttribute('aria-label'));
    const first = names();
    await press(user, 'Other takes');
    expect(names().filter((name) => first.includes(name))).toEqual([]);
    await press(user, 'All three');
    expect(screen.getAllByRole('button', { name: /^Keep it for/ }).map((one) => words(one))).toEqual([
      'Keep it for beginner',
      'Keep it for intermediate',
      'Keep it for advanced',
    ]);
    await press(user, 'Keep it for advanced');
    expect([soloOf(now(), 'advanced').seed !== undefined, soloOf(now()).seed]).toEqual([true, undefined]);
  });

  test('the tune is read as a solo: what it is made of is told, and the takes come back', async () => {
    const { user } = open();
    await press(user, 'Read the tune as a solo');
    expect(screen.getByRole('region', { name: 'Lines worth keeping' })).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Other takes' }).disabled).toBe(true);
    await press(user, 'Back to the takes');
    expect(screen.queryByRole('region', { name: 'Lines worth keeping' })).toBeNull();
  });
});

describe('the plan', () => {
  const rows = () => within(screen.getByRole('list', { name: 'Phrases' })).getAllByRole('listitem');

  test('a phrase does something else, or goes back to one before it; the plan of the level can be had again', async () => {
    const { user, work: now, said } = open();
    const { length } = rows();
    expect((await offered(user, 'What phrase 1 does')).length).toBe(3);
    expect((await offered(user, 'What phrase 2 does')).length).toBe(6);
    await choose(user, 'What phrase 2 does', /rest/);
    expect([soloOf(now()).plan?.[1]?.kind, soloOf(now()).plan?.length, said().at(-1)]).toEqual([
      'rest',
      length,
      'Beginner: phrase 2: rest',
    ]);
    await press(user, 'Back to the plan of the level');
    expect(soloOf(now()).plan).toBeUndefined();
  });

  test('a kept phrase keeps its very notes; let go of, it is composed anew', async () => {
    const { user, work: now } = open();
    await press(user, 'Keep phrase 1 as it is');
    const given = soloOf(now()).given?.p1;
    expect([(given?.notes.length ?? 0) > 0, words(rows()[0]).endsWith('kept')]).toEqual([true, true]);
    await press(user, 'Let phrase 1 be composed anew');
    expect(soloOf(now()).given?.p1).toBeUndefined();
  });

  test('notes of one’s own are not thrown away by one press', async () => {
    const { user, work: now } = open();
    await user.click(screen.getAllByRole('button', { name: /^Raise note 1,/ })[0] ?? button('none'));
    const own = soloOf(now()).given?.p1;
    expect([own?.isOwn, words(rows()[0]).endsWith('your own notes')]).toEqual([true, true]);
    await press(user, 'Let phrase 1 be composed anew');
    expect(alertText()).toContain('Phrase 1 holds notes of your own. Composing it anew takes them out.');
    await press(user, 'Keep my notes');
    expect([soloOf(now()).given?.p1, alertText()]).toEqual([own, undefined]);
    await press(user, 'Let phrase 1 be composed anew');
    await press(user, 'Compose it anew');
    expect(soloOf(now()).given?.p1).toBeUndefined();
  });

  test('varied alone: every other phrase is kept and other takes are shown', async () => {
    const { user, work: now } = open();
    const { length } = rows();
    await press(user, 'Vary it alone');
    const kept = Object.keys(soloOf(now()).given ?? {});
    expect([kept.includes('p1'), kept.length <= length - 1, kept.length > 0]).toEqual([false, true, true]);
  });

  test('a phrase is cut in two and joined again', async () => {
    const { user, work: now, said } = open();
    const { length } = rows();
    await press(user, 'Cut in two');
    expect(rows().length).toBe(length + 1);
    await press(user, 'Join with the next');
    expect([rows().length, said()]).toEqual([
      length,
      ['Beginner: phrase 1 cut in two', 'Beginner: phrases 1 and 2 joined'],
    ]);
    expect(soloOf(now()).plan?.reduce((sum, { bars }) => sum + bars, 0)).toBe(8);
  });

  test('where it lies, and a phrase taken from another take', async () => {
    const { user, work: now, said } = open();
    await choose(user, 'Height of the phrase', 'high');
    expect(soloOf(now()).plan?.[0]?.height).toBe(0.95);
    await choose(user, 'Height of the phrase', 'where the curve of the chorus has it');
    expect(soloOf(now()).plan?.[0]).not.toHaveProperty('height', 0.95);
    const [, second] = screen.getAllByRole('button', { name: /^take \d+$/ });
    await user.click(second ?? button('none'));
    expect([soloOf(now()).given?.p1 !== undefined, said().at(-1)]).toEqual([
      true,
      `Beginner: phrase 1 from ${words(second)}`,
    ]);
  });

  test('notes: longer only into silence, not below an eighth, and left out', async () => {
    const { user, work: now } = open();
    const list = () => screen.getByRole('list', { name: 'Notes of phrase 1' });
    const count = within(list()).getAllByRole('listitem').length;
    await user.click(within(list()).getAllByRole('button', { name: /^Leave out/ })[0] ?? button('none'));
    expect(soloOf(now()).given?.p1?.notes.length).toBe(count - 1);
    const at = soloOf(now()).given?.p1?.notes.findIndex(({ length }) => length > 10_080 / 2) ?? -1;
    const press = (what: string) =>
      within(list()).getAllByRole<HTMLButtonElement>('button', { name: new RegExp(`^${what} note ${at + 1},`) })[0];
    for (let k = 0; k < 40; k += 1) {
      const next = press('Shorten');
      if (!next || next.disabled) break;
      await user.click(next);
    }
    expect(at).toBeGreaterThanOrEqual(0);
    expect(soloOf(now()).given?.p1?.notes[at]?.length).toBeLessThanOrEqual(10_080 / 2);
    expect(press('Lengthen')?.disabled).toBe(false);
  });

  test('a rhythm is borrowed from a tune of the shelf; a bar without notes is said', async () => {
    const lender = tuneOf('c4 c2c2|z8|c8|c8|');
    serverStandIn({
      'GET /api/tunes?search=': () => ({ json: { tunes: [{ id: 'lender', title: 'The Lender', meter: '4/4' }] } }),
      'GET /api/tunes/lender': () => ({ json: { version: 1, work: storedWork({ tune: lender, recipes: {} }) } }),
    });
    const { user, work: now } = open();
    await choose(user, 'Rhythm of the phrase', 'a borrowed rhythm …');
    await write(user, 'from bar', '9');
    await user.click(await screen.findByRole('button', { name: /The Lender/ }));
    expect(alertText()).toBe('Bar 9 of The Lender has no rhythm to borrow: give a bar with notes.');
    await write(user, 'from bar', '1');
    await press(user, /The Lender/);
    expect(soloOf(now()).plan?.[0]?.rhythm?.from).toBe('The Lender');
    expect(await offered(user, 'Rhythm of the phrase')).toContain('the rhythm of The Lender');
    await choose(user, 'Rhythm of the phrase', 'a rhythm of its own');
    expect(soloOf(now()).plan?.[0]?.rhythm).toBeUndefined();
  });
});

describe('devices and targets', () => {
  test('each level has its own devices; as usual is no wish', async () => {
    const { user, work: now } = open();
    await user.click(tab('Devices'));
    expect(screen.queryByRole('combobox', { name: 'Triplets' })).toBeNull();
    await choose(user, 'Air inside phrases', 'many');
    expect(soloOf(now()).tools).toEqual({ space: 3 });
    await choose(user, 'Air inside phrases', 'as usual');
    expect(soloOf(now())).toEqual({});
    await press(user, 'Advanced');
    expect(screen.getByRole('combobox', { name: 'Triplets' })).toBeTruthy();
  });

  test('a target is set for a bar of the chorus, replaced and taken away; a bar outside is said', async () => {
    const { user, work: now, said } = open();
    await user.click(tab('Devices'));
    await write(user, 'Bar of the target', '40');
    expect([alertText(), screen.getByRole<HTMLButtonElement>('button', { name: 'Set' }).disabled]).toEqual([
      'The solo has bars 1 to 8.',
      true,
    ]);
    await write(user, 'Bar of the target', '5');
    await press(user, 'Set');
    await choose(user, 'Degree of the target', 'seventh');
    await press(user, 'Set');
    await write(user, 'Bar of the target', '3');
    await press(user, 'Set');
    expect(soloOf(now()).targets).toEqual([
      { bar: 3, degree: 7 },
      { bar: 5, degree: 7 },
    ]);
    await press(user, 'No target in bar 3');
    await press(user, 'No target in bar 5');
    expect([soloOf(now()), said().at(-1)]).toEqual([{}, 'Beginner: bar 5: no target']);
  });
});

describe('licks', () => {
  const fits = { ...tuneOf('"Dm7" d2f2 a2f2|"G7" g2f2 d2B2|'), title: 'Down the slip', lick: { pupils: ['Oda'] } };
  const foreign = { ...tuneOf('"F#m7b5" f8|', 'M:4/4\nL:1/8\nK:E'), title: 'Elsewhere', lick: {} };

  test('those that fit come first with their places; a press puts one there under its name', async () => {
    serverStandIn({
      'GET /api/licks': () => ({
        json: {
          licks: [
            { id: 'b', tune: stored(foreign) },
            { id: 'a', tune: stored(fits) },
          ],
        },
      }),
    });
    const { user, work: now, said } = open();
    await user.click(tab('Licks'));
    const list = await screen.findByRole('list', { name: 'Licks' });
    const [first, second] = within(list).getAllByRole('listitem');
    expect([words(first).startsWith('Down the slip'), words(first).includes('Oda: already in their fingers')]).toEqual([
      true,
      true,
    ]);
    expect(words(second)).toContain('Its chords do not come in this tune.');
    await user.click(within(first ?? list).getAllByRole('button', { name: /^bar 1/ })[0] ?? list);
    expect([Object.values(soloOf(now()).given ?? {}).map(({ lick }) => lick), said().at(-1)]).toEqual([
      ['Down the slip'],
      'Beginner: the lick Down the slip in bar 1',
    ]);
  });

  test('a shelf without licks says how to come by one; a server that is away is said', async () => {
    serverStandIn({ 'GET /api/licks': () => ({ json: { licks: [] } }) });
    const { user } = open();
    await user.click(tab('Licks'));
    expect(await screen.findByText(/^There are no licks yet/)).toBeTruthy();
  });

  test('the server away', async () => {
    serverStandIn({ 'GET /api/licks': () => 'away' });
    const { user } = open();
    await user.click(tab('Licks'));
    expect((await screen.findByRole('alert')).textContent).toBe('The program does not answer.');
  });
});

describe('paper', () => {
  test('what is printed stands in the file; the form is the part’s own', async () => {
    const { user, asked, work: now } = open();
    await user.click(tab('Paper'));
    await press(user, 'Print');
    await choose(user, 'What is printed', 'the line, degrees under the notes');
    await press(user, 'PDF');
    await press(user, 'MusicXML');
    await press(user, 'MP3');
    expect(asked).toEqual([
      'beginner.solo.pdf',
      ['beginner.solo.pdf?analysis', true],
      ['beginner.solo.musicxml?analysis', true],
      ['beginner.solo.mp3', true],
    ]);
    await choose(user, 'Beginner: form', 'melody, solo, melody');
    expect([recipesOf(now()).beginner.form, words().includes('keep a take to have it printed there')]).toEqual([
      { plays: 'solo' },
      true,
    ]);
  });

  test('a take becomes a tune of its own, an empty chorus too; a refusal is told and nobody is sent away', async () => {
    let isFull = true;
    const made = serverStandIn({
      'POST /api/tunes/new': () => (isFull ? refusal(422, 'The shelf is full.') : { json: { id: 'n1' } }),
    });
    const { user } = open();
    await user.click(tab('Paper'));
    await press(user, 'Begin an empty chorus');
    expect(await screen.findByText('The shelf is full. Nothing was saved; please try again.')).toBeTruthy();
    expect(push.mock.calls).toEqual([]);
    isFull = false;
    await press(user, 'Copy this take to the shelf');
    expect([push.mock.calls, made.length]).toEqual([[['/tunes/n1/tune']], 2]);
    const { tune: copy } = made[1]?.json as { tune: Tune };
    expect([copy.bars.length, copy.rights]).toEqual([8, tune.rights]);
  });
});

describe('keeping a lick', () => {
  const sheet = (from: number, to: number, onClose = () => undefined) =>
    shown(<LickSheet line={{ ...tune, title: 'Low Water' }} from={from} to={to} onClose={onClose} />);

  test('a span within the line is asked for; its chords are told in numerals', async () => {
    const { user } = sheet(1, 2);
    expect(words()).toMatch(/It fits .*ii.*V/);
    await write(user, 'to', '9');
    expect(words()).toContain('Give one to 4 bars between 1 and 8.');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save to the licks' }).disabled).toBe(true);
    await write(user, 'Bars', '0');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save to the licks' }).disabled).toBe(true);
  });

  test('more bars than a lick has are cut to what it can have', () => {
    sheet(2, 8);
    expect([field('Bars').value, field('to').value]).toEqual(['2', '5']);
  });

  test('without a name it is called after its tune; what is sent has just its bars', async () => {
    const closed = jest.fn();
    const asked = serverStandIn({ 'POST /api/tunes/new': () => ({ json: { id: 'l1' } }) });
    const { user } = sheet(5, 6, closed);
    await press(user, 'Save to the licks');
    const { tune: lick } = asked[0]?.json as { tune: Tune };
    expect([lick.title, lick.bars.length, lick.lick, closed.mock.calls.length]).toEqual([
      'Lick from Low Water',
      2,
      {},
      1,
    ]);
  });

  test('a refusal keeps the sheet open with all that was written', async () => {
    serverStandIn({ 'POST /api/tunes/new': () => refusal(422, 'The shelf is full.') });
    const { user } = sheet(5, 6);
    await user.type(field('Name'), 'The turn');
    await press(user, 'Save to the licks');
    expect([alertText(), field('Name').value]).toEqual([
      'The shelf is full. Nothing was saved yet; please try again.',
      'The turn',
    ]);
  });
});

describe('a lick on the bench', () => {
  const lick: Tune = { ...tuneOf('"Dm7" d2f2 a2f2|"G7" g2f2 d2B2|'), lick: { pupils: ['Kit'] } };
  const groups = [
    {
      id: 'g',
      group: {
        name: 'Thursday',
        players: [
          { id: '1', name: 'Oda', instrument: 'flute', level: 'beginner' as const },
          { id: '2', name: '', instrument: 'flute', level: 'beginner' as const },
        ],
      },
    },
  ];

  test('who has it: everybody of the groups and who had it before; ticked and unticked', async () => {
    const { user, work: now, said } = openStep(useLickStep, { tune: lick, recipes: {} }, { studio: { groups } });
    const box = (name: string) => screen.getByRole('checkbox', { name });
    expect(screen.getAllByRole('checkbox').length).toBe(2);
    await user.click(box('Oda'));
    await user.click(box('Kit'));
    expect([now().tune.lick, said()]).toEqual([{ pupils: ['Oda'] }, ['Oda has it', 'Kit has it no more']]);
    await user.click(box('Oda'));
    expect(now().tune.lick).toEqual({});
  });

  test('what it fits is told; without chords it says how it would be found', () => {
    openStep(useLickStep, { tune: lick, recipes: {} });
    expect(words(screen.getByRole('region', { name: 'What it fits' }))).toMatch(/2 bars .*ii/);
  });

  test('without chords', () => {
    openStep(useLickStep, { tune: { ...tuneOf('d2f2 a2f2|'), lick: {} }, recipes: {} });
    expect(words()).toContain('a lick is found by them');
    expect(words()).toContain('No group has players yet.');
  });
});
