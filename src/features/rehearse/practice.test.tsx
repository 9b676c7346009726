/** @jest-environment jsdom */
import { useState } from 'react';
import { useStore } from 'zustand';
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
  within,
  words,
  write,
} from '../../../tests/screen';
import { playerStandIn } from '../../../tests/playerStandIn';
import { tuneOf } from '../../../tests/given';
import { standPart, type OnStand, type StandAids } from '../../core/levels/standPart';
import type { BarRun } from '../../core/levels/bars/leaveOut';
import type { Work } from '../../core/work/work';
import { proposeChunks } from '../../core/rehearsal/chunks';
import { BeforePlaying } from './BeforePlaying';
import { ByEar } from './ByEar';
import { keepPractice, keptPractice } from './keptPractice';
import { PracticePanel } from './PracticePanel';
import type { Listener } from './useListener';
import { usePractice } from './usePractice';

const tune = tuneOf(
  '"C" CDEF GABc|"C" c2e2 g2c2|"G7" B2d2 g2f2|"C" e2c2 G2E2|"C" CDEF GABc|"C" c2e2 g2c2|"G7" B2A2 G2F2|"C" C8|',
);
const work: Work = {
  tune,
  recipes: { intermediate: { instrument: 'flute', melody: 'as written', keyAndTempo: { perMinute: 100 } } },
};
const listener = {
  listening: { kind: 'off' },
  pace: 'in-time',
  report: undefined,
  counts: false,
  toggle: () => undefined,
} as unknown as Listener;

/** The panel of a stand on which a part is practised; `playing` is what sounds now, and how. */
function opened({ of = work, what = 'part' as OnStand, name = 'p', heard = listener } = {}) {
  const { player, asked, shares } = playerStandIn();
  const befores: string[] = [];
  function Panel() {
    const state = useStore(player.store);
    const part = standPart(of, 'intermediate', what);
    const [chunks] = useState(() => (part ? proposeChunks(part) : []));
    const practice = usePractice({ name, work: of, level: 'intermediate', what, part, chunks, player });
    if (!part) return null;
    return (
      <PracticePanel
        practice={practice}
        listener={heard}
        part={part}
        isPlaying={state.kind !== 'still'}
        state={state}
        onBefore={() => befores.push('asked')}
      />
    );
  }
  const { user, unmount } = shown(<Panel />);
  return { user, asked, shares, befores, unmount, playing: () => asked.at(-1)?.wishes, player };
}
beforeEach(() => localStorage.clear());
const tempo = () => Number(screen.getByText(/a minute/).previousElementSibling?.textContent);
const chunkRows = () => within(screen.getByRole('list', { name: 'Chunks' })).getAllByRole('listitem');

describe('the ladder of tempos', () => {
  test('begins at six tenths of the tempo; three good rounds go a step on, two that were not go one back', async () => {
    const { user } = opened();
    expect(tempo()).toBe(60);
    for (let k = 0; k < 3; k += 1) await press(user, 'Good');
    expect(tempo()).toBe(64);
    await press(user, 'Again');
    expect(tempo()).toBe(64);
    await press(user, 'Again');
    expect(tempo()).toBe(60);
  });

  test('its four numbers are whole and fit each other; another start begins anew', async () => {
    const { user } = opened();
    await write(user, 'Tempo at the start', '120');
    expect([alertText(), tempo()]).toEqual(['"120" does not fit here: give a whole number from 20 to 100.', 60]);
    await write(user, 'Tempo at the goal', '50');
    expect(alertText()).toBe('"50" does not fit here: give a whole number from 60 to 400.');
    await write(user, 'Tempo at the start', '96');
    await write(user, 'Good rounds before the next step', '1');
    expect([alertText(), tempo()]).toEqual([undefined, 96]);
    await press(user, 'Good');
    expect(tempo()).toBe(100);
    await press(user, 'Good');
    expect(words()).toContain('At the goal, and well played. Rest, or go on.');
  });

  test('the next step is told, never beyond the goal', async () => {
    const { user } = opened();
    await write(user, 'Tempo at the start', '98');
    expect(words()).toContain('0 of 3 good rounds at 98; then 100.');
    expect(field('Step of the tempo').value).toBe('4');
  });

  test('where somebody stopped is kept in their browser under the part, and is gone on with', async () => {
    const first = opened({ name: 'flute' });
    for (let k = 0; k < 3; k += 1) await press(first.user, 'Good');
    await choose(first.user, 'What is practised', 'chunks joined, from the end');
    await press(first.user, 'Next');
    first.unmount();
    opened({ name: 'other' });
    expect(words()).toContain('the whole part, round and round');
    expect(keptPractice('flute')).toMatchObject({ practised: 'backward', round: 1 });
  });

  test('what was kept is shown again', () => {
    const plan = { start: 50, step: 5, goal: 90, rounds: 2 };
    const place = { perMinute: 75, good: 1, again: 0, isDone: false };
    keepPractice('kept', { plan, place, practised: 'chunk', picked: 1, round: 0 });
    opened({ name: 'kept' });
    expect([tempo(), field('Tempo at the goal').value, words()]).toEqual([
      75,
      '90',
      expect.stringContaining('1 of 2 good rounds at 75; then 80.'),
    ]);
    expect(chunkRows()[1]?.querySelector('[aria-pressed="true"]')).not.toBeNull();
  });
});

