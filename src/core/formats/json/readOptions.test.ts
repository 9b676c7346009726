import { printKey } from '../../pitch/key';
import { printMeter } from '../../time/meter';
import { readOptionsOf } from './readOptions';

test('what was chosen by name becomes how the file is read; what was not chosen is left to the reader', () => {
  const read = readOptionsOf({
    tune: '2',
    line: '3',
    second: '0',
    meter: '6/8',
    key: 'Bb',
    tempo: '96',
    pickup: '0.5',
  });
  if (!read.ok) throw new Error(read.problem.join());
  const { midi, ...rest } = read.value;
  expect(rest).toEqual({ tune: 2, line: 3, second: 'none' });
  expect([midi?.meter && printMeter(midi.meter), midi?.key && printKey(midi.key)]).toEqual(['6/8', 'Bb']);
  expect([midi?.perMinute, midi?.pickup, midi && 'swing' in midi]).toEqual([96, 5_040, false]);
  expect(readOptionsOf({})).toEqual({ ok: true, value: {} });
});

test.each([
  [{ tune: '0' }, /^tune: /],
  [{ line: '1.5' }, /^line: /],
  [{ meter: '4/5' }, /^meter: a meter like 4\/4 or 6\/8$/],
  [{ key: 'H' }, /^key: a key like D, Bb or Em$/],
  [{ tempo: '10' }, /^tempo: /],
  [{ swing: 'maybe' }, /^swing: /],
  [{ pickup: '-1' }, /^pickup: /],
  [{ colour: 'red' }, /^the request: .*colour/],
])('%j is refused by its name', (chosen, says) => {
  const read = readOptionsOf(chosen as unknown as Record<string, string>);
  expect([read.ok, read.ok ? '' : read.problem[0]]).toEqual([false, expect.stringMatching(says)]);
});
