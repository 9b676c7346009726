import { type Key, sameKey } from '../../pitch';
import { barTicks, type Meter, printMeter, sameMeter } from '../../time';
import { idMaker } from '../identify';
import { rebar, rebarProblemText } from '../rebar';
import { barNumbers, keysOf, metersOf, type Bar, type Jump, type Tempo, type Tune } from '../tune';
import { unfold, unfoldProblemText } from '../unfold';
import { edited, refused, type EditResult } from './edited';
import type { Caret } from './place';

/** Signs that stand at a bar's beginning; the others are read at its end. */
const LANDINGS: ReadonlySet<Jump> = new Set(['segno', 'coda']);
/** A bar sends back in one way only. */
const BACK: readonly Jump[] = ['dc', 'dc-al-fine', 'dc-al-coda', 'ds', 'ds-al-fine', 'ds-al-coda'];

function named(tune: Tune, from: number, to: number): string {
  const numbers = barNumbers(tune);
  return numbers[from] === numbers[to] ? `bar ${numbers[from]}` : `bars ${numbers[from]}–${numbers[to]}`;
}

/** A bar without those of its fields that are set to `undefined`. */
function withMarks(bar: Bar, marks: { readonly [Field in keyof Bar]?: Bar[Field] | undefined }): Bar {
  return Object.fromEntries(
    Object.entries({ ...bar, ...marks }).filter(
      ([, value]) => value !== undefined && !(Array.isArray(value) && value.length === 0 && value !== bar.chords),
    ),
  ) as unknown as Bar;
}

function withBar(tune: Tune, index: number, marks: Parameters<typeof withMarks>[1]): readonly Bar[] {
  return tune.bars.map((bar, k) => (k === index ? withMarks(bar, marks) : bar));
}

/**
 * Repeat signs round the bars, or none where just these stand already.
 * Signs inside the passage go: a passage within a passage cannot be printed.
 */
export function toggleRepeat(tune: Tune, from: number, to: number, caret: Caret): EditResult {
  const [first, last] = [tune.bars[from], tune.bars[to]];
  if (!first || !last) return refused('nothing-here', 'There is no such bar.');
  const startsAlready = first.repeatStart === true || from === 0;
  const isOn =
    startsAlready &&
    last.repeatEnd !== undefined &&
    tune.bars.slice(from, to).every(({ repeatEnd }) => repeatEnd === undefined);
  const bars = tune.bars.map((bar, k) => {
    if (k < from || k > to) return bar;
    const marks = isOn
      ? { repeatStart: undefined, repeatEnd: undefined }
      : {
          repeatStart: k === from && k > 0 ? (true as const) : undefined,
          repeatEnd: k === to ? (bar.repeatEnd ?? 2) : undefined,
        };
    return withMarks(bar, marks);
  });
  return edited(tune, bars, caret, `${isOn ? 'No repeat of' : 'Repeat signs round'} ${named(tune, from, to)}`);
}

/**
 * An ending over the bars, for these times through; none takes it off. One that is not the last of its passage gets the
 * sign to go back.
 * @param times 1 to 9, in order
 */
export function setEnding(
  tune: Tune,
  from: number,
  to: number,
  times: readonly number[] | undefined,
  caret: Caret,
): EditResult {
  if (!tune.bars[from] || !tune.bars[to]) return refused('nothing-here', 'There is no such bar.');
  const before = tune.bars[from - 1];
  const follows =
    times !== undefined &&
    before?.repeatEnd !== undefined &&
    (before.endingStops === true || before.ending !== undefined);
  const bars = tune.bars.map((bar, k) => {
    if (k < from || k > to) return bar;
    if (!times)
      return withMarks(bar, {
        ending: undefined,
        endingStops: undefined,
        ...(bar.endingStops && { repeatEnd: undefined }),
      });
    return withMarks(bar, {
      ending: k === from ? times : undefined,
      endingStops: k === to ? (true as const) : undefined,
      repeatEnd: k === to && !follows ? Math.max(2, (times.at(-1) ?? 1) + 1) : undefined,
    });
  });
  const messages = follows || !times ? [] : ['the way back stands at its end; give the bars after it the next ending'];
  return edited(
    tune,
    bars,
    caret,
    times ? `Ending ${times.join(', ')} over ${named(tune, from, to)}` : `No ending over ${named(tune, from, to)}`,
    messages,
  );
}