describe('what is practised', () => {
  test('the whole part goes round; once through it does not; a chunk goes round by itself', async () => {
    const { user, playing } = opened();
    await press(user, 'Play');
    expect(playing()).toMatchObject({ from: 0, loopTo: 7, perMinute: 60, countIn: true, heard: 'intermediate' });
    await choose(user, 'What is practised', 'once through, with its repeats');
    expect(playing()).not.toHaveProperty('loopTo');
    await user.click(within(chunkRows()[1] ?? document.body).getAllByRole('button')[0] ?? button('x'));
    const { from = 0, loopTo = 0 } = playing() ?? {};
    expect([from > 0, loopTo >= from, loopTo < 8]).toEqual([true, true, true]);
    await press(user, 'Stop');
    expect(button('Play')).toBeTruthy();
  });

  test('joined from the end: the last chunk alone first; each round begins slowly again, once mastered the next comes', async () => {
    const { user, playing } = opened();
    await write(user, 'Tempo at the start', '100');
    await write(user, 'Good rounds before the next step', '1');
    await choose(user, 'What is practised', 'chunks joined, from the end');
    await press(user, 'Play');
    expect(playing()?.loopTo).toBe(7);
    const first = playing()?.from ?? 0;
    await press(user, 'Good');
    expect([(playing()?.from ?? 9) <= first, words().includes('round 2 of')]).toEqual([true, true]);
    await press(user, 'Back');
    expect(words()).toContain('round 1 of');
  });

  test('where a chunk begins is moved by bars, not past its neighbours; as proposed brings it back', async () => {
    const { user } = opened();
    const before = chunkRows().map((row) => words(row));
    await press(user, 'Chunk 2 begins a bar later');
    const after = chunkRows().map((row) => words(row));
    expect([after[0] === before[0], after[1] === before[1], after.length]).toEqual([false, false, before.length]);
    for (let k = 0; k < 12; k += 1) await press(user, 'Chunk 2 begins a bar earlier');
    expect(words(chunkRows()[0])).toMatch(/bar 1\b/);
    await press(user, 'Chunks as proposed');
    expect([chunkRows().map((row) => words(row)), screen.queryByText('Chunks as proposed')]).toEqual([before, null]);
  });

  test('three taps or more begin the ladder at their tempo; the goal is never below it', async () => {
    const { user } = opened();
    let now = 10_000;
    const clock = jest.spyOn(performance, 'now').mockImplementation(() => now);
    for (let k = 0; k < 5; k += 1) {
      await press(user, 'Tap');
      now += 500;
    }
    clock.mockRestore();
    expect([tempo(), field('Tempo at the goal').value]).toEqual([120, '120']);
  });
});

