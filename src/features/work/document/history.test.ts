import fc from 'fast-check';
import { changed, MAX_HISTORY, newHistory, redone, undone, type History } from './history';

const anyMoves = fc.array(fc.oneof(fc.nat({ max: 99 }), fc.constantFrom('undo' as const, 'redo' as const)), {
  maxLength: 60,
});
const walk = (moves: readonly (number | 'undo' | 'redo')[]): History<number> =>
  moves.reduce<History<number>>(
    (history, move) =>
      move === 'undo' ? undone(history) : move === 'redo' ? redone(history) : changed(history, `to ${move}`, move),
    newHistory(-1),
  );

test('undoing everything is the beginning, and redoing everything is where one was', () => {
  fc.assert(
    fc.property(anyMoves, (moves) => {
      const history = walk(moves);
      let [back, forth] = [history, history];
      while (back.past.length > 0) back = undone(back);
      while (forth.future.length > 0) forth = redone(forth);
      expect(back.document).toBe(-1);
      for (const _ of history.past) back = redone(back);
      expect(back).toEqual(history);
      for (const _ of history.future) back = redone(back);
      expect(back).toEqual(forth);
    }),
  );
});

test('changes with one word in a row are one step, until something is undone', () => {
  const dragged = changed(changed(newHistory(0), 'drag', 1, 'a'), 'drag', 2, 'a');
  expect(undone(dragged).document).toBe(0);
  const again = changed(undone(changed(dragged, 'other', 3)), 'drag', 4, 'a');
  expect(again.past).toHaveLength(2);
  expect(undone(dragged).future).toHaveLength(1);
});

test('the oldest steps are forgotten, the newest stay', () => {
  let history = newHistory(0);
  for (let k = 1; k <= MAX_HISTORY + 5; k += 1) history = changed(history, `${k}`, k);
  expect([history.past.length, history.past[0]?.before, history.document]).toEqual([MAX_HISTORY, 5, MAX_HISTORY + 5]);
});
