import { failure, success, type Result } from '../../result';
import { withPairedHairpins, withPairedSlurs, withTrueTies } from '../balance';
import { barNumbers, hasSecondPart, secondPartBars, type Bar, type ScoreEvent, type Tune } from '../tune';
import { settled, type Caret } from './place';

/**
 * What an edit made: the tune, where the caret stands now, the step's name in the history, and what else had to give
 * way.
 */
interface Edited {
  readonly tune: Tune;
  readonly caret: Caret;
  readonly name: string;
  readonly messages: readonly string[];
}

/** Why an edit cannot be made, as a sentence for the status line. */
export interface EditProblem {
  readonly code:
    | 'nothing-here'
    | 'tuplet-over-barline'
    | 'no-same-pitch'
    | 'outside-notes'
    | 'unreadable'
    | 'too-short'
    | 'not-possible';
  readonly text: string;
}

export type EditResult = Result<Edited, EditProblem>;

export function refused(code: EditProblem['code'], text: string): EditResult {
  return failure({ code, text });
}

/** Settles ties, slurs and hairpins whose other end went, and says so. */
export function edited(
  tune: Tune,
  bars: readonly Bar[],
  caret: Caret,
  name: string,
  messages: readonly string[] = [],
): EditResult {
  const line = settledLine(bars);
  const second = hasSecondPart({ bars }) ? settledLine(secondPartBars(bars)) : undefined;
  const numbers = barNumbers({ bars, meter: tune.meter });
  const tell = (what: string, lost: readonly number[]) =>
    lost.length > 0
      ? [
          `${what} in bar ${[...new Set(lost.map((index) => numbers[index] ?? 0))].join(', ')} lost its other end and went`,
        ]
      : [];
  const whole = { ...tune, bars: second ? withSecond(line.bars, second.bars) : line.bars };
  return success({
    tune: whole,
    caret: settled(whole.bars, caret),
    name,
    messages: [
      ...messages,
      ...tell('a slur', [...line.slurs, ...(second?.slurs ?? [])]),
      ...tell('a hairpin', [...line.hairpins, ...(second?.hairpins ?? [])]),
    ],
  });
}

function settledLine(bars: readonly Bar[]) {
  const ties = withTrueTies(bars);
  const slurs = withPairedSlurs(ties.bars);
  const hairpins = withPairedHairpins(slurs.bars);
  return { bars: hairpins.bars, slurs: slurs.lost, hairpins: hairpins.lost };
}

/** Bars whose second part did not change stay the same objects. */
function withSecond(bars: readonly Bar[], seconds: readonly Bar[]): readonly Bar[] {
  return bars.map((bar, index) => {
    const events = seconds[index]?.events ?? [];
    return events.length === bar.second?.length && events.every((event, k) => event === bar.second?.[k])
      ? bar
      : { ...bar, second: events };
  });
}

/** Makes an edit on the second part: the lines change places for its duration. */
export function onSecondPart(tune: Tune, edit: (tune: Tune) => EditResult): EditResult {
  if (!hasSecondPart(tune)) return refused('nothing-here', 'This tune has no second part.');
  const done = edit({ ...tune, bars: swapped(tune.bars) });
  return done.ok ? success({ ...done.value, tune: { ...done.value.tune, bars: swapped(done.value.tune.bars) } }) : done;
}

function swapped(bars: readonly Bar[]): readonly Bar[] {
  return bars.map((bar): Bar => {
    const second: readonly ScoreEvent[] = bar.second ?? [];
    return { ...bar, events: second, second: bar.events };
  });
}
