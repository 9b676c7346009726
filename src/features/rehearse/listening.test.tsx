/** @jest-environment jsdom */
import { useStore } from 'zustand';
import { act, alertText, button, choose, press, screen, shown, waitFor, words } from '../../../tests/screen';
import { playerStandIn } from '../../../tests/playerStandIn';
import { tuneOf } from '../../../tests/given';
import type { Work } from '../../core/work/work';
import { standPart } from '../../core/levels/standPart';
import type { HeardNote } from '../../core/rehearsal/heardNotes';
import { wantedNotes } from '../../sound/wantedNotes';
import { ListenerPanel } from './ListenerPanel';
import { HearingError } from './microphone';
import { useListener } from './useListener';
import { useStandKept } from '../work/useStandKept';
import { usePractice } from './usePractice';
import { useWakeLock } from './useWakeLock';

/** What the microphone heard, and what became of it. */
let heard: readonly HeardNote[];
let refused: Error | undefined;
let waits: Promise<void> | undefined;
let open: number;
let keys: readonly number[];
jest.mock('./microphone', () => {
  class Refusal extends Error {}
  return {
    HearingError: Refusal,
    Microphone: {
      open: async () => {
        await waits;
        if (refused) throw refused;
        open += 1;
        return {
          begin: (wanted: readonly number[]) => {
            keys = wanted;
          },
          heard: async (from: number, to: number) => heard.filter(({ start }) => start >= from && start <= to),
          close: () => {
            open -= 1;
          },
        };
      },
    },
  };
});
beforeEach(() => {
  [heard, refused, waits, open, keys] = [[], undefined, undefined, 0, []];
  localStorage.clear();
});

const tune = tuneOf('c4 e4|g4 c4|e4 g4|c8|');
const work: Work = {
  tune,
  recipes: { intermediate: { instrument: 'flute', melody: 'as written', keyAndTempo: { perMinute: 60 } } },
};

/** The listening part of a stand; the clock of the output is the test's. */
function opened() {
  const stand = playerStandIn();
  const clock = { currentTime: 0 };
  Object.assign(stand.player, { output: () => clock, begins: () => 10 });
  function Stand() {
    const state = useStore(stand.player.store);
    const part = standPart(work, 'intermediate', 'part');
    const practice = usePractice({
      name: 'p',
      work,
      level: 'intermediate',
      what: 'part',
      part,
      chunks: [{ from: 0, to: 4, isHard: false }],
      player: stand.player,
    });
    const listener = useListener({ player: stand.player, state, practice, part });
    return (
      part && (
        <>
          <ListenerPanel listener={listener} practice={practice} part={part} />
          <button type="button" onClick={practice.toggle}>
            Play
          </button>
          <output>{`${practice.place.perMinute} ${practice.place.good} ${practice.place.again}`}</output>
        </>
      )
    );
  }
  const { user, unmount } = shown(<Stand />);
  return { user, unmount, clock, stand, ladder: () => words(document.querySelector('output') ?? document.body) };
}

/** The take as it should be, from a moment on; a change is made to each note. */
function take(from: number, change: (note: HeardNote, k: number) => HeardNote | undefined = (note) => note) {
  const { notes } = wantedNotes(work, {
    heard: 'intermediate',
    backing: 'none',
    click: false,
    countIn: true,
    from: 0,
    perMinute: 36,
    loopTo: 3,
  });
  heard = notes.flatMap(
    ({ start, end, key }, k) =>
      change({ start: from + start, end: from + end - 0.05, key, cents: 0 } as unknown as HeardNote, k) ?? [],
  );
}
const report = () => screen.getByRole('status', { name: 'What was heard' });

test('asked for, the microphone is opened; given up, it is closed; leaving the stand closes it too', async () => {
  const { user, unmount } = opened();
  await press(user, 'Listen to me');
  expect([open, button('Stop listening').getAttribute('aria-pressed')]).toEqual([1, 'true']);
  await press(user, 'Stop listening');
  expect(open).toBe(0);
  await press(user, 'Listen to me');
  unmount();
  expect(open).toBe(0);
});

test('who has left while the browser asked is not listened to', async () => {
  let let_: () => void = () => undefined;
  waits = new Promise((done) => {
    let_ = done;
  });
  const { user, unmount } = opened();
  await press(user, 'Listen to me');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Listen to me' }).disabled).toBe(true);
  unmount();
  let_();
  await new Promise((done) => setTimeout(done, 10));
  expect(open).toBe(0);
});

test.each([
  [new HearingError('There is no microphone.'), 'There is no microphone.'],
  [new Error('internal'), 'Listening did not begin. Everything else works without.'],
])('why it did not begin is told in words for people', async (error, text) => {
  refused = error;
  const { user } = opened();
  await press(user, 'Listen to me');
  expect([alertText(), button('Listen to me')]).toEqual([text, expect.anything()]);
});

