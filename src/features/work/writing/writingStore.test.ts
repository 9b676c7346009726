import { tuneOf } from '../../../../tests/given';
import { writeAt } from '../../../core/score/edit/write';
import { printPitch } from '../../../core/pitch/pitch';
import { isNote, type Tune } from '../../../core/score/tune';
import { TICKS_PER_QUARTER } from '../../../core/time/ticks';
import { createWorkStore } from '../workStore';
import { lineBars, stretchOf, Writing } from './writingStore';

const q = (quarters: number) => quarters * TICKS_PER_QUARTER;
const TUNE = tuneOf('G2 A2 B2 c2 | d8 |]', 'M:4/4\nL:1/8\nK:G');

function writing(tune: Tune = TUNE) {
  const store = createWorkStore({ tune, recipes: {} }, 'written');
  const hand = new Writing(store);
  hand.start({ bar: 0, at: 0 });
  return { hand, store };
}
const line = ({ tune }: Writing) =>
  tune.bars.map(({ events }) => events.map((event) => (isNote(event) ? printPitch(event.pitch) : 'z')).join(' '));

describe('what the next action means', () => {
  test('the event at the caret, or the notes just written, or what is selected', () => {
    const { hand } = writing();
    const ids = TUNE.bars[0]?.events.map(({ id }) => id) ?? [];
    expect(hand.targets).toEqual([ids[0]]);
    hand.writeLetter('C', false);
    const [written] = hand.tune.bars[0]?.events ?? [];
    expect(hand.targets).toEqual([written?.id]);
    hand.moveTo({ bar: 0, at: q(1) });
    hand.moveTo({ bar: 0, at: q(3) }, true);
    expect(hand.targets).toEqual(ids.slice(1, 3));
  });

  test('at the end of the music it is nothing', () => {
    const { hand } = writing();
    hand.moveTo({ bar: 1, at: q(4) });
    expect(hand.targets).toEqual([]);
  });
});

describe('the caret', () => {
  test('moves event by event, and a selection grows and shrinks with it', () => {
    const { hand } = writing();
    hand.move(1, false);
    expect(hand.caret).toEqual({ bar: 0, at: q(1) });
    hand.move(1, true);
    hand.move(1, true);
    expect(hand.stretch).toEqual({ from: { bar: 0, at: q(1) }, to: { bar: 0, at: q(3) } });
    hand.move(-1, true);
    expect(hand.stretch).toEqual({ from: { bar: 0, at: q(1) }, to: { bar: 0, at: q(2) } });
    hand.move(-1, true);
    expect(hand.stretch).toBeUndefined();
  });

  test('a note that was picked is selected, and going on to the right takes the next one too', () => {
    const { hand } = writing();
    const [first, second] = TUNE.bars[0]?.events ?? [];
    hand.pick('tune', first?.id ?? '');
    expect(hand.targets).toEqual([first?.id]);
    hand.move(1, true);
    expect(hand.targets).toEqual([first?.id, second?.id]);
  });

  test('stands on a place that exists, whatever became of the tune', () => {
    const { hand, store } = writing();
    hand.moveTo({ bar: 1, at: q(4) });
    const { document, change } = store.getState();
    change('shorter', { ...document, tune: { ...TUNE, bars: TUNE.bars.slice(0, 1) } });
    expect(hand.caret.bar).toBe(0);
  });
});

describe('an edit', () => {
  test('that is refused is said and changes neither the tune nor its history', () => {
    const { hand, store } = writing();
    const before = store.getState().document;
    const done = hand.run(() => ({ ok: false, problem: { text: 'Not here.' } }) as ReturnType<typeof writeAt>);
    expect([done, hand.state.message, store.getState().document]).toEqual([false, 'Not here.', before]);
  });

  test('keeps the selection only where it says so', () => {
    const { hand } = writing();
    const write = (tune: Tune, caret: Parameters<typeof writeAt>[1]) => writeAt(tune, caret, { length: q(1) });
    hand.moveTo({ bar: 0, at: q(1) }, true);
    hand.run(write, { keepSelection: true });
    expect(hand.state.anchor).toBeDefined();
    hand.run(write);
    expect(hand.state.anchor).toBeUndefined();
  });

  test('letters take the octave that is nearest, in the key that stands there; a key of a keyboard is spelled in it', () => {
    const { hand } = writing();
    hand.moveTo({ bar: 0, at: q(1) });
    hand.writeLetter('F', false);
    hand.writeLetter('F', true);
    hand.writeKey(66);
    hand.writeRest();
    expect(line(hand)).toEqual(['G4 F#4 F#5 F#4', 'z']);
  });

  test('a key of a keyboard begins the writing where nobody was', () => {
    const { hand } = writing();
    hand.stop();
    hand.writeKey(60);
    expect([hand.state.on, line(hand)[0]?.startsWith('C4')]).toEqual([true, true]);
  });
});

test('the second part has a line of its own only where there is one', () => {
  const { hand } = writing();
  hand.set({ lane: 'second' });
  expect(lineBars(hand.tune, 'second')).toBe(hand.tune.bars);
  hand.start();
  expect(hand.state.lane).toBe('tune');
});

test('a stretch is given from left to right, and none where both ends are one place', () => {
  const [a, b] = [
    { bar: 0, at: q(1) },
    { bar: 1, at: 0 },
  ];
  expect(stretchOf({ caret: b, anchor: a }, TUNE.bars)).toEqual({ from: a, to: b });
  expect(stretchOf({ caret: a, anchor: b }, TUNE.bars)).toEqual({ from: a, to: b });
  expect(stretchOf({ caret: a, anchor: a }, TUNE.bars)).toBeUndefined();
});
