import type { Key } from '../pitch';
import { failure, success, type Result } from '../result';
import {
  barNumbers,
  inBeatsOf,
  isNote,
  MAX_BARS,
  MAX_CHORDS_IN_BAR,
  MAX_EVENTS_IN_BAR,
  MAX_GRACES_IN_BAR,
  MAX_LINES,
  MAX_NOTES,
  MAX_TEXT,
  metersOf,
  RIGHTS,
  type ScoreEvent,
  scoreProblems,
  type Swing,
  type Tempo,
  TEMPO_LIMITS,
  type Tune,
  TUNE_SCHEMA,
} from '../score';
import type { Meter } from '../time';
import { assembleBars, withSecondPart, type RawBar } from './assemble';
import { plainText, cutText } from '../plainText';
import { fromScoreProblem, type FormatProblem } from './problem';
import { fewWarnings } from './readResult';

/** A line of music as a reader found it, and what stands at the head of its tune. */
export interface FoundMusic {
  readonly title?: string | undefined;
  readonly composer?: string | undefined;
  readonly source?: string | undefined;
  readonly rights?: Tune['rights'] | undefined;
  /** Concert, as all pitches here. */
  readonly key: Key;
  readonly meter: Meter;
  readonly tempo: Tempo;
  readonly swing?: Swing | undefined;
  readonly bars: readonly RawBar[];
  /** A second part under it. */
  readonly second?: readonly RawBar[] | undefined;
}

/** More than a reader takes; none where all is well. */
export function sizeProblems({
  bars,
  notes,
  lines = 1,
}: {
  readonly bars: number;
  readonly notes: number;
  readonly lines?: number;
}): readonly FormatProblem[] {
  const over = (count: number, most: number, what: string): readonly FormatProblem[] =>
    count > most
      ? [{ code: 'too-many-notes', place: {}, found: `more than ${most} ${what}`, right: `at most ${most} are read` }]
      : [];
  return [...over(bars, MAX_BARS, 'bars'), ...over(notes, MAX_NOTES, 'notes'), ...over(lines, MAX_LINES, 'voices')];
}

/**
 * What of a tune is more than can be drawn in time; none where all is well. Applies to every door a tune comes in by.
 */
export function tuneSizeProblems(tune: Tune): readonly FormatProblem[] {
  const gracesOf = (events: readonly ScoreEvent[]) =>
    events.reduce((sum, event) => sum + (isNote(event) ? (event.graces?.length ?? 0) : 0), 0);
  let notes = 0;
  const problems: FormatProblem[] = [];
  const tell = (bar: number, count: number, most: number, what: string) => {
    if (count > most && problems.length < 20)
      problems.push({
        code: 'too-many-notes',
        place: { bar },
        found: `${count} ${what} in one bar`,
        right: `at most ${most} are taken`,
      });
  };
  const numbers = barNumbers(tune);
  tune.bars.forEach(({ events, second = [], chords }, index) => {
    const both = [...events, ...second];
    const graces = gracesOf(both);
    notes += both.length + graces;
    tell(numbers[index] ?? index + 1, Math.max(events.length, second.length), MAX_EVENTS_IN_BAR, 'notes and rests');
    tell(numbers[index] ?? index + 1, graces, MAX_GRACES_IN_BAR, 'grace notes');
    tell(numbers[index] ?? index + 1, chords.length, MAX_CHORDS_IN_BAR, 'chord symbols');
  });
  return [...problems, ...sizeProblems({ bars: tune.bars.length, notes })];
}

/**
 * What every reader does last: bars that add up, texts and tempos within bounds, and a document that holds its own
 * rules.
 */
export function finishedTune(
  found: FoundMusic,
  warnings: readonly FormatProblem[],
): Result<{ readonly tune: Tune; readonly warnings: readonly FormatProblem[] }, readonly FormatProblem[]> {
  const assembled = assembleBars(found.bars, found.meter);
  if (assembled.problems.length > 0) return failure(assembled.problems);
  const laid = found.second && withSecondPart(assembled.bars, found.second, found.meter);
  if (laid && laid.problems.length > 0) return failure(laid.problems);
  const told: FormatProblem[] = [...warnings, ...assembled.warnings, ...(laid?.warnings ?? [])];
  const { composer, source, swing } = found;
  const tune = withUsualTempos(
    inMeterBeats({
      schema: TUNE_SCHEMA,
      title: cut(found.title, 'title', told) ?? '',
      ...some('composer', cut(composer, 'composer', told)),
      ...some('source', cut(source, 'source', told)),
      rights: found.rights ?? RIGHTS[3],
      key: found.key,
      meter: found.meter,
      tempo: found.tempo,
      ...some('swing', swing),
      bars: laid?.bars ?? assembled.bars,
    }),
    told,
  );
  const large = tuneSizeProblems(tune);
  if (large.length > 0) return failure(large);
  const broken = scoreProblems(tune);
  return broken.length > 0 ? failure(broken.map(fromScoreProblem)) : success({ tune, warnings: fewWarnings(told) });
}

/** Tempos are counted in the meter's own beat, whatever the file said: 6/8 in dotted quarters, 2/2 in halves. */
function inMeterBeats(tune: Tune): Tune {
  const meters = metersOf(tune);
  return {
    ...tune,
    tempo: inBeatsOf(tune.meter, tune.tempo),
    bars: tune.bars.map((bar, index) =>
      bar.tempos
        ? {
            ...bar,
            tempos: bar.tempos.map((one) => ({ ...one, tempo: inBeatsOf(meters[index] ?? tune.meter, one.tempo) })),
          }
        : bar,
    ),
  };
}

/** Tempos that no metronome has become the nearest that one has; each is said. The same tune where all are usual. */
export function withUsualTempos(tune: Tune, told: FormatProblem[]): Tune {
  const usual = (tempo: Tempo): Tempo => {
    const perMinute = Math.min(TEMPO_LIMITS.fastest, Math.max(TEMPO_LIMITS.slowest, tempo.perMinute));
    if (perMinute === tempo.perMinute) return tempo;
    told.push({ code: 'odd-tempo', place: {}, found: String(tempo.perMinute), right: `${perMinute} was set` });
    return { ...tempo, perMinute };
  };
  const isOdd = ({ perMinute }: Tempo) => perMinute < TEMPO_LIMITS.slowest || perMinute > TEMPO_LIMITS.fastest;
  if (!isOdd(tune.tempo) && !tune.bars.some(({ tempos }) => tempos?.some(({ tempo }) => isOdd(tempo)))) return tune;
  return {
    ...tune,
    tempo: usual(tune.tempo),
    bars: tune.bars.map((bar) =>
      bar.tempos ? { ...bar, tempos: bar.tempos.map((one) => ({ ...one, tempo: usual(one.tempo) })) } : bar,
    ),
  };
}

/** A field of a document, where there is something in it. */
function some<Name extends string, Value>(name: Name, value: Value | undefined): { readonly [Key in Name]?: Value } {
  return value === undefined || value === '' ? {} : ({ [name]: value } as { readonly [Key in Name]?: Value });
}

function cut(text: string | undefined, what: string, told: FormatProblem[]): string | undefined {
  if (text === undefined || text.length <= MAX_TEXT) return text && plainText(text);
  told.push({
    code: 'left-out',
    place: {},
    found: `the end of a ${what} of ${text.length} characters`,
    right: `the first ${MAX_TEXT} were taken`,
  });
  return cutText(text, MAX_TEXT);
}