describe('in one’s own time', () => {
  async function own(change?: Parameters<typeof take>[1]) {
    const result = opened();
    await press(result.user, 'Listen to me');
    await choose(result.user, 'How you play', 'in your own time');
    result.clock.currentTime = 100;
    await press(result.user, 'I begin');
    expect([keys.length > 0, button('I have played it')]).toEqual([true, expect.anything()]);
    take(104, change);
    result.clock.currentTime = 140;
    await press(result.user, 'I have played it');
    await waitFor(() => expect(report()).toBeTruthy());
    return result;
  }

  test('a take that was right is told as right, whenever it began', async () => {
    await own();
    expect(words(report())).not.toMatch(/bar \d/);
  });

  test('a wrong note is told in its bar, which can be practised with a press', async () => {
    const { user, stand } = await own((note, k) => (k === 2 ? { ...note, key: note.key + 1 } : note));
    expect(words(report())).toContain('bar 2:');
    await user.click(screen.getAllByRole('button', { name: /^bars? 2/ })[0] ?? button('x'));
    await press(user, 'Play');
    expect(stand.asked.at(-1)?.wishes.from).toBeLessThanOrEqual(1);
  });

  test('silence is told as silence', async () => {
    await own(() => undefined);
    expect(words(report())).not.toMatch(/bar \d/);
    expect(words(report()).length).toBeGreaterThan(5);
  });
});

describe('with what plays', () => {
  async function round(change?: Parameters<typeof take>[1], counts = true) {
    const result = opened();
    await press(result.user, 'Listen to me');
    if (counts) await result.user.click(screen.getByRole('checkbox'));
    take(10, change);
    act(() => result.stand.player.store.setState({ kind: 'playing', plan: { said: [] } } as never, true));
    result.clock.currentTime = 60;
    // It looks five times a second whether a round is over.
    await waitFor(() => expect(report()).toBeTruthy());
    return result;
  }

  test('a round is judged when it is over; nine notes of ten right count as good', async () => {
    const { ladder } = await round();
    expect(ladder()).toBe('36 1 0');
  });

  test('one that was not goes to the ladder as again', async () => {
    const { ladder } = await round((note, k) => (k % 2 === 0 ? { ...note, key: note.key + 1 } : note));
    expect(ladder()).toBe('36 0 1');
  });

  test('unless it is asked for, the ladder is left to the player', async () => {
    const { ladder } = await round(undefined, false);
    expect(ladder()).toBe('36 0 0');
  });

  test('silence counts as nothing', async () => {
    const { ladder } = await round(() => undefined);
    expect(ladder()).toBe('36 0 0');
  });
});

describe('a screen that stays lit', () => {
  function Lit({ isWanted }: { readonly isWanted: boolean }) {
    useWakeLock(isWanted);
    return null;
  }

  test('is asked for while it is wanted and let go of afterwards; a refusal is no fault', async () => {
    let held = 0;
    const request = jest.fn(async () => {
      held += 1;
      return { release: async () => void (held -= 1) };
    });
    Object.assign(navigator, { wakeLock: { request } });
    const { rerender } = shown(<Lit isWanted={false} />);
    expect(request.mock.calls.length).toBe(0);
    rerender(<Lit isWanted />);
    await waitFor(() => expect(held).toBe(1));
    rerender(<Lit isWanted={false} />);
    await waitFor(() => expect(held).toBe(0));
    request.mockRejectedValue(new Error('the battery is low'));
    rerender(<Lit isWanted />);
    await new Promise((done) => setTimeout(done, 10));
    expect(held).toBe(0);
  });
});

describe('the stand without a network', () => {
  function Kept() {
    const { isReady, isKept } = useStandKept();
    return <p>{`${isReady} ${isKept}`}</p>;
  }

  test('a browser that keeps nothing goes on at once', async () => {
    shown(<Kept />);
    await waitFor(() => expect(words()).toBe('true false'));
  });

  test('what was loaded is handed to the keeper; kept it is when the keeper says so', async () => {
    const container = Object.assign(new EventTarget(), {
      controller: { postMessage: jest.fn() },
      register: async () => ({}),
    });
    Object.assign(navigator, { serviceWorker: container });
    Object.assign(performance, { getEntriesByType: () => [{ name: '/a-font' }] });
    shown(<Kept />);
    await waitFor(() => expect(words()).toBe('true false'));
    const [{ keep }] = container.controller.postMessage.mock.calls[0] as [{ keep: readonly string[] }];
    expect(['/api/sounds', location.href, '/a-font'].every((one) => keep.includes(one))).toBe(true);
    act(() => void container.dispatchEvent(new MessageEvent('message', { data: { kept: true } })));
    expect(words()).toBe('true true');
    Reflect.deleteProperty(navigator, 'serviceWorker');
  });

  test('a keeper that cannot be had does not hold it up', async () => {
    const container = Object.assign(new EventTarget(), {
      controller: null,
      register: async () => Promise.reject(new Error('a private window')),
    });
    Object.assign(navigator, { serviceWorker: container });
    shown(<Kept />);
    await waitFor(() => expect(words()).toBe('true false'));
    Reflect.deleteProperty(navigator, 'serviceWorker');
  });
});
