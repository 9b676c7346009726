/** @jest-environment jsdom */
import { useStore } from 'zustand';
import { act, alertText, screen, shown } from '../../../../tests/screen';
import { tuneOf } from '../../../../tests/given';
import { printChord } from '../../../core/harmony/chordSymbol';
import type { Tune } from '../../../core/score/tune';
import type { EngravedRow } from '../../../engrave/engraver';
import { createWorkStore } from '../workStore';
import { ChordStrip } from './ChordStrip';
import { Writing } from './writingStore';

const tune = tuneOf('"C" c8|"Am7" c8|"Dm7" d4 "G7" d4|"C" c8|c8|c8|c8|c8|c8|');

function opened(of: Tune = tune) {
  const store = createWorkStore({ tune: of, recipes: {} }, 'written');
  const writing = new Writing(store);
  const count = of.bars.length;
  const row = {
    from: 0,
    to: count,
    svg: '',
    geometry: { width: 100 * count, bars: of.bars.map((_, k) => ({ x: 100 * k, width: 100 })) },
  } as unknown as EngravedRow;
  function Strip() {
    useStore(store, ({ document }) => document);
    return <ChordStrip writing={writing} bench={store} row={row} />;
  }
  const { user } = shown(<Strip />);
  const chords = (bar: number) =>
    (store.getState().document.tune.bars[bar]?.chords ?? []).map(({ symbol, at }) => `${printChord(symbol)}@${at}`);
  const put = async (bar: number, text: string, end = '{Enter}') => {
    await user.clear(field(`Chords of bar ${bar}`));
    await user.type(field(`Chords of bar ${bar}`), `${text}${end}`);
  };
  return { user, store, chords, put, said: () => store.getState().past.map(({ name }) => name) };
}
const HALF = tuneOf('c4 c4|').bars[0]?.events[0]?.length ?? 0;
/** With what it offers a field is a combobox. */
const field = (name: string) => screen.getByRole<HTMLInputElement>('combobox', { name });

test('each bar shows its chords; two share the bar', () => {
  const { chords } = opened();
  expect([field('Chords of bar 3').value, chords(2)]).toEqual(['Dm7 G7', ['Dm7@0', `G7@${HALF}`]]);
});

test('what is typed is set by Enter, which goes on to the next bar; small letters are read as they are meant', async () => {
  const { put, chords, said } = opened();
  await put(5, 'f');
  expect([chords(4), document.activeElement, said().length]).toEqual([['F@0'], field('Chords of bar 6'), 1]);
});

test('emptied, the bar has none; unchanged, nothing happens; Escape puts it back', async () => {
  const { user, put, chords, said } = opened();
  await put(1, '');
  expect([chords(0), said().length]).toEqual([[], 1]);
  await user.type(field('Chords of bar 2'), '{Enter}');
  expect(said().length).toBe(1);
  await user.type(field('Chords of bar 2'), 'xyz{Escape}');
  expect(field('Chords of bar 2').value).toBe('Am7');
});

test('what cannot be read is said at its field and changes nothing', async () => {
  const { put, chords, said } = opened();
  await put(5, 'H7');
  expect([alertText() !== undefined, chords(4), said()]).toEqual([true, [], []]);
  await put(5, 'G7');
  expect([alertText(), chords(4)]).toEqual([undefined, ['G7@0']]);
});

test('bars take the chords of others; bars that are not there are said', async () => {
  const { put, chords } = opened();
  await put(5, '=1-4');
  expect([4, 5, 6, 7].map(chords)).toEqual([0, 1, 2, 3].map(chords));
  await put(9, '=20-24');
  expect([alertText(), chords(8)]).toEqual(['there are no bars 20 to 24', []]);
});

test('a progression that is pasted fills the bars on; one that cannot be read fills none', async () => {
  const { user, chords, said } = opened();
  await user.click(field('Chords of bar 5'));
  await user.paste('Em7 | A7 | Dm7 G7');
  expect([4, 5, 6].map((bar) => chords(bar).join(' '))).toEqual(['Em7@0', 'A7@0', `Dm7@0 G7@${HALF}`]);
  const { length } = said();
  await user.click(field('Chords of bar 8'));
  await user.paste('Em7 | Hm9');
  expect([alertText()?.startsWith('Nothing was pasted: '), said().length]).toEqual([true, length]);
});

test('while a bar is empty those four bars back are offered, and chords of the key as they are typed', async () => {
  const { user } = opened();
  act(() => field('Chords of bar 5').focus());
  const offers = () => [...document.querySelectorAll('datalist option')].map((one) => one.getAttribute('value'));
  expect(offers()).toContain('=1-4');
  await user.type(field('Chords of bar 5'), 'A');
  expect([offers().includes('=1-4'), offers().some((name) => name?.startsWith('A'))]).toEqual([false, true]);
  expect(screen.queryByRole('alert')).toBeNull();
});
