/** @jest-environment jsdom */
import { useState } from 'react';
import {
  act,
  alertText,
  button,
  choose,
  field,
  offered,
  press,
  screen,
  shown,
  waitFor,
  words,
  write,
} from '../../../tests/screen';
import { playerStandIn } from '../../../tests/playerStandIn';
import { tuneOf } from '../../../tests/given';
import { drillTune } from '../../core/drills/sketch';
import type { Caret } from '../../core/score/edit/place';
import type { Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import type { Selection } from '../work/workStore';
import { Transport } from './Transport';

let stand = playerStandIn();
jest.mock('../work/sound/player', () => ({
  Player: function Player() {
    return stand.player;
  },
}));
beforeEach(() => {
  stand = playerStandIn();
});

const tune = tuneOf('"C" CDEF GABc|"F" c2e2 g2c2|"G7" B2d2 g2f2|"C" e2c2 G2E2|');
const TEMPOS = { tune: 96, second: 96, beginner: 60, intermediate: 80, advanced: 96 };

/** The foot of the bench over a tune; `playing` is what sounds, newest last. */
function opened({
  of = tune,
  selection = undefined as Selection | undefined,
  caret = undefined as Caret | undefined,
} = {}) {
  let change: (work: Work) => void = () => undefined;
  function Foot() {
    const [work, setWork] = useState<Work>({ tune: of, recipes: {} });
    change = setWork;
    return (
      <Transport
        work={work}
        selection={selection}
        caret={() => caret}
        numbers={of.bars.map((_, k) => k + 1)}
        tempoOf={(lane) => ({ beat: { type: 'quarter', dots: 0 }, perMinute: TEMPOS[lane] })}
      />
    );
  }
  const { user } = shown(<Foot />);
  return {
    user,
    playing: () => stand.asked.at(-1)?.wishes,
    times: () => stand.asked.length,
    change: (next: Tune) => act(() => change({ tune: next, recipes: {} })),
  };
}

test('plays the picked lane from the picked bar with what is usual behind it, and stops', async () => {
  const { user, playing } = opened({ selection: { lane: 'beginner', bar: 2 } });
  await press(user, 'Play');
  expect(playing()).toMatchObject({ heard: 'beginner', from: 2, click: false, countIn: true });
  expect(playing()).not.toHaveProperty('loopTo');
  await press(user, 'Stop');
  expect(button('Play')).toBeTruthy();
});

test('without a picked bar it is the tune from its beginning; while it is written, from the caret, within the bar', async () => {
  const first = opened();
  await press(first.user, 'Play');
  expect(first.playing()).toMatchObject({ heard: 'tune', from: 0 });
});

test('from the caret', async () => {
  const { user, playing } = opened({ caret: { bar: 1, at: 10_080 }, selection: { lane: 'tune', bar: 3 } });
  await press(user, 'Play');
  expect(playing()).toMatchObject({ from: 1, at: 10_080 });
});

test('L plays and stops from anywhere, but writes into a field', async () => {
  const { user, times } = opened();
  await user.keyboard('l');
  expect([times(), button('Stop')]).toEqual([1, expect.anything()]);
  await user.keyboard('l');
  expect(button('Play')).toBeTruthy();
  await user.click(field('Playing tempo, beats a minute'));
  await user.keyboard('l');
  expect(times()).toBe(1);
});

test('a tempo of one’s own is kept within bounds, heard at once, and goes back to the lane’s', async () => {
  const { user, playing, times } = opened();
  await write(user, 'Playing tempo, beats a minute', '500');
  expect([alertText(), times()]).toEqual(['"500" is no tempo: beats a minute go from 20 to 400.', 0]);
  await press(user, 'Play');
  await write(user, 'Playing tempo, beats a minute', '72');
  expect([playing()?.perMinute, playing()?.countIn, alertText()]).toEqual([72, false, undefined]);
  await press(user, 'back to 96');
  expect([
    playing()?.perMinute,
    field('Playing tempo, beats a minute').value,
    screen.queryByText('back to 96'),
  ]).toEqual([undefined, '96', null]);
});

test('all three levels go at the slowest one’s tempo', async () => {
  const { user, playing } = opened();
  await choose(user, 'What is heard', 'all three levels');
  expect(field('Playing tempo, beats a minute').value).toBe('60');
  await press(user, 'Play');
  expect(playing()?.heard).toBe('together');
});

test('some bars go round from the picked one, never beyond the last', async () => {
  const { user, playing } = opened({ selection: { lane: 'tune', bar: 2 } });
  await choose(user, 'How far', '4 bars, looped');
  await press(user, 'Play');
  expect([playing()?.from, playing()?.loopTo]).toEqual([2, 3]);
  await choose(user, 'How far', 'this bar, looped');
  expect([playing()?.from, playing()?.loopTo]).toEqual([2, 2]);
  await choose(user, 'How far', 'to the end');
  expect(playing()).not.toHaveProperty('loopTo');
});

test('what is changed while it plays is heard at once without counting in again; what is changed in silence starts nothing', async () => {
  const { user, playing, times } = opened();
  await choose(user, 'Backing', 'a drone on the fifth');
  await press(user, 'metronome');
  await press(user, 'count-in');
  expect(times()).toBe(0);
  await press(user, 'Play');
  expect(playing()).toMatchObject({ backing: 'fifth-drone', click: true, countIn: false });
  await press(user, 'metronome');
  await choose(user, 'Backing', 'no backing track');
  expect([playing(), times()]).toEqual([expect.objectContaining({ backing: 'none', click: false }), 3]);
});

test('another version of the tune is heard when the hand rests, once', async () => {
  const { user, times, change } = opened();
  await press(user, 'Play');
  change({ ...tune, title: 'a' });
  change({ ...tune, title: 'b' });
  await waitFor(() => expect(times()).toBe(2));
  expect(stand.asked.at(-1)?.work.tune.title).toBe('b');
});

test('what is changed while nothing plays stays silent', async () => {
  const { times, change } = opened();
  change({ ...tune, title: 'a' });
  await new Promise((done) => setTimeout(done, 450));
  expect(times()).toBe(0);
});

test('lanes that are there are offered: of a tune with a second part both at once, of a drill each level alone', async () => {
  const plain = opened();
  expect(await offered(plain.user, 'What is heard')).toEqual([
    'the tunethe selected lane',
    'always the tune',
    'always beginner',
    'always intermediate',
    'always advanced',
    'all three levels',
    'the easier part',
  ]);
});

test('of a drill', async () => {
  const drill = opened({ of: drillTune({ steps: [{ set: 'major', pattern: 'thirds' }] }) });
  expect([
    await offered(drill.user, 'What is heard'),
    words(screen.getByRole('combobox', { name: 'Backing' })),
  ]).toEqual([
    ['beginnerthe selected lane', 'always beginner', 'always intermediate', 'always advanced'],
    'a drone on the home note',
  ]);
});

test('what the player says is told: that it fails, and what of the plan could not be', () => {
  opened();
  act(() => stand.player.store.setState({ kind: 'failed', message: 'This browser cannot make sound.' }, true));
  expect(alertText()).toBe('This browser cannot make sound.');
  act(() =>
    stand.player.store.setState(
      { kind: 'playing', plan: { messages: ['Beginner is in another key.'] } } as never,
      true,
    ),
  );
  expect(alertText()).toBe('Beginner is in another key.');
});