describe('what is heard', () => {
  test('what is changed while it plays is heard at once, and nothing begins by itself', async () => {
    const { user, asked, playing } = opened();
    await choose(user, 'Backing', 'a walking bass and chords');
    expect(asked.length).toBe(0);
    await press(user, 'Play');
    await choose(user, 'Metronome', 'sounds on two and four');
    await choose(user, 'Subdivision', 'in thirds');
    await choose(user, 'Eighths', 'swung');
    expect([asked.length, playing()]).toEqual([
      4,
      expect.objectContaining({
        backing: 'walking',
        click: true,
        clickPattern: 'back-beats',
        clickParts: 3,
        swing: { unit: 'eighth', ratio: 2 },
      }),
    ]);
    await choose(user, 'Metronome', 'is silent');
    expect([
      playing()?.click,
      playing()?.clickPattern,
      screen.queryByRole('combobox', { name: 'Subdivision' }),
    ]).toEqual([false, undefined, null]);
  });

  test('the line is an example, silent, or a call with as long a silence, phrase by phrase', async () => {
    const { user, playing } = opened();
    await press(user, 'Play');
    expect(playing()).toMatchObject({ isSilent: false, hasAnswers: false });
    await choose(user, 'The line', /waits for your answer/);
    expect(playing()).toMatchObject({ hasAnswers: true });
    expect((playing()?.callStarts ?? []).length).toBe(chunkRows().length);
    await choose(user, 'The line', 'is silent');
    expect(playing()).toMatchObject({ isSilent: true, hasAnswers: false });
  });

  test('other levels play along, each with a loudness of its own that does not begin it again', async () => {
    const { user, asked, shares, playing } = opened();
    await press(user, 'Play');
    await user.click(screen.getByRole('checkbox', { name: 'the advanced part' }));
    expect([playing()?.band, asked.length]).toEqual([['advanced'], 2]);
    const slider = screen.getByRole('slider', { name: 'Advanced: loudness' });
    act(() => {
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(slider, '30');
      slider.dispatchEvent(new Event('input', { bubbles: true }));
    });
    expect([shares.at(-1), asked.length]).toEqual([['advanced', 0.3], 2]);
    await user.click(screen.getByRole('checkbox', { name: 'the advanced part' }));
    expect(playing()?.band).toEqual([]);
  });

  test('it begins quietly, for the ears', () => {
    const { shares } = opened();
    expect(shares).toEqual([['all', 0.4]]);
  });

  test('a bar of seven is grouped as it is chosen', async () => {
    const sevens = tuneOf('c2d2 e3|g2f2 e3|c2d2 e3|c7|', 'M:7/8\nL:1/8\nK:C');
    const { user, playing } = opened({ of: { ...work, tune: sevens } });
    const ways = await offered(user, 'Groups of a bar');
    await press(user, 'Play');
    await choose(user, 'Groups of a bar', ways[1] ?? '');
    expect(playing()?.clickGroups?.join(' + ')).toBe(ways[1]);
  });

  test('over an empty chorus the line is silent and the backing plays the chords', async () => {
    const { user, playing } = opened({ what: 'pool' });
    await press(user, 'Play');
    expect([playing()?.isSilent, screen.queryByRole('region', { name: 'Listening' })]).toEqual([true, null]);
  });
});

describe('listening', () => {
  const report = {
    right: 6,
    of: 8,
    isSilent: false,
    isGood: false,
    bars: [{ bar: 2, text: 'the second note was a step too low' }],
    worst: [
      { from: 2, to: 3 },
      { from: 4, to: 6 },
    ],
    notes: [],
  };
  const withReport = (part: Partial<Listener> = {}) =>
    ({ ...listener, listening: { kind: 'on' }, report, ...part }) as unknown as Listener;

  test('what went wrong is told bar by bar; the worst bars can be practised with a press', async () => {
    const { user, playing } = opened({ heard: withReport() });
    const told = screen.getByRole('status', { name: 'What was heard' });
    expect(words(told)).toContain('bar 3: the second note was a step too low');
    await press(user, 'Play');
    await user.click(within(told).getByRole('button', { name: 'bars 5–6' }));
    expect(playing()).toMatchObject({ from: 4, loopTo: 5 });
    expect(await offered(user, 'What is practised')).toContain('bars 5–6');
  });

  test('in one’s own time it begins and ends by a press; with what plays, headphones are asked for', () => {
    opened({ heard: withReport({ pace: 'free', report: undefined }) });
    expect([button('I begin'), words().includes('headphones')]).toEqual([expect.anything(), false]);
    expect(words()).toContain('nothing is recorded, and nothing is sent anywhere');
  });

  test('a microphone that fails says why', () => {
    opened({ heard: { ...listener, listening: { kind: 'failed', message: 'No microphone was found.' } } as Listener });
    expect(alertText()).toBe('No microphone was found.');
  });
});

