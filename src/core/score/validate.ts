import { type Pitch, semitones } from '../pitch';
import { beatNumberAt, notatedTicks, printMeter, quartersText, type Ticks, valueOfTicks } from '../time';
import { barLength, barNumbers, barOffset, hasSecondPart, metersOf, secondPartBars, type Bar, type Tune } from './tune';

/** A fault in a tune document, with the bar as people count it. */
export interface ScoreProblem {
  readonly code:
    | 'no-bars'
    | 'bar-does-not-add-up'
    | 'unprintable-length'
    | 'tie-to-nowhere'
    | 'duplicate-id'
    | 'chord-outside-bar'
    | 'second-part-missing'
    | 'tempo-outside-bar';
  readonly bar: number;
  readonly beat: number;
  readonly found: string;
  readonly right: string;
}

/** Every way in which the document breaks the rules that the rest of the program relies on. Empty when sound. */
export function scoreProblems(tune: Tune): readonly ScoreProblem[] {
  if (tune.bars.length === 0)
    return [{ code: 'no-bars', bar: 0, beat: 1, found: 'no bars', right: 'at least one bar' }];
  const numbers = barNumbers(tune);
  const meters = metersOf(tune);
  const problems: ScoreProblem[] = [];
  const hasSecond = hasSecondPart(tune);
  const seen = new Set<string>();
  tune.bars.forEach((bar, index) => {
    const meter = meters[index] ?? tune.meter;
    const number = numbers[index] ?? 0;
    const at = (start: Ticks) => beatNumberAt(meter, start + barOffset(tune, index, meter));
    let position = 0;
    const claim = (id: string) => {
      if (seen.has(id))
        problems.push({ code: 'duplicate-id', bar: number, beat: at(position), found: id, right: 'an id used once' });
      seen.add(id);
    };
    claim(bar.id);
    const expected = barLength(bar, meter);
    for (const events of hasSecond ? [bar.events, bar.second ?? []] : [bar.events]) {
      position = 0;
      for (const event of events) {
        claim(event.id);
        if (!valueOfTicks(notatedTicks(event.length, event.tuplet))) {
          problems.push({
            code: 'unprintable-length',
            bar: number,
            beat: at(position),
            found: `${quartersText(event.length)} quarters`,
            right: 'one printed value; tie two for anything else',
          });
        }
        position += event.length;
      }
      if (position !== expected) {
        problems.push({
          code: 'bar-does-not-add-up',
          bar: number,
          beat: 1,
          found: `${quartersText(position)} quarters`,
          right: `${quartersText(expected)} in ${printMeter(meter)}`,
        });
      }
    }
    if (hasSecond && !bar.second)
      problems.push({
        code: 'second-part-missing',
        bar: number,
        beat: 1,
        found: 'no second part',
        right: 'all bars have one, or none',
      });
    for (const { at: place } of bar.tempos ?? []) {
      if (place < 0 || place >= Math.max(1, expected)) {
        problems.push({
          code: 'tempo-outside-bar',
          bar: number,
          beat: 1,
          found: `a tempo ${quartersText(place)} quarters in`,
          right: 'a place inside the bar',
        });
      }
    }
    for (const chord of bar.chords) {
      if (chord.at < 0 || chord.at >= Math.max(1, expected)) {
        problems.push({
          code: 'chord-outside-bar',
          bar: number,
          beat: 1,
          found: `a chord ${quartersText(chord.at)} quarters in`,
          right: 'a place inside the bar',
        });
      }
    }
  });
  return [
    ...problems,
    ...brokenTies(tune.bars, numbers),
    ...(hasSecond ? brokenTies(secondPartBars(tune.bars), numbers) : []),
  ];
}

function brokenTies(bars: readonly Bar[], numbers: readonly number[]): readonly ScoreProblem[] {
  const problems: ScoreProblem[] = [];
  let tied: { readonly pitch: Pitch; readonly bar: number } | undefined;
  const broken = (bar: number) =>
    problems.push({ code: 'tie-to-nowhere', bar, beat: 1, found: 'a tie', right: 'the same pitch right after it' });
  bars.forEach((bar, index) => {
    for (const event of bar.events) {
      if (tied && !(event.kind === 'note' && semitones(event.pitch) === semitones(tied.pitch))) broken(tied.bar);
      tied = event.kind === 'note' && event.tied ? { pitch: event.pitch, bar: numbers[index] ?? 0 } : undefined;
    }
  });
  if (tied) broken(tied.bar);
  return problems;
}

/** The problem as a sentence: what is wrong, where, what would be right. */
export function scoreProblemText(problem: ScoreProblem): string {
  const place = `bar ${problem.bar}`;
  switch (problem.code) {
    case 'no-bars':
      return 'The tune has no bars: it needs at least one.';
    case 'bar-does-not-add-up':
      return `${place} holds ${problem.found}; it should hold ${problem.right}`;
    case 'unprintable-length':
      return `${place}, beat ${problem.beat}: a length of ${problem.found} cannot be printed; write ${problem.right}`;
    case 'tie-to-nowhere':
      return `${place}: a tie leads nowhere; it needs ${problem.right}`;
    case 'duplicate-id':
      return `${place}: the id "${problem.found}" is used twice; give each bar and note its own`;
    case 'second-part-missing':
      return `${place} has ${problem.found}: ${problem.right}`;
    case 'tempo-outside-bar':
    case 'chord-outside-bar':
      return `${place}: ${problem.found} lies outside the bar; it needs ${problem.right}`;
  }
}
