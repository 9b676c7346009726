import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { tuneOf } from '../../../../tests/given';
import { isNote, type Bar, type Tune } from '../../score/tune';
import { mergedWithText } from './mergeText';
import { readAbc } from './readAbc';
import { writeAbc } from './writeAbc';

const TUNE = tuneOf('C2 D2 E2 F2 | G2 A2 B2 c2 | d4 c4 | (3GAB c2 C4 |]');
const edited = (before: Tune, change: (text: string) => string): Tune => {
  const read = readAbc(change(writeAbc(before).text));
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return mergedWithText(before, read.value.tune);
};
const ids = ({ bars }: Tune) => bars.map(({ id }) => id);
const withMarks: Tune = {
  ...TUNE,
  rights: 'cleared',
  swing: { unit: 'eighth', ratio: 2 },
  bars: TUNE.bars.map((bar, k) => ({
    ...bar,
    events: bar.events.map((event, n) =>
      k === 1 && isNote(event)
        ? { ...event, optional: true as const, ...(n === 2 && { phrase: 'begins' as const }) }
        : event,
    ),
  })),
};

test('a text that was not changed is the tune as it was, the same object bar by bar', () => {
  expect(edited(withMarks, (text) => text).bars).toBe(withMarks.bars);
});

test('bars before and after the edited one are the same objects; the edited one keeps its name', () => {
  const after = edited(TUNE, (text) => text.replace('G2 A2 B2 c2', 'G2 A2 B4'));
  expect(ids(after)).toEqual(ids(TUNE));
  expect(after.bars.map((bar, k) => bar === TUNE.bars[k])).toEqual([true, false, true, true]);
});

test('a bar that was put in gets a name of its own, and those after it keep theirs', () => {
  const after = edited(TUNE, (text) => text.replace('| d4 c4', '| e8 | d4 c4'));
  expect([ids(after)[0], ids(after)[1], ids(after)[3], ids(after)[4]]).toEqual(ids(TUNE));
  expect(ids(TUNE)).not.toContain(ids(after)[2]);
  expect(new Set(ids(after)).size).toBe(5);
});

test('what ABC cannot hold stays on notes that sound as before at their place', () => {
  const after = edited(withMarks, (text) => text.replace('G2 A2 B2 c2', 'G2 A2 B2 d2'));
  const [, bar] = after.bars;
  expect(bar?.events.map((event) => [event.optional === true, isNote(event) ? event.phrase : undefined])).toEqual([
    [true, undefined],
    [true, undefined],
    [true, 'begins'],
    [false, undefined],
  ]);
});

test('rights, swing and what is said of the harmony stay, whatever the text says', () => {
  const said: Tune = { ...withMarks, recordingKey: { tonic: { step: 'F', alter: 0 }, mode: 'major' } };
  const after = edited(said, (text) => text.replace('G2 A2 B2 c2', 'G8'));
  expect([after.rights, after.swing, after.recordingKey]).toEqual([said.rights, said.swing, said.recordingKey]);
});

test('any tune, with a bar of its text taken out, put in or changed, is whole and has every name once', () => {
  fc.assert(
    fc.property(anyTune, fc.nat(20), fc.constantFrom('out', 'in', 'other'), (tune, at, how) => {
      const read = readAbc(writeAbc(tune).text);
      if (!read.ok || read.value.tune.bars.length < 3) return;
      const { bars } = read.value.tune;
      const place = 1 + (at % (bars.length - 2));
      const changed = bars.flatMap((bar, k): readonly Bar[] => {
        if (k !== place || how === 'other') return [k === place ? { ...bar, section: 'New' } : bar];
        return how === 'out' ? [] : [{ ...bar, section: 'New' }, bar];
      });
      const after = mergedWithText(tune, { ...read.value.tune, bars: changed });
      const names = after.bars.flatMap(({ id, events }) => [id, ...events.map((event) => event.id)]);
      expect([names.length - new Set(names).size, after.bars.length]).toEqual([0, changed.length]);
    }),
  );
});