describe('rest', () => {
  test('after as long as is usual for the instrument it is proposed, with the word about pain; resting begins anew', async () => {
    jest.useFakeTimers({
      doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate', 'requestAnimationFrame', 'performance'],
    });
    const { player } = opened();
    await act(async () => {
      await player.play(work, {} as never);
    });
    expect(words()).toMatch(/A rest is proposed after \d+ minutes of playing\./);
    act(() => {
      jest.advanceTimersByTime(3_600_000);
    });
    expect(words()).toContain('What hurts, tingles or makes you dizzy is a reason to stop');
    act(() => button('I have rested').click());
    expect(words()).toMatch(/A rest is proposed after/);
    jest.useRealTimers();
  });
});

describe('before playing', () => {
  test('four steps, each with the aid that it wants; the last one closes', async () => {
    const aids: StandAids[] = [];
    const closed = jest.fn();
    const { user } = shown(<BeforePlaying onAids={(one) => aids.push(one)} onClose={closed} />);
    const heading = () => words(screen.getByRole('heading'));
    const seen = [heading()];
    for (let k = 0; k < 3; k += 1) {
      await press(user, 'Next');
      seen.push(heading());
    }
    expect([seen, aids]).toEqual([
      ['Say the names', 'Clap the rhythm', 'Finger it silently', 'Play'],
      ['names', 'syllables', 'page'],
    ]);
    await press(user, 'Back');
    expect(heading()).toBe('Finger it silently');
    await press(user, 'Next');
    await press(user, 'Done');
    expect(closed.mock.calls.length).toBe(1);
  });
});

describe('by ear', () => {
  function ear() {
    const { player, asked } = playerStandIn();
    const shownBars: (BarRun | 'all' | undefined)[] = [];
    function Cards() {
      const state = useStore(player.store);
      const part = standPart(work, 'intermediate', 'part');
      const [chunks] = useState(() => (part ? proposeChunks(part) : []));
      const practice = usePractice({ name: 'ear', work, level: 'intermediate', what: 'part', part, chunks, player });
      return (
        part && (
          <ByEar
            part={part}
            practice={practice}
            player={player}
            isPlaying={state.kind !== 'still'}
            onShown={(bars) => shownBars.push(bars)}
          />
        )
      );
    }
    return { ...shown(<Cards />), asked, shownBars };
  }
  const heading = () => words(screen.getByRole('heading'));

  test('the home note is heard and not named until that is asked for', async () => {
    const { user, asked } = ear();
    expect(heading()).toBe('Find the home note');
    await press(user, 'Hear the home note');
    expect([asked.at(-1)?.wishes.backing, asked.at(-1)?.work.tune.bars.length]).toEqual(['drone', 2]);
    await press(user, 'Stop');
    await press(user, 'Tell me its name');
    expect(button('It is C')).toBeTruthy();
  });

  test('each step hides the notes; a phrase is called and answered, may be looked at, and all is shown at the end', async () => {
    const { user, asked, shownBars } = ear();
    const seen: string[] = [];
    for (let k = 0; k < 30; k += 1) {
      seen.push(heading());
      if (heading() === 'Phrase 2') {
        await press(user, 'Hear it, then answer');
        await press(user, 'Show its notes');
        expect([asked.at(-1)?.wishes.hasAnswers, shownBars.at(-1)]).toEqual([
          true,
          { from: asked.at(-1)?.wishes.from, to: (asked.at(-1)?.wishes.loopTo ?? 0) + 1 },
        ]);
      }
      const next = screen.getByRole<HTMLButtonElement>('button', { name: 'I have it' });
      if (next.disabled) break;
      await user.click(next);
    }
    // Of two phrases, both together are the whole.
    expect(seen).toEqual([
      'Find the home note',
      'Find the note it begins with',
      'Phrase 1',
      'Phrase 2',
      'The whole tune',
      'The notes',
    ]);
    expect([shownBars.at(-1), shownBars.filter((bars) => bars === 'all').length]).toEqual(['all', 1]);
  });

  test('going on stops what plays, and the next note’s name is its own secret', async () => {
    const { user } = ear();
    await press(user, 'Tell me its name');
    await press(user, 'Hear the home note');
    await press(user, 'I have it');
    expect([heading(), button('Hear the note over a drone'), button('Tell me its name')]).toEqual([
      'Find the note it begins with',
      expect.anything(),
      expect.anything(),
    ]);
  });
});
