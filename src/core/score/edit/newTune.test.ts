import fc from 'fast-check';
import { printChord } from '../../harmony/chordSymbol';
import { parseProgression, parseProgressionForm } from '../../harmony/progression';
import { keyWithSignature, MODES } from '../../pitch/key';
import { barTicks, parseMeter, type Meter } from '../../time/meter';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { barNumbers, countedBars } from '../tune';
import { scoreProblems } from '../validate';
import { newTune, tuneOfProgression } from './newTune';

const anyMeter = fc
  .constantFrom('4/4', '3/4', '2/2', '6/8', '5/4', '7/8', '12/8')
  .map((text) => parseMeter(text) as Meter);
const anyHead = fc.record({
  title: fc.constant('New'),
  key: fc
    .tuple(fc.integer({ min: -6, max: 6 }), fc.constantFrom(...MODES))
    .map(([n, mode]) => keyWithSignature(n, mode)),
  meter: anyMeter,
});

test('in any key and meter and with any pickup, bars add up and are numbered from the first full one', () => {
  fc.assert(
    fc.property(anyHead, fc.integer({ min: 1, max: 40 }), fc.nat({ max: 11 }), (head, bars, eighths) => {
      const pickup = (eighths * TICKS_PER_QUARTER) / 2;
      fc.pre(pickup < barTicks(head.meter));
      const tune = newTune({ ...head, bars, pickup });
      expect(scoreProblems(tune)).toEqual([]);
      expect([countedBars(tune), barNumbers(tune)[0]]).toEqual([bars, pickup > 0 ? 0 : 1]);
    }),
  );
});

test('a progression becomes a form: two chords share a bar, a repeated bar repeats', () => {
  const read = parseProgression('Fm7 | Bb7 | Ebmaj7 Ab7 | %');
  if (!read.ok) throw new Error('not read');
  const meter = parseMeter('4/4') as Meter;
  const tune = tuneOfProgression({ title: 'Round', key: keyWithSignature(-3, 'major'), meter }, read.value);
  expect(
    tune.bars.map(({ chords }) => chords.map(({ at, symbol }) => `${at / TICKS_PER_QUARTER} ${printChord(symbol)}`)),
  ).toEqual([['0 Fm7'], ['0 Bb7'], ['0 Ebmaj7', '2 Ab7'], ['0 Ebmaj7', '2 Ab7']]);
  expect(scoreProblems(tune)).toEqual([]);
});

test('sections and repeats of a typed form are those of its bars', () => {
  const read = parseProgressionForm('[A] |: Dm7 | G7 :|\n[Bridge]\n|: Cmaj7 | % :|| [A] Dm7 G7 | C |]');
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  const meter = parseMeter('4/4') as Meter;
  const head = { title: 'Form', key: keyWithSignature(0, 'major'), meter };
  const tune = tuneOfProgression(head, read.value.bars, read.value.marks);
  expect(
    tune.bars.map(
      ({ section, repeatStart, repeatEnd, chords }) =>
        `${section ?? ''}${repeatStart ? '|:' : ''}${chords.map(({ symbol }) => printChord(symbol)).join(' ')}${repeatEnd ? ':|' : ''}`,
    ),
  ).toEqual(['A|:Dm7', 'G7:|', 'Bridge|:Cmaj7', 'Cmaj7:|', 'ADm7 G7', 'C']);
  expect(scoreProblems(tune)).toEqual([]);
});

test('what is no pickup or no number of bars is a defect', () => {
  const head = { title: '', key: keyWithSignature(0, 'major'), meter: parseMeter('3/4') as Meter };
  expect(() => newTune({ ...head, bars: 4, pickup: 3 * TICKS_PER_QUARTER })).toThrow('no pickup');
  expect(() => newTune({ ...head, bars: 0, pickup: 0 })).toThrow('no tune of 0 bars');
});