/** A segno, a coda, Fine, or a way back; the same again takes it off. What a jump still lacks is said. */
export function toggleJump(tune: Tune, index: number, jump: Jump, caret: Caret): EditResult {
  const bar = tune.bars[index];
  if (!bar) return refused('nothing-here', 'There is no such bar.');
  const jumps = bar.jumps ?? [];
  const isOn = jumps.includes(jump);
  const rest = jumps.filter((one) => one !== jump && !(BACK.includes(jump) && BACK.includes(one)));
  const next = isOn ? rest : [...rest, jump];
  const bars = withBar(tune, index, { jumps: next });
  const lacks = [...new Set(unfold(bars).problems.map(unfoldProblemText))];
  return edited(
    tune,
    bars,
    caret,
    `${isOn ? 'No' : ''} ${jump.replaceAll('-', ' ')} at bar ${barNumbers(tune)[index]}`.trim(),
    lacks,
  );
}

/** Whether the sign is read before the bar's notes. */
export function isLanding(jump: Jump): boolean {
  return LANDINGS.has(jump);
}

/**
 * Another key signature from a bar on, until the next change; none lets the one before go on. The notes stay as they
 * sound.
 */
export function setKeyFrom(tune: Tune, index: number, key: Key | undefined, caret: Caret): EditResult {
  if (!tune.bars[index]) return refused('nothing-here', 'There is no such bar.');
  if (index === 0)
    return refused('not-possible', "The key of the first bar is the tune's own; change it under Details.");
  const before = keysOf(tune)[index - 1] ?? tune.key;
  const changed = key && !sameKey(key, before) ? key : undefined;
  return edited(
    tune,
    withBar(tune, index, { key: changed }),
    caret,
    changed ? `Key change at bar ${barNumbers(tune)[index]}` : `No key change at bar ${barNumbers(tune)[index]}`,
  );
}

/** Another tempo from the first beat of a bar; none lets the one before go on. */
export function setTempoFrom(tune: Tune, index: number, tempo: Tempo | undefined, caret: Caret): EditResult {
  const bar = tune.bars[index];
  if (!bar) return refused('nothing-here', 'There is no such bar.');
  if (index === 0)
    return refused('not-possible', "The tempo of the first bar is the tune's own; change it under Details.");
  const rest = (bar.tempos ?? []).filter(({ at }) => at > 0);
  const tempos = tempo ? [{ at: 0, tempo }, ...rest] : rest;
  return edited(
    tune,
    withBar(tune, index, { tempos }),
    caret,
    tempo
      ? `Tempo ${tempo.perMinute} from bar ${barNumbers(tune)[index]}`
      : `No new tempo at bar ${barNumbers(tune)[index]}`,
  );
}

/**
 * Another meter from a bar on, until the next change: the notes are barred anew, tied over the new barlines, the last
 * bar filled with rests. None lets the meter before go on. Refused where a repeat sign or a tuplet would be cut.
 */
export function setMeterFrom(tune: Tune, index: number, wanted: Meter | undefined, caret: Caret): EditResult {
  if (!tune.bars[index]) return refused('nothing-here', 'There is no such bar.');
  if (index === 0)
    return refused('not-possible', "The meter of the first bar is the tune's own; change it under Details.");
  const meters = metersOf(tune);
  const before = meters[index - 1] ?? tune.meter;
  const now = meters[index] ?? tune.meter;
  const meter = wanted ?? before;
  const next = tune.bars.findIndex((bar, k) => k > index && bar.meter !== undefined);
  const end = next < 0 ? tune.bars.length : next;
  const stretch = tune.bars.slice(index, end).map((bar, k) => (k === 0 ? withMarks(bar, { meter: undefined }) : bar));
  const ids = idMaker(tune.bars);
  const anew = rebar({ ...tune, meter: now, bars: stretch }, meter, ids);
  if (!anew.ok)
    return refused(
      'not-possible',
      rebarProblemText({
        ...anew.problem,
        bar: barNumbers(tune)[index + Math.max(0, anew.problem.bar - 1)] ?? anew.problem.bar,
      }),
    );
  const after = tune.bars[end];
  const barred = anew.value.bars.map((bar, k) =>
    k === 0 ? withMarks(bar, { meter: sameMeter(meter, before) ? undefined : meter }) : bar,
  );
  const bars = [
    ...tune.bars.slice(0, index),
    ...barred,
    ...(after
      ? [withMarks(after, { meter: after.meter && sameMeter(after.meter, meter) ? undefined : after.meter })]
      : []),
    ...tune.bars.slice(end + 1),
  ];
  const told =
    stretch.reduce((sum, bar) => sum + (bar.partial ?? barTicks(now)), 0) % barTicks(meter) === 0
      ? []
      : ['the last bar before the next meter was filled with a rest'];
  return edited(tune, bars, caret, `${printMeter(meter)} from bar ${barNumbers(tune)[index]}`, told);
}
