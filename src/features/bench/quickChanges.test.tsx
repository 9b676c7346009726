/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import { act, button, field, fireEvent, screen } from '../../../tests/screen';
import { tuneOf } from '../../../tests/given';
import { recipesOf, withRecipe, type Work } from '../../core/work/work';
import { useImproviseStep } from '../improvise/useImproviseStep';
import { useKeysStep } from '../keys/useKeysStep';
import { useLevelsStep } from '../levels/useLevelsStep';
import { useTuneStep } from '../tune/useTuneStep';

/**
 * Two changes before the screen has been drawn anew: whoever presses quickly, or a machine that is busy. The second
 * must be made on top of the first, not of what the screen still shows.
 */
const tune = tuneOf('"C"CDEF GABc|"F"c2e2 g2c2|"G7"B2d2 g2f2|"C"e2c2 G2E2|');
const before = (recipes: Work['recipes'] = {}): Work => ({ tune, recipes });

/** Presses one after the other in one turn of the screen. */
function atOnce(...presses: readonly (() => unknown)[]): void {
  act(() => presses.forEach((press) => void press()));
}
const pressed = (name: string | RegExp) => () => fireEvent.click(button(name));
const written = (name: string, text: string) => () => {
  const input = field(name);
  fireEvent.change(input, { target: { value: text } });
  fireEvent.blur(input);
};

test('Levels: back to the first variation, then the usual range: both are done', () => {
  const first = withRecipe(before(), 'beginner', {
    melody: 'embellished',
    embellish: { seed: 3 },
    limits: { range: { low: { step: 'D', alter: 0, octave: 4 } } },
  });
  const { work, said } = openStep(useLevelsStep, first);
  atOnce(pressed('back to the first'), pressed('as usual'));
  const { embellish, limits } = recipesOf(work()).beginner;
  expect([embellish?.seed, limits?.range, said().length]).toEqual([undefined, undefined, 2]);
});

test('Levels: another variation twice is two variations further', () => {
  const { work } = openStep(useLevelsStep, withRecipe(before(), 'beginner', { melody: 'embellished' }));
  atOnce(pressed('Another variation'), pressed('Another variation'));
  expect(recipesOf(work()).beginner.embellish?.seed).toBe(2);
});

test('Tune: a title that is committed right after a note was written leaves the note', () => {
  const { store, work } = openStep(useTuneStep, before(), { lanes: false });
  const longer = tuneOf('"C"CDEF GABc|"F"c2e2 g2c2|"G7"B2d2 g2f2|"C"e2c2 G2E2|C8|');
  atOnce(
    () => {
      const { document, change } = store.getState();
      change('Notes', { ...document, tune: { ...document.tune, bars: longer.bars } });
    },
    written('Title', 'Low Water'),
  );
  expect([work().tune.title, work().tune.bars.length]).toEqual(['Low Water', 5]);
});

test('Tune: composer and source, one right after the other', () => {
  const { work } = openStep(useTuneStep, before(), { lanes: false });
  atOnce(written('Composer', 'The Net Loft'), written('Where it came from', 'the quay'));
  expect([work().tune.composer, work().tune.source]).toEqual(['The Net Loft', 'the quay']);
});

test('Keys: a key for all, then each level its own: the second knows of the first', () => {
  const { store, work } = openStep(useKeysStep, before());
  atOnce(
    () => store.getState().dispatch({ kind: 'details', words: 'Title', details: { title: 'Written meanwhile' } }),
    pressed('Each level its own'),
    () => store.getState().dispatch({ kind: 'details', words: 'Source', details: { source: 'the quay' } }),
    pressed('Play together'),
  );
  expect([work().tune.title, work().tune.source]).toEqual(['Written meanwhile', 'the quay']);
});

test('Improvise: a pool that is ticked right after something was written leaves what was written', () => {
  const { store, work } = openStep(useImproviseStep, before(), { lanes: false });
  const box = screen.getAllByRole<HTMLInputElement>('checkbox').find(({ checked }) => !checked);
  if (!box) throw new Error('there is nothing to tick');
  atOnce(
    () => store.getState().dispatch({ kind: 'details', words: 'Title', details: { title: 'Written meanwhile' } }),
    () => fireEvent.click(box),
  );
  expect([work().tune.title, recipesOf(work()).beginner.improvise?.pools !== undefined]).toEqual([
    'Written meanwhile',
    true,
  ]);
});
